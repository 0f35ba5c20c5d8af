import type { Patch } from 'immer';
import type { Mesh } from '../mesh/mesh';
import { compile } from '../run/compile';
import { edit } from '../shot/edit';
import { followShapes } from '../shot/followShapes';
import type { Shot } from '../shot/schema';
import type { Assets } from '../shot/shapes';
import { Solver } from '../solver/solver';
import { airMisses } from './airMisses';
import { bordersCrossed } from './bordersCrossed';
import { bordersOpen } from './bordersOpen';
import { noRoom, staleBake } from './bakeState';
import type { Check, CheckContext, CheckFinding, StartState } from './check';
import { crowdedEdges, duplicatePoints } from './clothMesh';
import { cuesNever } from './cuesNever';
import { curlTooTight } from './curlTooTight';
import { fastCollider } from './fastCollider';
import { givenMotion } from './givenMotion';
import { gravityOff } from './gravityOff';
import { keysOutside } from './keysOutside';
import { layersTooWide } from './layersTooWide';
import { lostHolds } from './lostHolds';
import { lostParts } from './lostParts';
import { noCloth } from './noCloth';
import { nothingBelow } from './nothingBelow';
import { oddSize } from './oddSize';
import { pleatsTooCoarse } from './pleatsTooCoarse';
import { releases } from './releases';
import { seamsGathered } from './seamsGathered';
import { seamsHeldApart } from './seamsHeldApart';
import { seamsThrough } from './seamsThrough';
import { seamsTurned } from './seamsTurned';
import { startsCrossed } from './startsCrossed';
import { startsInside } from './startsInside';
import { tooCoarse } from './tooCoarse';
import { tooFine } from './tooFine';
import { tooLarge } from './tooLarge';
import { windAndWeight } from './windAndWeight';

export type { Check, CheckContext, CheckFinding, CheckStation } from './check';

/** All checks, gravest first. */
export const CHECKS: readonly Check[] = [
  noCloth,
  lostParts,
  lostHolds,
  givenMotion,
  nothingBelow,
  startsInside,
  startsCrossed,
  duplicatePoints,
  crowdedEdges,
  bordersCrossed,
  seamsTurned,
  seamsThrough,
  seamsHeldApart,
  bordersOpen,
  oddSize,
  tooCoarse,
  fastCollider,
  tooFine,
  tooLarge,
  windAndWeight,
  seamsGathered,
  pleatsTooCoarse,
  airMisses,
  releases,
  cuesNever,
  layersTooWide,
  curlTooTight,
  gravityOff,
  keysOutside,
  noRoom,
  staleBake,
];

/** Larger cloth is not measured at its start: building a solver for it takes too long for something that runs at every change. */
const MOST_MEASURED_POINTS = 60_000;

/** Looks a shot over before it is run. A check that cannot look, because something else is wrong, finds nothing. */
export function checkShot(
  shot: Shot,
  assets: Assets,
  besides: Pick<CheckContext, 'bake' | 'bytesFree'>,
): CheckFinding[] {
  let measured: StartState | null | undefined;
  const start = () => (measured === undefined ? (measured = measureStart(shot, assets)) : measured);
  return CHECKS.flatMap((check) => {
    try {
      return check.look({ shot, assets, start, ...besides });
    } catch {
      return [];
    }
  });
}

/** Mends what a check found: an edit as patches, and the new meshes that it names. */
export async function mendFinding(
  shot: Shot,
  assets: Assets,
  finding: CheckFinding,
): Promise<{ label: string; forward: Patch[]; assets: Map<string, Mesh> }> {
  const check = CHECKS.find(({ id }) => id === finding.check);
  const label = finding.remedy ?? 'Mend';
  if (!check?.mend) return { label, forward: [], assets: new Map() };
  const remedy = await check.mend(finding, shot, assets);
  const all = new Map([...assets, ...(remedy.assets ?? [])]);
  const made = edit(shot, label, (draft) => {
    remedy.apply(draft);
    followShapes(draft, shot, all);
  });
  return { label, forward: made.edit.forward, assets: remedy.assets ?? new Map<string, Mesh>() };
}

function measureStart(shot: Shot, assets: Assets): StartState | null {
  try {
    const model = compile(shot, assets);
    const points = model.cloths.reduce((sum, { positions }) => sum + positions.length / 3, 0);
    if (points > MOST_MEASURED_POINTS) return null;
    const solver = new Solver(model);
    const contact = solver.contact();
    const depths = contact.depths.map(({ depth }, i) => ({ collider: model.colliders[i]!.id, depth }));
    const pierced = contact.pierced.map(({ count }, i) => ({ collider: model.colliders[i]!.id, count }));
    const idOf = (collider: number) => model.colliders[collider]!.id;
    const squeezed = contact.squeezed && {
      between: [idOf(contact.squeezed.between[0]), idOf(contact.squeezed.between[1])] as [string, string],
      missing: contact.squeezed.missing,
    };
    return { depths, pierced, squeezed, crossings: solver.crossings().count };
  } catch {
    return null;
  }
}
