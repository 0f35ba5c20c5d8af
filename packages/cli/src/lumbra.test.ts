import { execFile } from 'node:child_process';
import { mkdtemp, readFile, readdir, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { fileURLToPath } from 'node:url';
import {
  finishEntrySchema,
  createCloth,
  createCollider,
  createShot,
  readObj,
  readShotFile,
  writeShotFile,
  type BakeReport,
  type Thing,
} from '@lumbra/core';
import { readMeshFile } from '@lumbra/core/import';
import { validateBytes } from 'gltf-validator';
import { beforeAll, describe, expect, it } from 'vitest';

const bin = path.join(path.dirname(fileURLToPath(import.meta.url)), '..', 'bin', 'lumbra.mjs');

function lumbra(...args: string[]): Promise<{ code: number; stdout: string; stderr: string }> {
  return new Promise((resolve) => {
    execFile(process.execPath, [bin, ...args], (error, stdout, stderr) => {
      resolve({ code: error ? Number(error.code ?? 1) : 0, stdout, stderr });
    });
  });
}

describe('lumbra bake', () => {
  let folder = '';
  let shot = '';
  beforeAll(async () => {
    folder = await mkdtemp(path.join(tmpdir(), 'lumbra-cli-'));
    shot = path.join(folder, 'small.lumbra');
    const document = createShot({
      name: 'Small',
      code: 'T020',
      lastFrame: 10,
      run: { quality: 'draft' },
      things: [
        createCloth({
          id: 'sheet',
          name: 'Sheet',
          position: [0, 0.3, 0],
          shape: { kind: 'sheet', width: 0.4, height: 0.4, spacing: 0.05 },
        }),
        createCollider({ id: 'ground', name: 'Ground', shape: { kind: 'ground' } }),
      ],
    });
    await writeFile(shot, await writeShotFile(document, new Map()));
  });

  it('writes nothing outside its folder, whatever a shot file calls its things', async () => {
    const document = createShot({
      ...{ name: 'Outside', lastFrame: 2, run: { quality: 'draft' } },
      things: [
        createCloth({ id: 'sheet', name: 'Sheet', shape: { kind: 'sheet', width: 0.4, height: 0.4, spacing: 0.1 } }),
      ],
    });
    const file = path.join(folder, 'outside.json');
    await writeFile(file, JSON.stringify(document).replace('"id":"sheet"', '"id":"../../escaped"'));
    const out = path.join(folder, 'deep', 'out');
    const { code, stderr } = await lumbra('bake', file, '--out', out);
    expect(code).toBe(1);
    expect(stderr).toMatch(/things\[0\]\.id: must be an id/);
    expect(await readdir(folder)).not.toContain('escaped');
    expect(await readdir(folder)).not.toContain('deep');
  });

  it.each([
    ['report.html', /^<!doctype html>[^]*<h2>Over the shot<\/h2>/],
    ['report.csv', /^frame,seconds,substeps,[^]*\r\n1,0,/],
  ])('writes its report as %s', async (name, wanted) => {
    const report = path.join(folder, name);
    const { code } = await lumbra('bake', shot, '--out', `${report}-frames`, '--format', 'stl', '--report', report);
    expect(code).toBe(0);
    expect(await readFile(report, 'utf8')).toMatch(wanted);
  });

  it('computes on as many threads as are asked for, and says where fewer do', async () => {
    const bake = (threads: string) =>
      lumbra('bake', shot, '--out', path.join(folder, `on-${threads}`), '--format', 'stl', '--threads', threads);
    const [one, many] = [await bake('1'), await bake('1000')];
    const fingerprint = /fingerprint ([0-9a-f]{64})/;
    expect(fingerprint.exec(many.stdout)![1]).toBe(fingerprint.exec(one.stdout)![1]);
    expect(many.stderr).toContain('Computes on 8 threads: more are of no use.');
    const { code, stderr } = await bake('0');
    expect(code).toBe(1);
    expect(stderr).toContain('Give a whole number from 1 up.');
  });

  it('writes an OBJ a frame and a report, and says what came out', async () => {
    const [out, report] = [path.join(folder, 'obj'), path.join(folder, 'report.json')];
    const { code, stdout, stderr } = await lumbra('bake', shot, '--out', out, '--format', 'obj', '--report', report);
    expect(code).toBe(0);
    expect(stderr).toContain('frame 10 of 10');
    expect(await readdir(path.join(out, 'sheet'))).toHaveLength(10);
    const first = readObj(await readFile(path.join(out, 'sheet', '0001.obj'), 'utf8'));
    expect(first.positions[1]).toBeCloseTo(0.3, 6);
    const account = JSON.parse(await readFile(report, 'utf8')) as BakeReport;
    expect(account.frames.map(({ frame }) => frame)).toEqual([1, 2, 3, 4, 5, 6, 7, 8, 9, 10]);
    for (const frame of account.frames) {
      expect(frame.fingerprint).toMatch(/^[0-9a-f]{64}$/);
      for (const key of ['seconds', 'kineticEnergy', 'meanStretch', 'maxStretch', 'fastest'] as const) {
        expect(Number.isFinite(frame[key])).toBe(true);
      }
    }
    expect(stdout).toContain(account.fingerprint);
  });

  it('converts a cache into another format, from a folder or one file', async () => {
    const [obj, ply, glb] = ['obj', 'ply', 'glb'].map((name) => path.join(folder, `to-${name}`)) as string[];
    expect((await lumbra('bake', shot, '--out', obj!, '--frames', '2-5')).code).toBe(0);
    const { code, stdout } = await lumbra('convert', obj!, '--to', 'glb', '--out', glb!);
    expect([code, stdout]).toEqual([0, 'to-obj: one mesh, one file written.\n']);
    const back = path.join(glb!, 'to-obj.glb');
    expect((await lumbra('convert', back, '--to', 'ply', '--out', ply!, '--step', '2')).code).toBe(0);
    expect(await readdir(path.join(ply!, 'sheet'))).toEqual(['0001.ply', '0003.ply']);
    const wanted = readObj(await readFile(path.join(obj!, 'sheet', '0004.obj'), 'utf8'));
    const found = (await readMeshFile('0003.ply', new Uint8Array(await readFile(path.join(ply!, 'sheet', '0003.ply')))))
      .parts[0]!.mesh;
    expect(found.positions).toHaveLength(wanted.positions.length);
    found.positions.forEach((value, i) => expect(Math.abs(value - wanted.positions[i]!)).toBeLessThan(1e-6));
    const still = path.join(folder, 'still.obj');
    await writeFile(still, 'v 0 0 0\nv 1 0 0\nv 0 1 0\nf 1 2 3\n');
    const refused = await lumbra('convert', still, '--to', 'ply', '--out', ply!);
    expect(refused.code).toBe(1);
    expect(refused.stderr).toMatch(/Nothing in it moves/);
  });

  it('writes valid GLB, for some of the frames', async () => {
    const out = path.join(folder, 'glb');
    expect((await lumbra('bake', shot, '--out', out, '--format', 'glb', '--frames', '2-6')).code).toBe(0);
    const report = await validateBytes(new Uint8Array(await readFile(path.join(out, 'T020.glb'))));
    expect(report.issues.numErrors).toBe(0);
    expect(report.info.hasMorphTargets).toBe(true);
  });

  it('does the finish list of each cloth, unless it is told not to', async () => {
    const file = path.join(folder, 'finished.lumbra');
    const { shot: document, assets } = await readShotFile(await readFile(shot));
    const finish = [finishEntrySchema.parse({ id: 's', step: { kind: 'subdivide' } })];
    const things = document.things.map((thing) => (thing.role === 'cloth' ? { ...thing, finish } : thing));
    await writeFile(file, await writeShotFile({ ...document, things }, assets));
    const faces = async (...more: string[]) => {
      const out = path.join(folder, `faces${more.length}`);
      expect((await lumbra('bake', file, '--out', out, '--frames', '1-1', ...more)).code).toBe(0);
      return readObj(await readFile(path.join(out, 'sheet', '0001.obj'), 'utf8')).triangles.length;
    };
    expect(await faces()).toBe(4 * (await faces('--unfinished')));
  });

  it.each([
    ['a file that is not there', ['bake', 'nowhere.lumbra', '--out', '.'], /there is no such file/],
    [
      'a format that it does not write',
      ['bake', 'SHOT', '--out', '.', '--format', 'xyz'],
      /Choose one of usdc, usda, glb, obj, ply, stl/,
    ],
    ['frames that make no range', ['bake', 'SHOT', '--out', '.', '--frames', '9-3'], /Give frames as FIRST-LAST/],
    ['frames before the shot', ['bake', 'SHOT', '--out', '.', '--frames', '-4-3'], /begins at frame 1/],
  ])('refuses %s with one clear line', async (_, args, words) => {
    const { code, stderr } = await lumbra(
      ...args.map((arg) => (arg === 'SHOT' ? shot : arg === '.' ? path.join(folder, 'none') : arg)),
    );
    expect(code).not.toBe(0);
    expect(stderr).toMatch(words);
    expect(stderr).not.toMatch(/\n\s+at /);
  });
});

describe('lumbra info', () => {
  let folder = '';
  beforeAll(async () => {
    folder = await mkdtemp(path.join(tmpdir(), 'lumbra-info-'));
  });

  it('says what a mesh file holds', async () => {
    const file = path.join(folder, 'leaf.obj');
    await writeFile(file, 'o Leaf\nv 0 0 0\nv 1 0 0\nv 0 2 0\nv 0 0 0\nf 1 2 3\n');
    const { code, stdout } = await lumbra('info', file);
    expect(code).toBe(0);
    expect(JSON.parse(stdout)).toMatchObject({
      format: 'obj',
      meshes: [
        { name: 'Leaf', points: 4, triangles: 1, size: [1, 2, 0], borders: 1, nonManifoldEdges: 0, duplicatePoints: 1 },
      ],
      clips: [],
    });
  });

  it('prints the outlines of a drawing, and what was left out', async () => {
    const file = path.join(folder, 'bag.svg');
    const inner = '<rect id="Front" width="40" height="50"/><circle cx="20" cy="20" r="5"/><text>up</text>';
    await writeFile(file, `<svg width="100mm" height="100mm" viewBox="0 0 100 100">${inner}</svg>`);
    const { code, stdout } = await lumbra('info', file);
    expect(code).toBe(0);
    const told = JSON.parse(stdout) as { outlines: { area: number }[] };
    expect(told).toMatchObject({
      format: 'svg',
      outlines: [{ name: 'Front', width: 0.04, height: 0.05, nodes: 4, holes: 1, creases: 0 }],
      leftOut: ['<text>'],
    });
    expect(told.outlines[0]!.area).toBeCloseTo(0.002 - Math.PI * 25e-6, 7);
  });

  it.each([
    ['nothing', '', /The file is empty/],
    ['a face without points', 'f 1 2 3\n', /has no points/],
  ])('refuses %s with one clear line', async (_, text, words) => {
    const file = path.join(folder, 'bad.obj');
    await writeFile(file, text);
    const { code, stdout, stderr } = await lumbra('info', file);
    expect(code).toBe(1);
    expect(stdout).toBe('');
    expect(stderr).toMatch(words);
    expect(stderr.trim().split('\n')).toHaveLength(1);
  });
});

describe('lumbra check', () => {
  const sheet = createCloth({ id: 'sheet', name: 'Sheet', position: [0, 1, 0] });
  const ground = createCollider({ id: 'ground', name: 'Ground', shape: { kind: 'ground' } });
  async function checked(things: Thing[], more: { gravity?: { enabled: boolean } } = {}) {
    const file = path.join(await mkdtemp(path.join(tmpdir(), 'lumbra-check-')), 'shot.lumbra');
    await writeFile(file, await writeShotFile(createShot({ name: 'Checked', things, ...more }), new Map()));
    return lumbra('check', file);
  }

  it('says that all is well', async () => {
    expect(await checked([sheet, ground])).toMatchObject({ code: 0, stdout: 'All checks pass.\n', stderr: '' });
  });

  it('fails for what has to be mended, and only looks at what is odd', async () => {
    const falling = await checked([sheet]);
    expect(falling.code).toBe(1);
    expect(falling.stdout).toMatch(/^mend: Nothing holds Sheet/m);
    const floating = await checked([sheet, ground], { gravity: { enabled: false } });
    expect(floating.code).toBe(0);
    expect(floating.stdout).toMatch(/^look: Gravity is off/m);
  });

  it('refuses what is no shot file with one clear line', async () => {
    const { code, stderr } = await lumbra('check', 'nowhere.lumbra');
    expect(code).toBe(1);
    expect(stderr.trim()).toBe('lumbra: nowhere.lumbra: there is no such file.');
    const file = path.join(await mkdtemp(path.join(tmpdir(), 'lumbra-check-')), 'shot.lumbra');
    await writeFile(file, '{"version": 99}');
    const other = await lumbra('check', file);
    expect(other.code).toBe(1);
    expect(other.stderr.trim().split('\n')).toHaveLength(1);
  });
});

describe('lumbra serve', () => {
  it.each(['70000', 'eighty'])('refuses the port %s', async (port) => {
    const { code, stderr } = await lumbra('serve', `--port=${port}`);
    expect(code).not.toBe(0);
    expect(stderr).toContain('Give a port from 0 to 65535.');
  });
});
