/** A piece of a face's boundary in its parameters, as it runs round the face: with what is inside on its left. */
export type BoundaryCurve =
  | { shape: 'line'; from: readonly [number, number]; to: readonly [number, number] }
  /** centre + cos t · a + sin t · b */
  | {
      shape: 'conic';
      centre: readonly [number, number];
      a: readonly [number, number];
      b: readonly [number, number];
      from: number;
      to: number;
    }
  /** Place and derivative at a parameter. */
  | {
      shape: 'free';
      at: (t: number) => readonly [u: number, v: number, du: number, dv: number];
      from: number;
      to: number;
      /** Parameters at which its pieces meet. */
      breaks?: readonly number[];
    };
