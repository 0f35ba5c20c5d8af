import { expect, it } from 'vitest';
import { createAir, createCloth, createCollider, createShot } from '../shot/create';
import { sidePoints } from '../shot/selectPoints';
import { sheet } from '../mesh/shapes/sheet';
import { BakeRun } from './bakeRun';
import { ENGINE_VERSION } from './engine';
import { bakeFingerprint } from './fingerprint';

/** What the engine of a version makes of the shot below. */
const KNOWN: Record<number, string> = {
  1: 'f5b9418f8d282ce2fdbca88ab515c0c066cb1186ec4ac7c245c947e16fd1343a',
  2: 'a67accb396f4f8d8b3f4040e62463052c4ff8abc94393b0df5e51bb180535ba3',
  3: 'ac872cb445ede2a0e8aad366a49b7580d03c318d82d984bae8ed31f8708cf476',
  // The shot below has the bits of 3; others, with many sharp features or by the pace, have not.
  4: 'ac872cb445ede2a0e8aad366a49b7580d03c318d82d984bae8ed31f8708cf476',
  // Of a shot with the same wind as a thing, and eddies besides.
  5: '5c515b3d711da908330590f22f145d0d1c16343fbbfdea7999b9f08299fbe1fe',
  // The same bits; cloth that may pass through itself is no longer pulled out of itself.
  6: '5c515b3d711da908330590f22f145d0d1c16343fbbfdea7999b9f08299fbe1fe',
  // The same bits; of colliders that move, planes go along.
  7: '5c515b3d711da908330590f22f145d0d1c16343fbbfdea7999b9f08299fbe1fe',
  // Eddies by the kernel, and a wind's shadow once a frame.
  8: 'e8c01c05eb6a988653ea62ef1c30a15009f9c204e7356144bcf922ec708a3614',
  // The same bits; layers that touch right beside a held point no longer throw the free one.
  9: 'e8c01c05eb6a988653ea62ef1c30a15009f9c204e7356144bcf922ec708a3614',
  // The same bits; attachments of taut cloth reach as far as it was cut, and corners beside held ones are not flung by contact.
  10: 'e8c01c05eb6a988653ea62ef1c30a15009f9c204e7356144bcf922ec708a3614',
  // The same bits; meshes in all directions bend as they were asked to, not a tenth softer.
  11: 'e8c01c05eb6a988653ea62ef1c30a15009f9c204e7356144bcf922ec708a3614',
  // The same bits; pleats are sewn as they lie folded.
  12: 'e8c01c05eb6a988653ea62ef1c30a15009f9c204e7356144bcf922ec708a3614',
  // Grids bend as they were asked to however their diagonals lie, for which rows of three points have arms of their own; and pieces are meshed anew.
  13: '4720ca9b6d845b7be92d2dee5c00d420988e8a17fed27ae964c132181928ca83',
  // The same bits; of seams that are drawn together, nothing passes between the borders.
  14: '4720ca9b6d845b7be92d2dee5c00d420988e8a17fed27ae964c132181928ca83',
  // The same bits; patterns with narrow notches have no faces across them any longer, and pins that stand elsewhere than their points draw them there over a frame.
  15: '4720ca9b6d845b7be92d2dee5c00d420988e8a17fed27ae964c132181928ca83',
  // The same bits; neither pressure nor what draws acts on cloth whose seams are still open, closed cloth meets colliders by its edges as cut, and what crosses is
  // pulled apart and taken again otherwise.
  16: '4720ca9b6d845b7be92d2dee5c00d420988e8a17fed27ae964c132181928ca83',
  // What two colliders leave no room for lies in the middle of them: not in this shot.
  17: '4720ca9b6d845b7be92d2dee5c00d420988e8a17fed27ae964c132181928ca83',
  // The same bits; edges of coarse cloth meet those of surfaces nearer to their ends, and pressure pushes outwards whichever way up pieces were laid.
  18: '4720ca9b6d845b7be92d2dee5c00d420988e8a17fed27ae964c132181928ca83',
};

it('gives the bits that its version stands for: other bits are another version', () => {
  const shape = { kind: 'sheet', width: 0.6, height: 0.5, spacing: 0.05 } as const;
  const top = sidePoints(sheet(shape), 'top').slice(0, 3);
  const shot = createShot({
    ...{ id: 'engine', name: 'Engine', run: { substeps: 13, quality: 'shot' } },
    things: [
      createCloth({
        ...{ id: 'a', name: 'Cloth', shape, position: [0, 0.5, 0] },
        pinSets: [{ id: 'p', name: 'Pins', points: top, strength: 0.8 }] as never,
      }),
      createCloth({ id: 'b', name: 'Over it', shape, position: [0.05, 0.53, 0.02], rotation: [0, 0.4, 0] }),
      createCollider({
        id: 'ball',
        name: 'Ball',
        shape: { kind: 'ball', radius: 0.12 } as never,
        position: [0, 0.3, 0],
      }),
      createCollider({ id: 'cone', name: 'Cone', shape: { kind: 'cone', radius: 0.1, height: 0.3 } as never }),
      createCollider({ id: 'ground', name: 'Ground', shape: { kind: 'ground' } }),
      createAir({ id: 'wind', name: 'Wind', rotation: [0, 1.5, 0], air: { kind: 'wind', speed: 3, gustDepth: 0.5 } }),
      createAir({ id: 'eddies', name: 'Eddies', air: { kind: 'turbulence', strength: 1 } }),
    ],
  });
  const run = new BakeRun(shot, new Map());
  const frames = Array.from({ length: 14 }, () => run.next().stats.fingerprint);
  expect(bakeFingerprint(frames)).toBe(KNOWN[ENGINE_VERSION]);
});
