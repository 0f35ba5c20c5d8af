// One tab edits a shot; others may look. The browser's own locks end with their tab, however it is closed.

export interface ShotLock {
  release: () => void;
  /** Resolves when another tab has taken the shot over. */
  lost: Promise<void>;
}

const nameOf = (shot: string) => `lumbra.shot.${shot}`;

/** Takes a shot for this tab; null when another tab has it. Browsers without locks have no second tab to fear from us. */
export function takeShot(shot: string, { steal = false } = {}): Promise<ShotLock | null> {
  if (!('locks' in navigator)) return Promise.resolve({ release: () => undefined, lost: new Promise(() => undefined) });
  return new Promise((resolve) => {
    void hold(shot, steal ? { steal } : { ifAvailable: true }, resolve);
  });
}

/** Waits until no other tab has the shot, then takes it. */
export function waitForShot(shot: string, signal: AbortSignal): Promise<ShotLock | null> {
  return new Promise((resolve) => {
    void hold(shot, { signal }, resolve);
  });
}

async function hold(shot: string, options: LockOptions, taken: (lock: ShotLock | null) => void): Promise<void> {
  let stolen = () => undefined as void;
  const lost = new Promise<void>((resolve) => (stolen = resolve));
  try {
    await navigator.locks.request(nameOf(shot), options, (lock) => {
      if (!lock) return taken(null);
      return new Promise<void>((release) => taken({ release, lost }));
    });
  } catch {
    // Given up waiting, or another tab has taken it.
    taken(null);
    stolen();
  }
}

/** Takes a take for baking, so that no two tabs write its frames; resolves to what lets go of it, or null when another tab has it. */
export async function takeTake(take: string): Promise<(() => void) | null> {
  const lock = await takeShot(`take.${take}`);
  return lock && (() => lock.release());
}
