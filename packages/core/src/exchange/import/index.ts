// Reading meshes from files. An entry of its own, so that only what imports pays for the readers.
export * from './readMeshFile';
export * from './prepareMesh';
export { readSequence } from './readSequence';
export { takeOfMeshes } from './takeOfMeshes';
export * from './decoders';
export { readSvg, type SvgOutlines } from './svg/readSvg';
export type { Outline } from './svg/nest';
