import { WebIO } from '@gltf-transform/core';
import { EXTMeshoptCompression, KHRDracoMeshCompression, KHRMeshQuantization } from '@gltf-transform/extensions';
import { MeshoptDecoder } from 'meshoptimizer';

/** How meshes may be packed in a glTF file, besides lying there plainly. */
export const PACKINGS: readonly string[] = [
  KHRDracoMeshCompression.EXTENSION_NAME,
  EXTMeshoptCompression.EXTENSION_NAME,
  KHRMeshQuantization.EXTENSION_NAME,
];

/** Starts the decoder of Draco; a browser has to say where its WebAssembly lies. */
export type StartDraco = () => Promise<unknown>;

/** Starts it from its WebAssembly at an address; without one, from its package, as node does. */
export function dracoAt(address?: string): StartDraco {
  return async () => {
    const { default: createDecoder } = await import('draco3dgltf/draco_decoder_gltf_nodejs.js');
    return createDecoder(address === undefined ? {} : { locateFile: () => address });
  };
}

/** A reader of glTF with the decoders that a file needs. */
export async function readerFor(extensions: readonly string[], start: StartDraco): Promise<WebIO> {
  const io = new WebIO().registerExtensions([KHRDracoMeshCompression, EXTMeshoptCompression, KHRMeshQuantization]);
  if (extensions.includes(KHRDracoMeshCompression.EXTENSION_NAME)) {
    io.registerDependencies({ 'draco3d.decoder': await start() });
  }
  if (extensions.includes(EXTMeshoptCompression.EXTENSION_NAME)) {
    await MeshoptDecoder.ready;
    io.registerDependencies({ 'meshopt.decoder': MeshoptDecoder });
  }
  return io;
}
