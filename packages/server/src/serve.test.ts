import { mkdtemp, mkdir, writeFile } from 'node:fs/promises';
import type { Server } from 'node:http';
import { request } from 'node:http';
import type { AddressInfo } from 'node:net';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { createServer, serve } from './serve';

let server: Server;
let port = 0;

beforeAll(async () => {
  const folder = await mkdtemp(path.join(tmpdir(), 'lumbra-server-'));
  await writeFile(path.join(folder, '..', 'secret.txt'), 'not for you');
  await writeFile(path.join(folder, 'index.html'), '<title>Lumbra</title>');
  await mkdir(path.join(folder, 'assets'));
  await writeFile(path.join(folder, 'assets', 'run.worker-1.js'), 'self.ready = true;');
  server = createServer(folder).listen(0);
  port = (server.address() as AddressInfo).port;
});
afterAll(() => server.close());

/** A raw request, so that nothing tidies the path on its way. */
function get(target: string): Promise<{ status: number; headers: NodeJS.Dict<string | string[]>; body: string }> {
  return new Promise((resolve, reject) => {
    const call = request({ port, path: target }, (response) => {
      let body = '';
      response.on('data', (part: Buffer) => (body += part.toString()));
      response.on('end', () => resolve({ status: response.statusCode ?? 0, headers: response.headers, body }));
    });
    call.on('error', reject);
    call.end();
  });
}

describe('server', () => {
  it.each(['/', '/shot/nf010', '/assets/run.worker-1.js', '/nothing.js'])('isolates %s', async (target) => {
    const { headers } = await get(target);
    expect(headers['cross-origin-opener-policy']).toBe('same-origin');
    expect(headers['cross-origin-embedder-policy']).toBe('require-corp');
  });

  it('answers routes of the app with the page and missing files with 404', async () => {
    expect((await get('/shot/abc')).body).toContain('Lumbra');
    expect((await get('/assets/missing.js')).status).toBe(404);
  });

  it.each(['/../secret.txt', '/..%2fsecret.txt', '/assets/../../secret.txt', '/%2e%2e/secret.txt'])(
    'never reads outside its folder: %s',
    async (target) => {
      expect((await get(target)).body).not.toContain('not for you');
    },
  );

  it('says what to do when the app is not built', async () => {
    await expect(serve({ port: 0, folder: '/nowhere' })).rejects.toThrow(/npm run build:app/);
  });

  it('says so when the port is taken', async () => {
    const folder = await mkdtemp(path.join(tmpdir(), 'lumbra-server-'));
    await writeFile(path.join(folder, 'index.html'), '');
    await expect(serve({ port, folder })).rejects.toThrow(new RegExp(`Port ${port} cannot be used`));
  });
});
