export * from './math/vec3.ts';
export type { Point2 } from './math/point2.ts';
export * from './math/mat4.ts';
export { patchDistance, piecesIn, type NearestPair, type Patch } from './math/patch-distance.ts';
export * from './math/box3.ts';
export { isValues, ownOf, withOwn } from './tables/own.ts';
export { highestBetween } from './math/golden-section.ts';
export { distanceToSegment } from './math/segment-distance.ts';
export { symmetricEigen } from './math/eigen.ts';
export * from './tolerances.ts';
export type * from './geometry/part-geometry.ts';
export { withinOf, worstOf, type Accuracy, type SumAccuracy } from './geometry/accuracy.ts';
export { boxWithin, exactBox, isCovered, isKnownCurve, knownBox } from './geometry/exact-box.ts';
export { meshDeviation, type Deviation } from './meshing/mesh-deviation.ts';
export { meshWithinChord, refineWithinChord } from './meshing/mesh-within-chord.ts';
export { roundSurface, type MeshedSurface } from './meshing/round-surface.ts';
export { meshedSurface } from './meshing/surface-distance.ts';
export { ringMesh, type RingMesh } from './geometry/ring-mesh.ts';
export { recogniseSurface, type RecognisedSurface } from './recognise/recognise-surface.ts';
export { recogniseCurve, type RecognisedCurve } from './recognise/recognise-curve.ts';
export { recogniseHoles } from './holes/recognise-holes.ts';
export { facesOfHole, type Hole, type HoleStep, type HoleStepKind } from './geometry/hole.ts';
export { combineMass, placeMass, type Matrix3 } from './mass/combine-mass.ts';
export {
  materialById,
  MATERIAL_FAMILIES,
  MATERIALS,
  type LibraryMaterial,
  type MaterialFamily,
} from './mass/materials.ts';
export {
  ellipsoidOf,
  inertiaIn,
  densityText,
  massText,
  weigh,
  weighOne,
  type TypedMass,
  type Weighable,
  type Weighed,
  type Weight,
} from './mass/weigh.ts';
export { figureList, massFigures, unitOfFigure, type MassFigure } from './mass/mass-figures.ts';
export { BadMaterialTable, readMaterialTable, type GivenByTable } from './mass/material-table.ts';
export { messageOf } from './tables/message-of.ts';
export { MATERIAL_TONES, toneOfMaterial } from './mass/material-tone.ts';
export { lookOfMaterial, MATERIAL_LOOKS, type MaterialLook } from './mass/material-look.ts';
export { readDensity, type ReadDensity } from './mass/read-density.ts';
export { areaWithin } from './mass/area-within.ts';
export { massWithin } from './mass/mass-within.ts';
export { orientedBox, type OrientedBox } from './mass/oriented-box.ts';
export {
  aboutAxis,
  groundPoints,
  GRAVITY,
  hangingFrom,
  NoSupport,
  ON_GROUND,
  standingOn,
  type Standing,
} from './mass/balance.ts';
export {
  afloat,
  displacedAfloat,
  NoBallast,
  neutralBallast,
  rightingArms,
  type Afloat,
  type Ballast,
  type Immersed,
} from './mass/buoyancy.ts';
export { areaOfMesh, meshMass } from './mass/mesh-mass.ts';
export { armsAfloat, Hull, type Floating, type Metacentre } from './mass/waterline.ts';
export { integrateFace, isFree, type FreeSurface, type ParametricSurface } from './mass/face-integrals.ts';
export { placeOn, rangeOf, type BoundaryCurve } from './mass/boundary-curve.ts';
export { MOMENTS, type FaceSums } from './mass/line-sums.ts';
export { hollowsOf, overlapOf, type Hollow, type Overlap, type RayMesh } from './mass/fill-rays.ts';
export type { SampledSurface } from './mass/patch.ts';
export { placeOnSurface, sineTo, steepestWay, type PlaceOnSurface } from './mass/surface-place.ts';
export {
  breaksOf,
  curveEvaluator,
  surfaceEvaluator,
  type SplineBasis,
  type SplineCurve2,
  type SplineSurface,
} from './mass/splines.ts';
export { figuresOfMoments } from './mass/sum-moments.ts';
export * from './model/structure.ts';
export { placedBox, placedBoxKnown } from './geometry/placed-box.ts';
export { summariseModel, type ModelCounts, type ModelSummary } from './model/summarise-model.ts';
export * from './visibility/component-states.ts';
export { neighboursWithin, type PlacedMesh } from './visibility/neighbours.ts';
export * from './style/view-style.ts';
export * from './references/reference-geometry.ts';
export { drawnAxis, drawnPlane } from './references/drawn-reference.ts';
export { meshEdges, triangleEdges, type MeshEdges } from './drawing/mesh-edges.ts';
export { capTriangles, type DrawnCap, type DrawnSection } from './drawing/drawn-section.ts';
export {
  cutChain,
  cutTriangle,
  heightOver,
  isTaken,
  opposite,
  planeThrough,
  raised,
  takesPoint,
  type Combination,
  type CutBy,
  type Plane,
} from './math/plane.ts';
export { hiddenLineDrawing, type DrawnComponent, type HiddenLineOptions } from './drawing/hidden-lines.ts';
export * from './drawing/drawing.ts';
export { measurePair, PAIR_RULES, type PairFigures } from './measure/measure-pair.ts';
export * from './measure/measured-shape.ts';
export { nearSegment } from './camera/near-segment.ts';
export { derivedPoints, pointOnEdge, pointOnFace, type DerivedPoint } from './snaps/derived-points.ts';
export { crossingOfEdges, snapPoints, type SnapHit } from './snaps/snap-points.ts';
export { snapName, type Snap } from './references/snap.ts';
export { measuringTable } from './measure/measuring-table.ts';
export { shapeOfPick } from './measure/shape-of-pick.ts';
export {
  migrateViewState,
  understoodViewState,
  VIEW_STATE_VERSION,
  ViewStateError,
  type CameraPart,
  type HingePart,
  type PanePart,
  type PanesPart,
  type ViewState,
} from './view-state/view-state.ts';
export * from './math/quaternion.ts';
export * from './camera/view-camera.ts';
export * from './camera/move-camera.ts';
export * from './camera/fit-view.ts';
export { scaleBar } from './camera/scale-bar.ts';
export * from './camera/directions.ts';
export * from './camera/between-views.ts';
export * from './camera/view-trail.ts';
export * from './camera/pane-layout.ts';
export { boxesOnScreen, liesWithin, isSeenIn, outlineOf, type ScreenBox } from './picking/boxes-on-screen.ts';
export { nearestOnScreen, type ScreenComponent } from './camera/nearest-on-screen.ts';
export { reachOfComponents } from './camera/reach-of-components.ts';
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
} from './picking/pick-scene.ts';
export { boundsInView, gridFromMiddle, type Seen } from './picking/in-view.ts';
export { ComponentTree } from './picking/component-tree.ts';
export { CHART_PALETTE, componentColour, fromHex, mostOf, partColour } from './colours/chart-palette.ts';
export {
  fixed,
  formatQuantity,
  formatWithin,
  significant,
  LENGTH_DECIMALS,
  LENGTH_UNITS,
  shortLength,
  type FormattedQuantity,
  type LengthUnit,
  type QuantityKind,
  MILLIMETRES,
} from './units/format-quantity.ts';
export {
  ANGLE_STYLES,
  decimalsOf,
  INCH_STYLES,
  MOST_PRECISION,
  PLAIN_PRECISION,
  plainStyle,
  type UnitStyle,
} from './units/unit-style.ts';
export { bareUnit, readQuantity, type FieldKind, type ReadQuantity } from './units/read-quantity.ts';
export {
  describePick,
  type Fact,
  type FactValue,
  type PickFacts,
  type PickedPart,
} from './facts/describe-pick.ts';
export {
  fingerprintOf,
  isReference,
  readReference,
  resolveReference,
  worseStatus,
  type Fingerprint,
  type IndexedKind,
  type Reference,
  type ReferenceScope,
  type Resolved,
} from './references/reference.ts';
export { partKeys } from './model/part-keys.ts';
export {
  matchParts,
  partsAlike,
  unchangedPart,
  type MatchedPart,
  type MatchedThings,
} from './revisions/match-parts.ts';
export { matchStructures, type Carried, type MatchedStructures } from './revisions/match-structures.ts';
export { carriedReference, motionOfReference, type RevisionMatch } from './revisions/carry-reference.ts';
export {
  carryOverOf,
  carryState,
  mapReferences,
  placeThere,
  referencesIn,
  carryDocument,
  type CarryOver,
} from './revisions/carry-document.ts';
export { mergeKept } from './view-state/merge-kept.ts';
export { directionOfPick, normalAt, type PickDirection, type PlacedPick } from './facts/direction-of-pick.ts';
export { coaxialFaces, facesOfSameRadius, tangentFaces } from './picking/similar-faces.ts';
export { withDimensions } from './drawing/drawing-dimensions.ts';
export { writeSvg, type SheetOptions } from './drawing/write-svg.ts';
export { plainCurves, wholeTurnDegrees, type PlainCurves } from './drawing/plain-curves.ts';
export * from './section/mesh/cap-of-loops.ts';
export * from './section/curves/chain-curves.ts';
export * from './section/curves/curves-of-loop.ts';
export * from './section/pick-cut.ts';
export * from './facts/describe-cut.ts';
export * from './facts/bound-text.ts';
export * from './facts/fact-text.ts';
export * from './section/curves/straighten.ts';
export * from './section/mesh/clip-loops.ts';
export * from './drawing/cut-drawing.ts';
export { xmlText, type SheetMap } from './drawing/svg-sheet.ts';
export {
  cutComponents,
  planeInPart,
  type ComponentCut,
  type CutInput,
} from './section/mesh/cut-components.ts';
export { cutsAgree, type ExactLoops } from './section/cuts-agree.ts';
export * from './section/hatch-patterns.ts';
export * from './section/planes/left-whole.ts';
export * from './section/curves/plane-curves.ts';
export { ontoPlane, traceCut, type TracedCut } from './section/curves/trace-cut.ts';
export * from './section/planes/plane-position.ts';
export * from './section/planes/section-plane.ts';
export {
  aboutPoint,
  combineSections,
  sectionProperties,
  type SectionProperties,
} from './section/section-properties.ts';
export { sliceMesh, type CutPlane, type MeshSlice } from './section/mesh/slice-mesh.ts';
export * from './section/planes/suggest-whole.ts';
export { largestBall, middleOf, thicknessAt, type Thickness } from './walls/inscribed-ball.ts';
export { FEW_RAYS, meshOverlap, type MeshOverlap } from './interference/mesh-overlap.ts';
export {
  facesWithin,
  isInside,
  meshDistance,
  meshGap,
  solidMesh,
  type SolidMesh,
} from './interference/solid-mesh.ts';
export { boxPairs } from './interference/box-pairs.ts';
export { placeLabels, type LabelBox } from './measure/place-labels.ts';
export { patternOf, type HolePattern } from './holes/hole-patterns.ts';
export { likelyFor, type LikelyUse } from './holes/likely-for.ts';
export { deviationsOf, NoSuchClass, readClass, type ToleranceClass } from './ledger/iso-286.ts';
export {
  limits,
  readTolerance,
  toleranceText,
  type ReadTolerance,
  type Tolerance,
} from './ledger/tolerance.ts';
export { limitsOf, readKeptFigure, verdictOf, type KeptFigure, type Verdict } from './ledger/kept-figure.ts';
export { fieldOfKind, keptKind, oneOfKind, writtenFigure, type KeptKind } from './ledger/kept-kind.ts';
export * from './math/axes.ts';
export * from './measure/reference-system.ts';
export { measureThreePoints } from './measure/three-points.ts';
export { greatestDistance } from './measure/greatest-distance.ts';
export * from './measure/flat-dimension.ts';
export { dimensionMarks, TEXT_SIZE, type DimensionMarks } from './measure/dimension-marks.ts';
export type { DimensionShape } from './measure/dimension-shape.ts';
export type { DrawnDimension } from './measure/flatten-dimension.ts';
export { wallAt, wallMap, type WallMap } from './walls/wall-map.ts';
export { wallBetween } from './walls/wall-between.ts';
