/** What the kernel asks of whoever runs it, on a memory. */
export declare function kernelImports(memory: WebAssembly.Memory): WebAssembly.Imports;
