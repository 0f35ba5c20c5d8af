import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { Locks } from '../testing/locks';
import type * as shotLock from './shotLock';

// The lock itself, not what stands in for it in other tests.
const { takeShot, waitForShot } = await vi.importActual<typeof shotLock>('./shotLock');

const later = () => new Promise((resolve) => setTimeout(resolve, 5));

describe('a shot in several tabs', () => {
  beforeEach(() => vi.stubGlobal('navigator', { locks: new Locks() }));
  afterEach(() => vi.unstubAllGlobals());

  it('is edited in one of them, until that one lets go', async () => {
    const first = (await takeShot('s'))!;
    expect(await takeShot('s')).toBeNull();
    expect(await takeShot('other')).not.toBeNull();
    first.release();
    await later();
    expect(await takeShot('s')).not.toBeNull();
  });

  it('goes to a tab that waits for it as soon as it is free', async () => {
    const first = (await takeShot('s'))!;
    const got = vi.fn();
    void waitForShot('s', new AbortController().signal).then(got);
    await later();
    expect(got).not.toHaveBeenCalled();
    first.release();
    await later();
    expect(got).toHaveBeenCalledExactlyOnceWith(expect.objectContaining({ lost: expect.anything() as unknown }));
    expect(await takeShot('s')).toBeNull();
  });

  it('is not waited for any more when that was given up', async () => {
    const first = (await takeShot('s'))!;
    const stop = new AbortController();
    const waiting = waitForShot('s', stop.signal);
    await later();
    stop.abort();
    expect(await waiting).toBeNull();
    first.release();
    await later();
    expect(await takeShot('s')).not.toBeNull();
  });

  it('is taken away from the tab that has it, which is told so', async () => {
    const first = (await takeShot('s'))!;
    const lost = vi.fn();
    void first.lost.then(lost);
    const second = (await takeShot('s', { steal: true }))!;
    await later();
    expect(lost).toHaveBeenCalledOnce();
    // Letting go of what was lost takes nothing from the one that has it now.
    first.release();
    await later();
    expect(await takeShot('s')).toBeNull();
    second.release();
    await later();
    expect(await takeShot('s')).not.toBeNull();
  });

  it('can be edited where the browser has no locks', async () => {
    vi.stubGlobal('navigator', {});
    const lock = await takeShot('s');
    expect(lock).not.toBeNull();
    lock!.release();
  });
});
