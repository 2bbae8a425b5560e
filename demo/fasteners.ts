import { MATERIALS } from './materials.ts';
import type { Modeller, Point, Shape } from './modeller.ts';
import type { DemoPart } from './step-writer.ts';

/*
 * Fasteners and rings along X, nominal sizes, threads left plain. Sizes from memory of the standards; tests
 * measure the models against them.
 */

const STEEL: Point = [122, 128, 136];

/** ISO 4017: hexagon head bolt; the head's bearing face at x = 0, the shank towards −X. */
export function hexBolt(m: Modeller, d: number, length: number, acrossFlats: number, head: number): DemoPart {
  const r = acrossFlats / 2;
  const chamfer = m.turned('x', [
    [0, 0],
    [0, r * 1.23],
    [head - 1, r * 1.23],
    [head, r * 0.96],
    [head, 0],
  ]);
  const shank = m.turned('x', [
    [-length, 0],
    [-length, 0.4 * d],
    [-length + 0.1 * d, d / 2],
    [0.5, d / 2],
    [0.5, 0],
  ]);
  return {
    name: `Hex bolt ISO 4017 M${d}x${length}`,
    shape: m.fuse(m.common(m.hexagon([0, 0, 0], 'x', acrossFlats, head), chamfer), shank),
    colour: STEEL,
    material: MATERIALS.a4,
  };
}

/** ISO 4032: from x = 0 upwards. */
export function hexNut(m: Modeller, d: number, acrossFlats: number, height: number): DemoPart {
  const r = acrossFlats / 2;
  const chamfer = m.turned('x', [
    [0, 0],
    [0, r * 0.96],
    [0.9, r * 1.16],
    [height - 0.9, r * 1.16],
    [height, r * 0.96],
    [height, 0],
  ]);
  return {
    name: `Hex nut ISO 4032 M${d}`,
    shape: m.cut(
      m.common(m.hexagon([0, 0, 0], 'x', acrossFlats, height), chamfer),
      m.cylinder([-1, 0, 0], 'x', d / 2 + 0.02, height + 4),
    ),
    colour: STEEL,
    material: MATERIALS.a4,
  };
}

/** A ring from x = 0 upwards. */
export const ring = (m: Modeller, inner: number, outer: number, thick: number): Shape =>
  m.turned('x', [
    [0, inner],
    [0, outer],
    [thick, outer],
    [thick, inner],
  ]);

/** ISO 7089. @param inner mm @param outer mm, diameters */
export const washer = (m: Modeller, d: number, inner: number, outer: number, thick: number): DemoPart => ({
  name: `Washer ISO 7089 ${d}`,
  shape: ring(m, inner / 2, outer / 2, thick),
  colour: [164, 168, 172],
  material: MATERIALS.a4,
});

/** ISO 4762: socket head screw, head upwards from x = 0, shank towards −X. */
export function socketScrew(
  m: Modeller,
  d: number,
  length: number,
  headDiameter: number,
  socket: number,
): DemoPart {
  const solid = m.turned('x', [
    [-length, 0],
    [-length, d / 2 - 0.4],
    [-length + 0.4, d / 2],
    [0, d / 2],
    [0, headDiameter / 2],
    [d - 0.4, headDiameter / 2],
    [d, headDiameter / 2 - 0.4],
    [d, 0],
  ]);
  return {
    name: `Socket screw ISO 4762 M${d}x${length}`,
    shape: m.cut(solid, m.hexagon([d / 2, 0, 0], 'x', socket, d)),
    colour: [96, 100, 108],
    material: MATERIALS.a4,
  };
}
