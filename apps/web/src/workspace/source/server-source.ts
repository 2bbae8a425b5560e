import type { ClashCheck } from '@bathyscope/contracts';
import { api, ApiError } from '../../api/api.ts';
import type { EventLine } from '../../api/events.ts';
import type { ModelSource } from './source.ts';
import { browserOutbox } from '../keeping/unsent.ts';
import { underBase } from '../../api/under-base.ts';

/** What of a model is opened: a revision instead of the newest, a state instead of the last. */
export interface Opened {
  revision?: number;
  link?: string;
}

/** A model that the server keeps. @param events what tells of changes */
export function serverSource(
  id: string,
  events: EventLine,
  { revision: wanted, link }: Opened = {},
): ModelSource {
  let revision = wanted ?? 1;
  return {
    model: id,
    can: { ask: true, keep: true, upload: true, live: true },
    structure: async () => {
      const detail = await api.model(id, wanted);
      revision = detail.revision;
      return detail;
    },
    revision: (other) => api.model(id, other),
    geometry: (hash, signal) => api.geometry(hash, signal),
    ask: (name, asked) => api.ask(id, revision, name, asked),
    checks: {
      ask: (about, among, some) =>
        api.askCheck(id, revision, { about, ...(among && { among }), ...(some && { some }) }),
      find: (check) => foundCheck(id, revision, check),
      newest: async () => (await api.newestCheck(id, revision)).check,
      stop: async ({ jobId }) => void (jobId && (await api.cancelJob(jobId))),
    },
    records: {
      list: (ids) => api.records(id, ids),
      bin: () => api.binnedRecords(id),
      change: (changes) => api.changeRecords(id, changes, revision),
      purge: (record) => api.purgeRecord(id, record),
      setPicture: (record, png) => api.setRecordPicture(id, record, png),
      follow: (hear, opened) => events.follow({ model: id, onRecord: hear, onOpen: opened }),
    },
    outbox: browserOutbox(),
    library: { list: api.materials, save: api.saveMaterial, remove: api.removeMaterial },
    states: {
      first: () => (link ? api.link(id, link) : api.viewState(id)),
      saveLast: (document) => api.saveViewState(id, document, revision),
      rename: async (name) => void (await api.rename(id, name)),
      setThumbnail: (png) => api.setThumbnail(id, png),
      createLink: async (document) =>
        underBase(
          `/models/${id}/revisions/${revision}/at/${(await api.createLink(id, document, revision)).id}`,
        ),
    },
  };
}

/** A check that is gone was given up, which its job tells, or stopped by somebody. */
async function foundCheck(
  id: string,
  revision: number,
  { id: check, jobId }: ClashCheck,
): Promise<ClashCheck> {
  try {
    return await api.check(id, revision, check);
  } catch (error) {
    if (!(error instanceof ApiError) || error.status !== 404) throw error;
    const job = jobId ? await api.job(jobId).catch(() => null) : null;
    throw new Error(job?.problem?.detail ?? 'The check was stopped.', { cause: error });
  }
}
