export {
  matchParts,
  partsAlike,
  unchangedPart,
  type MatchedPart,
  type MatchedThings,
} from './match-parts.ts';
export { matchStructures, type Carried, type MatchedStructures } from './match-structures.ts';
export { carriedReference, motionOfReference, type RevisionMatch } from './carry-reference.ts';
export {
  carryOverOf,
  carryState,
  mapReferences,
  placeThere,
  referencesIn,
  carryDocument,
  type CarryOver,
} from './carry-document.ts';
