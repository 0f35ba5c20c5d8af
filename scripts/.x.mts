import { BakeRun, keptPromises } from '@lumbra/core';
import * as demo from '@lumbra/demo'; import {nf010CrateCover} from '../demo/src/nf010CrateCover'; import {nf020Awning} from '../demo/src/nf020Awning'; import {nf030GangwayHood} from '../demo/src/nf030GangwayHood'; import {nf050RuckedRunner} from '../demo/src/nf050RuckedRunner'; import {nf120BrailingUp} from '../demo/src/nf120BrailingUp';

const names = process.argv.slice(2);
const all: any = { ...demo, nf010CrateCover, nf020Awning, nf030GangwayHood, nf050RuckedRunner, nf120BrailingUp };
for (const n of names) {
  const made = all[n]();
  const shot = made.shot ?? made;
  const t = performance.now();
  const run = new BakeRun(shot, new Map());
  const frames: any[] = [];
  for (let i = shot.firstFrame; i <= shot.lastFrame; i++) { const f = run.next(); frames.push({frame: f.frame, stats: f.stats}); }
  const k = keptPromises(frames);
  const s = frames.map((f) => f.stats);
  const mx = (g: (s: any) => number) => Math.max(...s.map(g));
  console.log(n, shot.run.quality, frames.length, 'worst', mx((x) => x.falseStretch).toFixed(4), 'last', s.at(-1).falseStretch.toFixed(4), 'mean', JSON.stringify(s.at(-1).meanStretch), 'crossed', mx((x) => x.crossings), 'pierced', mx((x) => x.pierced), 'deep', mx((x) => x.deepest), 'ms/frame', ((performance.now()-t)/frames.length).toFixed(0), JSON.stringify(k));
}
