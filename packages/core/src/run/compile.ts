import { rotation } from '../math/vector';
import { bounds, size } from '../mesh/bounds';
import { meshProblem, pointCount, type Mesh } from '../mesh/mesh';
import { place } from '../mesh/place';
import { placementAt } from '../shot/keys';
import { shapeMesh, type Assets } from '../shot/shapes';
import type { Cloth, Collider, Shot } from '../shot/schema';
import type { ClothModel, ColliderModel, Model, Pose } from '../solver/model';
import { substepsFor, type ClothScale } from '../solver/substeps';
import { gustFactor, windVelocity } from './wind';

/** kg/m^3 at 15 °C */
export const AIR_DENSITY = 1.2;

/** A shot cannot be run; the message names the thing and says what to do. */
export class CompileError extends Error {}

export function activeCloths(shot: Shot): Cloth[] {
  return shot.things.filter((thing): thing is Cloth => thing.role === 'cloth' && thing.enabled);
}

function activeColliders(shot: Shot): Collider[] {
  return shot.things.filter((thing): thing is Collider => thing.role === 'collider' && thing.enabled);
}

/** The mesh of a cloth or collider in its place in the world, as it is cut. */
export function placedMesh(thing: Cloth | Collider, assets: Assets): Mesh {
  return place(shapeMesh(thing.shape, assets), thing);
}

/** Where a cloth's points are when the run starts, x y z in metres in the world. */
export function startPositions(cloth: Cloth, assets: Assets): Float32Array {
  const cut = placedMesh(cloth, assets);
  if (cloth.start === null) return cut.positions;
  const pose = assets.get(cloth.start);
  if (!pose || pointCount(pose) !== pointCount(cut)) {
    throw new CompileError(
      `“${cloth.name}” starts from a settled pose that does not fit its mesh any more. Settle it again, or start it flat.`,
    );
  }
  return pose.positions;
}

/**
 * Turns the document into what the solver takes. Pure: the same shot gives the same model.
 * @throws CompileError, MissingAssetError
 */
export function compile(shot: Shot, assets: Assets): Model {
  const cloths = activeCloths(shot).map((cloth) => clothModel(cloth, shot, assets));
  if (cloths.length === 0) {
    throw new CompileError('There is no cloth in the run. Add a sheet, or switch a cloth on in the cast.');
  }
  const wind = windVelocity(shot.wind);
  const preRoll = shot.preRoll / shot.frameRate;
  return {
    cloths,
    layers: shot.run.quality === 'draft' ? 'draft' : 'exact',
    colliders: activeColliders(shot).map((collider) => colliderModel(collider, assets, shot)),
    air: {
      gravity: [0, shot.gravity.enabled ? -shot.gravity.strength : 0, 0],
      density: AIR_DENSITY,
      windAt: (time) => {
        const gust = gustFactor(shot.wind, time - preRoll);
        return [wind[0] * gust, wind[1] * gust, wind[2] * gust];
      },
    },
  };
}

function clothModel(cloth: Cloth, shot: Shot, assets: Assets): ClothModel {
  const rest = shapeMesh(cloth.shape, assets);
  requireSound(rest, cloth.name);
  const count = pointCount(rest);
  const held = [...new Set(cloth.pinSets.flatMap((set) => set.points))].sort((a, b) => a - b);
  if (held.some((point) => point >= count)) {
    throw new CompileError(`“${cloth.name}” is pinned at points that its mesh no longer has. Pin it again.`);
  }
  return {
    id: cloth.id,
    rest,
    positions: startPositions(cloth, assets),
    fabric: cloth.fabric,
    held,
    load: loadAcceleration(shot, cloth),
    layerDistance: cloth.selfContact.thickness,
    touchesItself: cloth.selfContact.enabled,
  };
}

function colliderModel(collider: Collider, assets: Assets, shot: Shot): ColliderModel {
  const { id, clearance, friction, shape, side } = collider;
  // The run's time begins with the pre-roll.
  const poseAt = (time: number): Pose => {
    const at = placementAt(collider, shot.firstFrame - shot.preRoll + time * shot.frameRate);
    return { center: at.position, rotation: rotation(at.rotation) };
  };
  const placed = {
    id,
    clearance,
    friction,
    ...poseAt(0),
    ...(side !== 'auto' && { side }),
    ...(collider.keys.length > 0 && { poseAt }),
  };
  switch (shape.kind) {
    case 'ground':
      return { ...placed, kind: 'plane' };
    case 'ball':
      return { ...placed, kind: 'ball', radius: shape.radius };
    case 'box':
      return { ...placed, kind: 'box', size: [shape.width, shape.height, shape.depth] };
    case 'cylinder':
      return { ...placed, kind: 'cylinder', radius: shape.radius, height: shape.height };
    default: {
      const mesh = shapeMesh(shape, assets);
      requireSound(mesh, collider.name);
      return { ...placed, kind: 'mesh', mesh };
    }
  }
}

function requireSound(mesh: Mesh, name: string): void {
  const problem = meshProblem(mesh);
  if (problem) throw new CompileError(`“${name}” cannot be run: ${problem}.`);
}

/**
 * Long-range attachments carry most of what hangs from pins: a sheet of 101 by 101 points, held by its corners, was
 * stretched by 1.3 % at most with 40 substeps, where the rule without them says 5.3 %.
 */
const PINNED_SHARE = 0.25;

/** What the substep rule needs to know of a cloth. */
export function clothScale(cloth: Cloth, assets: Assets): ClothScale {
  const mesh = shapeMesh(cloth.shape, assets);
  const { positions, triangles } = mesh;
  let area = 0;
  for (let t = 0; t < triangles.length; t += 3) {
    const [a, b, c] = [triangles[t]! * 3, triangles[t + 1]! * 3, triangles[t + 2]! * 3];
    const u = [0, 1, 2].map((axis) => positions[b + axis]! - positions[a + axis]!);
    const v = [0, 1, 2].map((axis) => positions[c + axis]! - positions[a + axis]!);
    area +=
      0.5 *
      Math.sqrt(
        (u[1]! * v[2]! - u[2]! * v[1]!) ** 2 +
          (u[2]! * v[0]! - u[0]! * v[2]!) ** 2 +
          (u[0]! * v[1]! - u[1]! * v[0]!) ** 2,
      );
  }
  const box = bounds(positions);
  // On a square grid the spacing is the side of a cell, whose two faces have half its area each.
  const spacing = Math.sqrt((2 * area) / Math.max(1, triangles.length / 3));
  const pinned = cloth.pinSets.some(({ points }) => points.length > 0);
  const freeLength = (box ? Math.max(...size(box)) : 0) * (pinned ? PINNED_SHARE : 1);
  return { spacing, freeLength, fabric: cloth.fabric };
}

/** Substeps a frame: those set by hand, else those that the rule gives. */
export function substepsOf(shot: Shot, assets: Assets): number {
  return shot.run.substeps ?? ruleSubsteps(shot, assets);
}

/** Substeps a frame that spacing, fabric, quality and wind ask for. */
export function ruleSubsteps(shot: Shot, assets: Assets): number {
  const cloths = activeCloths(shot);
  const scales = cloths.map((cloth) => clothScale(cloth, assets));
  return substepsFor(
    scales,
    Math.max(1, ...cloths.map((cloth) => loadAcceleration(shot, cloth))),
    1 / shot.frameRate,
    shot.run.quality,
  );
}

/** The largest acceleration in m/s^2 that gravity and the strongest gust together give a cloth. */
export function loadAcceleration(shot: Shot, { fabric }: Cloth): number {
  const gravity = shot.gravity.enabled ? shot.gravity.strength : 0;
  if (!shot.wind.enabled) return gravity;
  const speed = shot.wind.speed * (1 + shot.wind.gustDepth);
  return gravity + (0.5 * AIR_DENSITY * fabric.airAcross * speed * speed) / fabric.weight;
}
