export { describePick, type Fact, type FactValue, type PickFacts, type PickedPart } from './describe-pick.ts';
export { directionOfPick, normalAt, type PickDirection, type PlacedPick } from './direction-of-pick.ts';
export * from './describe-cut.ts';
export * from './bound-text.ts';
export * from './fact-text.ts';
export { HOLE_FIGURES, stepsText, type HoleFigure } from './hole-facts.ts';
export { plainFigures } from './plain-figures.ts';
export { sectionFacts } from './section-facts.ts';
