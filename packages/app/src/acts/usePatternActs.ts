import {
  beginTogether,
  borderTie,
  createCloth,
  discNodes,
  findStretch,
  sewnLength,
  freeName,
  makePiece,
  mesherAfter,
  mirroredPiece,
  patternFromSheet,
  patternProblem,
  pointsAlong,
  polygonNodes,
  rectangleNodes,
  sew,
  sizeOfPiece,
  spacingFor,
  withCreases,
  type Cloth,
  type PatternNode,
  type PatternShape,
  type Piece,
  type Stretch,
  type Tie,
} from '@lumbra/core';
import type { SvgOutlines } from '@lumbra/core/import';
import { useDocumentStore } from '../session/document';
import { errorText, useNoticeStore } from '../stores/notice';
import { usePatternStore, type CutCloth } from '../stores/pattern';
import { useSelectionStore } from '../stores/selection';
import { meshHost } from '../workers/hosts';
import { cutAhead } from '../workers/meshWork';

/** Outlines that a new piece can have. */
export const PIECE_KINDS = [
  { id: 'rectangle', label: 'Rectangle', nodes: () => rectangleNodes(0.5, 0.5) },
  { id: 'disc', label: 'Disc', nodes: () => discNodes(0.25) },
  { id: 'polygon', label: 'Hexagon', nodes: () => polygonNodes(6, 0.25) },
] as const;
export type PieceKind = (typeof PIECE_KINDS)[number]['id'];

type NewPiece = {
  name?: string;
  outline: PatternNode[];
  holes?: PatternNode[][];
  lines?: Piece['lines'];
  position?: Piece['position'];
};

/** Files of drawings above this are refused before they are read. */
const LARGEST_DRAWING = 30 * 1024 * 1024;
/** A new piece stands so far beside the last one, in m. */
const BESIDE = 0.1;

/** The acts on patterns; each is one undoable edit. Pieces are cut in a worker before the edit, so that the page does not wait for them. */
export function usePatternActs() {
  const document = useDocumentStore();
  const selection = useSelectionStore();
  const notice = useNoticeStore();
  const pattern = usePatternStore();

  const copyOf = (shape: PatternShape) => JSON.parse(JSON.stringify(shape)) as PatternShape;

  /**
   * Changes the pattern of a cloth; false, and nothing changed, where what comes out cannot be cut or sewn. Changes come one after the other: each is
   * judged by what the last one made.
   */
  function change(
    cloth: CutCloth,
    label: string,
    recipe: (shape: PatternShape) => void,
    besides: (cloth: CutCloth) => void = () => undefined,
  ): Promise<boolean> {
    const done = changing.then(() => changeNow(cloth.id, label, recipe, besides));
    changing = done.catch(() => undefined);
    return done;
  }

  async function changeNow(
    id: string,
    label: string,
    recipe: (shape: PatternShape) => void,
    besides: (cloth: CutCloth) => void,
  ): Promise<boolean> {
    const cloth = document.shot?.things.find((thing) => thing.id === id);
    if (cloth?.role !== 'cloth' || cloth.shape.kind !== 'pattern' || !document.writable()) return false;
    const next = copyOf(cloth.shape);
    recipe(next);
    const problem = patternProblem(next);
    if (problem) {
      notice.problem(`Nothing was changed: ${problem.message}.`);
      return false;
    }
    if (!mesherAfter(cloth.shape, next)) delete next.mesher;
    const visit = document.visitNow();
    try {
      await cutAhead(next);
    } catch (error) {
      notice.problem(`Nothing was changed: the pieces could not be cut. ${errorText(error)}`);
      return false;
    }
    if (document.visitNow() !== visit) return false;
    return document.edit(label, (draft) => {
      const found = draft.things.find((thing) => thing.id === id);
      if (found?.role !== 'cloth' || found.shape.kind !== 'pattern') return;
      recipe(found.shape);
      besides(found as CutCloth);
    });
  }

  /** Changes a piece in place. */
  function changePiece(cloth: CutCloth, piece: Piece, what: string, recipe: (own: Piece, shape: PatternShape) => void) {
    return change(cloth, `${piece.name}, ${what}`, (shape) => {
      const own = shape.pieces.find(({ id }) => id === piece.id);
      if (own) recipe(own, shape);
    });
  }

  /** Changes where a piece is: nothing is cut anew, so it can be followed by the pointer. */
  function placePiece(
    cloth: CutCloth,
    piece: Piece,
    what: string,
    placed: Partial<Pick<Piece, 'position' | 'rotation' | 'lies' | 'radius'>>,
    live = false,
  ): void {
    document.edit(
      `${piece.name}, ${what}`,
      (draft) => {
        const found = draft.things.find(({ id }) => id === cloth.id);
        const own =
          found?.role === 'cloth' &&
          found.shape.kind === 'pattern' &&
          found.shape.pieces.find(({ id }) => id === piece.id);
        if (own) Object.assign(own, placed);
      },
      live ? `piece ${piece.id} ${what}` : null,
    );
  }

  function freePieceName(pieces: readonly Piece[], stem = 'Piece'): string {
    const taken = new Set(pieces.map(({ name }) => name));
    let count = pieces.length + 1;
    while (taken.has(`${stem} ${count}`)) count++;
    return `${stem} ${count}`;
  }

  /** Adds pieces to the selected pattern, or cuts a new cloth from them; what is asked for at the same time comes one after the other. */
  function addPieces(given: NewPiece[], label: string): Promise<void> {
    adding = adding.then(() => addNow(given, label)).catch((error: unknown) => notice.problem(errorText(error)));
    return adding;
  }

  async function addNow(given: NewPiece[], label: string): Promise<void> {
    const { cloth } = pattern;
    const pieces: Piece[] = [];
    const before = cloth?.shape.pieces ?? [];
    let right = before.length > 0 ? Math.max(...before.map(rightOf)) : null;
    for (const one of given) {
      const made = makePiece({ ...one, name: (one.name ?? freePieceName([...before, ...pieces])).slice(0, 120) });
      if (!one.position) {
        const { low, width } = sizeOfPiece(made);
        if (right !== null) made.position = [right + BESIDE - low[0], 0, 0];
        right = made.position[0] + low[0] + width;
      }
      pieces.push(made);
    }
    if (pieces.length === 0) return;
    if (cloth) {
      if (await change(cloth, label, (shape) => void shape.pieces.push(...pieces))) pattern.selectPiece(pieces[0]!.id);
      return;
    }
    await cutNew(pieces, label);
  }

  /** A new cloth from pieces, standing over the ground. */
  async function cutNew(pieces: Piece[], label: string): Promise<void> {
    if (!document.shot || !document.writable()) return;
    const lowest = Math.min(...pieces.map((piece) => piece.position[1] + sizeOfPiece(piece).low[1]));
    const shape: PatternShape = {
      ...{ kind: 'pattern', spacing: spacingFor(pieces), weave: 'all directions', pieces, seams: [], closing: 24 },
    };
    const problem = patternProblem(shape);
    if (problem) return notice.problem(`Nothing was changed: ${problem.message}.`);
    const visit = document.visitNow();
    await cutAhead(shape);
    if (document.visitNow() !== visit || !document.shot) return;
    const cloth = createCloth({
      ...{ name: freeName(document.shot, 'Cut cloth'), shape, position: [0, Math.max(0, 0.3 - lowest), 0] },
    });
    if (document.edit(label, (draft) => void draft.things.push(cloth))) selection.select(cloth.id);
  }

  function addPiece(kind: PieceKind): Promise<void> {
    const { label, nodes } = PIECE_KINDS.find(({ id }) => id === kind)!;
    return addPieces([{ outline: nodes() }], `New ${label.toLowerCase()}`);
  }

  /** The outlines of a drawing as pieces, placed as they are drawn. */
  async function readDrawing(file: File): Promise<void> {
    if (!document.writable()) return;
    try {
      if (file.size > LARGEST_DRAWING)
        throw new Error('The file is larger than 30 MB. Keep only the outlines in it, and save it anew.');
      const visit = document.visitNow();
      const text = await file.text();
      const { outlines, leftOut } = await meshHost.call<SvgOutlines>((api) => api.readSvg(text));
      if (document.visitNow() !== visit) return;
      const middle = outlines.reduce(
        (sum, { middle: m }) => [sum[0]! + m[0] / outlines.length, sum[1]! + m[1] / outlines.length],
        [0, 0],
      );
      const right = pattern.cloth ? Math.max(...pattern.cloth.shape.pieces.map(rightOf)) + BESIDE : null;
      const creased = outlines.map(({ outline, holes, lines }) =>
        withCreases(makePiece({ name: 'x', outline, holes }), lines),
      );
      const refused = creased.reduce((sum, one) => sum + one.refused, 0);
      const left = Math.min(
        ...outlines.map(({ outline, middle: m }) => m[0] - sizeOfPiece(makePiece({ name: 'x', outline })).width / 2),
      );
      const given = outlines.map(({ name, outline, holes, middle: m }, i) => ({
        ...{ name, outline, holes, lines: creased[i]!.piece.lines },
        position: [right === null ? m[0] - middle[0]! : m[0] - left + right, m[1] - middle[1]!, 0] as Piece['position'],
      }));
      if (refused > 0)
        leftOut.push(refused === 1 ? 'a crease that cannot be had' : `${refused} creases that cannot be had`);
      const count = given.length === 1 ? 'an outline' : `${given.length} outlines`;
      await addPieces(given, `Bring in ${count} from ${file.name}`);
      if (leftOut.length > 0) notice.say(`${file.name}: ${count} brought in. Left out: ${leftOut.join('; ')}.`);
    } catch (error) {
      notice.problem(`${file.name} was not brought in; nothing was changed. ${errorText(error)}`);
    }
  }

  /** Cuts a sheet anew as a pattern: the same cloth, whose outline can then be changed. */
  async function fromSheet(cloth: Cloth): Promise<void> {
    if (cloth.shape.kind !== 'sheet') return;
    const shape = patternFromSheet(cloth.shape);
    const visit = document.visitNow();
    // Without a worker the page cuts it itself.
    await cutAhead(shape).catch(() => undefined);
    if (document.visitNow() !== visit) return;
    document.edit(`Cut ${cloth.name} as a pattern`, (draft) => {
      const found = draft.things.find(({ id }) => id === cloth.id);
      if (found?.role === 'cloth') found.shape = shape;
    });
    pattern.selectPiece(shape.pieces[0]!.id);
  }

  /** A copy of a piece beside it, as it is or seen in a mirror. */
  async function copyPiece(cloth: CutCloth, piece: Piece, mirrored: boolean): Promise<void> {
    const name = freePieceName(cloth.shape.pieces);
    const made = mirroredPiece(piece, name);
    const copy = mirrored ? made : { ...mirroredPiece(made, name), position: [...piece.position] as Piece['position'] };
    if (!mirrored || Math.abs(copy.position[0] - piece.position[0]) < 1e-6) {
      copy.position[0] = piece.position[0] + sizeOfPiece(piece).width + BESIDE;
    }
    const label = mirrored ? `Mirror ${piece.name}` : `Duplicate ${piece.name}`;
    if (await change(cloth, label, (shape) => void shape.pieces.push(copy))) pattern.selectPiece(copy.id);
  }

  /** Sews the two selected stretches together, as they lie in the stage. */
  async function sewSelected(cloth: CutCloth): Promise<void> {
    const [a, b] = pattern.stretches;
    if (!a || !b) return;
    const turned = beginTogether(cloth.shape.pieces, a, b);
    if (await change(cloth, 'Sew', (shape) => void sew(shape, a, b, turned))) {
      pattern.sides = [];
      pattern.seamId = pattern.shape?.seams.at(-1)?.id ?? null;
    }
  }

  /** Makes seams of all that is offered: between borders, and to the surfaces of things, as one edit. */
  async function sewOffered(cloth: CutCloth): Promise<void> {
    const [seams, ties] = [pattern.offered, pattern.offeredTies];
    const count = seams.length + ties.length;
    const label = count === 1 ? 'Auto seam' : `Auto seam, ${count} seams`;
    const done = await change(
      cloth,
      label,
      (shape) => {
        for (const { a, b, turned } of seams) sew(shape, a, b, turned);
      },
      // Points are those of the pattern as it is sewn.
      (own) => {
        for (const { stretch, to, along } of ties) own.ties.push(tieAlong(own, stretch, to, along));
      },
    );
    if (done) pattern.offering = false;
  }

  /** Sews the selected stretches to the surface or the border of a thing: another cloth, or something solid, that moves as it likes. */
  async function sewToThing(cloth: CutCloth, to: string, along: Tie['along']): Promise<void> {
    const { stretches } = pattern;
    const thing = document.shot?.things.find(({ id }) => id === to);
    if (stretches.length === 0 || !thing) return;
    const done = await change(
      cloth,
      `Sew to ${thing.name}`,
      () => undefined,
      (own) => {
        for (const stretch of stretches) own.ties.push(tieAlong(own, stretch, to, along));
      },
    );
    if (done) pattern.sides = [];
  }

  /** A tie of a stretch of border, whose points are those of the pattern as it is sewn. */
  function tieAlong(cloth: CutCloth, stretch: Stretch, to: string, along: Tie['along']): Tie {
    return borderTie(
      cloth,
      pointsAlong(cloth.shape, stretch),
      document.shot!.things.find(({ id }) => id === to)!,
      along,
    );
  }

  return {
    change,
    changePiece,
    placePiece,
    addPiece,
    readDrawing,
    fromSheet,
    copyPiece,
    sewSelected,
    sewOffered,
    sewToThing,
    /** How long a stretch of border is as a seam takes it, in m. */
    lengthOf(cloth: CutCloth, stretch: PatternShape['seams'][number]['a']): number {
      const place = findStretch(cloth.shape.pieces, stretch);
      return place ? sewnLength(place) : 0;
    },
  };
}

/** The change that is being made to a pattern. */
let changing: Promise<unknown> = Promise.resolve();
/** Pieces that are being added. */
let adding: Promise<void> = Promise.resolve();

/** The right border of a piece in the axes of its cloth, as if it lay flat, in m. */
function rightOf(piece: Piece): number {
  const { low, width } = sizeOfPiece(piece);
  return piece.position[0] + low[0] + width;
}
