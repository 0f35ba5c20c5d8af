import { formatQuantity } from '@lumbra/core';
import type { TakeRow } from '../storage/database';

/** Bytes in words: “14 MB”. */
export function bytesText(bytes: number): string {
  if (bytes >= 1e9) return `${(bytes / 1e9).toFixed(1)} GB`;
  return bytes >= 1e6 ? `${Math.round(bytes / 1e6)} MB` : `${Math.ceil(bytes / 1e3)} kB`;
}

/** Computing time in words: “210 ms”. */
export function secondsText(seconds: number): string {
  return seconds < 1 ? `${Math.max(1, Math.round(seconds * 1000))} ms` : `${seconds.toFixed(1)} s`;
}

/** When a take was made: the time today, else the day. */
export function madeText(made: number, now = Date.now()): string {
  const [then, today] = [new Date(made), new Date(now)];
  if (then.toDateString() === today.toDateString()) {
    return then.toLocaleTimeString('en-GB', { hour: '2-digit', minute: '2-digit' });
  }
  return then.toLocaleDateString('en-GB', { day: 'numeric', month: 'short' });
}

/** What a take came to, in one line. */
export function sumText({ sum, source, firstFrame, lastFrame, cut }: TakeRow): string {
  const worst = `${formatQuantity(sum.worst, '%', 2)} %`;
  if (source !== 'bake') return `${source === 'live' ? 'of a live run' : 'settled'} · ${worst}`;
  const wanted = lastFrame - firstFrame + 1;
  const frames = sum.frames === wanted ? `${sum.frames} frames` : `${sum.frames} of ${wanted}`;
  const time = sum.seconds > 0 ? ` · ${secondsText(sum.seconds)}` : '';
  return `${frames}${cut === undefined ? '' : `, cut at ${cut}`} · ${worst}${time}`;
}
