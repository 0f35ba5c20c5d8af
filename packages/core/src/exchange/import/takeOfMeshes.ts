import { clipSeconds, movedPoints } from '../../mesh/movedPoints';
import type { HandedTake } from '../formats/format';
import type { NamedMesh } from '../objRead';
import { ReadError } from '../readError';

/**
 * Meshes that were read, as a motion that can be written again: all at the samples of their first clip, `frameRate` a second, from frame 1 on. What has no
 * clip stands still.
 * @throws ReadError where nothing moves
 */
export function takeOfMeshes(parts: readonly NamedMesh[], frameRate: number, stem: string): HandedTake {
  const clips = parts.map(({ mesh }) => mesh.motion?.clips[0]);
  const seconds = Math.max(0, ...clips.map((clip) => (clip ? clipSeconds(clip) : 0)));
  if (!clips.some(Boolean)) throw new ReadError('Nothing in it moves: it is no cache.');
  const taken = new Set<string>();
  const cloths = parts.map(({ name, mesh }) => {
    const base = name.toLowerCase().replace(/[^a-z0-9]+/g, '-') || 'mesh';
    let id = base;
    for (let n = 2; taken.has(id); n++) id = `${base}-${n}`;
    taken.add(id);
    return { id, name, mesh };
  });
  async function* frames() {
    const count = Math.round(seconds * frameRate) + 1;
    for (let i = 0; i < count; i++) {
      const positions = parts.map(({ mesh }, k) => {
        const clip = clips[k];
        return clip ? movedPoints(mesh, clip, i / frameRate, false) : mesh.positions;
      });
      yield await Promise.resolve({ frame: 1 + i, positions });
    }
  }
  return { cloths, frames: frames(), frameRate, stem };
}
