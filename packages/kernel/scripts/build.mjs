// Compiles the kernel to WebAssembly and writes it as a JavaScript module that holds the bytes, so that the
// page, its workers, the server and the command line all load it the same way, without fetching anything.
// Does nothing when the sources have not changed since the last build.
import { createHash } from 'node:crypto';
import { existsSync, mkdirSync, readFileSync, readdirSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { fileURLToPath } from 'node:url';

const here = path.dirname(path.dirname(fileURLToPath(import.meta.url)));
const assembly = path.join(here, 'assembly');
const build = path.join(here, 'build');
const output = path.join(build, 'kernel.js');

const hash = createHash('sha256').update(readFileSync(fileURLToPath(import.meta.url)));
for (const sources of [assembly, path.join(here, 'layouts')]) {
  for (const file of readdirSync(sources, { recursive: true }).sort()) {
    if (!file.endsWith('.ts')) continue;
    hash.update(file).update(readFileSync(path.join(sources, file)));
  }
}
const stamp = `// sources ${hash.digest('hex')}\n`;

/** Compiles the kernel; gives its bytes in base64. On shared memory several threads can work on a run. */
async function compile(asc, shared) {
  const wasm = path.join(build, shared ? 'kernel.shared.wasm' : 'kernel.wasm');
  const memory = shared ? ['--sharedMemory', '--maximumMemory', '65536'] : [];
  const { error, stderr } = await asc.main(
    [
      path.join(assembly, 'index.ts'),
      ...[
        '--outFile',
        wasm,
        '-O3',
        '--debug',
        '--noAssert',
        '--converge',
        '--runtime',
        'stub',
        '--exportStart',
        'start',
      ],
      ...['--enable', 'simd', '--enable', 'threads', '--importMemory', '--initialMemory', '1', ...memory],
    ],
    { stderr: process.stderr },
  );
  if (error) {
    console.error(`kernel: ${error.message}\n${stderr}`);
    process.exit(1);
  }
  return readFileSync(wasm).toString('base64');
}

if (!existsSync(output) || !readFileSync(output, 'utf8').startsWith(stamp)) {
  const { default: asc } = await import('assemblyscript/asc');
  mkdirSync(build, { recursive: true });
  const [alone, shared] = [await compile(asc, false), await compile(asc, true)];
  const decode = 'const decode = (text) => Uint8Array.from(atob(text), (c) => c.charCodeAt(0));';
  const bytes = (name, text) => `export const ${name} = () => decode(${JSON.stringify(text)});`;
  writeFileSync(
    output,
    [stamp + decode, bytes('kernelBytes', alone), bytes('sharedKernelBytes', shared), ''].join('\n'),
  );
  console.log(`kernel: built twice, ${Math.round((shared.length * 3) / 4 / 1024)} kB`);
}
