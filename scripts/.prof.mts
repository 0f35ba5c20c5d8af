import { serve } from '@lumbra/server';
import { createCloth, createCollider, createShot } from '@lumbra/core';
import { drawn, openBrowser, openShotFile } from '../e2e/bench';
const { context, page } = await openBrowser(await serve({ port: 0 }));
const SHAPE = { kind: 'sheet', width: 2, height: 2, spacing: 0.01 } as const;
const shot = createShot({ id: 'large', code: 'T400', name: 'Large sheet', lastFrame: 300, run: { substeps: 20, quality: 'draft' },
    things: [ createCloth({ id: 'sheet', name: 'Sheet', shape: SHAPE, position: [0, 1, 0] }),
      createCollider({ id: 'ball', name: 'Ball', shape: { kind: 'ball', radius: 0.4, detail: 3 }, position: [0, 0.5, 0] }),
      createCollider({ id: 'ground', name: 'Ground', shape: { kind: 'ground' } })] });
await openShotFile(page, shot);
await page.waitForTimeout(1000);
await page.goto('/'); await page.getByRole('link', { name: 'Open Large sheet' }).waitFor(); await page.waitForTimeout(1500);
const s = await context.newCDPSession(page);
await s.send('Profiler.enable'); await s.send('Profiler.setSamplingInterval', { interval: 500 }); await s.send('Profiler.start');
await page.getByRole('link', { name: 'Open Large sheet' }).click();
await drawn(page); await page.waitForTimeout(1500);
const { profile } = await s.send('Profiler.stop');
const self = new Map<number, number>(); const dt = profile.timeDeltas!; profile.samples!.forEach((id, i) => self.set(id, (self.get(id) ?? 0) + dt[i]! / 1000));
const nodes = new Map(profile.nodes.map((n) => [n.id, n]));
const total = new Map<number, number>();
const sum = (id: number): number => { const n = nodes.get(id)!; let t = self.get(id) ?? 0; for (const c of n.children ?? []) t += sum(c); total.set(id, t); return t; };
sum(profile.nodes[0]!.id);
const print = (id: number, depth: number) => { const n = nodes.get(id)!; const t = total.get(id)!; if (t < 12) return;
  console.log(' '.repeat(depth) + t.toFixed(0) + ' (' + (self.get(id) ?? 0).toFixed(0) + ') ' + n.callFrame.functionName + ' ' + n.callFrame.url.split('/').pop() + ':' + n.callFrame.lineNumber);
  for (const c of n.children ?? []) print(c, depth + 1); };
print(profile.nodes[0]!.id, 0);
await context.close(); process.exit(0);
