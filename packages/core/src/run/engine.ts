/**
 * The version of what computes runs: solver, kernel, and how a shot becomes a model. It is an input of every run, so that frames that an
 * older Lumbra computed are known to be stale. Raise it whenever the same shot gives other bits; `engine.test.ts` tells when that is.
 */
export const ENGINE_VERSION = 18;
