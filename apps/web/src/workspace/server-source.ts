import { api } from '../api/api.ts';
import type { ModelSource } from './source.ts';

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
    states: {
      first: async () => (await (link ? api.link(id, link) : api.viewState(id))).document,
      saveLast: (document) => api.saveViewState(id, document),
      preferences: async () => (await api.preferences(id)).values,
      savePreferences: (values) => api.savePreferences(id, values),
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
