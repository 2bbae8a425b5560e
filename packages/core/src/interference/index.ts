export { FEW_RAYS, meshOverlap, type MeshOverlap } from './mesh-overlap.ts';
export { facesWithin, isInside, meshDistance, meshGap, solidMesh, type SolidMesh } from './solid-mesh.ts';
export { boxPairs } from './box-pairs.ts';
