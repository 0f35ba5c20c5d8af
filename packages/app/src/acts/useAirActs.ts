import {
  AIR_KINDS,
  createAir,
  freeName,
  removeThing,
  worldBounds,
  type AirKindName,
  type AirThing,
  type Shot,
  type Vector3,
} from '@lumbra/core';
import { useDocumentStore } from '../session/document';
import { useRunStore } from '../stores/run';
import { useSelectionStore } from '../stores/selection';

/** The acts of the Air station; each is one undoable edit. */
export function useAirActs() {
  const document = useDocumentStore();
  const selection = useSelectionStore();
  const run = useRunStore();

  /** Adds air where it meets the cloth: what blows stands beside it and blows at it, what draws stands above it. */
  function add(kind: AirKindName): void {
    const { shot } = document;
    if (!shot) return;
    const { label, aims } = AIR_KINDS[kind];
    const [x, y, z] = middleOfCloth(shot);
    const place: Vector3 = aims ? [x - 1.2, y, z] : kind === 'swirl' ? [x, 0, z] : [x, y, z];
    const made = createAir({
      name: freeName(shot, label),
      air: { kind } as never,
      position: place.map((value) => Math.round(value * 100) / 100) as [number, number, number],
      rotation: aims ? [0, Math.PI / 2, 0] : [0, 0, 0],
    });
    if (document.edit(`Add ${made.name}`, (draft) => void draft.things.push(made))) selection.select(made.id);
  }

  /** The middle of the cloth of a shot, as it starts; above the middle of the stage where there is none. */
  function middleOfCloth(shot: Shot): Vector3 {
    const boxes = shot.things
      .filter(({ role }) => role === 'cloth')
      .flatMap((cloth) => {
        try {
          return worldBounds(shot, cloth, document.assets, run.frame) ?? [];
        } catch {
          return [];
        }
      });
    if (boxes.length === 0) return [0, 1, 0];
    return [0, 1, 2].map((axis) => {
      const low = Math.min(...boxes.map((box) => box.low[axis]!));
      const high = Math.max(...boxes.map((box) => box.high[axis]!));
      return (low + high) / 2;
    }) as unknown as Vector3;
  }

  function turn({ id, name }: AirThing, on: boolean): void {
    document.edit(`${name} ${on ? 'on' : 'off'}`, (draft) => {
      const found = draft.things.find((thing) => thing.id === id);
      if (found) found.enabled = on;
    });
  }

  function remove({ id, name }: AirThing): void {
    const done = document.edit(`Delete ${name}`, (draft) => removeThing(draft, id));
    if (done && selection.thingId === id) selection.select(null);
  }

  function turnGravity(on: boolean): void {
    document.edit(`Gravity ${on ? 'on' : 'off'}`, (draft) => {
      draft.gravity.enabled = on;
    });
  }

  return { add, turn, remove, turnGravity };
}
