import { createStore } from './tracked-store.ts';

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
  /** Of which set it was asked what its components share and which hollows they close. */
  lookedInto: string | null;
  /** Of which set it was asked how it floats. */
  floats: string | null;
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
    lookedInto: null,
    floats: null,
    fluid: 'sea-water',
    balance: null,
    ballast: '',
  }));
