import { describe, expect, it } from 'vitest';
import { movedPoints } from '../../../mesh/movedPoints';
import { readMeshFile } from '../readMeshFile';

const HEAD = `#usda 1.0
(
  defaultPrim = "Stage"
  metersPerUnit = 0.01
  timeCodesPerSecond = 25
  upAxis = "Z"
)
`;
const SQUARE = `    int[] faceVertexCounts = [4]
    int[] faceVertexIndices = [0, 1, 2, 3]
`;
const POINTS = '[(0, 0, 0), (100, 0, 0), (100, 100, 0), (0, 100, 0)]';

const layer = (mesh: string, carrier = '') => `${HEAD}
def Xform "Stage"
{
${carrier}
  def Mesh "Lid"
  {
${mesh}  }
}
`;
const read = (text: string) => readMeshFile('lid.usda', new TextEncoder().encode(text));
const rounded = (values: ArrayLike<number>) => Array.from(values, (value) => Math.round(value * 1e5) / 1e5 + 0);

describe('reading USD', () => {
  it('in cm with z up comes in m with y up, polygons as triangles', async () => {
    const { parts, clips } = await read(layer(`${SQUARE}    point3f[] points = ${POINTS}\n`));
    expect([parts[0]!.name, clips]).toEqual(['Lid', []]);
    expect([...parts[0]!.mesh.triangles]).toEqual([0, 1, 2, 0, 2, 3]);
    expect(rounded(parts[0]!.mesh.positions)).toEqual([0, 0, 0, 1, 0, 0, 1, 0, -1, 0, 0, -1]);
  });

  it('turns the faces of a left-handed mesh', async () => {
    const text = layer(`    uniform token orientation = "leftHanded"\n${SQUARE}    point3f[] points = ${POINTS}\n`);
    expect([...(await read(text)).parts[0]!.mesh.triangles]).toEqual([0, 2, 1, 0, 3, 2]);
  });

  it('goes with what it is under, frame by frame, with its operations in their order', async () => {
    const carrier = `    float xformOp:rotateZ.timeSamples = {
      0: 0,
      2: 90,
    }
    double3 xformOp:translate = (0, 0, 200)
    uniform token[] xformOpOrder = ["xformOp:translate", "xformOp:rotateZ"]
`;
    const own = `    float3 xformOp:scale = (2, 1, 1)
    uniform token[] xformOpOrder = ["xformOp:scale"]
`;
    const { parts } = await read(layer(`${SQUARE}    point3f[] points = ${POINTS}\n${own}`, carrier));
    const { mesh } = parts[0]!;
    const clip = mesh.motion!.clips[0]!;
    expect(clip.rate).toBe(25);
    const second = (frame: number) => rounded(movedPoints(mesh, clip, frame / 25, false).subarray(3, 6));
    // The second corner is 2 m out along x, 2 m high; turned a quarter about the axis that is up.
    expect(second(0)).toEqual([2, 2, 0]);
    expect(second(2)).toEqual([0, 2, -2]);
  });

  it('fills in a sample that is missing, and says so', async () => {
    const samples = [1, 2, 3].map((frame) =>
      frame === 2
        ? '      2: None,'
        : `      ${frame}: [(0, 0, ${frame * 10}), (100, 0, 0), (100, 100, 0), (0, 100, 0)],`,
    );
    const { parts, notes } = await read(
      layer(`${SQUARE}    point3f[] points.timeSamples = {\n${samples.join('\n')}\n    }\n`),
    );
    expect(notes).toEqual([expect.stringContaining('One frame of “Lid” is missing')]);
    const { mesh } = parts[0]!;
    expect(movedPoints(mesh, mesh.motion!.clips[0]!, 1 / 25, false)[1]).toBeCloseTo(0.2, 5);
  });

  it.each([
    ['no mesh', `${HEAD}def Xform "Stage"\n{\n}\n`, 'There is no mesh'],
    ['no points', layer(SQUARE), '“Lid” has no points'],
    ['no faces', layer(`    point3f[] points = ${POINTS}\n`), '“Lid” has no faces'],
    [
      'a corner that is not there',
      layer(`${SQUARE.replace('2, 3]', '2, 9]')}    point3f[] points = ${POINTS}\n`),
      'a face at point 9, but only 4 points',
    ],
    [
      'faces that change',
      layer(
        `    int[] faceVertexCounts = [4]\n    int[] faceVertexIndices.timeSamples = {\n      1: [0, 1, 2, 3],\n      2: [0, 1, 3, 2],\n    }\n    point3f[] points = ${POINTS}\n`,
      ),
      'changes its faces',
    ],
    [
      'points that come and go',
      layer(
        `${SQUARE}    point3f[] points.timeSamples = {\n      1: ${POINTS},\n      2: [(0, 0, 0), (1, 0, 0), (1, 1, 0)],\n    }\n`,
      ),
      'has 3 points at 2, but 4 before',
    ],
    ['no layer', 'def Mesh "Lid" {}', 'is no USD'],
  ])('refuses one with %s', async (_, text, words) => {
    await expect(read(text)).rejects.toThrow(words);
  });

  it('refuses a binary one that is cut short', async () => {
    const bytes = new TextEncoder().encode('PXR-USDC\0\0\0\0');
    await expect(readMeshFile('lid.usdc', bytes)).rejects.toThrow('damaged');
  });
});
