import type { Mesh } from '@lumbra/core';
import { filesHost } from './hosts';

/** Where the demo's shots are as files. */
const FILES = import.meta.glob<string>('../../../../demo/shots/*.lumbra', { query: '?url', import: 'default' });

/** The meshes of a demo shot, by its code, read from the file that ships with Lumbra. */
export async function demoMeshes(code: string): Promise<ReadonlyMap<string, Mesh>> {
  const [, url] = Object.entries(FILES).find(([path]) => path.endsWith(`/${code}.lumbra`))!;
  const response = await fetch(await url());
  if (!response.ok) throw new Error(`The meshes of ${code} could not be read. Is Lumbra still being served?`);
  const file = new File([await response.blob()], `${code}.lumbra`);
  const { shots } = await filesHost.call((api) => api.readShots(file));
  return shots[0]!.assets;
}
