import { project, type Pane, type ViewCamera } from '@bathyscope/core/camera';
import { addScaled, type ReferenceSystem, type Vec3 } from '@bathyscope/core/math';

/* Axes drawn over a pane. */

export const AXIS_COLOURS = ['var(--red)', 'var(--green)', 'var(--blue)'];

/** Where a point of the model is on a pane, px. */
export type Place = (p: Vec3) => readonly [number, number];

export const placeIn =
  (camera: ViewCamera, size: Pane): Place =>
  (p) => {
    const { x, y } = project(camera, size, p);
    return [x, y];
  };

export const pathOf = (points: readonly (readonly [number, number])[]): string =>
  `M${points.map(([x, y]) => `${x.toFixed(1)} ${y.toFixed(1)}`).join('L')}`;

/** A reference system where it is, each axis with its letter. @param reach mm */
export function SystemAxes({
  place,
  system: { origin, x, y, z },
  reach,
}: {
  place: Place;
  system: ReferenceSystem;
  reach: number;
}) {
  const from = place(origin);
  return (
    <g data-testid="system-axes">
      {[x, y, z].map((axis, k) => {
        const to = place(addScaled(origin, axis, reach));
        return (
          <g key={k} stroke={AXIS_COLOURS[k]}>
            <path d={pathOf([from, to])} strokeWidth={1.6} />
            <circle cx={to[0]} cy={to[1]} r={8} fill="var(--panel)" stroke="none" opacity={0.9} />
            <text
              x={to[0]}
              y={to[1] + 4}
              textAnchor="middle"
              fontSize={12}
              fill={AXIS_COLOURS[k]}
              stroke="none"
            >
              {'XYZ'[k]}
            </text>
          </g>
        );
      })}
      <circle cx={from[0]} cy={from[1]} r={3} fill="var(--ink)" />
    </g>
  );
}
