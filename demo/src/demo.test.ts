import { existsSync, readFileSync } from 'node:fs';
import path from 'node:path';
import { fileURLToPath } from 'node:url';
import { compile, readShot, readShotFile, substepsOf } from '@lumbra/core';
import { checkShot } from '@lumbra/core/checks';
import { describe, expect, it } from 'vitest';
import { STRESS_SHOTS } from './stressShots';
import { NIGHT_FERRY } from './index';

const folder = path.join(path.dirname(fileURLToPath(import.meta.url)), '..');
const shots = NIGHT_FERRY.shots.map((build) => build());
const none = new Map<string, never>();

describe('the shots of Night Ferry', () => {
  it('have codes and names of their own, in order', () => {
    const codes = shots.map(({ code }) => code);
    expect(codes).toEqual([...codes].sort());
    expect(new Set(codes).size).toBe(codes.length);
    expect(new Set(shots.map(({ name }) => name)).size).toBe(shots.length);
  });

  it.each(shots.map((shot) => [shot.code, shot] as const))('%s is a valid document, the same each time', (_, shot) => {
    expect(readShot(structuredClone(shot))).toEqual(shot);
    const again = NIGHT_FERRY.shots.map((build) => build()).find(({ code }) => code === shot.code);
    expect(again).toEqual(shot);
  });

  it.each(shots.map((shot) => [shot.code, shot] as const))('%s passes all checks', (_, shot) => {
    expect(checkShot(shot, none, { bake: null, bytesFree: null }).map(({ text }) => text)).toEqual([]);
  });

  it.each(shots.map((shot) => [shot.code, shot] as const))(
    '%s is in its file for the command line',
    async (_, shot) => {
      const file = path.join(folder, 'shots', `${shot.code}.lumbra`);
      expect((await readShotFile(new Uint8Array(readFileSync(file)))).shot).toEqual(shot);
    },
  );

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
