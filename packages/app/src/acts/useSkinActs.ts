import {
  borderTie,
  createCloth,
  freeName,
  patternProblem,
  pointsAlong,
  skinBetween,
  spacingFor,
  standOffOf,
  startFrame,
  thingMeshAt,
  type PatternShape,
} from '@lumbra/core';
import { useDocumentStore } from '../session/document';
import { errorText, useNoticeStore } from '../stores/notice';
import { useSelectionStore } from '../stores/selection';
import { meshHost } from '../workers/hosts';
import { cutAhead } from '../workers/meshWork';
import type { FoundRod } from '../workers/mesh.worker';
import type { SolidThing } from '../stores/faces';

/** Cloth starts so many m farther off its rods than it is drawn to them: a start in reach of contact would be pushed out of it first. */
const START_OFF = 0.003;

/** Spreading cloth between rods: hoops, ribs, battens. */
export function useSkinActs() {
  const document = useDocumentStore();
  const selection = useSelectionStore();
  const notice = useNoticeStore();

  /** The rods that things consist of, as they are where a run begins; each part of a thing that is long and thin with two ends is one. */
  async function rodsOf(things: readonly SolidThing[]): Promise<FoundRod[]> {
    const { shot, assets } = document;
    if (!shot) return [];
    const meshes = things.map((thing) => ({ id: thing.id, mesh: thingMeshAt(shot, thing, assets, startFrame(shot)) }));
    const plain = meshes.map(({ id, mesh: { positions, triangles } }) => ({ id, mesh: { positions, triangles } }));
    return meshHost.call<FoundRod[]>((api) => api.rodsOf(plain));
  }

  /**
   * Cuts a panel from each rod to the next, sews them, and sews them to the rods; one undoable edit.
   *
   * @param short share of their length by which panels end short of the ends; null as suits them
   */
  async function spread(rods: readonly FoundRod[], short: number | null): Promise<void> {
    const { shot } = document;
    if (!shot || rods.length < 2 || !document.writable()) return;
    const visit = document.visitNow();
    try {
      const thingOf = (id: string) => shot.things.find((thing) => thing.id === id)!;
      const cloth = createCloth({
        name: freeName(shot, 'Cover'),
        shape: { kind: 'sheet', width: 1, height: 1, spacing: 0.1 },
      });
      const off = START_OFF + Math.max(...rods.map(({ thing }) => standOffOf(cloth, thingOf(thing))));
      const { pieces, seams, borders, middle } = skinBetween(rods, off, short);
      const shape: PatternShape = {
        ...{ kind: 'pattern', spacing: spacingFor(pieces), weave: 'all directions', pieces, seams, closing: 24 },
      };
      const problem = patternProblem(shape);
      if (problem) return notice.problem(`Nothing was made: ${problem.message}.`);
      await cutAhead(shape);
      if (document.visitNow() !== visit) return;
      cloth.shape = shape;
      cloth.position = [...middle];
      for (const { rod, stretch } of borders)
        cloth.ties.push(borderTie(cloth, pointsAlong(shape, stretch), thingOf(rod.thing), 'surface'));
      const count = pieces.length === 1 ? 'a panel' : `${pieces.length} panels`;
      if (document.edit(`Spread ${count} between rods`, (draft) => void draft.things.push(cloth)))
        selection.select(cloth.id);
    } catch (error) {
      notice.problem(`Nothing was made. ${errorText(error)}`);
    }
  }

  return { rodsOf, spread };
}
