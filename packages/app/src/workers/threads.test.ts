import { afterEach, expect, it, vi } from 'vitest';
import { pageThreads } from './threads';

afterEach(() => {
  vi.unstubAllGlobals();
});

it('a page computes on as many threads as there are processors, up to four', () => {
  vi.stubGlobal('navigator', { hardwareConcurrency: 2 });
  expect(pageThreads()).toBe(2);
  vi.stubGlobal('navigator', { hardwareConcurrency: 16 });
  expect(pageThreads()).toBe(4);
  vi.stubGlobal('navigator', {});
  expect(pageThreads()).toBe(1);
});

it('computes on one where the page may not share memory', () => {
  vi.stubGlobal('navigator', { hardwareConcurrency: 16 });
  vi.stubGlobal('SharedArrayBuffer', undefined);
  expect(pageThreads()).toBe(1);
});
