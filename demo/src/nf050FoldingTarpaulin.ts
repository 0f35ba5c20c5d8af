import { createCloth, createCollider, createShot, POSITION_NUMBERS, type Shot, type Track } from '@lumbra/core';

/** A knot of a batten's path: the frame, then x, y and z in m. */
type Stop = [frame: number, x: number, y: number, z: number];

/** Tracks for the three coordinates, as typing the stops into the table of keys gives them. */
function path(stops: Stop[]): Track[] {
  return POSITION_NUMBERS.map((number, axis) => ({
    number,
    knots: stops.map((stop) => ({ frame: stop[0], value: stop[axis + 1]!, ease: 'smooth' as const })),
  }));
}

/**
 * Two battens lie under a tarpaulin. The first lifts its long edge and lays it over the other half, the second folds both
 * layers across; each is then drawn out sideways. The hard test of contact.
 */
export function nf050FoldingTarpaulin(): Shot {
  const wood = { friction: 0.5, clearance: 0.004, colour: '#8E7A5C' };
  const lengthwise: Stop[] = [
    [8, 0, 0.012, -0.4],
    [30, 0, 0.47, -0.34],
    [54, 0, 0.45, 0.36],
    [72, 0, 0.05, 0.5],
    [76, 0, 0.05, 0.5],
    [102, 2.9, 0.05, 0.5],
  ];
  const across: Stop[] = [
    [104, -0.62, 0.012, 0.42],
    [130, -0.5, 0.56, 0.42],
    [158, 0.4, 0.56, 0.42],
    [176, 0.74, 0.07, 0.42],
    [180, 0.74, 0.07, 0.42],
    [202, 0.74, 0.07, 2.2],
  ];
  const start = (stops: Stop[]): [number, number, number] => [stops[0]![1], stops[0]![2], stops[0]![3]];
  return createShot({
    id: 'nf050',
    code: 'NF050',
    name: 'Folding the tarpaulin',
    lastFrame: 212,
    run: { quality: 'shot' },
    camera: { position: [2.2, 1.75, 2.9], target: [0.05, 0.12, 0.1] },
    things: [
      createCloth({
        id: 'tarpaulin',
        name: 'Tarpaulin',
        card: 'waxed-cotton',
        shape: { kind: 'sheet', width: 2.4, height: 1.6, spacing: 0.02 },
        position: [0, 0.036, 0],
        print: { kind: 'check', colour: '#5F7F86', second: '#E6DFCF', repeat: 0.4, waxed: true },
      }),
      createCollider({
        id: 'batten-long',
        name: 'Batten, long',
        shape: { kind: 'box', width: 2.7, height: 0.02, depth: 0.04 },
        position: start(lengthwise),
        keys: path(lengthwise),
        ...wood,
      }),
      createCollider({
        id: 'batten-short',
        name: 'Batten, short',
        shape: { kind: 'box', width: 0.04, height: 0.02, depth: 1.0 },
        position: start(across),
        keys: path(across),
        ...wood,
      }),
      createCollider({ id: 'ground', name: 'Deck', shape: { kind: 'ground' }, clearance: 0.002, friction: 0.6 }),
    ],
  });
}
