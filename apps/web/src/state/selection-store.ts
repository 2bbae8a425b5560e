import type { Vec3 } from '@bathyscope/core/math';
import type { PickKind } from '@bathyscope/core/picking';
import type { Snap } from '@bathyscope/core/references';
import { SAME_POSITION } from '@bathyscope/core/tolerances';
import { createStore } from './tracked-store.ts';

/** A picked or hovered thing. For a component `index` is 0. */
export interface Picked {
  kind: PickKind;
  /**
   * Path of the component, or of the assembly when one was picked in the tree; empty for reference geometry.
   */
  component: string;
  index: number;
  point?: Vec3;
  /** The section plane, for what belongs to a cut. */
  plane?: string;
  /** Of a point: which one of the thing that `index` counts. */
  snap?: Snap;
  /** The id of a plane, an axis or the origin of the reference geometry. */
  datum?: string;
}

export const samePick = (a: Picked | null, b: Picked | null): boolean =>
  a === b ||
  (a !== null &&
    b !== null &&
    a.kind === b.kind &&
    a.component === b.component &&
    a.index === b.index &&
    a.plane === b.plane &&
    a.datum === b.datum &&
    sameSnap(a, b));

/** Points of one kind are told apart by their number, or by where they are. */
const sameSnap = (a: Picked, b: Picked): boolean =>
  a.snap?.kind === b.snap?.kind &&
  a.snap?.which === b.snap?.which &&
  (!a.snap || !a.point || !b.point || a.point.every((x, k) => Math.abs(x - b.point![k]) <= SAME_POSITION));

export const isOfCut = (kind: PickKind): kind is 'cap' | 'outline' | 'corner' =>
  kind === 'cap' || kind === 'outline' || kind === 'corner';

/** What each kind is called to the user. */
export const KIND_NAMES: Record<PickKind, string> = {
  component: 'component',
  body: 'body',
  face: 'face',
  edge: 'edge',
  vertex: 'vertex',
  cap: 'cut face',
  outline: 'cut edge',
  corner: 'cut corner',
  point: 'point',
  datum: 'reference',
};

interface SelectionState {
  hover: Picked | null;
  picked: Picked[];
  setHover: (hover: Picked | null) => void;
  pick: (picked: Picked[]) => void;
  /** Adds a thing, or takes it out when it is picked already. */
  toggle: (item: Picked) => void;
}

export const createSelectionState = () =>
  createStore<SelectionState>()((set) => ({
    hover: null,
    picked: [],
    setHover: (hover) => set((s) => (samePick(s.hover, hover) ? s : { hover })),
    pick: (picked) => set({ picked }),
    toggle: (item) =>
      set((s) => {
        const rest = s.picked.filter((p) => !samePick(p, item));
        return { picked: rest.length < s.picked.length ? rest : [...s.picked, item] };
      }),
  }));
