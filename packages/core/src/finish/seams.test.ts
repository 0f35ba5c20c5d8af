import { expect, it } from 'vitest';
import { closedSeams } from '../mesh/closeSeams';
import { pointNormals } from '../mesh/normals';
import { isClosed, topology } from '../mesh/topology';
import { makePiece, rectangleNodes } from '../pattern/makePiece';
import { patternMesh } from '../pattern/patternMesh';
import { FinishList } from './finishCloth';
import { finishEntrySchema } from './steps';

/** A tube of one piece, laid round and sewn to itself. */
function tube() {
  const outline = rectangleNodes(0.4, 0.3).map((node, i) => ({ ...node, id: `t${i}` }));
  const piece = makePiece({ id: 't', name: 'Tube', outline, lies: 'round upright', radius: 0.4 / (2 * Math.PI) });
  const seams = [
    { id: 's', a: { piece: 't', from: 't1', to: 't2' }, b: { piece: 't', from: 't3', to: 't0' }, turned: false },
  ];
  return patternMesh({ spacing: 0.03, weave: 'along the grain', pieces: [piece], seams });
}
const step = (kind: object) => finishEntrySchema.parse({ id: 'x', step: kind });

it('has the same normals on both sides of a closed seam, and its own where it is open', () => {
  const mesh = tube();
  const normals = pointNormals(mesh.positions, mesh.triangles, undefined, mesh.sewn);
  mesh.sewn!.forEach((first, point) => {
    expect([...normals.subarray(point * 3, point * 3 + 3)]).toEqual([...normals.subarray(first * 3, first * 3 + 3)]);
  });
  // Away from its ends a tube's normals point away from its axis.
  const seam = [...mesh.sewn!.keys()].find((point) => mesh.sewn![point] !== point)!;
  const apart = mesh.positions.slice();
  apart[seam * 3]! += 0.01;
  const open = pointNormals(apart, mesh.triangles, undefined, mesh.sewn);
  expect(open[seam * 3]).not.toBe(open[mesh.sewn![seam]! * 3]);
});

it('stays closed when it is subdivided', () => {
  const mesh = tube();
  const list = new FinishList(mesh, [step({ kind: 'subdivide', times: 2 })]);
  const places = list.place(mesh.positions, [step({ kind: 'subdivide', times: 2 })], () => null);
  const { sewn } = list.mesh;
  expect([...sewn!].filter((first, point) => first !== point).length).toBeGreaterThan(36);
  sewn!.forEach((first, point) => {
    for (let axis = 0; axis < 3; axis++) expect(places[point * 3 + axis]).toBeCloseTo(places[first * 3 + axis]!, 6);
  });
  const t = topology(closedSeams(list.mesh)!.mesh);
  expect(t.nonManifoldEdges).toBe(0);
});

it('has no rim along a seam when it is thickened: a closed body', () => {
  const list = new FinishList(tube(), [step({ kind: 'thicken' })]);
  expect(isClosed(topology(closedSeams(list.mesh)!.mesh))).toBe(true);
});
