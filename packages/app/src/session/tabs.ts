import { newId } from '@lumbra/core';

// What tabs say to each other of shots. Only one has a shot’s lock; the others ask it.

export type TabMessage =
  /** Somebody wants to edit the shot here; whoever has it saves, answers and lets go. */
  | { kind: 'wanted'; shot: string; from: string }
  | { kind: 'saved for'; shot: string; to: string }
  | { kind: 'cannot save for'; shot: string; to: string }
  /** The shot was written. */
  | { kind: 'written'; shot: string }
  /** A name that was given at home to a shot that is open elsewhere. */
  | { kind: 'name'; shot: string; name: string; code: string; from: string }
  | { kind: 'named'; shot: string; to: string };

/** This tab, among all that are open. */
export const TAB = newId();

/** A tab that is asked for something and does not answer within so many ms is taken to be asleep or gone. */
export const PATIENCE = 4000;

const channel = 'BroadcastChannel' in globalThis ? new BroadcastChannel('lumbra.shots') : null;
const listeners = new Set<(message: TabMessage) => void>();
channel?.addEventListener('message', ({ data }: MessageEvent<TabMessage>) => {
  for (const listener of [...listeners]) listener(data);
});
// In node, an open channel would keep a test from ending.
(channel as { unref?: () => void } | null)?.unref?.();

export function tellTabs(message: TabMessage): void {
  channel?.postMessage(message);
}

/** Listens to the other tabs; returns what ends it. */
export function hearTabs(listener: (message: TabMessage) => void): () => void {
  listeners.add(listener);
  return () => listeners.delete(listener);
}

/** Says something and waits for an answer to this tab; null when nobody answers in time. */
export function askTabs(message: TabMessage, answers: readonly TabMessage['kind'][]): Promise<TabMessage | null> {
  return new Promise((resolve) => {
    const end = (answer: TabMessage | null) => {
      clearTimeout(timer);
      stop();
      resolve(answer);
    };
    const stop = hearTabs((answer) => {
      if (answer.shot === message.shot && answers.includes(answer.kind) && 'to' in answer && answer.to === TAB) {
        end(answer);
      }
    });
    const timer = setTimeout(() => end(null), PATIENCE);
    tellTabs(message);
  });
}
