// Shots that are baked in this checkout and in an older one, by its solver: it imports nothing but what both have (`older.ts`).
import { createCloth, createCollider, createShot, type Shot } from '@lumbra/core';
import { NIGHT_FERRY } from '@lumbra/demo';
import { crumplingDrop, fastFender, stackedSheets } from '@lumbra/demo/stress';
import { turningLayers, twoLayers } from '@lumbra/demo/trialShots';

/** A metre of cloth, 201 by 201 points, that falls on a ball. */
function fineOnBall(): Shot {
  const shape = { kind: 'sheet', width: 1, height: 1, spacing: 0.005 } as const;
  return createShot({
    ...{ id: 'fine-on-ball', name: 'Fine sheet on a ball', lastFrame: 48 },
    things: [
      createCloth({ id: 'sheet', name: 'Sheet', card: 'cotton-poplin', shape, position: [0, 0.62, 0] }),
      createCollider({ id: 'ball', name: 'Ball', position: [0, 0.3, 0], shape: { kind: 'ball', radius: 0.3 } }),
    ],
  });
}

const COMPARED: Record<string, [shot: () => Shot, frames: number]> = {
  'NF010 Crate cover': [NIGHT_FERRY.shots[0]!, 40],
  'crumpling drop': [() => crumplingDrop(51), 30],
  'three sheets on a bollard': [() => stackedSheets(41), 30],
  'fast fender': [() => fastFender(41), 30],
  'denim over chiffon': [() => twoLayers('silk-chiffon', 'denim'), 30],
  'chiffon over denim': [() => twoLayers('denim', 'silk-chiffon'), 30],
  'three layers on a turning crate': [turningLayers, 36],
  '201x201 on a ball': [fineOnBall, 20],
};

/** Those of which the names hold what was asked for. */
export function comparedScenes(only: string | undefined): [string, () => Shot, number][] {
  return Object.entries(COMPARED)
    .filter(([name]) => !only || name.includes(only))
    .map(([name, [build, frames]]) => [name, build, frames]);
}
