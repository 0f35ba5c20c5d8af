import { existsSync, mkdirSync, readFileSync, renameSync, statSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { fileURLToPath, pathToFileURL } from 'node:url';

const here = path.dirname(path.dirname(fileURLToPath(import.meta.url)));
const root = path.dirname(path.dirname(here));
const output = path.join(here, 'build', 'lumbra.mjs');
const inputs = path.join(here, 'build', 'inputs.json');

/** What tells whether a file is still the one that it was. */
function stampOf(file) {
  const { mtimeMs, size } = statSync(path.join(root, file), { throwIfNoEntry: false }) ?? {};
  return `${mtimeMs} ${size}`;
}

function isFresh() {
  if (!existsSync(output) || !existsSync(inputs)) return false;
  const known = Object.entries(JSON.parse(readFileSync(inputs, 'utf8')));
  return known.every(([file, stamp]) => stamp === stampOf(file));
}

/** What is written is whole at once: another `lumbra` may be starting too. */
function put(file, text) {
  const mine = `${file}.${process.pid}`;
  writeFileSync(mine, text);
  renameSync(mine, file);
}

/**
 * The sources of the command line and of what it stands on as one JavaScript module, made again where one of them has changed. Starting from some hundred
 * files of TypeScript takes four times as long. Gives the path of the module.
 */
export async function bundled() {
  if (isFresh()) return output;
  const { build } = await import('esbuild');
  const { outputFiles, metafile } = await build({
    ...{ entryPoints: [path.join(here, 'src', 'main.ts')], outfile: output, absWorkingDir: root },
    ...{ bundle: true, platform: 'node', format: 'esm', target: 'node20', sourcemap: 'inline' },
    ...{ write: false, metafile: true, logLevel: 'error' },
    plugins: [{ name: 'our own only', setup: leaveOthers }],
  });
  mkdirSync(path.dirname(output), { recursive: true });
  put(output, outputFiles[0].text);
  put(inputs, JSON.stringify(Object.fromEntries(Object.keys(metafile.inputs).map((file) => [file, stampOf(file)]))));
  return output;
}

/** Of ours what starts threads from files that lie beside it. */
const OWN_FILES = ['@lumbra/kernel/node'];

/** Packages that are not ours stay where they are: there where whoever asks for them finds them, since two of ours may have different versions of one. */
function leaveOthers({ onResolve, resolve }) {
  onResolve({ filter: /^[^./]/ }, async ({ path: name, kind, resolveDir, pluginData }) => {
    const ours = name.startsWith('@lumbra/') && !OWN_FILES.includes(name);
    if (pluginData === 'asked' || kind === 'entry-point' || ours) return undefined;
    if (name.startsWith('node:')) return { path: name, external: true };
    const { path: file, errors } = await resolve(name, { kind, resolveDir, pluginData: 'asked' });
    return errors.length > 0 ? { errors } : { path: pathToFileURL(file).href, external: true };
  });
}
