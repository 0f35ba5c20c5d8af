import fc from 'fast-check';
import { WebIO } from '@gltf-transform/core';
import { KHRTextureTransform, type Transform } from '@gltf-transform/extensions';
import { decode, encode } from 'fast-png';
import { validateBytes } from 'gltf-validator';
import { Texture, Vector2 } from 'three';
import { describe, expect, it } from 'vitest';
import { sheet } from '../mesh/shapes/sheet';
import { ball } from '../mesh/shapes/ball';
import { createCloth, createCollider, createShot } from '../shot/create';
import { ShotError } from '../shot/readShot';
import type { Print } from '../shot/things';
import { readGlb } from './glbRead';
import { PICTURE_PREFIX } from '../print/pictureOf';
import { printPlace } from '../print/printPlace';
import { writeGlb } from './glbWrite';
import { readObj } from './objRead';
import { writeObj } from './objWrite';
import { ReadError } from './readError';
import { readShotFile } from './shotFileRead';
import { writeShotFile } from './shotFileWrite';

const coordinate = fc.double({ min: -100, max: 100, noNaN: true });

describe('OBJ', () => {
  it('reads back to a micrometre', () => {
    fc.assert(
      fc.property(fc.array(coordinate, { minLength: 9, maxLength: 30 }), (values) => {
        const positions = new Float32Array(values.slice(0, values.length - (values.length % 3)));
        const back = readObj(writeObj([{ name: 'a b', mesh: { positions, triangles: new Uint32Array([0, 1, 2]) } }]));
        expect(back.triangles).toEqual(new Uint32Array([0, 1, 2]));
        positions.forEach((value, i) =>
          expect(Math.abs(back.positions[i]! - value)).toBeLessThanOrEqual(1e-6 + Math.abs(value) * 1e-7),
        );
      }),
    );
  });

  it('reads polygons, negative indices and comments', () => {
    const mesh = readObj('# quad\nv 0 0 0\nv 1 0 0 # corner\nv 1 1 0\nv 0 1 0\nf -4/1 -3/2/3 -2//1 -1\n');
    expect([...mesh.triangles]).toEqual([0, 1, 2, 0, 2, 3]);
  });

  it.each([
    ['v 0 0\n', /Line 1 .* not three numbers/],
    ['v 0 0 0\nv 1 0 0\nf 1 2\n', /Line 3 .* fewer than three corners/],
    ['v 0 0 nan\n', /Line 1/],
    ['f 0 1 2\n', /names a point that cannot exist/],
    ['', /no points/],
    ['v 0 0 0\n', /no faces/],
    ['v 0 0 0\nv 1 0 0\nv 0 1 0\nf 1 2 9\n', /point 9, but only 3 points/],
  ])('refuses %j', (text, words) => {
    expect(() => readObj(text)).toThrow(words);
    expect(() => readObj(text)).toThrow(ReadError);
  });
});

describe('GLB', () => {
  it('is valid with motion, and reads back bit for bit', async () => {
    const mesh = sheet({ width: 0.3, height: 0.2, spacing: 0.05 });
    const frames = [0, 1, 2, 3].map((n) =>
      mesh.positions.map((value, i) => value + (i % 3 === 1 ? 0.1 * n : 0.01 * n * n)),
    );
    const bytes = await writeGlb(
      [
        { name: 'Sheet', mesh, frames, colour: '#B4442F' },
        { name: 'Ball', mesh: ball({ radius: 0.1, detail: 1 }) },
      ],
      {
        frameRate: 24,
      },
    );
    const report = await validateBytes(bytes);
    expect(report.issues.messages.filter(({ severity }) => severity === 0)).toEqual([]);
    expect(report.issues.numErrors).toBe(0);
    expect(report.info.animationCount).toBe(1);
    const still = await readGlb(await writeGlb([{ name: 'Sheet', mesh }], { frameRate: 24 }), { material: true });
    expect(still).toEqual(mesh);
  });

  it('has what is cut out of a print as a mask, and a picture that lies there once held at its rim', async () => {
    const mesh = sheet({ width: 0.3, height: 0.2, spacing: 0.05 });
    const own = encode({ width: 1, height: 2, data: Uint8Array.of(255, 0, 0, 255, 0, 0, 0, 0), channels: 4 });
    const picture = PICTURE_PREFIX + btoa(String.fromCharCode(...own));
    const { print: plain } = createCloth({ name: 'Sheet' });
    const materialOf = async (print: Print) => {
      const bytes = await writeGlb([{ name: 'Sheet', mesh, print, colour: print.colour }], { frameRate: 24 });
      const report = await validateBytes(bytes);
      expect(report.issues.messages.filter(({ severity }) => severity <= 1)).toEqual([]);
      const document = await new WebIO().registerExtensions([KHRTextureTransform]).readBinary(bytes);
      return document.getRoot().listMaterials()[0]!;
    };
    const once = await materialOf({ ...plain, kind: 'picture', picture, once: true, cutOut: true });
    expect([once.getAlphaMode(), once.getAlphaCutoff()]).toEqual(['MASK', 0.5]);
    expect(once.getBaseColorTextureInfo()!.getWrapS()).toBe(33071);
    expect(decode(once.getBaseColorTexture()!.getImage()!)).toMatchObject({ width: 4, height: 4, channels: 4 });
    const repeated = await materialOf({ ...plain, kind: 'picture', picture });
    expect(repeated.getAlphaMode()).toBe('OPAQUE');
    expect(repeated.getBaseColorTextureInfo()!.getWrapS()).toBe(10497);
    // Damaged, it is of its colour.
    const damaged = await materialOf({ ...plain, kind: 'picture', picture: `${PICTURE_PREFIX}AAAA`, cutOut: true });
    expect(damaged.getBaseColorTexture()).toBeNull();
  });

  it('has the print of cloth as a picture that lies as it does in the view, and is valid with it', async () => {
    const mesh = sheet({ width: 0.3, height: 0.2, spacing: 0.05 });
    const print = {
      ...createCloth({ name: 'Sheet' }).print,
      kind: 'stripe' as const,
      turn: 0.4,
      along: 0.03,
      repeat: 0.2,
    };
    const bytes = await writeGlb([{ name: 'Sheet', mesh, print, colour: print.colour }], { frameRate: 24 });
    const report = await validateBytes(bytes);
    expect(report.issues.messages.filter(({ severity }) => severity <= 1)).toEqual([]);
    const document = await new WebIO().registerExtensions([KHRTextureTransform]).readBinary(bytes);
    const [material] = document.getRoot().listMaterials();
    const { width, height } = decode(material!.getBaseColorTexture()!.getImage()!);
    expect([width, height]).toEqual([256, 256]);
    const transform = material!.getBaseColorTextureInfo()!.getExtension<Transform>('KHR_texture_transform')!;
    // What the view turns a picture by, a texture is turned by here: both turn what is drawn.
    const shown = new Texture();
    shown.repeat.set(...transform.getScale());
    shown.rotation = transform.getRotation();
    shown.offset.set(...transform.getOffset());
    shown.updateMatrix();
    const { scale, turn, move } = printPlace(print);
    for (const [u, v] of [
      [0, 0],
      [0.1, 0],
      [0, 0.1],
    ] as const) {
      const at = new Vector2(u, v).applyMatrix3(shown.matrix);
      expect(at.x).toBeCloseTo(scale * (Math.cos(turn) * u - Math.sin(turn) * v) + move[0], 6);
      expect(at.y).toBeCloseTo(scale * (Math.sin(turn) * u + Math.cos(turn) * v) + move[1], 6);
    }
  });

  it('refuses what is cut short, damaged or no GLB', async () => {
    const bytes = await writeGlb([{ name: 'Ball', mesh: ball({ radius: 1, detail: 1 }) }], { frameRate: 24 });
    await expect(readGlb(bytes.slice(0, 200))).rejects.toThrow(/cut short/);
    await expect(readGlb(new Uint8Array(30))).rejects.toThrow(/does not begin/);
    await expect(readGlb(new Uint8Array())).rejects.toThrow(ReadError);
    const damaged = bytes.slice();
    damaged.fill(0x20, 24, 60);
    await expect(readGlb(damaged)).rejects.toThrow(/damaged/);
  });
});

describe('shot file', () => {
  const shot = createShot({
    name: 'Kept',
    things: [
      createCloth({
        id: 'c',
        name: 'Cloth',
        start: 'pose',
        shape: { kind: 'sheet', width: 0.2, height: 0.2, spacing: 0.1 },
      }),
      createCollider({ id: 'm', name: 'Mesh', shape: { kind: 'mesh', asset: 'stone' } }),
    ],
  });
  const assets = new Map([
    ['pose', sheet({ width: 0.2, height: 0.2, spacing: 0.1 })],
    ['stone', ball({ radius: 0.2, detail: 2 })],
    ['unused', ball({ radius: 1, detail: 0 })],
  ]);

  it('comes back with its assets, and leaves out what is not used', async () => {
    const back = await readShotFile(await writeShotFile(shot, assets));
    expect(back.shot).toEqual(shot);
    expect([...back.assets.keys()].sort()).toEqual(['pose', 'stone']);
    expect(back.assets.get('stone')!.positions).toEqual(assets.get('stone')!.positions);
  });

  it('gives the same bytes for the same shot', async () => {
    expect(await writeShotFile(shot, assets)).toEqual(await writeShotFile(shot, assets));
  });

  it('refuses damaged files with a reason', async () => {
    const bytes = await writeShotFile(shot, assets);
    await expect(readShotFile(bytes.slice(0, bytes.length - 40))).rejects.toThrow(ShotError);
    await expect(readShotFile(new TextEncoder().encode('{"format":'))).rejects.toThrow(/cannot be read/);
    const lacking = await writeShotFile(shot, new Map());
    await expect(readShotFile(lacking)).rejects.toThrow(/lacks assets\/\w+\.glb, a mesh that the shot uses/);
  });
});
