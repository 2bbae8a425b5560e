import fs from 'node:fs';
import path from 'node:path';
import { hiddenLineDrawing, type DrawnCap } from '@bathyscope/core/drawing';
import type { PartGeometry } from '@bathyscope/core/geometry';
import { dot, IDENTITY, lookFrom, multiply, type Vec3 } from '@bathyscope/core/math';
import { componentsOf, listOccurrences } from '@bathyscope/core/model';
import { buildPartBvh } from '@bathyscope/core/picking';
import {
  combineSections,
  cutComponents,
  HATCHES,
  planeFrame,
  propertiesOfCurves,
  toleranceOf,
  type SectionProperties,
} from '@bathyscope/core/section';
import { convertStep } from '../reading/convert-step.ts';
import { cuttingFrame } from './cutting-frame.ts';
import { ShapeSession } from '../shapes/shape-session.ts';
import { testKernel } from '../testing/test-kernel.ts';
import { publicFile } from '../testing/public-file.ts';

/*
 * Cuts of the CAx implementor-forum files that the npm package occt-import-js ships, against area and outline
 * length computed with native OCCT 7.6 and cross-checked by fine meshes (testing/reference-sections.json).
 * Where the native section and its mesh disagreed only the mesh figure is kept (the aslant cut of
 * dm1-id-214); for conical-surface it is the native section, since the native mesh lacks the cone.
 */
interface ReferenceSection {
  origin: Vec3;
  normal: Vec3;
  length: number | null;
  area: number | null;
  meshArea: number;
}

const CASES = JSON.parse(
  fs.readFileSync(path.join(path.dirname(__filename), '..', 'testing', 'reference-sections.json'), 'utf8'),
) as Record<string, ReferenceSection[]>;

describe.each(Object.entries(CASES))('%s', (file, sections) => {
  test('cut exactly and by the mesh', async () => {
    const kernel = await testKernel();
    const geometries = new Map<string, PartGeometry>();
    const session = new ShapeSession(kernel);
    const model = convertStep(kernel, fs.readFileSync(publicFile(file)), 'Test', {
      onGeometry: (g) => (geometries.set(g.hash, g.geometry), session.load(g.hash, g.shape!)),
    });
    const placed = componentsOf(listOccurrences(model.structure)).map((c) => ({
      hash: model.structure.parts[c.part].geometry!,
      placement: c.placement,
    }));
    const inputs = placed.map(({ hash, placement }) => {
      const geometry = geometries.get(hash)!;
      return {
        geometry,
        bvh: buildPartBvh(geometry),
        placement,
        stored: multiply(placement, [...IDENTITY.slice(0, 12), ...geometry.origin, 1]),
      };
    });
    for (const { origin, normal, length, area, meshArea } of sections) {
      const plane = { normal, constant: dot(normal, origin) };
      const mesh = cutComponents(inputs, plane);
      expect(mesh.flatMap((c) => c.open)).toEqual([]);
      const fromMesh = combineSections(mesh.flatMap((c) => c.properties ?? []))?.area ?? 0;
      // Chords of 6° or less lie within the arcs: up to 2 ‰ of the area of a disc.
      expect(Math.abs(fromMesh / meshArea - 1)).toBeLessThan(4e-3);
      if (length === null || area === null) continue;
      const caps: DrawnCap[] = [];
      const exact = mesh.map(({ component }): { properties: SectionProperties; tolerance: number } => {
        const { hash, placement } = placed[component];
        const { loops, open } = session.section(hash, cuttingFrame(plane, placement));
        expect(open).toBe(0);
        caps.push({
          frame: planeFrame(plane),
          loops,
          open: [],
          hatch: HATCHES[0],
          spacing: Math.sqrt(area) / 100,
        });
        return { properties: propertiesOfCurves(loops)!, tolerance: toleranceOf(loops.flat()) };
      });
      const all = combineSections(exact.map((e) => e.properties))!;
      const within = exact.some((e) => e.tolerance > 0) ? 2e-5 : 1e-7;
      expect(Math.abs(all.area / area - 1)).toBeLessThan(within);
      expect(Math.abs(all.perimeter / length - 1)).toBeLessThan(1e-5);
      // The line drawing square on to the cut: nothing stands before it, so its hatch lines times their
      // distance are the area.
      const drawing = hiddenLineDrawing(inputs, lookFrom(normal, [normal[1], normal[2], normal[0]]), {
        hidden: false,
        smooth: false,
        section: { planes: [plane], combine: 'any', caps },
      });
      const hatched = drawing.curves.reduce(
        (sum, c) =>
          sum +
          (c.kind === 'hatch' && c.shape === 'line'
            ? Math.hypot(c.to[0] - c.from[0], c.to[1] - c.from[1])
            : 0),
        0,
      );
      expect(Math.abs((hatched * caps[0].spacing) / area - 1)).toBeLessThan(0.02);
    }
  });
});
