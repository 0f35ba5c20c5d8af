import {
  BakeRun,
  bakeFrames,
  bounds,
  FinishList,
  finishEntrySchema,
  shapeMesh,
  type Cloth,
  type Mesh,
  type Shot,
} from '@lumbra/core';

/** The name that its content gives the cover as it lies at the end, thickened; a test compares it. */
export const COVER_STILL = '0592cc5410172020a98fced5';
/** Where the middle of its foot is in the stage, in m. */
export const COVER_STILL_AT: [number, number, number] = [0.074306, 0.0015, -0.088608];

/** Bakes the shot and keeps the cover's last frame, thickened and about the middle of its foot, as Finish does. Takes minutes. */
export async function coverStill(shot: Shot): Promise<{ mesh: Mesh; at: [number, number, number] }> {
  const cover = shot.things.find(({ id }) => id === 'cover') as Cloth;
  let last = new Float32Array();
  for await (const { positions } of bakeFrames(new BakeRun(shot, new Map()), shot.lastFrame))
    last = positions[0]!.slice();
  const thick = [finishEntrySchema.parse({ id: 'thick', step: { kind: 'thicken', thickness: 0.0015 } })];
  const list = new FinishList(shapeMesh(cover.shape, new Map()), thick);
  const placed = list.place(last, thick, () => null);
  const { low, high } = bounds(placed)!;
  const at: [number, number, number] = [(low[0] + high[0]) / 2, low[1], (low[2] + high[2]) / 2];
  const { triangles, material } = list.mesh;
  return {
    mesh: { positions: placed.map((value, i) => value - at[i % 3]!), triangles, ...(material && { material }) },
    at,
  };
}
