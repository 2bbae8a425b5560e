import type { Hollow, Overlap } from '@bathyscope/core/mass';
import { createStore } from './tracked-store.ts';
import type { FloatsSo } from '../workers/mass-work.ts';

/** Everything, what is shown, what is picked, or the side of the section that is kept. */
export type MassSet = 'all' | 'shown' | 'picked' | 'kept';

export interface MassState {
  set: MassSet;
  /** How the chart and the table are grouped. */
  by: 'part' | 'material';
  /**
   * What the inertia is told about: the centre of gravity, the model's origin, or a
   * reference system by its id.
   */
  about: string;
  /** Products of inertia as they stand in the tensor (−∫xy dm), or plain (∫xy dm). */
  products: 'tensor' | 'plain';
  /** What is drawn in the scene. */
  marks: { axes: boolean; ellipsoid: boolean };
  /** kg/m³, for all that have no material; null where nothing is assumed. */
  assumed: number | null;
  /** Of which set the smallest box was asked for. */
  boxOf: string | null;
  /** What components share and which hollows they close, and of which set; null while it is not known. */
  immersed: { key: string; overlap: Overlap; hollows: Hollow[]; cell: number } | null;
  immersing: boolean;
  /**
   * How the set floats, and of what: its weight, the fluid, what is dry in it. Null until it is asked for;
   * `found` is null while it is worked out.
   */
  floating: { key: string; found: FloatsSo | null; sinks?: boolean } | null;
  /** The fluid it is put into: a material of the library. */
  fluid: string;
  /** What it stands or hangs on is told of: picked when asked for. */
  balance: 'stands' | 'hangs' | 'turns' | null;
  /** The material of ballast; empty for lead or, where it sinks, foam. */
  ballast: string;
}

export const createMassState = () =>
  createStore<MassState>()(() => ({
    set: 'all',
    by: 'part',
    about: 'centre',
    products: 'tensor',
    marks: { axes: true, ellipsoid: false },
    assumed: null,
    boxOf: null,
    immersed: null,
    immersing: false,
    floating: null,
    fluid: 'sea-water',
    balance: null,
    ballast: '',
  }));
