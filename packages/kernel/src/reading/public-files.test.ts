import fs from 'node:fs';
import path from 'node:path';
import type { PartGeometry } from '@bathyscope/core/geometry';
import type { ModelStructure } from '@bathyscope/core/model';
import { placeMass } from '@bathyscope/core/mass';
import { componentsOf, listOccurrences, summariseModel } from '@bathyscope/core/model';
import { convertStep, type ConvertedModel } from './convert-step.ts';
import { testKernel } from '../testing/test-kernel.ts';
import { publicFile } from '../testing/public-file.ts';

/*
 * The CAx implementor-forum files that the npm package occt-import-js ships, against (a) values computed with
 * native OCCT 7.6 and cross-checked by Gauss–Kronrod integration and fine meshes, kept in
 * testing/reference-cases.json, and (b) the validation properties (ISO 10303-42) that the authoring systems
 * wrote into the files themselves.
 */
interface ReferenceCase {
  file: string;
  lengthUnit: string;
  counts: { solids: number; faces: number; edges: number };
  components: number;
  parts: string[];
  box: { min: number[]; max: number[] };
  volume: number;
  area: number;
  centreOfGravity: number[];
  inertia: number[][];
  /**
   * Relative. The reference was integrated to 1e-6 in volume, which leaves the inertia of conical-surface
   * 1.7e-4 off (the turned-part test shows it).
   */
  inertiaWithin: number;
  /**
   * Relative: as1-oc-214 and as1-tu-203 carry figures that their own system computed from
   * a mesh or with low order.
   */
  validationWithin: number;
  validation: { part: string; what: 'volume' | 'area'; value: number }[];
}

const CASES = JSON.parse(
  fs.readFileSync(path.join(path.dirname(__filename), '..', 'testing', 'reference-cases.json'), 'utf8'),
) as ReferenceCase[];

interface Converted {
  model: ConvertedModel;
  geometries: Map<string, PartGeometry>;
}

async function convert(file: string): Promise<Converted> {
  const kernel = await testKernel();
  const geometries = new Map<string, PartGeometry>();
  const model = convertStep(kernel, fs.readFileSync(publicFile(file)), 'Test', {
    onGeometry: (g) => geometries.set(g.hash, g.geometry),
  });
  return { model, geometries };
}

const geometryOf = ({ model, geometries }: Converted, part: number): PartGeometry =>
  geometries.get(model.structure.parts[part].geometry!)!;

const names = (structure: ModelStructure): string[] => structure.parts.map((p) => p.name).sort();

describe.each(CASES)('$file', (wanted) => {
  let found: Converted;
  beforeAll(async () => {
    found = await convert(wanted.file);
  });

  test('unit, components, part names and reuse', () => {
    expect(found.model.lengthUnit).toBe(wanted.lengthUnit);
    expect(componentsOf(listOccurrences(found.model.structure))).toHaveLength(wanted.components);
    expect(names(found.model.structure)).toEqual(wanted.parts);
  });

  test('counts, box, volume, area, centre of gravity and inertia', () => {
    const summary = summariseModel(found.model.structure, (part) => geometryOf(found, part));
    const { solids, faces, edges } = summary.counts;
    expect({ solids, faces, edges: edges + found.model.looseEdges }).toEqual(wanted.counts);
    const diagonal = Math.hypot(...wanted.box.max.map((x, k) => x - wanted.box.min[k]));
    for (let k = 0; k < 3; k++) {
      expect(Math.abs(summary.box!.min[k] - wanted.box.min[k])).toBeLessThan(1e-6 * diagonal);
      expect(Math.abs(summary.box!.max[k] - wanted.box.max[k])).toBeLessThan(1e-6 * diagonal);
      expect(Math.abs(summary.mass!.centreOfGravity[k] - wanted.centreOfGravity[k])).toBeLessThan(
        1e-6 * diagonal,
      );
      for (let j = 0; j < 3; j++)
        expect(Math.abs(summary.mass!.inertia[k][j] - wanted.inertia[k][j])).toBeLessThan(
          wanted.inertiaWithin * Math.abs(wanted.inertia[k][k]),
        );
    }
    expect(Math.abs(summary.mass!.volume / wanted.volume - 1)).toBeLessThan(1e-6);
    expect(Math.abs(summary.area / wanted.area - 1)).toBeLessThan(1e-6);
  });

  test('every face has triangles', () => {
    for (const g of found.geometries.values())
      g.faces.forEach((_, f) => expect(g.mesh.faceStart[f + 1]).toBeGreaterThan(g.mesh.faceStart[f]));
  });

  test('validation properties that the authoring system wrote', () => {
    for (const property of wanted.validation) {
      const part = found.model.structure.parts.findIndex((p) => p.name === property.part);
      const geometry = geometryOf(found, part);
      const value = property.what === 'volume' ? geometry.mass!.volume : geometry.area;
      expect(Math.abs(value / property.value - 1)).toBeLessThan(wanted.validationWithin);
    }
  });
});

test('as1-oc-214 has no cylinder in it, yet its holes read as diameters', async () => {
  const found = await convert('as1-oc-214.stp');
  const holes = found.model.structure.parts.flatMap((p, i) =>
    geometryOf(found, i).holes.map((h) => ({ part: p.name, ...h })),
  );
  const nut = holes.filter((h) => h.part === 'nut');
  expect(nut).toHaveLength(1);
  expect(nut[0]).toMatchObject({ ends: 'through' });
  expect(nut[0].diameter).toBeCloseTo(10, 6);
  expect(nut[0].depth).toBeCloseTo(3, 5);
  // The file splits the hole into halves; they are one hole here.
  expect(nut[0].faces).toHaveLength(2);
  expect(nut[0].accuracy.kind).toBe('recognised');
});

test('a part used twice is described once, and its placed copies keep its volume', async () => {
  const found = await convert('as1-tu-203.stp');
  expect(found.geometries.size).toBe(5);
  const nuts = componentsOf(listOccurrences(found.model.structure)).filter(
    (c) => found.model.structure.parts[c.part].name === 'nut',
  );
  expect(nuts).toHaveLength(8);
  expect(new Set(nuts.map((n) => n.path)).size).toBe(8);
  const volumes = nuts.map((n) => placeMass(geometryOf(found, n.part).mass!, n.placement).volume);
  volumes.forEach((v) => expect(v / volumes[0]).toBeCloseTo(1, 12));
});

test('a turned part has equal moments across its axis and no product between them', async () => {
  const found = await convert('conical-surface.step');
  const { inertia } = geometryOf(found, 0).mass!;
  // Symmetry: exact for every body of revolution, here about X.
  expect(Math.abs(inertia[1][1] / inertia[2][2] - 1)).toBeLessThan(1e-6);
  expect(Math.abs(inertia[1][2] / inertia[1][1])).toBeLessThan(1e-6);
});

test('colours of single faces and materials with density are read', async () => {
  const coloured = await convert('io1-cm-214.stp');
  expect(Object.values(coloured.model.structure.parts[0].faceColours ?? {})).toEqual([
    [1, 0, 0],
    [1, 0, 0],
  ]);
  const steel = await convert('conical-surface.step');
  expect(steel.model.structure.parts[0].material).toEqual({ name: 'Steel', density: 7850 });
});
