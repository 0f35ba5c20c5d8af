// Shots that are baked in this checkout and in an older one, by its solver: it imports nothing but what both have (`older.ts`).
import type { Shot } from '@lumbra/core';
import { NIGHT_FERRY } from '@lumbra/demo';
import { crumplingDrop, fastFender, stackedSheets } from '@lumbra/demo/stress';
import { turningLayers, twoLayers } from '@lumbra/demo/trialShots';

export const COMPARED: Record<string, [shot: () => Shot, frames: number]> = {
  'NF010 Crate cover': [NIGHT_FERRY.shots[0]!, 40],
  'crumpling drop': [() => crumplingDrop(51), 30],
  'three sheets on a bollard': [() => stackedSheets(41), 30],
  'fast fender': [() => fastFender(41), 30],
  'denim over chiffon': [() => twoLayers('silk-chiffon', 'denim'), 30],
  'chiffon over denim': [() => twoLayers('denim', 'silk-chiffon'), 30],
  'three layers on a turning crate': [turningLayers, 36],
};

/** Those of which the names hold what was asked for. */
export function comparedScenes(only: string | undefined): [string, () => Shot, number][] {
  return Object.entries(COMPARED)
    .filter(([name]) => !only || name.includes(only))
    .map(([name, [build, frames]]) => [name, build, frames]);
}
