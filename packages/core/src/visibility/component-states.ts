import type { Vec3 } from '../math/vec3.ts';
import type { ComponentPath } from '../model/structure.ts';
import { ownOf, withOwn } from '../tables/own.ts';

/** How one component is shown: the one table that every pass, picking, sections and pictures read. */
export interface ComponentState {
  visible: boolean;
  ghosted: boolean;
  /** Not cut by sections. */
  keptWhole: boolean;
  /** sRGB 0–1, instead of the file's. */
  colour?: Vec3;
  /** 0 (solid) to below 1. */
  transparency?: number;
  /** Id of a style preset, instead of the pane's style. */
  style?: string;
}

export const PLAIN_STATE: ComponentState = Object.freeze({ visible: true, ghosted: false, keptWhole: false });

/** Only components that differ from plain are listed. */
export type ComponentStates = Readonly<Record<ComponentPath, ComponentState>>;

export const stateOf = (states: ComponentStates, path: ComponentPath): ComponentState =>
  ownOf(states, path) ?? PLAIN_STATE;

const isPlain = (s: ComponentState): boolean =>
  s.visible && !s.ghosted && !s.keptWhole && !s.colour && !s.transparency && !s.style;

/**
 * The table with the given components changed; the old table stays as it was, so it is its own undo. A value
 * of undefined takes a choice away.
 */
export function changeStates(
  states: ComponentStates,
  paths: Iterable<ComponentPath>,
  change: Partial<ComponentState>,
): ComponentStates {
  const changed = Array.from(paths, (path) => {
    const state = { ...stateOf(states, path), ...change };
    for (const key of ['colour', 'transparency', 'style'] as const)
      if (state[key] === undefined) delete state[key];
    return [path, isPlain(state) ? undefined : state] as const;
  });
  return withOwn(states, changed);
}

/** Only these are visible; ghosts among them stand solid again. */
export function isolate(
  states: ComponentStates,
  all: readonly ComponentPath[],
  kept: Iterable<ComponentPath>,
): ComponentStates {
  return changeStates(changeStates(states, all, { visible: false }), kept, { visible: true, ghosted: false });
}

/** What was visible is hidden and the other way round. */
export function invert(states: ComponentStates, all: readonly ComponentPath[]): ComponentStates {
  const shown = all.filter((path) => stateOf(states, path).visible);
  const hidden = all.filter((path) => !stateOf(states, path).visible);
  return changeStates(changeStates(states, shown, { visible: false }), hidden, { visible: true });
}

/** Everything visible and solid; colours and styles stay. */
export const showAll = (states: ComponentStates, all: readonly ComponentPath[]): ComponentStates =>
  changeStates(states, all, { visible: true, ghosted: false });

/** Whether two tables show the same. */
export function sameStates(a: ComponentStates, b: ComponentStates): boolean {
  if (a === b) return true;
  const keys = Object.keys(a);
  return (
    keys.length === Object.keys(b).length && keys.every((k) => Object.hasOwn(b, k) && sameState(a[k], b[k]))
  );
}

function sameState(a: ComponentState, b: ComponentState): boolean {
  return (
    a.visible === b.visible &&
    a.ghosted === b.ghosted &&
    a.keptWhole === b.keptWhole &&
    a.style === b.style &&
    a.transparency === b.transparency &&
    String(a.colour) === String(b.colour)
  );
}

/** What an assembly's visibility mark shows: of its components all, some or none are visible. */
export function visibilityOf(
  states: ComponentStates,
  components: readonly ComponentPath[],
): 'all' | 'some' | 'none' {
  let visible = 0;
  for (const path of components) if (stateOf(states, path).visible) visible++;
  return visible === components.length ? 'all' : visible === 0 ? 'none' : 'some';
}
