import type { Shot } from './schema';

/** Ids of the assets that the things of a shot name. */
export function usedAssets(shot: Shot): string[] {
  const ids = shot.things.flatMap((thing) => [
    ...('shape' in thing && thing.shape.kind === 'mesh' ? [thing.shape.asset] : []),
    ...(thing.role === 'cloth' && thing.start !== null ? [thing.start] : []),
    ...(thing.role === 'cloth' && thing.given?.asset ? [thing.given.asset] : []),
  ]);
  return [...new Set(ids)];
}
