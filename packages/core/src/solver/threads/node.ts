// Threads on Node: `useThreads(4, startNodeHelper)`.
export { startNodeHelper } from '@lumbra/kernel/node';
export { MOST_THREADS, threadsFor, useThreads } from './threads';
