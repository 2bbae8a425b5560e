export { recogniseSurface, type RecognisedSurface } from './recognise-surface.ts';
export { recogniseCurve, type RecognisedCurve } from './recognise-curve.ts';
