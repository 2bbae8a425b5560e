import { mergeKept } from '@bathyscope/core';
import type { ClashCheck } from '@bathyscope/contracts';
import { api, ApiError } from '../api/api.ts';
import type { ModelSource, StateStore } from './source.ts';

/** A model that the server keeps. @param link the state to open with, instead of the last */
export function serverSource(id: string, link?: string): ModelSource {
  let revision = 1;
  return {
    structure: async () => {
      const detail = await api.model(id);
      revision = detail.revision;
      return detail;
    },
    geometry: (hash, signal) => api.geometry(hash, signal),
    ask: (name, asked) => api.ask(id, revision, name, asked),
    checks: {
      ask: (about, among, some) => api.askCheck(id, revision, { about, ...(among && { among }), ...(some && { some }) }),
      find: (check) => foundCheck(id, revision, check),
      newest: async () => (await api.newestCheck(id, revision)).check,
      stop: async ({ jobId }) => void (jobId && (await api.cancelJob(jobId))),
    },
    library: { list: api.materials, save: api.saveMaterial, remove: api.removeMaterial },
    states: {
      first: () => (link ? api.link(id, link) : api.viewState(id)),
      saveLast: (document) => api.saveViewState(id, document),
      ...keptPreferences(id),
      rename: async (name) => void (await api.rename(id, name)),
      setThumbnail: (png) => api.setThumbnail(id, png),
      views: () => api.savedViews(id),
      saveView: (view) => api.saveView(id, view),
      changeView: (view, change) => api.changeView(id, view, change),
      orderViews: (ids) => api.orderViews(id, ids),
      removeView: (view) => api.removeView(id, view),
      restoreView: (view) => api.restoreView(id, view),
      setViewThumbnail: (view, png) => api.setViewThumbnail(id, view, png),
      createLink: async (document) => `/models/${id}/at/${(await api.createLink(id, document)).id}`,
    },
  };
}

/** A check that is gone was given up, which its job tells, or stopped by somebody. */
async function foundCheck(id: string, revision: number, { id: check, jobId }: ClashCheck): Promise<ClashCheck> {
  try {
    return await api.check(id, revision, check);
  } catch (error) {
    if (!(error instanceof ApiError) || error.status !== 404) throw error;
    const job = jobId ? await api.job(jobId).catch(() => null) : null;
    throw new Error(job?.problem?.detail ?? 'The check was stopped.', { cause: error });
  }
}

/** Attempts to put one's changes to what others change at the same time. */
const ATTEMPTS = 5;
const CHANGED_MEANWHILE = 409;

/** What is kept of a model by several people: each change is made of a version, and put to the newer one where there is one. */
function keptPreferences(id: string): Pick<StateStore, 'preferences' | 'savePreferences'> {
  let base: Record<string, unknown> | null = null;
  let version = 0;
  const read = async () => {
    ({ values: base, version } = await api.preferences(id));
    return base;
  };
  const save = async (values: Record<string, unknown>, attempts: number): Promise<Record<string, unknown> | null> => {
    try {
      ({ version } = await api.savePreferences(id, values, version));
      base = values;
      return null;
    } catch (error) {
      if (!(error instanceof ApiError) || error.status !== CHANGED_MEANWHILE || attempts <= 1) throw error;
    }
    const began = base;
    const merged = mergeKept(began, values, await read()) as Record<string, unknown>;
    return (await save(merged, attempts - 1)) ?? merged;
  };
  // One after another: two at once would be made of the same version, and one would take the other for someone else's.
  let last: Promise<unknown> = Promise.resolve();
  /** The newest values that still wait. */
  let sent: Record<string, unknown> | null = null;
  const inTurn = (values: Record<string, unknown>) => {
    const madeOf = sent ?? base;
    sent = values;
    const mine = last.then(async () => {
      try {
        if (madeOf === base) return await save(values, ATTEMPTS);
        // What came in while this one waited is not overwritten either.
        const put = mergeKept(madeOf, values, base) as Record<string, unknown>;
        return (await save(put, ATTEMPTS)) ?? put;
      } finally {
        if (sent === values) sent = null;
      }
    });
    last = mine.catch(() => {});
    return mine;
  };
  return { preferences: read, savePreferences: inTurn };
}
