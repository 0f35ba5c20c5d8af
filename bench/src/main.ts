// `npm run bench`: what a frame costs, as medians of interleaved rounds with ratios, since the machine is shared: trust the
// ratios. `npm run bench -- truth` prints the physics against its references instead; one part alone is named the same way.
import { airCost } from './airCost';
import { changeCost } from './changeCost';
import { finishCost } from './finishCost';
import { contactCost } from './contactCost';
import { frameCost } from './frameCost';
import { interfaceCost } from './interface';
import { nativeLimit } from './nativeLimit';
import { patternCost } from './patternCost';
import { peerEngine } from './peerEngine';
import { older } from './older';
import { split } from './split';
import { switchingCost } from './switching';
import { benchTakes } from './takes';
import { promise } from './promise';
import { threadsCost } from './threadsCost';
import { truth } from './truth';

const PARTS: Record<string, () => void | Promise<void>> = {
  frame: frameCost,
  native: nativeLimit,
  peer: peerEngine,
  contact: contactCost,
  air: airCost,
  change: changeCost,
  finish: finishCost,
  pattern: patternCost,
  interface: interfaceCost,
  switching: switchingCost,
  takes: benchTakes,
  threads: threadsCost,
  promise,
  older,
  split,
  truth,
};

/** What is only run when it is asked for. */
const SLOW = new Set(['promise', 'older', 'split', 'threads', 'truth']);
const wanted = process.argv.slice(2);
const unknown = wanted.filter((name) => !(name in PARTS));
if (unknown.length > 0) {
  console.error(`There is no “${unknown[0]}”. Parts: ${Object.keys(PARTS).join(', ')}.`);
  process.exit(1);
}
for (const [name, part] of Object.entries(PARTS)) {
  if (wanted.length > 0 ? wanted.includes(name) : !SLOW.has(name)) await part();
}
// The served app keeps a port open.
process.exit(0);
