import {
  createLeash,
  createPinSet,
  createTie,
  fadeMask,
  formatQuantity,
  holdsOf,
  insideMesh,
  maskNumber,
  newId,
  placeBy,
  pointsNear,
  poseAt,
  releaseBy,
  removeHold,
  removeMask,
  meshAt,
  shapeMesh,
  writeMask,
  type Cloth,
  type Hold,
  type Ramp,
  type Shot,
  type Thing,
  type Tie,
} from '@lumbra/core';
import { useDocumentStore } from '../session/document';
import { errorText, useNoticeStore } from '../stores/notice';
import { useRunStore } from '../stores/run';
import { useSelectionStore } from '../stores/selection';

/** The acts of the Hold station; each is one undoable edit of the selected cloth, or a selection of its points. */
export function useHoldActs() {
  const document = useDocumentStore();
  const selection = useSelectionStore();
  const run = useRunStore();
  const notice = useNoticeStore();

  function change(label: string, recipe: (cloth: Cloth, draft: Shot) => void, merge: string | null = null): boolean {
    const id = selection.cloth?.id;
    return document.edit(
      label,
      (draft) => {
        const cloth = draft.things.find((thing) => thing.id === id);
        if (cloth?.role === 'cloth') recipe(cloth, draft);
      },
      merge,
    );
  }

  /** A name that no hold or mask of the cloth has: “Pins 2”. */
  function freeNumber(stem: string, taken: readonly { name: string }[]): string {
    for (let number = 1; ; number++) {
      const name = `${stem} ${number}`;
      if (!taken.some((one) => one.name === name)) return name;
    }
  }

  function pin(): void {
    const cloth = selection.cloth;
    if (!cloth || selection.points.length === 0) return;
    const set = createPinSet({ name: freeNumber('Pins', cloth.pinSets), points: [...selection.points] });
    take(`Pin ${set.points.length} points`, set, (draft) => draft.pinSets.push(set));
  }

  function tie(to: Thing): void {
    const cloth = selection.cloth;
    if (!cloth || selection.points.length === 0) return;
    const made = createTie({ name: freeNumber('Tie', cloth.ties), points: [...selection.points], to: to.id });
    take(`Tie ${made.points.length} points to ${to.name}`, made, (draft) => draft.ties.push(made));
  }

  /** A tie for each of some things, of the points that lie within a distance (m) of it; one edit, and what is out of reach is said. */
  function tieToEach(things: readonly Thing[], distance: number): void {
    const cloth = selection.cloth;
    if (!cloth) return;
    const made: Tie[] = [];
    const missed: string[] = [];
    for (const to of things) {
      const points = pointsBy(to, 'near', distance);
      const names = [...cloth.ties, ...made];
      if (points.length === 0) missed.push(to.name);
      else made.push(createTie({ name: freeNumber('Tie', names), points, to: to.id }));
    }
    const within = `within ${formatQuantity(distance, 'mm')} mm`;
    if (made.length === 0) return notice.remark(`No point of ${cloth.name} is ${within} of ${missed.join(', ')}.`);
    const label = `Tie to ${made.length} things`;
    if (made.length === 1) take(label, made[0]!, (draft) => draft.ties.push(made[0]!));
    else if (change(label, (draft) => draft.ties.push(...made))) selection.holdWork = 'holds';
    if (missed.length > 0) notice.remark(`Tied to ${made.length}. No point is ${within} of ${missed.join(', ')}.`);
  }

  function leash(): void {
    const cloth = selection.cloth;
    if (!cloth || selection.points.length === 0) return;
    const made = createLeash({ name: freeNumber('Leash', cloth.leashes), points: [...selection.points] });
    take(`Leash ${made.points.length} points`, made, (draft) => draft.leashes.push(made));
  }

  function take(label: string, hold: Hold, add: (cloth: Cloth) => void): void {
    if (!change(label, add)) return;
    selection.holdId = hold.id;
    selection.holdWork = 'holds';
    selection.setPoints([], true);
    selection.tool = 'look';
  }

  function remove(hold: Hold): void {
    const cloth = selection.cloth;
    if (!cloth) return;
    if (document.edit(`Delete ${hold.name}`, (draft) => removeHold(draft, cloth.id, hold.id))) selection.holdId = null;
  }

  /** Changes the chosen hold. */
  function changeHold(hold: Hold, label: string, recipe: (hold: Hold) => void): void {
    change(`${hold.name}, ${label}`, (cloth) => {
      const found = holdsOf(cloth).find(({ id }) => id === hold.id);
      if (found) recipe(found);
    });
  }

  /** Lets a hold fade at the edge of its points, by a new mask. */
  function fade(hold: Hold): void {
    const cloth = selection.cloth;
    if (!cloth) return;
    const values = writeMask(fadeMask(shapeMesh(cloth.shape, document.assets), hold.points));
    const mask = { id: newId(), name: freeNumber(`${hold.name}, fading`, cloth.masks), values, ramp: null };
    const done = change(`${hold.name} fades at the edge`, (draft) => {
      draft.masks.push(mask);
      const found = holdsOf(draft).find(({ id }) => id === hold.id);
      if (found) found.mask = mask.id;
    });
    if (done) selection.maskId = mask.id;
  }

  /** Lets a hold let go in a way, from the frame that is shown on, by a new mask. */
  function release(hold: Hold, way: string): void {
    const cloth = selection.cloth;
    if (!cloth) return;
    const name = freeNumber(`${hold.name}, release`, cloth.masks);
    let mask: string | null = null;
    const place = { cloth: cloth.id, hold: hold.id };
    const done = document.edit(`${hold.name} lets go`, (draft) => {
      mask = releaseBy(draft, place, way, name, Math.round(run.shownFrame));
    });
    if (done) selection.maskId = mask;
  }

  /** Adds a mask, painted with values of a byte a point or computed from a ramp, and shows it. */
  function addMask(stem: string, made: Uint8Array | Ramp, merge: string | null = null): void {
    const cloth = selection.cloth;
    if (!cloth) return;
    const painted = made instanceof Uint8Array;
    const what = { values: painted ? writeMask(made) : '', ramp: painted ? null : made };
    const mask = { id: newId(), name: freeNumber(stem, cloth.masks), ...what };
    if (change(`New mask ${mask.name}`, (draft) => draft.masks.push(mask), merge)) selection.maskId = mask.id;
  }

  /** Gives a painted mask other values, a byte a point; a ramp becomes a painted mask. */
  function setMask(id: string, label: string, values: Uint8Array): void {
    const text = writeMask(values);
    change(label, (cloth) => {
      const mask = cloth.masks.find((one) => one.id === id);
      if (!mask) return;
      mask.values = text;
      mask.ramp = null;
      cloth.keys = cloth.keys.filter(({ number }) => number !== maskNumber(id, 'phase'));
    });
  }

  function setRamp(id: string, label: string, recipe: (ramp: Ramp) => void): void {
    change(label, (cloth) => {
      const ramp = cloth.masks.find((one) => one.id === id)?.ramp;
      if (ramp) recipe(ramp);
    });
  }

  function deleteMask(id: string): void {
    change('Delete mask', (cloth) => removeMask(cloth, id));
    if (selection.maskId === id) selection.maskId = null;
  }

  /** Where the points of the selected cloth are shown, x y z in m. */
  function shownPlaces(): Float32Array {
    return (selection.cloth && run.shownPositions().get(selection.cloth.id)) ?? new Float32Array();
  }

  /** Points of the cloth by where they are shown beside a thing: within a distance in m of it, inside, above or below it. */
  function pointsBy(thing: Thing, how: 'near' | 'inside' | 'above' | 'below', distance: number): number[] {
    const shot = document.shot!;
    const places = shownPlaces();
    const pose = poseAt(shot, thing, run.shownFrame);
    const all = Array.from({ length: places.length / 3 }, (_, point) => point);
    const place = (point: number) => [places[point * 3]!, places[point * 3 + 1]!, places[point * 3 + 2]!] as const;
    if (how === 'above') return all.filter((point) => place(point)[1] > pose.center[1]);
    if (how === 'below') return all.filter((point) => place(point)[1] < pose.center[1]);
    if (!('shape' in thing)) {
      const away = (point: number) => Math.hypot(...place(point).map((value, axis) => value - pose.center[axis]!));
      return all.filter((point) => away(point) <= distance);
    }
    try {
      const mesh = placeBy(meshAt(thing, document.assets, run.shownFrame), pose);
      return how === 'inside' ? insideMesh(mesh, places) : pointsNear(places, mesh, distance);
    } catch (error) {
      notice.problem(errorText(error));
      return [];
    }
  }

  return {
    pin,
    tie,
    tieToEach,
    leash,
    remove,
    change,
    changeHold,
    fade,
    release,
    addMask,
    setMask,
    setRamp,
    deleteMask,
    pointsBy,
    shownPlaces,
  };
}
