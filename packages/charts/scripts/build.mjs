// Bundles what draws the curves of a page, with the part of Chart.js that it uses, and writes it as a JavaScript module that
// holds the text: the page stands alone, and whoever makes it (the browser or the command line) only puts it in.
// Does nothing when neither the sources nor Chart.js have changed since the last build.
import { createHash } from 'node:crypto';
import { existsSync, mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { fileURLToPath } from 'node:url';

const here = path.dirname(path.dirname(fileURLToPath(import.meta.url)));
const source = path.join(here, 'src', 'drawCurves.ts');
const output = path.join(here, 'build', 'charts.js');

const hash = createHash('sha256');
for (const file of [fileURLToPath(import.meta.url), source, path.join(here, 'package.json')])
  hash.update(readFileSync(file));
const stamp = `// sources ${hash.digest('hex')}\n`;

if (!existsSync(output) || !readFileSync(output, 'utf8').startsWith(stamp)) {
  const { build } = await import('esbuild');
  const { outputFiles } = await build({
    ...{ entryPoints: [source], bundle: true, write: false, format: 'iife', minify: true, target: 'es2022' },
    legalComments: 'none',
    logLevel: 'error',
  });
  // What stands in a page must not end its script.
  const text = outputFiles[0].text.replaceAll('</script', '<\\/script');
  mkdirSync(path.dirname(output), { recursive: true });
  writeFileSync(output, `${stamp}export const chartScript = ${JSON.stringify(text)};\n`);
  console.log(`charts: built, ${Math.round(text.length / 1024)} kB`);
}
