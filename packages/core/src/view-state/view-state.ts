import { PIPS, type Pip } from '../camera/directions.ts';
import type { Arrangement, LinkedSide, PaneLayout, PaneMode } from '../camera/pane-layout.ts';
import { DEFAULT_LENS, MAX_LENS, MIN_LENS, type Projection } from '../camera/view-camera.ts';
import { normalize, type Vec3 } from '../math/vec3.ts';
import { fromOf, type Reference } from '../references/reference.ts';
import { readReferenceGeometry, type ReferenceGeometry } from '../references/reference-geometry.ts';
import { readSection, type Section } from '../section/planes/section-plane.ts';
import { readStyle, type StylePreset, type ViewStyle } from '../style/view-style.ts';
import { liftPath, type ComponentPath } from '../model/structure.ts';
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

/** Everything that can be recalled about how a model is seen; every part is optional, so that a recall can take some only. */
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
  /** Which kept figures are not drawn, by their ids; absent where nothing was said of them. */
  hiddenFigures?: string[];
}

export class ViewStateError extends Error {
  override name = 'ViewStateError';
}

const isVec = (v: unknown, n: number): v is number[] => Array.isArray(v) && v.length === n && v.every((x) => Number.isFinite(x));

/** A stored view state as far as this version understands it, also one of a newer version. @throws ViewStateError when nothing of it is understood */
export function understoodViewState(document: unknown): ViewState {
  const { version, ...parts } = (document ?? {}) as Record<string, unknown>;
  if (!Number.isInteger(version) || (version as number) <= VIEW_STATE_VERSION) return migrateViewState(document);
  const understood = Object.entries(parts).flatMap(([name, part]) => {
    try {
      return Object.entries(migrateViewState({ version: VIEW_STATE_VERSION, [name]: part })).filter(([key]) => key === name);
    } catch {
      return [];
    }
  });
  if (!understood.length) throw new ViewStateError(`This view was written by another version of the program (${String(version)}).`);
  return { version: VIEW_STATE_VERSION, ...(Object.fromEntries(understood) as Partial<ViewState>) };
}

/**
 * Checks a stored view state and lifts older versions to the present one; unknown parts are dropped.
 * @throws ViewStateError with a sentence, for what no version ever wrote
 */
export function migrateViewState(document: unknown): ViewState {
  if (typeof document !== 'object' || document === null) throw new ViewStateError('A view state must be an object.');
  const source = document as Record<string, unknown>;
  // Version 1 knew no perspective: its cameras lack a lens, which `readCamera` fills in. Up to version 2 paths began with the root's name.
  const { version } = source;
  if (version !== 1 && version !== 2 && version !== VIEW_STATE_VERSION)
    throw new ViewStateError(`This view was written by another version of the program (${String(version)}).`);
  const state: ViewState = { version: VIEW_STATE_VERSION };
  if (source['camera'] !== undefined) state.camera = readCamera(source['camera']);
  if (source['panes'] !== undefined) state.panes = readPanes(source['panes']);
  if (source['visibility'] !== undefined)
    state.visibility = readVisibility(source['visibility'], version === VIEW_STATE_VERSION ? (path) => path : liftPath);
  if (source['style'] !== undefined) state.style = readStyle(source['style']);
  if (source['styles'] !== undefined) state.styles = readStyles(source['styles']);
  if (source['reference'] !== undefined) state.reference = readReferenceGeometry(source['reference']);
  if (source['section'] !== undefined) state.section = readSection(source['section']);
  if (Array.isArray(source['hiddenFigures']))
    state.hiddenFigures = source['hiddenFigures'].filter((id) => typeof id === 'string').slice(0, MOST_FIGURES);
  return state;
}

const MOST_FIGURES = 2000;

function readCamera(camera: unknown): CameraPart {
  const c = camera as Record<string, unknown>;
  if (!c || !isVec(c['target'], 3) || !isVec(c['orientation'], 4) || !(Number.isFinite(c['height']) && (c['height'] as number) > 0))
    throw new ViewStateError('The camera of this view is incomplete.');
  const length = Math.hypot(...(c['orientation'] as number[]));
  if (!(length > 0.5 && length < 2)) throw new ViewStateError('The camera of this view has no direction.');
  return {
    projection: c['projection'] === 'perspective' ? 'perspective' : 'orthographic',
    target: c['target'] as unknown as Vec3,
    orientation: (c['orientation'] as number[]).map((x) => x / length) as unknown as [number, number, number, number],
    height: c['height'] as number,
    lens: Number.isFinite(c['lens']) ? Math.max(MIN_LENS, Math.min(MAX_LENS, c['lens'] as number)) : DEFAULT_LENS,
    ...(isVec(c['pivot'], 3) && { pivot: c['pivot'] as unknown as Vec3 }),
    ...readHinge(c['hinge']),
  };
}

function readHinge(hinge: unknown): { hinge?: HingePart } {
  const h = (hinge ?? {}) as Record<string, unknown>;
  if (!isVec(h['origin'], 3) || !isVec(h['axis'], 3) || Math.hypot(...h['axis']) < 0.5) return {};
  return {
    hinge: {
      origin: h['origin'] as unknown as Vec3,
      axis: normalize(h['axis'] as unknown as Vec3),
      name: String(h['name'] ?? 'an axis').slice(0, 200),
      ...fromOf(h['from']),
    },
  };
}

/** Styles that a state can carry along. */
const MOST_STYLES = 50;

const readStyles = (styles: unknown): StylePreset[] =>
  (Array.isArray(styles) ? (styles as Record<string, unknown>[]) : [])
    .slice(0, MOST_STYLES)
    .flatMap((s) =>
      typeof s?.['id'] === 'string' ? [{ id: s['id'], name: String(s['name'] ?? '').slice(0, 200), style: readStyle(s['style']) }] : [],
    );

const LAYOUTS: readonly unknown[] = ['one', 'beside', 'above', 'four'];
const SIDES: readonly unknown[] = ['top', 'bottom', 'left', 'right'];

function readPanes(panes: unknown): PanesPart {
  const p = (panes ?? {}) as Record<string, unknown>;
  if (!LAYOUTS.includes(p['layout']) || !Array.isArray(p['panes']) || p['panes'].length < 1 || p['panes'].length > 4)
    throw new ViewStateError('The panes of this view are incomplete.');
  return {
    layout: p['layout'] as PaneLayout,
    arrangement: p['arrangement'] === 'first angle' ? 'first angle' : 'third angle',
    panes: p['panes'].map((pane: Record<string, unknown> | null): PanePart => ({
      mode: readMode(pane?.['mode']),
      camera: readCamera(pane?.['camera']),
      ...(pane?.['style'] !== undefined && { style: readStyle(pane['style']) }),
      ...(pane?.['uncut'] === true && { uncut: true }),
    })),
  };
}

function readMode(mode: unknown): PaneMode {
  const m = (mode ?? {}) as Record<string, unknown>;
  if (m['kind'] === 'linked' && SIDES.includes(m['side'])) return { kind: 'linked', side: m['side'] as LinkedSide };
  if (m['kind'] === 'fixed' && isVec(m['pip'], 3) && PIPS.some((p) => p.every((x, k) => x === (m['pip'] as number[])[k])))
    return { kind: 'fixed', pip: m['pip'] as unknown as Pip };
  return { kind: 'free' };
}

function readVisibility(visibility: unknown, lift: (path: ComponentPath) => ComponentPath): Record<ComponentPath, ComponentState> {
  if (typeof visibility !== 'object' || visibility === null) throw new ViewStateError('The visibility of this view is incomplete.');
  const states = Object.entries(visibility as Record<string, unknown>).map(([path, raw]): [ComponentPath, ComponentState] => {
    const s = (raw ?? {}) as Record<string, unknown>;
    const state = {
      visible: s['visible'] !== false,
      ghosted: s['ghosted'] === true,
      keptWhole: s['keptWhole'] === true,
      ...(isVec(s['colour'], 3) && { colour: s['colour'] as unknown as Vec3 }),
      ...(Number.isFinite(s['transparency']) && { transparency: Math.max(0, Math.min(0.95, s['transparency'] as number)) }),
      ...(typeof s['style'] === 'string' && { style: s['style'] }),
    };
    return [lift(path), state];
  });
  return Object.fromEntries(states);
}
