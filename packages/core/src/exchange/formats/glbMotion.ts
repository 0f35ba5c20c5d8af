import type { CacheFormat } from './format';
import { writeWhole } from './fileSink';

/** One file with a morph target a frame. */
export const glbMotion: CacheFormat = {
  id: 'glb',
  label: 'GLB with motion',
  note: 'one file, a morph target a frame',
  type: 'model/gltf-binary',
  oneFile: true,
  ownSpace: true,
  // What draws with WebGL 2 has the targets of a mesh in the layers of one texture, of which it may count on 256.
  mostFrames: 256,
  writeFrame: async ({ cloths, frameRate }, { positions }) => {
    const { writeGlb } = await import('../glbWrite');
    const objects = cloths.map((cloth, i) => ({ ...cloth, mesh: { ...cloth.mesh, positions: positions[i]! } }));
    return writeGlb(objects, { frameRate });
  },
  write: async ({ cloths, frames, frameRate, stem }, sink) => {
    const kept: Float32Array[][] = cloths.map(() => []);
    for await (const { positions } of frames) positions.forEach((one, i) => kept[i]!.push(one));
    // Only whoever writes needs the writer: the page that lists the formats does not.
    const { writeGlb } = await import('../glbWrite');
    const objects = cloths.map((cloth, i) => ({ ...cloth, frames: kept[i]! }));
    await writeWhole(sink, `${stem}.glb`, await writeGlb(objects, { frameRate }));
  },
};
