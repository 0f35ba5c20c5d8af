import {
  anglesOf,
  carrierPose,
  changeRole,
  composePoses,
  copiedContacts,
  copiesBetween,
  copiesOf,
  createCloth,
  createCollider,
  createMount,
  freeName,
  invertPose,
  liftClear,
  newId,
  poseAt,
  removeThing,
  giveSize,
  resizeShape,
  setParent,
  shapeMesh,
  footOf,
  SHAPE_KINDS,
  SHAPES,
  toGround,
  worldBounds,
  type Pose,
  type Role,
  type Shape,
  type ShapeKind,
  type Shot,
  type Thing,
  type Vector3,
} from '@lumbra/core';
import { useDocumentStore } from '../session/document';
import { useKeyingStore } from '../stores/keying';
import { errorText, useNoticeStore } from '../stores/notice';
import { useRunStore } from '../stores/run';
import { useSelectionStore } from '../stores/selection';
import { meshHost } from '../workers/hosts';
import { made } from '../workers/meshWork';

export type AddKind = Exclude<ShapeKind, 'mesh'> | 'mount';

/** What can be added, in the order in which it is offered. */
export const ADDABLE = [...SHAPE_KINDS.filter((kind) => SHAPES[kind].start !== null), 'mount'] as AddKind[];

type Shaped = Extract<Thing, { shape: Shape }>;
const isShaped = (thing: Thing): thing is Shaped => 'shape' in thing && thing.shape.kind !== 'ground';

/** How a thing is aligned to another one. */
export type Alignment = 'same place' | 'same turn' | 'middle to middle' | 'on top';

/** The acts of the stage on things; each is one undoable edit. */
export function useThingActs() {
  const document = useDocumentStore();
  const selection = useSelectionStore();
  const keying = useKeyingStore();
  const run = useRunStore();
  const notice = useNoticeStore();

  const thingOf = (id: string) => document.shot?.things.find((candidate) => candidate.id === id);

  /** Adds a thing; it stands at a place of the stage, cloth floats above it. */
  function add(kind: AddKind, at: Vector3 = [0, 0, 0]): void {
    const shot = document.shot;
    if (!shot) return;
    const made = makeThing(shot, kind, at);
    if (document.edit(`Add ${made.name}`, (draft) => void draft.things.push(made))) selection.select(made.id);
  }

  /** Something to begin with: a sheet over a box on the ground. */
  function addStart(): void {
    const shot = document.shot;
    if (!shot) return;
    const things = (['ground', 'box', 'sheet'] as const).map((kind) => makeThing(shot, kind, [0, 0, 0]));
    if (document.edit('Start with a sheet over a box', (draft) => void draft.things.push(...things))) {
      selection.select(things.at(-1)!.id);
    }
  }

  function makeThing(shot: Shot, kind: AddKind, at: Vector3): Thing {
    if (kind === 'mount') return createMount({ name: freeName(shot, 'Mount'), position: [at[0], at[1] + 1, at[2]] });
    const { label, start, isCloth } = SHAPES[kind];
    const given = { name: freeName(shot, label), shape: { ...start, kind } as never };
    if (kind === 'ground') return createCollider({ ...given, friction: 0.5, clearance: 0.002 });
    const made = isCloth ? createCloth(given) : createCollider(given);
    // A sheet falls on what is there; all else stands.
    const height = kind === 'sheet' ? 1 : footOf(made.shape, new Map());
    return { ...made, position: [at[0], at[1] + height, at[2]] };
  }

  /** Deletes all selected things; what rides them stays where it is. */
  function remove(): void {
    const ids = selection.allSelected();
    const first = thingOf(ids.at(-1) ?? '');
    if (!first) return;
    const label = ids.length > 1 ? `Delete ${ids.length} things` : `Delete ${first.name}`;
    const done = document.edit(label, (draft) => {
      for (const id of ids) removeThing(draft, id);
    });
    if (done) selection.select(null);
  }

  /** Copies of the selected things, beside them. */
  function duplicate(): void {
    const ids = selection.allSelected();
    const shot = document.shot;
    if (!shot || ids.length === 0 || !document.writable()) return;
    const { things, contacts, assets } = copiesOf(shot, ids, document.assets);
    for (const [id, mesh] of assets) document.addAsset(id, mesh);
    const label = ids.length > 1 ? `Duplicate ${ids.length} things` : `Duplicate ${thingOf(ids[0]!)!.name}`;
    const done = document.edit(label, (draft) => {
      draft.things.push(...things);
      draft.contacts.push(...contacts);
    });
    if (!done) return;
    selection.select(things[0]!.id);
    for (const { id } of things.slice(1)) selection.select(id, true);
  }

  /** Puts so many copies of the first of two selected things in even steps between them; then the whole row is selected. */
  function fillBetween(first: string, last: string, count: number): void {
    const shot = document.shot;
    if (!shot || !document.writable()) return;
    let copies: Thing[];
    try {
      copies = copiesBetween(shot, first, last, count);
    } catch (error) {
      return notice.problem(errorText(error));
    }
    const done = document.edit(`${count} between ${thingOf(first)!.name} and ${thingOf(last)!.name}`, (draft) => {
      const at = draft.things.findIndex(({ id }) => id === first);
      draft.things.splice(at + 1, 0, ...copies);
      for (const { id } of copies) draft.contacts.push(...copiedContacts(shot, new Map([[first, id]])));
    });
    if (!done) return;
    selection.select(first);
    for (const id of [...copies.map((copy) => copy.id), last]) selection.select(id, true);
  }

  function rename(id: string, name: string): void {
    const thing = thingOf(id);
    if (!thing || name === '' || name === thing.name) return;
    document.edit(`Rename ${thing.name}`, (draft) => {
      const found = draft.things.find((candidate) => candidate.id === id);
      if (found) found.name = name;
    });
  }

  function setRole(id: string, role: Role): void {
    const thing = thingOf(id);
    if (thing) document.edit(`Make ${thing.name} ${role}`, (draft) => changeRole(draft, id, role));
  }

  /** Lets things ride another one, or none; refused with the reason where that would be a loop. */
  function ride(ids: readonly string[], carrier: string | null): void {
    const name = carrier === null ? null : thingOf(carrier)?.name;
    const first = thingOf(ids[0] ?? '');
    if (!first) return;
    const who = ids.length > 1 ? `${ids.length} things ride` : `${first.name} rides`;
    document.edit(`${who} ${name ?? 'nothing'}`, (draft) => {
      for (const id of ids) setParent(draft, id, carrier);
    });
  }

  /** Takes a thing to a pose of the world at this frame; keyed numbers ask what to do. */
  function moveTo(thing: Thing, pose: Pose, what: 'position' | 'rotation' | 'both', label: string, live = false): void {
    const shot = document.shot;
    if (!shot) return;
    const own = composePoses(invertPose(carrierPose(shot, thing, run.frame)), pose);
    const near = ['x', 'y', 'z'].map((axis) => keying.shown(thing.id, `rotation.${axis}`)) as unknown as Vector3;
    const angles = anglesOf(own.rotation, near);
    const values: Record<string, number> = {};
    ['x', 'y', 'z'].forEach((axis, i) => {
      if (what !== 'rotation') values[`position.${axis}`] = tidy(own.center[i]!);
      if (what !== 'position') values[`rotation.${axis}`] = tidy(angles[i]!);
    });
    // What stays is not touched, so that only what was moved asks about its keys.
    for (const [number, value] of Object.entries(values)) {
      if (Math.abs(value - keying.shown(thing.id, number)) < 1e-7) delete values[number];
    }
    if (Object.keys(values).length > 0) keying.change(thing.id, values, { label, live, merge: `${thing.id}.drag` });
  }

  function raise(thing: Thing, by: number, label: string): void {
    if (Math.abs(by) < 1e-6) return notice.remark(`${thing.name} is there already.`);
    const pose = poseAt(document.shot!, thing, run.frame);
    moveTo(thing, { ...pose, center: [pose.center[0], pose.center[1] + by, pose.center[2]] }, 'position', label);
    document.endMerge();
  }

  function snapToGround(thing: Thing): void {
    raise(thing, toGround(document.shot!, thing, document.assets, run.frame), `${thing.name} to the ground`);
  }

  function lift(thing: Thing): void {
    raise(thing, liftClear(document.shot!, thing, document.assets, run.frame), `Lift ${thing.name} clear`);
  }

  function align(thing: Thing, target: Thing, how: Alignment): void {
    const shot = document.shot!;
    const [own, other] = [poseAt(shot, thing, run.frame), poseAt(shot, target, run.frame)];
    const label = `Align ${thing.name} to ${target.name}`;
    if (how === 'same turn') moveTo(thing, { ...own, rotation: other.rotation }, 'rotation', label);
    else if (how === 'same place') moveTo(thing, { ...own, center: other.center }, 'position', label);
    else {
      const boxes = [thing, target].map((of) => worldBounds(shot, of, document.assets, run.frame));
      const middle = (box: (typeof boxes)[0], pose: Pose): Vector3 =>
        box ? ([0, 1, 2].map((axis) => (box.low[axis]! + box.high[axis]!) / 2) as unknown as Vector3) : pose.center;
      const [from, to] = [middle(boxes[0], own), middle(boxes[1], other)];
      const up =
        how === 'middle to middle'
          ? to[1] - from[1]
          : (boxes[1]?.high[1] ?? to[1]) - (boxes[0]?.low[1] ?? from[1]) + 0.005;
      moveTo(
        thing,
        { ...own, center: [own.center[0] + to[0] - from[0], own.center[1] + up, own.center[2] + to[2] - from[2]] },
        'position',
        label,
      );
    }
    document.endMerge();
  }

  /** Makes a thing so many times as large along its own x, y and z: its geometry, for there is no hidden scale. */
  function resize(thing: Thing, by: Vector3, label = `Size ${thing.name}`): void {
    if (!isShaped(thing) || by.some((factor) => !(factor > 0) || !Number.isFinite(factor))) return;
    if (!document.writable()) return;
    try {
      const asset = newId();
      const { shape, mesh } = resizeShape(thing.shape, by, document.assets, asset);
      if (mesh) document.addAsset(asset, mesh);
      document.edit(label, (draft) => {
        const found = draft.things.find(({ id }) => id === thing.id);
        if (found && 'shape' in found) giveSize(found, shape);
      });
    } catch (error) {
      notice.problem(errorText(error));
    }
  }

  /** An offset copy of a thing's surface, inside or outside, that rides the thing. */
  async function offsetCopy(thing: Thing, distance: number): Promise<void> {
    const shot = document.shot;
    if (!shot || !isShaped(thing) || !document.writable()) return;
    const visit = document.visitNow();
    const copied = await made(meshHost.call((api) => api.offset(shapeMesh(thing.shape, document.assets), distance)));
    if (document.visitNow() !== visit) return;
    const asset = document.addMesh(copied);
    const rides = thing.role !== 'cloth';
    const copy: Thing = {
      ...(structuredClone(thing) as Shaped),
      id: newId(),
      name: freeName(shot, `${thing.name}, ${distance > 0 ? 'outer' : 'inner'}`),
      shape: { kind: 'mesh', asset },
      keys: [],
      ...(rides && { parent: thing.id, position: [0, 0, 0], rotation: [0, 0, 0] }),
      ...('motion' in thing && { motion: null }),
      ...('pinSets' in thing && { pinSets: [], ties: [], leashes: [], start: null }),
    } as Thing;
    if (
      document.edit(
        `${distance > 0 ? 'Outer' : 'Inner'} copy of ${thing.name}`,
        (draft) => void draft.things.push(copy),
      )
    ) {
      selection.select(copy.id);
    }
  }

  /** Makes the selected things one mesh: the one that was selected last, in its place and role. */
  async function makeOneMesh(): Promise<void> {
    const shot = document.shot;
    const things = selection.allSelected().map((id) => thingOf(id)!);
    const kept = things.at(-1);
    const shaped = things.filter(isShaped);
    if (!shot || !kept || !isShaped(kept) || shaped.length < 2 || !document.writable()) return;
    const home = invertPose(poseAt(shot, kept, run.frame));
    const parts = shaped.map((thing) => ({
      mesh: shapeMesh(thing.shape, document.assets),
      pose: composePoses(home, poseAt(shot, thing, run.frame)),
    }));
    const visit = document.visitNow();
    const together = await made(meshHost.call((api) => api.makeOneMesh(parts)));
    if (document.visitNow() !== visit) return;
    const asset = document.addMesh(together);
    const done = document.edit(`Make one mesh of ${shaped.length} things`, (draft) => {
      for (const { id } of shaped) if (id !== kept.id) removeThing(draft, id);
      const found = draft.things.find(({ id }) => id === kept.id);
      if (!found || !('shape' in found)) return;
      found.shape = { kind: 'mesh', asset };
      if ('motion' in found) found.motion = null;
    });
    if (done) selection.select(kept.id);
  }

  return {
    add,
    addStart,
    remove,
    duplicate,
    fillBetween,
    rename,
    setRole,
    ride,
    moveTo,
    snapToGround,
    lift,
    align,
    resize,
    offsetCopy,
    makeOneMesh,
  };
}

export type ThingActs = ReturnType<typeof useThingActs>;

function tidy(value: number): number {
  return Math.round(value * 1e6) / 1e6;
}
