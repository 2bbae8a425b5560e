import { MAX_LENS, MIN_LENS } from '@bathyscope/core/camera';
import { readStyle } from '@bathyscope/core/style';
import { isValues } from '@bathyscope/core/tables';
import { ANGLE_STYLES, INCH_STYLES, LENGTH_UNITS, MOST_PRECISION } from '@bathyscope/core/units';
import { z } from 'zod';
import { ACTION_NAMES, PRESETS } from '../../state/gestures.ts';
import { PANEL_MAX, PANEL_MIN, type Settings } from '../../state/settings-store.ts';
import type { Profile } from '../workspace.ts';

/** What a user set, without what changes it. */
export type SettingValues = Omit<Settings, 'change'>;

const within = (low: number, high: number) => z.number().min(low).max(high);
const texts = z.array(z.string());
const action = z
  .string()
  .refine((name): name is keyof typeof ACTION_NAMES => Object.hasOwn(ACTION_NAMES, name));
// Styles of an older version lack choices that were added since.
const style = z.record(z.string(), z.unknown()).transform(readStyle);

/** What each setting may be; one that cannot be is left out, each for itself. */
const RULES = {
  theme: z.enum(['chart', 'abyss']),
  unit: z.enum(LENGTH_UNITS),
  precision: within(0, MOST_PRECISION).int(),
  inches: z.enum(INCH_STYLES),
  angles: z.enum(ANGLE_STYLES),
  probe: z.enum(['line', 'cursor', 'off']),
  secondUnit: z.enum(['none', ...LENGTH_UNITS]),
  task: z.enum(['parts', 'views', 'style', 'section', 'measure', 'mass']).nullable(),
  panelWidth: within(PANEL_MIN, PANEL_MAX),
  stripFolded: z.boolean(),
  gesturePreset: z.string().refine((id) => PRESETS.some((p) => p.id === id)),
  ownGestures: z.record(z.string(), z.record(z.string(), action)),
  invertedZooms: texts,
  zoomSpeed: within(0.1, 10),
  ownKeys: z.record(z.string(), z.string()),
  orbitMode: z.enum(['turntable', 'free']),
  pivotPolicy: z.enum(['kept', 'cursor', 'picked', 'centre']),
  pivotGlides: z.boolean(),
  lens: within(MIN_LENS, MAX_LENS),
  arrangement: z.enum(['first angle', 'third angle']),
  pinned: texts,
  helm: z.boolean(),
  tourPace: within(0.1, 120),
  sweepSeconds: within(0.5, 120),
  flatParts: z.boolean(),
  partColumns: texts,
  partWidths: z.record(z.string(), within(30, 400)),
  ownStyles: z.array(z.object({ id: z.string(), name: z.string(), style })),
  smoothEdges: z.boolean(),
} satisfies Record<keyof SettingValues, z.ZodType>;

/** Of stored values those that this version knows and that can be; the rest is left out. */
export function readSettings(values: unknown): Partial<SettingValues> {
  if (!isValues(values)) return {};
  const known = Object.entries(RULES).flatMap(([key, rule]) => {
    const read = Object.hasOwn(values, key) ? rule.safeParse(values[key]) : null;
    return read?.success ? [[key, read.data]] : [];
  });
  return Object.fromEntries(known) as Partial<SettingValues>;
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
  if (!isValues(file) || file['kind'] !== KIND)
    throw new Error('This is no file of habits. Choose one that was saved by “Save habits”.');
  if (file['version'] !== 1)
    throw new Error(
      `These habits were saved by another version of the program (${String(file['version'])}); nothing was changed.`,
    );
  const settings = readSettings(file['settings']);
  if (!Object.keys(settings).length)
    throw new Error('This file holds no habit that this version knows; nothing was changed.');
  return settings;
}
