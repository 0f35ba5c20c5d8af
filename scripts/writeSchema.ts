// `npm run schema`: writes docs/shot.schema.json from the schema in core. With --check it only says whether it is current.
import { existsSync, readFileSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { fileURLToPath } from 'node:url';
import { shotJsonSchema } from '@lumbra/core';

const file = path.join(path.dirname(path.dirname(fileURLToPath(import.meta.url))), 'docs', 'shot.schema.json');
const text = JSON.stringify(shotJsonSchema(), null, 2) + '\n';
if (process.argv.includes('--check')) {
  const current = existsSync(file) && readFileSync(file, 'utf8') === text;
  console.log(current ? 'schema: docs/shot.schema.json is current' : 'schema: run `npm run schema`');
  process.exitCode = current ? 0 : 1;
} else {
  writeFileSync(file, text);
  console.log('schema: wrote docs/shot.schema.json');
}
