import { existsSync } from 'node:fs';
import type { AddressInfo } from 'node:net';
import path from 'node:path';
import { fileURLToPath } from 'node:url';
import compression from 'compression';
import express, { type Express } from 'express';

const APP = path.join(path.dirname(fileURLToPath(import.meta.url)), '..', '..', 'app', 'dist');

export interface ServeOptions {
  /** 0 takes any free port. */
  port: number;
  /** Folder with the built app. */
  folder?: string;
}

/** The app's server, not yet listening. Only files of the built app are ever read. */
export function createServer(folder: string): Express {
  const server = express();
  server.disable('x-powered-by');
  // On every response: without them on a worker's script the browser blocks the worker.
  server.use((_, response, next) => {
    response.set({
      'Cross-Origin-Opener-Policy': 'same-origin',
      'Cross-Origin-Embedder-Policy': 'require-corp',
      'X-Content-Type-Options': 'nosniff',
    });
    next();
  });
  server.use(compression());
  server.use(
    express.static(folder, {
      setHeaders: (response, file) => {
        const hashed = file.includes(`${path.sep}assets${path.sep}`);
        response.set('Cache-Control', hashed ? 'public, max-age=31536000, immutable' : 'no-cache');
      },
    }),
  );
  // Routes of the app are answered with the page; a missing file is missing.
  server.get('/{*any}', (request, response) => {
    if (path.extname(request.path)) response.status(404).type('text').send('Not found');
    else response.set('Cache-Control', 'no-cache').sendFile('index.html', { root: folder });
  });
  return server;
}

/**
 * Serves the built app on this machine; resolves to its address.
 * @throws Error when the app is not built or the port is taken
 */
export async function serve({ port, folder = APP }: ServeOptions): Promise<string> {
  if (!existsSync(path.join(folder, 'index.html'))) {
    throw new Error('The app is not built yet. Run “npm run build:app” first.');
  }
  return new Promise((resolve, reject) => {
    const listening = createServer(folder).listen(port, '127.0.0.1', (error?: Error) => {
      if (error) reject(new Error(`Port ${port} cannot be used: ${error.message}.`));
      else resolve(`http://localhost:${(listening.address() as AddressInfo).port}/`);
    });
  });
}
