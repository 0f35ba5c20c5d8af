import type { DemoFiles } from '../storage/demo';
import { filesHost } from './hosts';

const FILES = import.meta.glob<string>('../../../../demo/shots/*.lumbra', { query: '?url', import: 'default' });

const urls = new Map(Object.entries(FILES).map(([path, url]) => [path.replace(/^.*\/|\.lumbra$/g, ''), url]));

/** The shots of the demo as files that ship with Lumbra. Read off the page's thread: making them anew would mesh every pattern on it. */
export const DEMO_FILES: DemoFiles = {
  codes: [...urls.keys()].sort(),
  async read(code) {
    const response = await fetch(await urls.get(code)!());
    if (!response.ok) throw new Error(`${code} could not be read. Is Lumbra still being served?`);
    const file = new File([await response.blob()], `${code}.lumbra`);
    return (await filesHost.call((api) => api.readShots(file))).shots[0]!;
  },
};
