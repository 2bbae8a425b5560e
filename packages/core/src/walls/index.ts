export { largestBall, middleOf, thicknessAt, type Thickness } from './inscribed-ball.ts';
export { wallAt, wallMap, type WallMap } from './wall-map.ts';
export { wallBetween } from './wall-between.ts';
