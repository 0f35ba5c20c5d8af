/** A reader of USD that is not ours, for tests. */
declare module 'tinyusdz/tinyusdz.js' {
  interface Layer {
    loadAsLayerFromBinary(bytes: Uint8Array, name: string): boolean;
    layerToString(): string;
    error(): string;
  }
  const start: (options: { wasmBinary: Uint8Array }) => Promise<{ TinyUSDZLoaderNative: new () => Layer }>;
  export default start;
}
