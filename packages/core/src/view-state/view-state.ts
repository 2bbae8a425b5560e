import type { Vec3 } from '../math/vec3.ts';
import type { ComponentPath } from '../model/structure.ts';
import type { ComponentState } from '../visibility/component-states.ts';

/** Everything that can be recalled about how a model is seen; every part is optional, so that a recall can take some only. */
export interface ViewState {
  version: 1;
  camera?: {
    projection: 'orthographic';
    /** Point the view looks at, mm. */
    target: Vec3;
    /** Unit quaternion x, y, z, w that turns the view's axes (right, up, towards the eye) into the model's. */
    orientation: readonly [number, number, number, number];
    /** Height of the visible field at the target, mm. */
    height: number;
    pivot?: Vec3;
  };
  /** Only components that differ from plain visible. */
  visibility?: Record<ComponentPath, ComponentState>;
  style?: { preset: 'work' };
}

export class ViewStateError extends Error {
  override name = 'ViewStateError';
}

const isVec = (v: unknown, n: number): v is number[] => Array.isArray(v) && v.length === n && v.every((x) => Number.isFinite(x));

/**
 * Checks a stored view state and lifts older versions to the present one; unknown parts are dropped.
 * @throws ViewStateError with a sentence, for what no version ever wrote
 */
export function migrateViewState(document: unknown): ViewState {
  if (typeof document !== 'object' || document === null) throw new ViewStateError('A view state must be an object.');
  const source = document as Record<string, unknown>;
  if (source['version'] !== 1) throw new ViewStateError(`This view was written by another version of the program (${String(source['version'])}).`);
  const state: ViewState = { version: 1 };
  if (source['camera'] !== undefined) state.camera = readCamera(source['camera']);
  if (source['visibility'] !== undefined) state.visibility = readVisibility(source['visibility']);
  if (source['style'] !== undefined) state.style = { preset: 'work' };
  return state;
}

function readCamera(camera: unknown): ViewState['camera'] {
  const c = camera as Record<string, unknown>;
  if (!c || !isVec(c['target'], 3) || !isVec(c['orientation'], 4) || !(Number.isFinite(c['height']) && (c['height'] as number) > 0))
    throw new ViewStateError('The camera of this view is incomplete.');
  const length = Math.hypot(...(c['orientation'] as number[]));
  if (!(length > 0.5 && length < 2)) throw new ViewStateError('The camera of this view has no direction.');
  return {
    projection: 'orthographic',
    target: c['target'] as unknown as Vec3,
    orientation: (c['orientation'] as number[]).map((x) => x / length) as unknown as [number, number, number, number],
    height: c['height'] as number,
    ...(isVec(c['pivot'], 3) && { pivot: c['pivot'] as unknown as Vec3 }),
  };
}

function readVisibility(visibility: unknown): Record<ComponentPath, ComponentState> {
  if (typeof visibility !== 'object' || visibility === null) throw new ViewStateError('The visibility of this view is incomplete.');
  const states: Record<ComponentPath, ComponentState> = {};
  for (const [path, raw] of Object.entries(visibility as Record<string, unknown>)) {
    const s = (raw ?? {}) as Record<string, unknown>;
    states[path] = {
      visible: s['visible'] !== false,
      ghosted: s['ghosted'] === true,
      keptWhole: s['keptWhole'] === true,
      ...(isVec(s['colour'], 3) && { colour: s['colour'] as unknown as Vec3 }),
    };
  }
  return states;
}
