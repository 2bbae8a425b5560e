import {
  isValues,
  liftPath,
  mergeKept,
  readKeptFigure,
  readReference,
  readSection,
  type Reference,
  understoodViewState,
  type ViewState,
} from '@bathyscope/core';
import type { ModelPreference } from '../state/preference-store.ts';
import { list, readMass } from './read-mass.ts';

/* What is kept of a model, read from what may be anything, and changed without touching what is not known. */

type Values = Record<string, unknown>;

/** A state as it was left; null where there is none, or none that this version can read: it stays as it is. */
export function lastState(document: unknown): ViewState | null {
  try {
    return document ? understoodViewState(document) : null;
  } catch {
    // Written by a newer version: the model opens at home, nothing is lost.
    return null;
  }
}

/** What was set about the model; values this version does not know stay plain. */
export function readPreference(values: Values | null): ModelPreference {
  return {
    upAxis: values?.['upAxis'] === 'y' ? 'y' : 'z',
    home: lastState(values?.['home']),
    homeFramesVisible: values?.['homeFramesVisible'] !== false,
    names: Object.fromEntries(
      Object.entries((values?.['names'] ?? {}) as Values).flatMap(([path, name]) =>
        typeof name === 'string' ? [[liftPath(path), name]] : [],
      ),
    ),
    pickSets: list(values?.['pickSets']).flatMap((set) =>
      typeof set['id'] === 'string' && Array.isArray(set['items'])
        ? [{ id: set['id'], name: String(set['name']), items: set['items'].flatMap((item) => readReference(lifted(item)) ?? []) }]
        : [],
    ),
    sections: list(values?.['sections']).flatMap((s) =>
      typeof s['id'] === 'string' && typeof s['name'] === 'string'
        ? [
            {
              id: s['id'],
              name: s['name'],
              section: readSection(s['section']),
              // Up to the second kind of them these were paths.
              whole: (Array.isArray(s['whole']) ? (s['whole'] as unknown[]) : []).flatMap(
                (w) => readReference(typeof w === 'string' ? { kind: 'component', component: liftPath(w) } : w) ?? [],
              ),
            },
          ]
        : [],
    ),
    accepted: list(values?.['accepted']).flatMap(({ id, ...of }) => {
      const [a, b] = [of['a'], of['b']].map(readReference);
      return typeof id === 'string' && a && b ? [{ id, a, b }] : [];
    }),
    systems: list(values?.['systems']).flatMap(({ id, name, of }) => {
      const made = Array.isArray(of) ? of.map(readReference) : [];
      return typeof id === 'string' && typeof name === 'string' && made.length && made.length <= 3 && !made.includes(null)
        ? [{ id, name, of: made as Reference[] }]
        : [];
    }),
    ...readMass(values),
    figures: list(values?.['figures']).flatMap((f) => readKeptFigure(f) ?? []),
  };
}

/**
 * What is stored with what was changed here, made of how this version reads it: what it does not know, at any depth, stays as it is.
 * @param stored as the server has it @param now what this page keeps
 */
export function changesPutTo(stored: Values | null, now: ModelPreference): Values {
  const names = stored?.['names'];
  // Names stood at other paths once; at both the older would win when they are read again.
  const lifting = isValues(names) ? { names: Object.fromEntries(Object.entries(names).map(([path, name]) => [liftPath(path), name])) } : {};
  return mergeKept(readPreference(stored), now, { ...stored, ...lifting }) as Values;
}

/** A kept thing with its path as it is written today. */
function lifted(item: unknown): unknown {
  const { component, ...rest } = (item ?? {}) as Values;
  return typeof component === 'string' ? { ...rest, component: liftPath(component) } : item;
}
