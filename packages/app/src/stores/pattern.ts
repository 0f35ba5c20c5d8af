import {
  autoSeam,
  autoTies,
  lineWith,
  nodesOfPiece,
  nodeWith,
  startFrame,
  stretchesOf,
  type Cloth,
  type PatternShape,
  type ProposedSeam,
  type ProposedTie,
  type SidePlace,
} from '@lumbra/core';
import { defineStore } from 'pinia';
import { computed, ref, shallowRef, watch } from 'vue';
import { useDocumentStore } from '../session/document';
import { useSelectionStore } from './selection';

/** Cloth that is cut by a pattern. */
export type CutCloth = Cloth & { shape: PatternShape };

/** What the Pattern station shows. */
export type PatternWork = 'pieces' | 'seams' | 'mesh';

/** What is selected and looked at of a pattern. Not part of the shot, so not undone. */
export const usePatternStore = defineStore('pattern', () => {
  const document = useDocumentStore();
  const selection = useSelectionStore();
  /** The pieces are looked at laid out flat, in place of the stage. */
  const flat = ref(false);
  /** What is worked on. */
  const work = ref<PatternWork>('pieces');
  const pieceId = ref<string | null>(null);
  const nodeId = ref<string | null>(null);
  /** The selected line of the piece. */
  const lineId = ref<string | null>(null);
  /** Selected sides, in the order in which they were. */
  const sides = shallowRef<readonly SidePlace[]>([]);
  const seamId = ref<string | null>(null);
  /** Borders that lie within so many m of each other are offered as seams. */
  const reach = ref(0.02);
  /** Whether they are offered. */
  const offering = ref(false);
  /** Borders that lie near things are offered too: of a hood, not of a sleeve. */
  const toThings = ref(false);

  const cloth = computed<CutCloth | null>(() => {
    const found = selection.cloth;
    return found?.shape.kind === 'pattern' ? (found as CutCloth) : null;
  });
  const shape = computed(() => cloth.value?.shape ?? null);
  const piece = computed(() => shape.value?.pieces.find(({ id }) => id === pieceId.value) ?? null);
  const node = computed(() => (piece.value && nodeId.value && nodeWith(piece.value, nodeId.value)) || null);
  /** The stretches that the selected sides make up. */
  const stretches = computed(() => (shape.value ? stretchesOf(shape.value.pieces, sides.value) : []));
  const offered = computed<ProposedSeam[]>(() =>
    offering.value && shape.value ? autoSeam(shape.value, reach.value) : [],
  );

  /** Borders that are offered to be sewn to things: those that are not offered to other borders. */
  const offeredTies = computed<ProposedTie[]>(() => {
    const { shot, assets } = document;
    if (!offering.value || !toThings.value || !cloth.value || !shot) return [];
    const taken = new Set(offered.value.flatMap(({ a, b }) => [a, b].map(({ piece: of, from }) => `${of} ${from}`)));
    const found = autoTies(shot, cloth.value, assets, reach.value, startFrame(shot));
    return found.filter(({ stretch }) => !taken.has(`${stretch.piece} ${stretch.from}`));
  });

  watch(
    () => cloth.value?.id,
    () => {
      clear();
      pieceId.value = shape.value?.pieces[0]?.id ?? null;
    },
    { immediate: true },
  );
  // What was undone or deleted is selected no longer.
  watch(shape, (now) => {
    if (!now) return;
    const nodes = new Set(now.pieces.flatMap((own) => nodesOfPiece(own).map((one) => `${own.id} ${one.id}`)));
    sides.value = sides.value.filter(({ piece: of, from }) => nodes.has(`${of} ${from}`));
    if (!now.pieces.some(({ id }) => id === pieceId.value)) pieceId.value = now.pieces[0]?.id ?? null;
    if (!nodes.has(`${pieceId.value} ${nodeId.value}`)) nodeId.value = null;
    if (!piece.value?.lines.some(({ id }) => id === lineId.value)) lineId.value = null;
    if (!now.seams.some(({ id }) => id === seamId.value)) seamId.value = null;
  });

  /** Begins to offer seams: as near as was asked for last, or as near as the nearest borders are. */
  function offer(): void {
    offering.value = true;
    for (const wider of [0.05, 0.1, 0.2, 0.5]) {
      if (offered.value.length + offeredTies.value.length > 0) return;
      if (wider > reach.value) reach.value = wider;
    }
  }

  function clear(): void {
    pieceId.value = nodeId.value = lineId.value = seamId.value = null;
    sides.value = [];
    offering.value = false;
  }

  function selectPiece(id: string): void {
    if (pieceId.value !== id) nodeId.value = lineId.value = null;
    pieceId.value = id;
  }

  function selectNode(of: string, node: string): void {
    selectPiece(of);
    nodeId.value = node;
    lineId.value = (piece.value && lineWith(piece.value, node)?.id) ?? null;
    sides.value = [];
  }

  function selectLine(of: string, line: string): void {
    selectPiece(of);
    nodeId.value = null;
    lineId.value = line;
    sides.value = [];
  }

  /** Selects a side; with `add` besides those that are selected, or no longer when it is. */
  function selectSide(side: SidePlace, add: boolean): void {
    const has = sides.value.some(({ piece, from }) => piece === side.piece && from === side.from);
    const others = sides.value.filter(({ piece, from }) => piece !== side.piece || from !== side.from);
    sides.value = add ? (has ? others : [...others, side]) : [side];
    nodeId.value = lineId.value = null;
    selectPiece(side.piece);
  }

  return {
    flat,
    work,
    pieceId,
    nodeId,
    lineId,
    sides,
    seamId,
    reach,
    offering,
    toThings,
    cloth,
    shape,
    piece,
    node,
    stretches,
    offered,
    offeredTies,
    clear,
    offer,
    selectPiece,
    selectNode,
    selectLine,
    selectSide,
  };
});
