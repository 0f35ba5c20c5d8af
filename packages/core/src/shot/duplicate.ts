import { composePoses, invertPose } from '../math/pose';
import type { Mesh } from '../mesh/mesh';
import { placeBy } from '../mesh/place';
import { copiedContacts } from './contacts';
import type { Contact } from './contactSchemas';
import { newId } from './create';
import { freeName } from './names';
import { poseAt } from './placement';
import { shapeSize } from './resize';
import type { Shot, Thing } from './schema';
import type { Assets } from './shapes';

/** Copies are put beside what they are copies of, at least so far, in m, or by a little more than its width. */
const LEAST_ASIDE = 0.1;
const WIDTHS_ASIDE = 1.1;

/** Copies that are not yet in the shot, and the meshes that they name besides those of the shot. */
export interface Copies {
  things: Thing[];
  /** How they touch, as what they are copies of. */
  contacts: Contact[];
  assets: Map<string, Mesh>;
}

/**
 * Copies of things, beside them. What rides, is tied to or follows another copied thing does so with that one’s copy. A settled
 * start goes along to where the copy is.
 */
export function copiesOf(shot: Shot, ids: readonly string[], assets: Assets): Copies {
  const originals = ids.map((id) => shot.things.find((thing) => thing.id === id)!);
  const copyOf = new Map(ids.map((id) => [id, newId()]));
  const named = { things: [...shot.things] };
  const things = originals.map((original) => {
    const copy = { ...structuredClone(original), id: copyOf.get(original.id)!, name: freeName(named, original.name) };
    named.things.push(copy);
    follow(copy, copyOf);
    // What rides a copy is carried aside by it.
    if (copy.parent === original.parent) moveAside(copy, assets);
    return copy;
  });
  const after = { ...shot, things: [...shot.things, ...things] };
  const poses = new Map<string, Mesh>();
  things.forEach((copy, i) => {
    const start = copy.role === 'cloth' && copy.start !== null ? assets.get(copy.start) : undefined;
    // A copy that went where its original goes would lie in it all the time.
    if (copy.role === 'cloth' && copy.given?.asset) copy.given = null;
    if (copy.role !== 'cloth' || !start) return;
    const [from, to] = [originals[i]!, copy].map((thing) => poseAt(after, thing, shot.firstFrame));
    copy.start = newId();
    poses.set(copy.start, placeBy(start, composePoses(to!, invertPose(from!))));
  });
  return { things, contacts: copiedContacts(shot, copyOf), assets: poses };
}

/** Lets a copy refer to the copies of what was copied with it. */
function follow(copy: Thing, copyOf: ReadonlyMap<string, string>): void {
  const now = (id: string) => copyOf.get(id) ?? id;
  if (copy.parent !== null) copy.parent = now(copy.parent);
  if (copy.role !== 'cloth') return;
  for (const set of copy.pinSets) if (set.rides !== null) set.rides = now(set.rides);
  for (const tie of copy.ties) tie.to = now(tie.to);
  for (const cue of copy.cues) {
    if ('thing' in cue.when && cue.when.thing !== null) cue.when.thing = now(cue.when.thing);
    if (cue.of !== null) cue.of = now(cue.of);
  }
}

function moveAside(copy: Thing, assets: Assets): void {
  const width = 'shape' in copy ? (shapeSize(copy.shape, assets)?.[0] ?? 0) : 0;
  const aside = Math.max(LEAST_ASIDE, width * WIDTHS_ASIDE);
  copy.position[0] += aside;
  for (const { number, knots } of copy.keys) {
    if (number === 'position.x') for (const knot of knots) knot.value += aside;
  }
}
