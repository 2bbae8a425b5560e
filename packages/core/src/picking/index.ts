export { boxesOnScreen, liesWithin, isSeenIn, outlineOf, type ScreenBox } from './boxes-on-screen.ts';
export {
  PickScene,
  buildPartBvh,
  bvhGeometry,
  faceOfTriangle,
  type EdgeReach,
  type PickComponent,
  type PickHit,
  type PickKind,
  type PickOptions,
} from './pick-scene.ts';
export { boundsInView, gridFromMiddle, type Seen } from './in-view.ts';
export { ComponentTree } from './component-tree.ts';
export { coaxialFaces, facesOfSameRadius, tangentFaces } from './similar-faces.ts';
