// Bakes the first frames of some shots and prints, as JSON, what each part of the solver takes of a frame, in ms: run by `split.ts` in this
// checkout and in an older one. So it imports nothing but what both have.
import { Session, type Profiler } from 'node:inspector/promises';
import { BakeRun } from '@lumbra/core';
import { comparedScenes } from './comparedScenes';

/** Parts by the files of the kernel, and by what core calls. What none of them names belongs to the part that called it: pairs are listed by a
 * query, and measured anew where layers are kept apart. */
const PARTS: [part: string, file: RegExp][] = [
  ['measure', /layers\/crossings|contact\/(pierced|deepest)|solver\/measure|run\/measureFrame/],
  ['keep apart', /layers\/(keepApart|sift)/],
  ['forbid', /layers\/(forbidCrossing|settled)/],
  ['query', /layers\/(trust|query|descent|tree|considerTriangles|stars|listing)/],
  ['contact', /assembly\/(contact\/|collider|meshDistance|boxWalk)/],
  ['solve', /assembly\/(membrane|bend|attachment|state|air|eddies|hold|yarnFriction)/],
];

/** What each part takes of a profile, in ms. */
function partsOf({ nodes, samples = [], timeDeltas = [] }: Profiler.Profile): Record<string, number> {
  const partOf = new Map<number, string>();
  const parents = new Map(nodes.flatMap(({ id, children = [] }) => children.map((child) => [child, id] as const)));
  for (const { id, callFrame } of nodes) {
    const named = PARTS.find(([, file]) => file.test(`${callFrame.url} ${callFrame.functionName}`));
    partOf.set(id, named?.[0] ?? partOf.get(parents.get(id) ?? -1) ?? 'rest');
  }
  const parts: Record<string, number> = {};
  samples.forEach((id, i) => {
    const part = partOf.get(id)!;
    parts[part] = (parts[part] ?? 0) + timeDeltas[i]! / 1000;
  });
  return parts;
}

const [only] = process.argv.slice(2);
const measured: Record<string, Record<string, number>> = {};
const session = new Session();
session.connect();
await session.post('Profiler.enable');
for (const [name, build, frames] of comparedScenes(only)) {
  const run = new BakeRun(build(), new Map());
  run.next();
  await session.post('Profiler.start');
  for (let frame = 1; frame < frames; frame++) run.next();
  const { profile } = await session.post('Profiler.stop');
  measured[name] = Object.fromEntries(Object.entries(partsOf(profile)).map(([part, ms]) => [part, ms / (frames - 1)]));
}
console.log(JSON.stringify(measured));
