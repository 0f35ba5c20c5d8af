import { renameShot } from '../storage/shots';
import { takeShot } from '../storage/shotLock';
import { askTabs, TAB } from './tabs';

/**
 * Names a shot from home. Where a tab has it open, that tab does it, as an edit of its own, so that neither writes over the other.
 * @throws Error when the tab that has it does not answer
 */
export async function renameAnywhere(id: string, { name, code }: { name: string; code: string }): Promise<void> {
  const lock = await takeShot(id);
  if (lock) {
    try {
      await renameShot(id, { name, code });
    } finally {
      lock.release();
    }
    return;
  }
  if (await askTabs({ kind: 'name', shot: id, name, code, from: TAB }, ['named'])) return;
  throw new Error('The shot is open in another tab that does not answer. Name it there, or close that tab first.');
}

/** Does something to a shot that no tab may have open meanwhile. @throws Error when one has */
export async function withShotClosed(id: string, doIt: () => Promise<void>): Promise<void> {
  const lock = await takeShot(id);
  if (!lock) throw new Error('The shot is open in another tab. Close it there first.');
  try {
    await doIt();
  } finally {
    lock.release();
  }
}
