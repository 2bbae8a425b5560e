import type { ModelDetail, OwnMaterial, SavedView } from '@bathyscope/contracts';
import type { CheckStore, ModelSource, RecordStore } from './source.ts';
import { memoryRecords } from './memory-records.ts';
import { fleetingOutbox } from './unsent.ts';

const nowhere = (): Promise<never> => Promise.reject(new Error('There is no kernel to ask here.'));

/** A model without a server: what is kept of it is kept in memory. @param containers geometry containers by hash */
export function fixtureSource(
  detail: ModelDetail,
  containers: ReadonlyMap<string, Uint8Array> = new Map(),
  ask: ModelSource['ask'] = nowhere,
  checks: CheckStore = { ask: nowhere, find: nowhere, newest: async () => null, stop: async () => {} },
  records: RecordStore = memoryRecords(),
): ModelSource {
  let last: unknown = null;
  let views: SavedView[] = [];
  let own: OwnMaterial[] = [];
  let made = 0;
  const gone: SavedView[] = [];
  const change = (id: string, values: Partial<SavedView>): SavedView => {
    views = views.map((v) => (v.id === id ? { ...v, ...values } : v));
    return views.find((v) => v.id === id)!;
  };
  return {
    model: detail.id,
    records,
    outbox: fleetingOutbox(),
    structure: async () => detail,
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
      views: async () => views,
      followViews: () => () => {},
      saveView: async ({ name, slot, document }) => {
        const view: SavedView = {
          id: `view ${++made}`,
          revision: detail.revision,
          name,
          slot: slot ?? null,
          document,
          thumbnail: null,
          recall: { camera: true, projection: true, visibility: true, style: true, section: true },
        };
        views = [...views.map((v) => (v.slot === view.slot ? { ...v, slot: null } : v)), view];
        return view;
      },
      changeView: async (id, values) => change(id, values),
      orderViews: async (ids) => void (views = ids.flatMap((id) => views.filter((v) => v.id === id))),
      removeView: async (id) => {
        gone.push(...views.filter((v) => v.id === id));
        views = views.filter((v) => v.id !== id);
      },
      restoreView: async (id) => void (views = [...views, ...gone.filter((v) => v.id === id)]),
      setViewThumbnail: async (id) => change(id, {}),
      createLink: async () => `/fixture/${++made}`,
    },
  };
}
