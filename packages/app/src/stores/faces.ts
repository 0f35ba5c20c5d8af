import { shapeMesh, type Assets, type Mesh, type Thing } from '@lumbra/core';
import { defineStore } from 'pinia';
import { computed, ref, shallowRef, watch } from 'vue';
import { useDocumentStore } from '../session/document';
import { useSelectionStore } from './selection';

/** A thing with faces that cloth can be split off: solid, and no endless ground. */
export type SolidThing = Extract<Thing, { role: 'collider' | 'scenery' }>;

/** Whether a thing has faces of its own, and its mesh is there. */
export function isSolidIn(thing: Thing, assets: Assets): thing is SolidThing {
  if ((thing.role !== 'collider' && thing.role !== 'scenery') || thing.shape.kind === 'ground') return false;
  return thing.shape.kind !== 'mesh' || assets.has(thing.shape.asset);
}

/** Which faces of the selected thing are selected, to be split off. Not part of the shot, so not undone. */
export const useFacesStore = defineStore('faces', () => {
  const document = useDocumentStore();
  const selection = useSelectionStore();
  /** Whether faces are worked on, so that tools take them. */
  const working = ref(false);
  const faces = shallowRef<readonly number[]>([]);
  /** How often each face that comes off is divided; null as suits its size. */
  const divided = ref<number | null>(null);
  /** What remains is closed where it is cut open. */
  const closes = ref(true);

  const thing = computed<SolidThing | null>(() => {
    const found = selection.thing;
    return found && isSolidIn(found, document.assets) ? found : null;
  });
  const mesh = computed<Mesh | null>(() => thing.value && shapeMesh(thing.value.shape, document.assets));
  /** How often faces are divided so that the cloth has points enough to fold: about as many as this. */
  const suits = computed(() => {
    let count = 0;
    while (count < 5 && faces.value.length * 4 ** count * 4 < ENOUGH_FACES * 2) count++;
    return count;
  });
  const times = computed(() => divided.value ?? suits.value);
  /** How many points the cloth will have. */
  const points = computed(() => {
    if (!mesh.value || faces.value.length === 0) return 0;
    const { triangles } = mesh.value;
    const own = new Set(faces.value.flatMap((face) => [...triangles.subarray(face * 3, face * 3 + 3)]));
    // Each time there is one more in each edge.
    let [p, f] = [own.size, faces.value.length];
    for (let i = 0; i < times.value; i++) [p, f] = [p + Math.round(f * 1.5 + Math.sqrt(f)), f * 4];
    return p;
  });

  watch(
    () => [thing.value?.id, thing.value && JSON.stringify(thing.value.shape)].join(),
    () => {
      faces.value = [];
      divided.value = null;
    },
  );
  watch(
    () => working.value && selection.station === 'pattern' && thing.value !== null,
    (on) => {
      if (!on && FACE_TOOLS.includes(selection.tool)) selection.tool = 'look';
    },
  );

  function take(found: readonly number[], how: { shiftKey: boolean; altKey: boolean }): void {
    const now = new Set(how.shiftKey || how.altKey ? faces.value : []);
    for (const face of found) {
      if (how.altKey) now.delete(face);
      else now.add(face);
    }
    faces.value = [...now].sort((a, b) => a - b);
  }

  return { working, faces, divided, closes, thing, mesh, suits, times, points, take };
});

/** Tools that take faces. */
export const FACE_TOOLS: readonly string[] = ['point', 'box', 'lasso', 'row'];
/** Cloth of so many faces folds. */
const ENOUGH_FACES = 1500;
