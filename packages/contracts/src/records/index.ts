import { acceptedClash } from './accepted-clash.ts';
import { componentName } from './component-name.ts';
import { keptSection } from './kept-section.ts';
import { keptWeight } from './kept-weight.ts';
import { ledgerEntry } from './ledger-entry.ts';
import { componentMaterial, partMaterial, typedMass } from './materials.ts';
import { home, upAxis } from './model-settings.ts';
import { pickSet } from './pick-set.ts';
import { putAside } from './put-aside.ts';
import type { RecordKind } from './record-kind.ts';
import { referenceSystem } from './reference-system.ts';
import { savedView } from './saved-view.ts';
import { sealedHollow } from './sealed-hollow.ts';

/** Every kind of thing that is kept of a model: a new one is a file beside these and a line here. */
const KINDS = [
  ledgerEntry,
  pickSet,
  keptSection,
  acceptedClash,
  referenceSystem,
  partMaterial,
  componentMaterial,
  typedMass,
  sealedHollow,
  keptWeight,
  componentName,
  upAxis,
  home,
  savedView,
  putAside,
];

export const RECORD_KINDS: ReadonlyMap<string, RecordKind> = new Map(
  KINDS.map((kind) => [kind.name, kind as unknown as RecordKind] as const),
);

export {
  acceptedClash,
  componentMaterial,
  componentName,
  home,
  keptSection,
  keptWeight,
  ledgerEntry,
  partMaterial,
  pickSet,
  putAside,
  referenceSystem,
  savedView,
  sealedHollow,
  typedMass,
  upAxis,
};
export { lifted, type RecordKind } from './record-kind.ts';
export { MOST_SLOTS, RECALL_ALL, type RecallParts, type SavedView } from './saved-view.ts';
export { PLAIN_HOME, type HomeSetting } from './model-settings.ts';
export type { AcceptedClash } from './accepted-clash.ts';
export type { KeptSection } from './kept-section.ts';
export type { KeptWeight } from './kept-weight.ts';
export type { LedgerEntry } from './ledger-entry.ts';
export type { PickSet } from './pick-set.ts';
export type { ReferenceSystem } from './reference-system.ts';
