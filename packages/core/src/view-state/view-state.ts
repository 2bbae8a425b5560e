import { z } from 'zod';
import { PIPS, type Pip } from '../camera/directions.ts';
import type { Arrangement, PaneLayout, PaneMode } from '../camera/pane-layout.ts';
import { DEFAULT_LENS, MAX_LENS, MIN_LENS, type Projection } from '../camera/view-camera.ts';
import { normalize, type Vec3 } from '../math/vec3.ts';
import { anything, compact, isNotFalse, isTrue, label, listOf, perhaps, vector } from '../model/described.ts';
import { fromOf, type Reference } from '../references/reference.ts';
import { readReferenceGeometry, type ReferenceGeometry } from '../references/reference-geometry.ts';
import { readSection, type Section } from '../section/planes/section-plane.ts';
import { readStyle, type StylePreset, type ViewStyle } from '../style/view-style.ts';
import { migratePath, type ComponentPath } from '../model/structure.ts';
import { isValues, withOwn } from '../tables/own.ts';
import type { ComponentState } from '../visibility/component-states.ts';

export interface CameraPart {
  projection: Projection;
  /** Point the view looks at, mm. */
  target: Vec3;
  /** Unit quaternion x, y, z, w that turns the view's axes (right, up, towards the eye) into the model's. */
  orientation: readonly [number, number, number, number];
  /** Height of the visible field at the target, mm. */
  height: number;
  /** Vertical opening angle, rad. */
  lens: number;
  pivot?: Vec3;
  hinge?: HingePart;
}

/** What the model turns about instead of a point. */
export interface HingePart {
  origin: Vec3;
  /** Unit. */
  axis: Vec3;
  name: string;
  /** What it was made from. */
  from?: Reference;
}

export interface PanePart {
  mode: PaneMode;
  camera: CameraPart;
  /** Where the pane has a style of its own. */
  style?: ViewStyle;
  /** The pane shows the model without the section. */
  uncut?: boolean;
}

export interface PanesPart {
  layout: PaneLayout;
  arrangement: Arrangement;
  /** The first is the main one, whose camera is the state's own. */
  panes: PanePart[];
}

/**
 * Everything that can be recalled about how a model is seen; every part is optional, so that a
 * recall can take some only.
 */
/** Of the documents that are written now. */
export const VIEW_STATE_VERSION = 3;

export interface ViewState {
  version: typeof VIEW_STATE_VERSION;
  camera?: CameraPart;
  panes?: PanesPart;
  /** Only components that differ from plain visible. */
  visibility?: Record<ComponentPath, ComponentState>;
  style?: ViewStyle;
  /** Styles of the sender's own that single components are drawn in, so that others see them too. */
  styles?: StylePreset[];
  /** Which reference geometry is shown, and what of one's own there is. */
  reference?: ReferenceGeometry;
  section?: Section;
  /** Which kept figures are drawn and which are not, by their ids; absent where nothing was said of them. */
  drawnFigures?: string[];
  hiddenFigures?: string[];
}

export class ViewStateError extends Error {
  override name = 'ViewStateError';
}

/**
 * A stored view state as far as this version understands it, also one of a newer version. @throws
 * ViewStateError when nothing of it is understood
 */
export function understoodViewState(document: unknown): ViewState {
  const { version, ...parts } = (document ?? {}) as Record<string, unknown>;
  if (!Number.isInteger(version) || (version as number) <= VIEW_STATE_VERSION)
    return migrateViewState(document);
  const understood = Object.entries(parts).flatMap(([name, part]) => {
    try {
      return Object.entries(migrateViewState({ version: VIEW_STATE_VERSION, [name]: part })).filter(
        ([key]) => key === name,
      );
    } catch {
      return [];
    }
  });
  if (!understood.length)
    throw new ViewStateError(`This view was written by another version of the program (${String(version)}).`);
  return { version: VIEW_STATE_VERSION, ...(Object.fromEntries(understood) as Partial<ViewState>) };
}

/** Styles that a state can carry along, and figures that can be hidden in it. */
const MOST_STYLES = 50;
const MOST_FIGURES = 2000;
/** How far a quaternion may be from length 1, for it to mean a direction. */
const SHORTEST = 0.5;
const LONGEST = 2;

/** Lengths are what people stored; a hinge without a direction is none. */
const hinge = z
  .object({
    origin: vector,
    axis: vector.refine((v) => Math.hypot(...v) >= SHORTEST),
    name: label('an axis'),
    from: anything,
  })
  .transform(({ axis, from, ...rest }): HingePart => ({ ...rest, axis: normalize(axis), ...fromOf(from) }));

const number = z.number();
const camera = z
  .object({
    projection: z.enum(['orthographic', 'perspective']).catch('orthographic'),
    target: vector,
    orientation: z
      .tuple([number, number, number, number])
      .refine((q) => Math.hypot(...q) > SHORTEST && Math.hypot(...q) < LONGEST, {
        error: 'The camera of this view has no direction.',
      })
      .transform((q) => q.map((x) => x / Math.hypot(...q)) as unknown as CameraPart['orientation']),
    height: number.positive(),
    // Version 1 knew no perspective: its cameras lack a lens.
    lens: number.catch(DEFAULT_LENS).transform((lens) => Math.max(MIN_LENS, Math.min(MAX_LENS, lens))),
    pivot: perhaps(vector),
    hinge: perhaps(hinge),
  })
  .transform((read): CameraPart => compact(read));

const style = anything.transform(readStyle);

const isPip = (pip: readonly number[]): boolean => PIPS.some((p) => p.every((x, k) => x === pip[k]));
const mode = z
  .union([
    z.object({ kind: z.literal('linked'), side: z.enum(['top', 'bottom', 'left', 'right']) }),
    z.object({
      kind: z.literal('fixed'),
      pip: vector.refine(isPip).transform((pip) => pip as unknown as Pip),
    }),
  ])
  .catch({ kind: 'free' } as never)
  .transform((read): PaneMode => read);

const panes = z.object({
  layout: z.enum(['one', 'beside', 'above', 'four']),
  arrangement: z.enum(['third angle', 'first angle']).catch('third angle'),
  panes: z
    .array(
      z
        .object({ mode, camera, style: style.optional(), uncut: perhaps(z.literal(true)) })
        .transform((pane): PanePart => compact(pane)),
    )
    .min(1)
    .max(4),
});

const MOST_TRANSPARENT = 0.95;
const component = z
  .unknown()
  .transform((state) => (typeof state === 'object' && state !== null ? state : {}))
  .pipe(
    z.object({
      visible: isNotFalse,
      ghosted: isTrue,
      keptWhole: isTrue,
      colour: perhaps(vector),
      transparency: perhaps(number.transform((t) => Math.max(0, Math.min(MOST_TRANSPARENT, t)))),
      style: perhaps(z.string()),
    }),
  )
  .transform((read): ComponentState => compact(read));

const preset = z.object({ id: z.string(), name: label(), style }).transform((read): StylePreset => read);

/** What of a stored view is read, whatever its version; all else is left out. */
const parts = z.object({
  camera: camera.optional(),
  panes: panes.optional(),
  visibility: z.record(z.string(), component).optional(),
  style: style.optional(),
  styles: listOf(preset, MOST_STYLES).optional(),
  reference: z.unknown().transform(readReferenceGeometry).optional(),
  section: z.unknown().transform(readSection).optional(),
  drawnFigures: perhaps(listOf(z.string(), MOST_FIGURES)),
  hiddenFigures: perhaps(listOf(z.string(), MOST_FIGURES)),
});

const SENTENCES: ReadonlyMap<unknown, string> = new Map([
  ['camera', 'The camera of this view is incomplete.'],
  ['panes', 'The panes of this view are incomplete.'],
  ['visibility', 'The visibility of this view is incomplete.'],
]);

/**
 * Checks a stored view state and lifts older versions to the present one; unknown parts are dropped.
 * @throws ViewStateError with a sentence, for what no version ever wrote
 */
export function migrateViewState(document: unknown): ViewState {
  if (!isValues(document)) throw new ViewStateError('A view state must be an object.');
  const { version } = document;
  if (version !== 1 && version !== 2 && version !== VIEW_STATE_VERSION)
    throw new ViewStateError(`This view was written by another version of the program (${String(version)}).`);
  // What is not there is not there: a part that says nothing would read as one with all its defaults.
  const read = parts.safeParse(compact(document));
  if (!read.success) {
    const { code, message, path } = read.error.issues[0];
    throw new ViewStateError(
      code === 'custom' ? message : (SENTENCES.get(path[0]) ?? 'This is no view state.'),
    );
  }
  const state: Omit<ViewState, 'version'> = Object.fromEntries(
    Object.entries(read.data).filter(([part]) => document[part] !== undefined),
  );
  const { visibility } = read.data;
  // Up to version 2 paths began with the root's name.
  const lifted =
    version !== VIEW_STATE_VERSION &&
    visibility &&
    withOwn(
      {},
      Object.entries(visibility).map(([at, s]) => [migratePath(at), s] as const),
    );
  return { version: VIEW_STATE_VERSION, ...state, ...(lifted && { visibility: lifted }) };
}
