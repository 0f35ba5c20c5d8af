import { readFile, stat, writeFile } from 'node:fs/promises';
import path from 'node:path';
import { fileURLToPath, pathToFileURL } from 'node:url';
import { describe, expect, it } from 'vitest';

const cli = path.join(path.dirname(fileURLToPath(import.meta.url)), '..');
const { bundled } = (await import(pathToFileURL(path.join(cli, 'scripts', 'bundle.mjs')).href)) as {
  bundled: () => Promise<string>;
};

describe('the one module of the command line', () => {
  it('is made again where a source has changed, and else is left', async () => {
    const file = await bundled();
    const { mtimeMs } = await stat(file);
    expect((await stat(await bundled())).mtimeMs).toBe(mtimeMs);
    const inputs = path.join(cli, 'build', 'inputs.json');
    const known = JSON.parse(await readFile(inputs, 'utf8')) as Record<string, string>;
    expect(Object.keys(known)).toContain('packages/core/src/run/bakeRun.ts');
    await writeFile(inputs, JSON.stringify({ ...known, 'packages/core/src/run/bakeRun.ts': 'of yesterday' }));
    expect((await stat(await bundled())).mtimeMs).toBeGreaterThan(mtimeMs);
    expect(JSON.parse(await readFile(inputs, 'utf8'))).toEqual(known);
  });

  it('takes packages of others in the versions that those who use them ask for', async () => {
    const text = await readFile(await bundled(), 'utf8');
    const [, address] = /from "(file:[^"]*\/nanoid\/[^"]*)"/.exec(text)!;
    const versionIn = async (folder: string, read: (of: Record<string, unknown>) => unknown) =>
      read(JSON.parse(await readFile(path.join(folder, 'package.json'), 'utf8')) as Record<string, unknown>);
    const file = fileURLToPath(address!);
    const folder = file.slice(0, file.lastIndexOf(`nanoid${path.sep}`) + 'nanoid'.length);
    const asked = await versionIn(path.join(cli, '..', 'core'), ({ dependencies }) => {
      return (dependencies as Record<string, string>)['nanoid'];
    });
    expect(await versionIn(folder, ({ version }) => version)).toBe(asked);
  });
});
