/** How `lumbra bake` can write cloth. */
export const FORMATS = ['obj', 'glb'] as const;
export type CacheFormat = (typeof FORMATS)[number];
