export { recogniseHoles } from './recognise-holes.ts';
export { patternOf, type HolePattern } from './hole-patterns.ts';
export { likelyFor, type LikelyUse } from './likely-for.ts';
