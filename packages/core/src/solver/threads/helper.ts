// What a helper thread needs, and nothing else: see threads.ts.
export { serveCall, type HelperCall } from '@lumbra/kernel/serve';
