import type { Vec3 } from '../math/vec3.ts';
import type { ComponentPath } from '../model/structure.ts';

/** How one component is shown: the one table that every pass, picking, sections and pictures read. */
export interface ComponentState {
  visible: boolean;
  ghosted: boolean;
  /** Not cut by sections. */
  keptWhole: boolean;
  /** sRGB 0–1, instead of the file's. */
  colour?: Vec3;
}

export const PLAIN_STATE: ComponentState = Object.freeze({ visible: true, ghosted: false, keptWhole: false });

/** Only components that differ from plain are listed. */
export type ComponentStates = Readonly<Record<ComponentPath, ComponentState>>;

export const stateOf = (states: ComponentStates, path: ComponentPath): ComponentState => states[path] ?? PLAIN_STATE;

const isPlain = (s: ComponentState): boolean => s.visible && !s.ghosted && !s.keptWhole && !s.colour;

/** The table with the given components changed; the old table stays as it was, so it is its own undo. */
export function changeStates(states: ComponentStates, paths: Iterable<ComponentPath>, change: Partial<ComponentState>): ComponentStates {
  const next: Record<ComponentPath, ComponentState> = { ...states };
  for (const path of paths) {
    const state = { ...stateOf(states, path), ...change };
    if (isPlain(state)) delete next[path];
    else next[path] = state;
  }
  return next;
}

/** What an assembly's visibility mark shows: of its components all, some or none are visible. */
export function visibilityOf(states: ComponentStates, components: readonly ComponentPath[]): 'all' | 'some' | 'none' {
  let visible = 0;
  for (const path of components) if (stateOf(states, path).visible) visible++;
  return visible === components.length ? 'all' : visible === 0 ? 'none' : 'some';
}
