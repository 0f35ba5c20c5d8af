import { HERE, otherCheckout, printed } from './otherCheckout';
import { row } from './print';

const PARTS = ['solve', 'contact', 'query', 'keep apart', 'forbid', 'measure', 'rest'];

/** What each part of the solver takes of a frame, in ms on one thread, in an older checkout (`otherCheckout.ts`) and in this one. SCENE picks shots by name. */
export function split(): void {
  const there = otherCheckout(['frameSplit.ts']);
  if (there === undefined) return;
  const [before, now] = [there, HERE].map((folder) =>
    printed<Record<string, Record<string, number>>>(folder, 'frameSplit.ts'),
  );
  row('ms a frame', '', ...PARTS);
  for (const name of Object.keys(now!)) {
    for (const [when, parts] of [
      ['older', before![name]!],
      ['now', now![name]!],
    ] as const) {
      row(when === 'older' ? name : '', when, ...PARTS.map((part) => (parts[part] ?? 0).toFixed(0)));
    }
  }
}
