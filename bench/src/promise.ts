import { BakeRun, compile, keptPromises, Solver, substepsOf, type Shot } from '@lumbra/core';
import { TRIALS } from '@lumbra/demo/trials';
import { row } from './print';

const percent = (share: number) => `${(share * 100).toFixed(1)} %`;

/**
 * What quality “shot” promises, or with QUALITY=final that one, on shots that nobody tuned: the same shot with the fixed number of substeps of the rule, and as
 * it is baked. SHOTS picks some by name.
 */
export function promise(): void {
  const only = process.env['SHOTS'];
  const quality = process.env['QUALITY'] === 'final' ? 'final' : 'shot';
  row(
    `${quality} quality`,
    'fixed: worst',
    'last',
    'ms',
    'worst',
    'last',
    'ms',
    'substeps',
    'again',
    'broken',
    'crossed',
    'pierced',
    'deepest mm',
  );
  for (const build of TRIALS) {
    const built = build();
    const shot: Shot = { ...built, run: { ...built.run, quality } };
    if (only && !shot.name.includes(only)) continue;
    const fixed = fixedRun(shot);
    const run = new BakeRun(shot, new Map());
    const started = performance.now();
    const frames = Array.from({ length: shot.lastFrame }, () => {
      const { frame, stats } = run.next();
      return { frame, stats };
    });
    const time = (performance.now() - started) / frames.length;
    const kept = keptPromises(frames)!;
    const most = (of: (stats: (typeof frames)[number]['stats']) => number) =>
      frames.reduce((largest, { stats }) => Math.max(largest, of(stats)), 0);
    row(
      shot.name,
      ...[percent(fixed.worst), percent(fixed.last), fixed.time.toFixed(0)],
      ...[percent(most((s) => s.falseStretch!)), percent(frames.at(-1)!.stats.falseStretch!), time.toFixed(0)],
      ...[`${kept.fewest}-${kept.most}`, String(kept.retaken), String(kept.broken)],
      ...[
        String(most((s) => s.crossings)),
        String(most((s) => s.pierced!)),
        (most((s) => s.deepest) * 1000).toFixed(2),
      ],
    );
  }
}

function fixedRun(shot: Shot): { worst: number; last: number; time: number } {
  const solver = new Solver(compile(shot, new Map()));
  const substeps = substepsOf(shot, new Map());
  const started = performance.now();
  let [worst, last] = [0, 0];
  for (let frame = 1; frame < shot.lastFrame; frame++) {
    solver.advance(1 / shot.frameRate, substeps);
    last = solver.measure().stretch.largestFalse;
    worst = Math.max(worst, last);
  }
  return { worst, last, time: (performance.now() - started) / shot.lastFrame };
}
