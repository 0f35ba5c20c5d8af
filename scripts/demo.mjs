// `npm run demo`: installs if needed, builds, serves, prints the address.
import { spawnSync } from 'node:child_process';
import { existsSync } from 'node:fs';
import path from 'node:path';
import { fileURLToPath } from 'node:url';

const root = path.dirname(path.dirname(fileURLToPath(import.meta.url)));

function run(command, args) {
  const { status } = spawnSync(command, args, { cwd: root, stdio: 'inherit' });
  if (status !== 0) process.exit(status ?? 1);
}

if (!existsSync(path.join(root, 'node_modules', '.package-lock.json'))) run('npm', ['ci']);
run('npm', ['run', '-s', 'build:parts']);
run('npm', ['run', '-s', 'build:app']);
run('npx', ['lumbra', 'serve', '--port', process.env.PORT ?? '4173']);
