import { existsSync, readFileSync } from 'node:fs';
import path from 'node:path';
import { fileURLToPath } from 'node:url';
import {
  borderLoops,
  crossings,
  isClosed,
  compile,
  meshId,
  movedPoints,
  pointCount,
  readShot,
  readShotFile,
  shapeMesh,
  substepsOf,
  topology,
  usedAssets,
} from '@lumbra/core';
import { checkShot } from '@lumbra/core/checks';
import { describe, expect, it } from 'vitest';
import { STRESS_SHOTS } from './stressShots';
import { meshesOf, SHOTS } from './meshesOf';
import { COVER_STILL } from './nf010Still';
import { cartHoops, hoodShape } from './nf090CartHood';
import { HOOD_AS_ONE, hoodAsOne } from './nf090HoodAsOne';
import { HOOPS_MESH } from './nf090Hoops';
import { NIGHT_FERRY } from './index';

const folder = path.join(path.dirname(fileURLToPath(import.meta.url)), '..');
const shots = NIGHT_FERRY.shots.map((build) => build());
const none = new Map<string, never>();

describe('the shots of Night Ferry', () => {
  it('have codes and names of their own, in order', () => {
    const codes = shots.map(({ code }) => code);
    expect(codes).toEqual([...codes].sort());
    expect(new Set(codes).size).toBe(codes.length);
    // So a shot is found by the name of its file.
    expect(shots.map(({ id }) => id)).toEqual(codes.map((code) => code!.toLowerCase()));
    expect(new Set(shots.map(({ name }) => name)).size).toBe(shots.length);
  });

  it.each(shots.map((shot) => [shot.code, shot] as const))('%s is a valid document, the same each time', (_, shot) => {
    expect(readShot(structuredClone(shot))).toEqual(shot);
    const again = NIGHT_FERRY.shots.map((build) => build()).find(({ code }) => code === shot.code);
    expect(again).toEqual(shot);
  });

  it.each(shots.map((shot) => [shot.code, shot] as const))('%s passes all checks', async (_, shot) => {
    expect(checkShot(shot, await meshesOf(shot), { bake: null, bytesFree: null }).map(({ text }) => text)).toEqual([]);
  });

  it.each(shots.map((shot) => [shot.code, shot] as const))(
    '%s is in its file for the command line',
    async (_, shot) => {
      const file = path.join(SHOTS, `${shot.code}.lumbra`);
      const read = await readShotFile(new Uint8Array(readFileSync(file)));
      expect(read.shot).toEqual(shot);
      // Meshes have the names that their content gives them.
      expect([...read.assets].map(([id, mesh]) => [id, meshId(mesh)])).toEqual(usedAssets(shot).map((id) => [id, id]));
    },
  );

  it('has a still of the cover that is thick and goes through itself nowhere', async () => {
    const still = (await meshesOf(shots.find(({ code }) => code === 'NF010')!)).get(COVER_STILL)!;
    expect(isClosed(topology(still))).toBe(true);
    let count = 0;
    crossings(still, () => count++);
    expect(count).toBe(0);
  });

  it('has its hood as one mesh that lies on the panels and closes where they are sewn', () => {
    const shape = hoodShape();
    const cut = shapeMesh(shape, none);
    const one = hoodAsOne(shape);
    expect(meshId(one)).toBe(HOOD_AS_ONE);
    expect(one.triangles.length).toBe(cut.triangles.length);
    expect(pointCount(one)).toBeLessThan(pointCount(cut));
    expect(borderLoops(topology(one))).toHaveLength(1);
    expect(borderLoops(topology(cut))).toHaveLength(4);
  });

  it('has its hoops as one mesh whose animation lays them down around their hinge and raises them again', () => {
    const hoops = cartHoops();
    expect(meshId(hoops)).toBe(HOOPS_MESH);
    const [clip] = hoops.motion!.clips;
    /** How far the front hoop leans forward, in whole degrees, by its point that is farthest from the hinge. */
    const lean = (frames: number) => {
      const points = movedPoints(hoops, clip!, frames / 24, false);
      const front = Array.from({ length: points.length / 15 }, (_, i) => [points[i * 3]!, points[i * 3 + 1]!] as const);
      const [x, y] = front.reduce((best, place) => (Math.hypot(...place) > Math.hypot(...best) ? place : best));
      return Math.round((Math.atan2(x, y) * 180) / Math.PI);
    };
    expect([0, 50, 78, 150].map(lean)).toEqual([62, -14, -14, 62]);
  });

  it.each(shots.map(({ code }) => code))('%s has a picture for its card', (code) => {
    expect(existsSync(path.join(folder, '..', 'packages', 'app', 'public', 'demo', `${code}.png`))).toBe(true);
  });
});

describe('stress shots', () => {
  it.each(STRESS_SHOTS.map((build) => build()).map((shot) => [shot.name, shot] as const))(
    '%s can be run',
    (_, shot) => {
      expect(readShot(structuredClone(shot))).toEqual(shot);
      expect(compile(shot, none).cloths.length).toBeGreaterThan(0);
      expect(substepsOf(shot, none)).toBeGreaterThan(0);
    },
  );
});
