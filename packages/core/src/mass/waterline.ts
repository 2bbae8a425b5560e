import { isMirrored, transformPoint } from '../math/mat4.ts';
import { belowOfTriangle, crossingOf, throughPlane, type Plane } from '../math/plane.ts';
import { rotate, rotationAbout } from '../math/quaternion.ts';
import { cross, dot, length, normalize, pointAt, scale, subtract, vecOf, type Vec3 } from '../math/vec3.ts';
import { FLOATS_WITHIN, LAYER, TINY } from '../tolerances.ts';
import type { RayMesh } from './fill-rays.ts';
import { SEGMENT_SIZE, type WeightedSegments } from './weighted-segments.ts';

/* Something that floats: how deep it lies, and what rights it when it is tilted. Exact for the meshes. */

/** How it floats in one attitude. mm, mm², mm³ */
export interface Floating {
  /** Of the water above the lowest point, and of the highest point above the water. */
  draught: number;
  freeboard: number;
  /** How far both may be off, since meshes are not the shapes. */
  within: number;
  displaced: number;
  centreOfBuoyancy: Vec3;
  /** Area that the water line encloses. */
  waterplane: number;
}

/**
 * How far the metacentre lies above the centre of gravity, for tilts about a level axis:
 * above 0 it floats upright. mm
 */
export interface Metacentre {
  height: number;
  within: number;
}

interface Below {
  volume: number;
  moment: Vec3;
  waterplane: number;
  /** mm³: the layer between meshes and shapes, under water. */
  layer: number;
}

const STEPS = 80;

/** Volumes of which any part may lie under water. */
export class Hull {
  private readonly base: Vec3;
  /** Corners of triangles, nine numbers each, about the base, turned so that they look outwards. */
  private readonly triangles: Float64Array;
  private readonly segments: Float64Array;
  /** mm: how far each triangle may lie from its shape. */
  private readonly chords: Float64Array;
  private readonly off: number;

  /**
   * @param meshes closed, outward-oriented @param segments of hollows that stay dry, and of what solids share
   * @param off mm³: how far those may be off
   */
  constructor(meshes: readonly RayMesh[], segments: readonly WeightedSegments[] = [], off = 0) {
    this.off = off;
    const first = meshes.find((m) => m.positions.length);
    this.base = first ? transformPoint(first.place, pointAt(first.positions, 0)) : [0, 0, 0];
    this.triangles = new Float64Array(3 * meshes.reduce((sum, m) => sum + m.indices.length, 0));
    this.chords = new Float64Array(this.triangles.length / 9);
    let at = 0;
    for (const { positions, indices, place, chord = 0, round } of meshes) {
      const order = isMirrored(place) ? [0, 2, 1] : [0, 1, 2];
      for (let t = 0; t < indices.length; t += 3) {
        if (round?.[t / 3]) this.chords[at / 9] = chord;
        for (const k of order) {
          this.triangles.set(
            subtract(transformPoint(place, pointAt(positions, indices[t + k])), this.base),
            at,
          );
          at += 3;
        }
      }
    }
    const [x, y, z] = this.base;
    this.segments = Float64Array.from(
      segments.flatMap((all) => Array.from(all, (value, i) => value - [x, y, z, z, 0][i % SEGMENT_SIZE])),
    );
  }

  /**
   * Where it floats when it takes the place of so much water.
   * @param up unit @returns null where it has not so much volume: it sinks
   */
  floats(volume: number, up: Vec3): Floating | null {
    let [low, high] = this.reach(up);
    const [lowest, highest] = [low, high];
    if (!(volume > 0) || this.below(up, high).volume < volume) return null;
    let height = (low + high) / 2;
    let found = this.below(up, height);
    // Newton's method, kept between what is too low and what is too high.
    for (let i = 0; i < STEPS && Math.abs(found.volume - volume) > FLOATS_WITHIN * volume; i++) {
      if (found.volume < volume) low = height;
      else high = height;
      const next = height + (volume - found.volume) / found.waterplane;
      height = next > low && next < high ? next : (low + high) / 2;
      if (height === low || height === high) break;
      found = this.below(up, height);
    }
    const centre = scale(found.moment, 1 / found.volume);
    const layer = found.layer + this.off;
    return {
      within: this.levelWithin(up, height, found, layer),
      draught: height - lowest,
      freeboard: highest - height,
      displaced: found.volume,
      centreOfBuoyancy: vecOf((k) => this.base[k] + centre[k]),
      waterplane: found.waterplane,
    };
  }

  /**
   * By how much the level may be off: until so much more, or less, lies under water. Round bottoms and tops
   * may reach a chord farther.
   */
  private levelWithin(up: Vec3, height: number, found: Below, layer: number): number {
    const ends = this.chords.reduce((most, c) => Math.max(most, c), 0) * LAYER;
    if (layer === 0) return ends;
    let step = layer / found.waterplane;
    for (let i = 0; i < STEPS; i++, step *= 2) {
      const [low, high] = [this.below(up, height - step), this.below(up, height + step)];
      if (found.volume - low.volume >= layer && high.volume - found.volume >= layer) break;
    }
    return step + ends;
  }

  /**
   * By the second moment of the area in the water line: KB + I/V − KG (any book of naval architecture). Its
   * bound adds up what outlines, volume and centre of buoyancy may be off. @param axis unit, level @returns
   * null where it sinks
   */
  metacentre(volume: number, centreOfGravity: Vec3, up: Vec3, axis: Vec3): Metacentre | null {
    const floating = this.floats(volume, up);
    if (!floating) return null;
    const lowest = this.reach(up)[0];
    const height = lowest + floating.draught;
    const { inertia, outlineOff } = this.waterplaneInertia(up, height, normalize(cross(up, axis)));
    const buoyancy = dot(up, subtract(floating.centreOfBuoyancy, this.base)) - lowest;
    const layer = this.below(up, height).layer + this.off;
    return {
      height: dot(up, floating.centreOfBuoyancy) + inertia / volume - dot(up, centreOfGravity),
      within:
        outlineOff / volume +
        (inertia * layer) / volume ** 2 +
        (layer * Math.max(buoyancy, floating.draught)) / volume +
        floating.within,
    };
  }

  /**
   * ∫ s² over the area in the water line, about its own middle, s across the axis; and how much of it
   * outlines that are off by their chord make. mm⁴
   */
  private waterplaneInertia(up: Vec3, height: number, across: Vec3): { inertia: number; outlineOff: number } {
    const { triangles, chords, segments } = this;
    let [area, first, second, off, firstOff] = [0, 0, 0, 0, 0];
    const water: Plane = { normal: up, constant: height };
    const at = (p: number): Vec3 => [triangles[p], triangles[p + 1], triangles[p + 2]];
    for (let t = 0; t < triangles.length; t += 9) {
      const corners = [at(t), at(t + 3), at(t + 6)];
      const line = throughPlane(corners, water);
      if (!line) continue;
      const twice = dot(up, cross(line.down, line.up));
      const [p, q] = [dot(across, line.down), dot(across, line.up)];
      area += twice / 2;
      first += (twice * (p + q)) / 6;
      second += (twice * (p * p + p * q + q * q)) / 12;
      if (!chords[t / 9]) continue;
      const n = cross(subtract(corners[1], corners[0]), subtract(corners[2], corners[0]));
      const sine = length(cross(up, n)) / length(n);
      const strip = (LAYER * chords[t / 9] * length(subtract(line.up, line.down))) / Math.max(sine, TINY);
      off += (strip * (p * p + p * q + q * q)) / 3;
      firstOff += strip * Math.max(Math.abs(p), Math.abs(q));
    }
    // Whichever way outlines run, an area is above nil.
    const sign = Math.sign(area) || 1;
    [area, first, second] = [sign * area, sign * first, sign * second];
    for (let i = 0; i < segments.length; i += SEGMENT_SIZE) {
      const [x, y] = [segments[i], segments[i + 1]];
      const level = up[0] * x + up[1] * y - height;
      const [low, high] = [level + up[2] * segments[i + 2], level + up[2] * segments[i + 3]];
      if (low < 0 === high < 0) continue;
      const z = segments[i + 2] + crossingOf(low, high) * (segments[i + 3] - segments[i + 2]);
      const s = across[0] * x + across[1] * y + across[2] * z;
      const its = segments[i + 4] * Math.abs(up[2]);
      [area, first, second] = [area + its, first + its * s, second + its * s * s];
    }
    const middle = first / area;
    return { inertia: second - first * middle, outlineOff: off + 2 * Math.abs(middle) * firstOff };
  }

  private reach(up: Vec3): [number, number] {
    let [low, high] = [Infinity, -Infinity];
    const { triangles } = this;
    for (let i = 0; i < triangles.length; i += 3) {
      const s = up[0] * triangles[i] + up[1] * triangles[i + 1] + up[2] * triangles[i + 2];
      if (s < low) low = s;
      if (s > high) high = s;
    }
    return [low, high];
  }

  /**
   * What lies below a level, by the divergence theorem with fields that are nil on the water: with s the
   * height above it, V = ∮ s n·up dA and ∫x dV = ∮ x s n·up dA − up ∮ ½ s² n·up dA over what of
   * the surface is under water.
   */
  private below(up: Vec3, height: number): Below {
    const sums = new Float64Array(5);
    const { triangles, chords } = this;
    let layer = 0;
    const heights = new Float64Array(3);
    // Up to four corners of what of a triangle lies below: x, y, z, s.
    const corners = new Float64Array(16);
    for (let t = 0; t < triangles.length; t += 9) {
      let under = 0;
      for (let k = 0; k < 3; k++) {
        const p = t + 3 * k;
        heights[k] = up[0] * triangles[p] + up[1] * triangles[p + 1] + up[2] * triangles[p + 2] - height;
        if (heights[k] < 0) under++;
      }
      if (under === 0) continue;
      const n = belowOfTriangle(triangles, t, heights, corners);
      for (let k = 2; k < n; k++) {
        addTriangle(sums, corners, 4 * (k - 1), 4 * k, up);
        if (chords[t / 9]) layer += LAYER * chords[t / 9] * areaOfTriangle(corners, 4 * (k - 1), 4 * k);
      }
    }
    const [volume, x, y, z, plane] = sums;
    const found = { volume, moment: [x, y, z] as [number, number, number], waterplane: -plane, layer };
    this.addSegments(found, up, height);
    return found;
  }

  private addSegments(
    found: { volume: number; moment: [number, number, number]; waterplane: number },
    up: Vec3,
    height: number,
  ): void {
    const { segments } = this;
    for (let i = 0; i < segments.length; i += SEGMENT_SIZE) {
      const [x, y, area] = [segments[i], segments[i + 1], segments[i + 4]];
      let [from, to] = [segments[i + 2], segments[i + 3]];
      const level = up[0] * x + up[1] * y - height;
      const [low, high] = [level + up[2] * from, level + up[2] * to];
      if (low >= 0 && high >= 0) continue;
      if (low < 0 !== high < 0) {
        const cut = from + crossingOf(low, high) * (to - from);
        if (low < 0) to = cut;
        else from = cut;
        found.waterplane += area * Math.abs(up[2]);
      }
      const volume = area * (to - from);
      found.volume += volume;
      [x, y, (from + to) / 2].forEach((c, k) => (found.moment[k] += volume * c));
    }
  }
}

/** mm²: the first corner and two others. */
function areaOfTriangle(at: Float64Array, b: number, c: number): number {
  const [u, v]: Vec3[] = [
    [at[b] - at[0], at[b + 1] - at[1], at[b + 2] - at[2]],
    [at[c] - at[0], at[c + 1] - at[1], at[c + 2] - at[2]],
  ];
  return length(cross(u, v)) / 2;
}

/** Adds what a triangle under water gives: the first corner and two others. */
function addTriangle(sums: Float64Array, at: Float64Array, b: number, c: number, up: Vec3): void {
  const [ux, uy, uz] = [at[b] - at[0], at[b + 1] - at[1], at[b + 2] - at[2]];
  const [vx, vy, vz] = [at[c] - at[0], at[c + 1] - at[1], at[c + 2] - at[2]];
  const area = (up[0] * (uy * vz - uz * vy) + up[1] * (uz * vx - ux * vz) + up[2] * (ux * vy - uy * vx)) / 2;
  const [r, s, t] = [at[3], at[b + 3], at[c + 3]];
  const sum = r + s + t;
  sums[0] += (area * sum) / 3;
  const squares = (area * (r * r + s * s + t * t + sum * sum)) / 24;
  for (let k = 0; k < 3; k++) {
    const [x, y, z] = [at[k], at[b + k], at[c + k]];
    sums[1 + k] += (area * (x * r + y * s + z * t + (x + y + z) * sum)) / 12 - up[k] * squares;
  }
  sums[4] += area;
}

/**
 * Righting arms of something afloat, tilted about a level axis, at each angle in the water that carries it.
 * @param axis unit, level @returns mm, above 0 where it is turned towards the tilt's beginning as
 * `rightingArms` has it; null where it sinks
 */
export function armsAfloat(
  hull: Hull,
  volume: number,
  centreOfGravity: Vec3,
  up: Vec3,
  axis: Vec3,
  angles: readonly number[],
): number[] | null {
  const arms: number[] = [];
  for (const angle of angles) {
    // Seen from the body it is the water that tilts.
    const plumb = rotate(rotationAbout(axis, -angle), up);
    const found = hull.floats(volume, plumb);
    if (!found) return null;
    arms.push(dot(subtract(found.centreOfBuoyancy, centreOfGravity), cross(axis, plumb)));
  }
  return arms;
}
