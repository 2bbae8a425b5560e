export * from './reference-geometry.ts';
export { drawnAxis, drawnPlane } from './drawn-reference.ts';
export { snapName, type Snap } from './snap.ts';
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
} from './reference.ts';
