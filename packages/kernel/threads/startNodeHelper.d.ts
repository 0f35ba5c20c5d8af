import type { HelperCall } from './serveCall.js';

/** Starts a helper thread on Node; it does not keep the process alive. */
export declare function startNodeHelper(): { call(call: HelperCall): void; end(): void };
