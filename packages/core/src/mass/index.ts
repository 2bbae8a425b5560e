export { combineMass, placeMass, type Matrix3 } from './combine-mass.ts';
export {
  materialById,
  MATERIAL_FAMILIES,
  MATERIALS,
  type LibraryMaterial,
  type MaterialFamily,
} from './materials.ts';
export {
  ellipsoidOf,
  inertiaIn,
  densityText,
  massText,
  massOfSet,
  massOfOne,
  type TypedMass,
  type MassInput,
  type SetMass,
  type MassProperties,
} from './set-mass.ts';
export { figureList, massFigures, unitOfFigure, type MassFigure } from './mass-figures.ts';
export { BadMaterialTable, readMaterialTable, type GivenByTable } from './material-table.ts';
export { MATERIAL_TONES, toneOfMaterial } from './material-tone.ts';
export { lookOfMaterial, MATERIAL_LOOKS, type MaterialLook } from './material-look.ts';
export { readDensity, type ReadDensity } from './read-density.ts';
export { areaWithin } from './area-within.ts';
export { massWithin } from './mass-within.ts';
export { orientedBox, type OrientedBox } from './oriented-box.ts';
export {
  aboutAxis,
  groundPoints,
  GRAVITY,
  hangingFrom,
  NoSupport,
  ON_GROUND,
  standingOn,
  type Standing,
} from './balance.ts';
export {
  afloat,
  displacedAfloat,
  NoBallast,
  neutralBallast,
  rightingArms,
  type Afloat,
  type Ballast,
  type Immersed,
} from './buoyancy.ts';
export { areaOfMesh, meshMass } from './mesh-mass.ts';
export { armsAfloat, Hull, type Floating, type Metacentre } from './waterline.ts';
export { integrateFace, isFree, type FreeSurface, type ParametricSurface } from './face-integrals.ts';
export { placeOn, rangeOf, type BoundaryCurve } from './boundary-curve.ts';
export { MOMENTS, type FaceSums } from './line-sums.ts';
export { hollowsOf, overlapOf, type Hollow, type Overlap, type RayMesh } from './fill-rays.ts';
export type { SampledSurface } from './patch.ts';
export { placeOnSurface, sineTo, steepestWay, type PlaceOnSurface } from './surface-place.ts';
export {
  breaksOf,
  curveEvaluator,
  surfaceEvaluator,
  type SplineBasis,
  type SplineCurve2,
  type SplineSurface,
} from './splines.ts';
export { figuresOfMoments } from './sum-moments.ts';
