/** The compiled WebAssembly module; it imports `env.memory`. */
export declare function kernelBytes(): Uint8Array<ArrayBuffer>;
/** The same on a memory that threads share. */
export declare function sharedKernelBytes(): Uint8Array<ArrayBuffer>;
