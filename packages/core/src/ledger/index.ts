export { deviationsOf, NoSuchClass, readClass, type ToleranceClass } from './iso-286.ts';
export { limits, readTolerance, toleranceText, type ReadTolerance, type Tolerance } from './tolerance.ts';
export { limitsOf, readKeptFigure, verdictOf, type KeptFigure, type Verdict } from './kept-figure.ts';
export { fieldOfKind, keptKind, oneOfKind, writtenFigure, type KeptKind } from './kept-kind.ts';
