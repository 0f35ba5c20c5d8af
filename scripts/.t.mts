import { createCloth, createCollider, createShot, Solver, compile, measureFrame, BakeRun } from '@lumbra/core';
const SHAPE = { kind: 'sheet', width: 2, height: 2, spacing: 0.01 } as const;
const shot = createShot({ id: 'large', code: 'T400', name: 'Large sheet', lastFrame: 300, run: { substeps: 20, quality: 'draft' },
    things: [ createCloth({ id: 'sheet', name: 'Sheet', shape: SHAPE, position: [0, 1, 0] }),
      createCollider({ id: 'ball', name: 'Ball', shape: { kind: 'ball', radius: 0.4, detail: 3 }, position: [0, 0.5, 0] }),
      createCollider({ id: 'ground', name: 'Ground', shape: { kind: 'ground' } })] });
let t = performance.now();
const lap = (n: string) => { const now = performance.now(); console.log(n, (now - t).toFixed(0)); t = now; };
const model = compile(shot, new Map()); lap('compile');
const s = new Solver(model); lap('solver');
for (let f = 0; f < 12; f++) { let sub: number[] = []; let l = performance.now(); s.advance(1/24, 20, () => { const n = performance.now(); sub.push(n - l); l = n; return true; }); lap('advance'); console.log('   substep max', Math.max(...sub).toFixed(0)); s.measure(); lap('measure'); s.crossings(); lap('crossings'); s.depths(); lap('depths'); const st = s.state(); lap('state'); measureFrame(shot, model, s, 1); lap('whole'); }
