export { meshDeviation, type Deviation } from './mesh-deviation.ts';
export { meshWithinChord, refineWithinChord } from './mesh-within-chord.ts';
export { roundSurface, type MeshedSurface } from './round-surface.ts';
export { meshedSurface } from './surface-distance.ts';
