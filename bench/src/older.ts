import { HERE, otherCheckout, printed } from './otherCheckout';
import { median, row } from './print';

const ROUNDS = Number(process.env['ROUNDS'] ?? 3);

type Times = Record<string, { milliseconds: number; substeps: number }>;

/**
 * What a frame costs against an older commit: the same shots, baked in turns by this checkout and by one of that commit, at the quality
 * that each shot has there, and once more with substeps by hand that keep what this one promises: as many as its densest frame takes.
 * OLDER names the other checkout, installed with `npm ci`; SCENE picks shots by name, ROUNDS says how many times (3).
 */
export function older(): void {
  const there = otherCheckout(['frameTimes.ts']);
  if (there === undefined) return;
  const timesOf = (folder: string, byHand: Record<string, number> = {}) =>
    printed<Times>(folder, 'frameTimes.ts', JSON.stringify(byHand));
  const before: Times[] = [];
  const promised: Times[] = [];
  const now: Times[] = [];
  for (let round = 0; round < ROUNDS; round++) {
    now.push(timesOf(HERE));
    before.push(timesOf(there));
    const most = Object.entries(now[0]!).map(([name, { substeps }]) => [name, substeps]);
    promised.push(timesOf(there, Object.fromEntries(most) as Record<string, number>));
  }
  row('ms a frame', 'older', 'older, with', 'now', 'to older', 'to older with');
  for (const [name, { substeps }] of Object.entries(now[0]!)) {
    const [old, kept, ours] = [before, promised, now].map((all) =>
      median(all.map((times) => times[name]!.milliseconds)),
    );
    const byHand = `${kept!.toFixed(0)} (${substeps})`;
    row(name, old!.toFixed(0), byHand, ours!.toFixed(0), (ours! / old!).toFixed(2), (ours! / kept!).toFixed(2));
  }
}
