/** The compiled WebAssembly module. Compile it with `new WebAssembly.Module(kernelBytes)`. */
export declare const kernelBytes: Uint8Array<ArrayBuffer>;
