// A helper thread on Node.
import { parentPort } from 'node:worker_threads';
import { serveCall } from './serveCall.js';

parentPort.on('message', serveCall);
