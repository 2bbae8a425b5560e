import {
  ANGLE_STYLES,
  INCH_STYLES,
  isValues,
  LENGTH_UNITS,
  MAX_LENS,
  MIN_LENS,
  MOST_PRECISION,
  readStyle,
  type StylePreset,
} from '@bathyscope/core';
import { ACTION_NAMES, PRESETS } from '../state/gestures.ts';
import { PANEL_MAX, PANEL_MIN, type Settings } from '../state/settings-store.ts';
import type { Profile } from './workspace.ts';

/** What a user set, without what changes it. */
export type SettingValues = Omit<Settings, 'change'>;

const isBoolean = (v: unknown): boolean => typeof v === 'boolean';
const isTexts = (v: unknown): boolean => Array.isArray(v) && v.every((x) => typeof x === 'string');
const oneOf =
  (...values: readonly unknown[]) =>
  (v: unknown): boolean =>
    values.includes(v);
const within =
  (low: number, high: number) =>
  (v: unknown): boolean =>
    typeof v === 'number' && v >= low && v <= high;
const mapOf =
  (check: (value: unknown) => boolean) =>
  (v: unknown): boolean =>
    isValues(v) && Object.values(v).every(check);
const isAction = (v: unknown): boolean => typeof v === 'string' && v in ACTION_NAMES;
const isStyles = (v: unknown): boolean =>
  Array.isArray(v) && v.every((s) => isValues(s) && typeof s['id'] === 'string' && typeof s['name'] === 'string' && isValues(s['style']));

/** What each setting may be. */
const RULES: Record<keyof SettingValues, (value: unknown) => boolean> = {
  theme: oneOf('chart', 'abyss'),
  unit: oneOf(...LENGTH_UNITS),
  precision: (v) => Number.isInteger(v) && within(0, MOST_PRECISION)(v),
  inches: oneOf(...INCH_STYLES),
  angles: oneOf(...ANGLE_STYLES),
  probe: oneOf('line', 'cursor', 'off'),
  secondUnit: oneOf('none', ...LENGTH_UNITS),
  task: oneOf(null, 'parts', 'views', 'style', 'section', 'measure', 'mass'),
  panelWidth: within(PANEL_MIN, PANEL_MAX),
  stripFolded: isBoolean,
  gesturePreset: oneOf(...PRESETS.map((p) => p.id)),
  ownGestures: mapOf(mapOf(isAction)),
  invertedZooms: isTexts,
  zoomSpeed: within(0.1, 10),
  ownKeys: mapOf((v) => typeof v === 'string'),
  orbitMode: oneOf('turntable', 'free'),
  pivotPolicy: oneOf('kept', 'cursor', 'picked', 'centre'),
  pivotGlides: isBoolean,
  lens: within(MIN_LENS, MAX_LENS),
  arrangement: oneOf('first angle', 'third angle'),
  pinned: isTexts,
  helm: isBoolean,
  tourPace: within(0.1, 120),
  sweepSeconds: within(0.5, 120),
  flatParts: isBoolean,
  partColumns: isTexts,
  partWidths: mapOf(within(30, 400)),
  ownStyles: isStyles,
  smoothEdges: isBoolean,
};

/** Of stored values those that this version knows and that can be; the rest is left out. */
export function readSettings(values: unknown): Partial<SettingValues> {
  if (!isValues(values)) return {};
  const known = Object.entries(RULES).flatMap(([key, allows]) => (key in values && allows(values[key]) ? [[key, values[key]]] : []));
  const settings = Object.fromEntries(known) as Partial<SettingValues>;
  // Styles of an older version lack choices that were added since.
  return settings.ownStyles
    ? { ...settings, ownStyles: settings.ownStyles.map((s): StylePreset => ({ ...s, style: readStyle(s.style) })) }
    : settings;
}

export const settingsOf = ({ change: _, ...values }: Settings): SettingValues => values;

const KIND = 'Bathyscope habits';

/** All that a user set, as a file to take to another browser. */
export const habitsFile = (profile: Profile): string =>
  JSON.stringify({ kind: KIND, version: 1, settings: settingsOf(profile.getState()) }, null, 2);

/** The settings in such a file. @throws Error with a sentence on what is wrong with it */
export function readHabits(text: string): Partial<SettingValues> {
  let file: unknown;
  try {
    file = JSON.parse(text);
  } catch {
    throw new Error('This is no file of habits: it cannot be read as JSON. Choose one that was saved here.');
  }
  if (!isValues(file) || file['kind'] !== KIND) throw new Error('This is no file of habits. Choose one that was saved by “Save habits”.');
  if (file['version'] !== 1)
    throw new Error(`These habits were saved by another version of the program (${String(file['version'])}); nothing was changed.`);
  const settings = readSettings(file['settings']);
  if (!Object.keys(settings).length) throw new Error('This file holds no habit that this version knows; nothing was changed.');
  return settings;
}
