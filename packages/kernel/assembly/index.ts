// The hot loops of Lumbra's solver. Every function works on byte addresses that core lays out; nothing here
// allocates. See docs/solver.md for the method and ../layouts for how records lie.
export { closePool, isHelperLost, openPool, poolBytes, serve, shareWith } from './threads/pool';
export { predict, farthest, finish, stay, setGravity } from './state';
export { addYarnFriction } from './yarnFriction';
export { solveMembrane, solveMembraneAgain, listStretched } from './membrane';
export { solveBendFlat, dampBendFlat } from './bendFlat';
export { pointNormals, solveBendCurled, keepCreases } from './bendCurled';
export { solveBendAngle, dampBendAngle } from './bendAngle';
export { solveAttachments } from './attachment';
export { carryPoints, solveHolds, solveTies } from './hold';
export { addAir, addPressure, addPull } from './air';
export { addEddies } from './eddies';
export { gatherContacts } from './contact/gather';
export { nearContacts } from './contact/near';
export { gatherSharp, isSharpOutdated, nearSharp } from './contact/sharp';
export { countPierced } from './contact/pierced';
export { solveContacts } from './contact/solve';
export { throwBack } from './contact/throwBack';
export { deepestContact, listToMeasure } from './contact/deepest';
export { clearRoom, isSqueezed, shareRoom, widenSqueezed } from './contact/room';
export { deformMesh } from './meshDistance';
export { setLayerData } from './layers/data';
export { taskBytes } from './layers/descent';
export { blockBytes, blocksFor } from './layers/listing';
export { makePlan, listEscaped } from './layers/trust';
export { queryLayers, extendLayers } from './layers/query';
export { keepLayersApart } from './layers/keepApart';
export { forbidCrossing } from './layers/forbidCrossing';
export { countCrossings, listTangled } from './layers/crossings';
export { refit as refitLayers } from './layers/tree';

/** First byte after the module's own data, where core may lay out its arrays. */
export function heapBase(): usize {
  return __heap_base;
}
