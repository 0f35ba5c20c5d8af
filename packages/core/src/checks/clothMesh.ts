import { splitCrowded } from '../mesh/splitCrowded';
import { topology } from '../mesh/topology';
import { weld } from '../mesh/weld';
import { pointCount, type Mesh } from '../mesh/mesh';
import { simulatedCloths } from '../run/compile';
import { newId } from '../shot/create';
import type { Cloth, Shot } from '../shot/schema';
import { shapeMesh, type Assets } from '../shot/shapes';
import type { Check, CheckFinding, Remedy } from './check';

/** Points nearer than this, in m, are meant to be one. */
const SAME = 1e-5;

function meshCloths(shot: Shot, assets: Assets): Cloth[] {
  return simulatedCloths(shot).filter(({ shape }) => shape.kind === 'mesh' && assets.has(shape.asset));
}

function giveMesh(finding: CheckFinding, shot: Shot, assets: Assets, change: (mesh: Mesh) => Mesh): Remedy {
  const cloth = shot.things.find(({ id }) => id === finding.thing);
  if (cloth?.role !== 'cloth') return { apply: () => undefined };
  const asset = newId();
  return {
    apply: (draft) => {
      const target = draft.things.find(({ id }) => id === finding.thing);
      if (target?.role === 'cloth') target.shape = { kind: 'mesh', asset };
    },
    assets: new Map([[asset, change(shapeMesh(cloth.shape, assets))]]),
  };
}

/** Points of a cloth lie in one place without being one: it falls apart there. */
export const duplicatePoints: Check = {
  id: 'duplicate-points',
  look: ({ shot, assets }) =>
    meshCloths(shot, assets).flatMap(({ id, name, shape }) => {
      const mesh = shapeMesh(shape, assets);
      const doubles = pointCount(mesh) - pointCount(weld(mesh, { tolerance: SAME }).mesh);
      if (doubles === 0) return [];
      return [
        {
          check: 'duplicate-points',
          thing: id,
          station: 'stage' as const,
          grave: true,
          text: `${name} is not sewn at ${doubles} points that lie on others: it falls apart there.`,
          remedy: 'Join them',
        },
      ];
    }),
  mend: (finding, shot, assets) => giveMesh(finding, shot, assets, (mesh) => weld(mesh, { tolerance: SAME }).mesh),
};

/** Edges with more than two faces, which cloth cannot have. */
export const crowdedEdges: Check = {
  id: 'crowded-edges',
  look: ({ shot, assets }) =>
    meshCloths(shot, assets).flatMap(({ id, name, shape }) => {
      const { nonManifoldEdges } = topology(shapeMesh(shape, assets));
      if (nonManifoldEdges === 0) return [];
      return [
        {
          check: 'crowded-edges',
          thing: id,
          station: 'stage' as const,
          grave: true,
          text: `${name} has ${nonManifoldEdges} ${nonManifoldEdges === 1 ? 'edge' : 'edges'} with more than two faces: it does not bend there as cloth does.`,
          remedy: 'Part the faces',
        },
      ];
    }),
  mend: (finding, shot, assets) => giveMesh(finding, shot, assets, (mesh) => splitCrowded(mesh).mesh),
};
