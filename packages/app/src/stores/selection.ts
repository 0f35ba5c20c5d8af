import type { Edit, KnotPlace, Thing } from '@lumbra/core';
import { defineStore } from 'pinia';
import { computed, ref, shallowRef, watch } from 'vue';
import { useDocumentStore } from '../session/document';

export type StationId = 'stage' | 'pattern' | 'fabric' | 'hold' | 'air' | 'run' | 'finish' | 'handOff';
/** What the Hold station shows: points to select, what holds, or how much. */
export type HoldWork = 'select' | 'holds' | 'masks';
export type SignalId = 'maxStretch' | 'crossings' | 'pierced' | 'deepest' | 'squeezed' | 'fastest' | `cue:${string}`;
/** How cloth is drawn. */
export type ViewMode = 'print' | 'mesh' | 'stretch';
/** Look around; select in a box, in a lasso, one by one, along a border or in a straight row; paint a mask or draw a ramp; move, turn and size things. */
export type Tool =
  | 'look'
  | 'box'
  | 'lasso'
  | 'point'
  | 'stretch'
  | 'row'
  | 'brush'
  | 'straight ramp'
  | 'round ramp'
  | 'move'
  | 'turn'
  | 'size';
/** Tools of the Hold station that take the pointer on cloth. */
export const POINT_TOOLS: readonly Tool[] = [
  'box',
  'lasso',
  'point',
  'stretch',
  'row',
  'brush',
  'straight ramp',
  'round ramp',
];
/** What tools take of a cloth: its points, or all points of edges or of faces. */
export type Takes = 'points' | 'edges' | 'faces';
const PLACE_TOOLS: readonly Tool[] = ['move', 'turn', 'size'];

/**
 * How the brush paints: its radius on the cloth in m, or on the screen in CSS pixels; how much a pass does, how soft its edge is,
 * and what it does.
 */
export interface Brush {
  unit: 'mm' | 'px';
  radius: number;
  pixels: number;
  strength: number;
  falloff: number;
  value: number;
  mode: 'add' | 'take away' | 'set' | 'blur';
  /** A pen does the more the harder it is pressed. */
  heedsPen: boolean;
}

/** A change of which points are selected. */
interface PointStep {
  before: readonly number[];
  after: readonly number[];
  /** The edit after which it came, or with which, where an edit took the selection away. */
  edit: Edit | undefined;
  withEdit: boolean;
}

/** A knot on the timeline. */
export const knotId = ({ thing, number, frame }: KnotPlace): string => `${thing ?? ''}/${number}/${frame}`;

/** What is selected and looked at. Not part of the shot, so not undone. */
export const useSelectionStore = defineStore('selection', () => {
  const document = useDocumentStore();
  const station = ref<StationId>('stage');
  const viewMode = ref<ViewMode>('print');
  const thingId = ref<string | null>(null);
  const holdId = ref<string | null>(null);
  /** Selected points of the selected cloth, and how they came to be selected; see stores/undo.ts. */
  const points = shallowRef<readonly number[]>([]);
  const pointSteps = shallowRef<{ done: readonly PointStep[]; undone: readonly PointStep[] }>({ done: [], undone: [] });
  const takes = ref<Takes>('points');
  /** Tools also take points that are hidden behind cloth or things. */
  const takesHidden = ref(false);
  /** The mask that is painted and shown in colour, and its values while a stroke goes on. */
  const maskId = ref<string | null>(null);
  const maskDraft = shallowRef<Uint8Array | null>(null);
  const brush = ref<Brush>({
    unit: 'mm',
    radius: 0.08,
    pixels: 40,
    strength: 0.5,
    falloff: 0.7,
    value: 1,
    mode: 'add',
    heedsPen: true,
  });
  /** How far around the pointer cloth is gripped in a live run, and how far an arrow key nudges a pin set, in m. */
  const gripRadius = ref(0.12);
  const nudge = ref(0.01);
  /** Lines from tied points to what they are tied to are drawn. */
  const showTies = ref(true);
  /** What is worked on at Hold. */
  const holdWork = ref<HoldWork>('select');
  const tool = ref<Tool>('look');
  /** Other selected things, besides the one that the panel shows. */
  const others = shallowRef<readonly string[]>([]);
  /** Selected knots on the timeline, and the number whose curve is drawn (owner and name). */
  const knots = shallowRef<readonly KnotPlace[]>([]);
  const curve = shallowRef<{ thing: string | null; number: string } | null>(null);
  /** A standing figure for scale, and the surfaces that cloth meets. */
  const silhouette = ref(false);
  const showContact = ref(false);
  /** The timeline is raised, to see curves large. */
  const tallTimeline = ref(false);

  /** A place that is pointed out in the viewport, in m, and what is wrong there. */
  const mark = shallowRef<{ place: [number, number, number]; text: string } | null>(null);
  /** The number of the bake that the timeline draws as a curve. */
  const signal = ref<SignalId>('maxStretch');

  const thing = computed<Thing | null>(() => document.shot?.things.find(({ id }) => id === thingId.value) ?? null);
  /** The selected cloth, else the first one: fabric and pins always have something to show. */
  const cloth = computed(() => {
    if (thing.value?.role === 'cloth') return thing.value;
    return document.shot?.things.find((candidate) => candidate.role === 'cloth') ?? null;
  });

  watch(
    () => cloth.value?.id,
    () => {
      clearPoints();
      holdId.value = null;
      maskId.value = null;
    },
  );
  // Another mesh has other points.
  watch(
    () => JSON.stringify(cloth.value?.shape),
    () => clearPoints(),
  );
  watch(station, (now) => {
    const stays =
      now === 'stage' || now === 'pattern' ? PLACE_TOOLS : now === 'hold' ? [...POINT_TOOLS, ...PLACE_TOOLS] : [];
    if (!stays.includes(tool.value)) tool.value = 'look';
    mark.value = null;
  });
  // Each kind of work at Hold has its tools.
  watch(holdWork, (now) => {
    const tools: Record<HoldWork, readonly Tool[]> = {
      select: ['box', 'lasso', 'point', 'stretch', 'row'],
      holds: PLACE_TOOLS,
      masks: ['brush', 'straight ramp', 'round ramp'],
    };
    if (!tools[now].includes(tool.value)) tool.value = 'look';
  });
  watch(thingId, () => (knots.value = []));

  function clearPoints(): void {
    points.value = [];
    pointSteps.value = { done: [], undone: [] };
  }

  /** Selects points, in order and each once; undoable. `withEdit`: as part of the last edit, if there was one since the last selection. */
  function setPoints(wanted: Iterable<number>, withEdit = false): void {
    const after = [...new Set(wanted)].sort((a, b) => a - b);
    const before = points.value;
    if (after.length === before.length && after.every((point, i) => point === before[i])) return;
    // What is selected in between tells two edits apart.
    document.endMerge();
    const { done } = pointSteps.value;
    const edit = document.done.at(-1);
    // An edit that changed nothing is none: the points are let go after the edit before, like any other selection.
    const step = { before, after, edit, withEdit: withEdit && edit !== done.at(-1)?.edit };
    pointSteps.value = { done: [...done.slice(-200), step], undone: [] };
    points.value = after;
  }

  /** Goes back to the selection before. */
  function pointsBack(): void {
    const { done, undone } = pointSteps.value;
    const step = done.at(-1);
    if (!step) return;
    pointSteps.value = { done: done.slice(0, -1), undone: [...undone, step] };
    points.value = step.before;
  }

  /** Goes on to the selection that was gone back from. */
  function pointsOn(): void {
    const { done, undone } = pointSteps.value;
    const step = undone.at(-1);
    if (!step) return;
    pointSteps.value = { done: [...done, step], undone: undone.slice(0, -1) };
    points.value = step.after;
  }

  /** Selects a thing; with `add` besides those that are selected, or no longer when it is. */
  function select(id: string | null, add = false): void {
    if (!add || id === null) {
      others.value = [];
      thingId.value = id;
      return;
    }
    const all = allSelected();
    const next = all.includes(id) ? all.filter((other) => other !== id) : [...all, id];
    thingId.value = next.at(-1) ?? null;
    others.value = next.slice(0, -1);
  }

  /** Ids of all selected things, the one that the panel shows last. */
  function allSelected(): string[] {
    const present = new Set(document.shot?.things.map(({ id }) => id));
    return [...others.value, ...(thingId.value === null ? [] : [thingId.value])].filter((id) => present.has(id));
  }

  return {
    station,
    viewMode,
    thingId,
    others,
    holdId,
    points,
    pointSteps,
    setPoints,
    pointsBack,
    pointsOn,
    takes,
    takesHidden,
    maskId,
    maskDraft,
    brush,
    gripRadius,
    nudge,
    showTies,
    holdWork,
    tool,
    knots,
    curve,
    silhouette,
    showContact,
    tallTimeline,
    mark,
    signal,
    thing,
    cloth,
    select,
    allSelected,
  };
});
