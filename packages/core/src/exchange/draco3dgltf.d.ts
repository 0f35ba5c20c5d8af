declare module 'draco3dgltf/draco_decoder_gltf_nodejs.js' {
  export default function createDecoderModule(options?: { locateFile?: (name: string) => string }): Promise<unknown>;
}
declare module 'draco3dgltf' {
  const draco: { createEncoderModule: () => Promise<unknown> };
  export default draco;
}
