import type { KnotPlace, Thing } from '@lumbra/core';
import { defineStore } from 'pinia';
import { computed, ref, shallowRef, watch } from 'vue';
import { useDocumentStore } from './document';

export type StationId = 'stage' | 'fabric' | 'hold' | 'air' | 'run' | 'handOff';
export type SignalId = 'maxStretch' | 'crossings' | 'deepest' | 'fastest';
export type ViewMode = 'print' | 'mesh' | 'stretch';
/** Look around, draw a box around points, or move, turn and size the selected thing. */
export type Tool = 'look' | 'box' | 'move' | 'turn' | 'size';

/** A knot on the timeline. */
export const knotId = ({ thing, number, frame }: KnotPlace): string => `${thing ?? ''}/${number}/${frame}`;

/** What is selected and looked at. Not part of the shot, so not undone. */
export const useSelectionStore = defineStore('selection', () => {
  const document = useDocumentStore();
  const station = ref<StationId>('stage');
  const viewMode = ref<ViewMode>('print');
  const thingId = ref<string | null>(null);
  const pinSetId = ref<string | null>(null);
  /** Selected points of the selected cloth. */
  const points = shallowRef<readonly number[]>([]);
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
      points.value = [];
      pinSetId.value = null;
    },
  );
  // Another mesh has other points.
  watch(
    () => JSON.stringify(cloth.value?.shape),
    () => (points.value = []),
  );
  watch(station, (now) => {
    if (now !== 'stage' || tool.value === 'box') tool.value = 'look';
    mark.value = null;
  });
  watch(thingId, () => (knots.value = []));

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
    pinSetId,
    points,
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
