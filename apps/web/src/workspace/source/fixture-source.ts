import type { ModelDetail, OwnMaterial } from '@bathyscope/contracts';
import type { CheckStore, ModelSource, RecordStore } from './source.ts';
import { memoryRecords } from './memory-records.ts';
import { fleetingOutbox } from '../keeping/unsent.ts';

const nowhere = (): Promise<never> => Promise.reject(new Error('There is no kernel to ask here.'));

/**
 * A model without a server: what is kept of it is kept in memory. @param containers
 * geometry containers by hash
 */
export function fixtureSource(
  detail: ModelDetail,
  containers: ReadonlyMap<string, Uint8Array> = new Map(),
  ask: ModelSource['ask'] = nowhere,
  checks: CheckStore = { ask: nowhere, find: nowhere, newest: async () => null, stop: async () => {} },
  records: RecordStore = memoryRecords(),
  others: ReadonlyMap<number, ModelDetail> = new Map(),
): ModelSource {
  let last: unknown = null;
  let own: OwnMaterial[] = [];
  let made = 0;
  return {
    model: detail.id,
    can: { ask: ask !== nowhere, keep: true, upload: false, live: true },
    records,
    outbox: fleetingOutbox(),
    structure: async () => detail,
    revision: async (revision) => {
      const other = others.get(revision);
      if (!other) throw new Error(`The fixture has no revision ${revision}.`);
      return other;
    },
    geometry: async (hash) => {
      const container = containers.get(hash);
      if (!container) throw new Error(`The fixture has no geometry ${hash}.`);
      return container.slice().buffer as ArrayBuffer;
    },
    ask,
    checks,
    library: {
      list: async () => own,
      save: async (material) => void (own = [...own.filter((m) => m.id !== material.id), material]),
      remove: async (id) => void (own = own.filter((m) => m.id !== id)),
    },
    states: {
      first: async () => ({ document: last, revision: detail.revision }),
      saveLast: async (document) => void (last = structuredClone(document)),
      rename: async () => {},
      setThumbnail: async () => {},
      createLink: async () => `/fixture/${++made}`,
    },
  };
}
