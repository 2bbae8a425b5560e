import fs from 'node:fs';
import type { PartGeometry } from '@bathyscope/core/geometry';
import {
  figureList,
  massFigures,
  readMaterialTable,
  massOfSet,
  type GivenByTable,
  type SetMass,
} from '@bathyscope/core/mass';
import { boxCentre } from '@bathyscope/core/math';
import type { Material, Occurrence } from '@bathyscope/core/model';
import Papa from 'papaparse';
import { ModelFileError } from '../reading/step-text.ts';

/**
 * What `--mass` adds: kg, mm, kg·mm². What has no density or no volume is counted, and named among the parts.
 */
export interface InspectedMass extends SetMass {
  /** One by one, as *Mass* shows and saves them; inertia about the centre of gravity. */
  figures: ReturnType<typeof figureList>;
  parts: InspectedPart[];
}

interface InspectedPart {
  name: string;
  count: number;
  material: string | null;
  /** kg/m³ */
  density: number | null;
  /** kg; null where it is not known. */
  each: number | null;
  total: number | null;
  problem?: string;
}

/** @throws ModelFileError with a sentence, where the table cannot be read or used */
export function readMaterials(file: string): Map<string, GivenByTable> {
  let text: string;
  try {
    text = fs.readFileSync(file, 'utf8');
  } catch {
    throw new ModelFileError(`${file} cannot be opened as a table of materials.`);
  }
  const { data } = Papa.parse<string[]>(text.replace(/^\ufeff/, ''), { skipEmptyLines: true });
  return readMaterialTable(data);
}

export function inspectMass(
  components: readonly (Occurrence & { part: number })[],
  parts: readonly { name: string; material?: Material }[],
  geometryOf: (part: number) => PartGeometry,
  table: ReadonlyMap<string, GivenByTable>,
): InspectedMass {
  const given = (part: number): GivenByTable =>
    table.get(parts[part].name.toLowerCase()) ?? { material: null, typed: null };
  const materialOf = (part: number) => given(part).material ?? parts[part].material ?? null;
  const weighable = ({ part, placement }: Occurrence & { part: number }) => {
    const { mass, area, box } = geometryOf(part);
    return {
      figures: mass,
      placement,
      area,
      density: materialOf(part)?.density ?? null,
      typed: given(part).typed,
      middle: boxCentre(box),
    };
  };
  const byPart = new Map<number, (Occurrence & { part: number })[]>();
  for (const c of components) byPart.set(c.part, [...(byPart.get(c.part) ?? []), c]);
  const weighed = massOfSet(components.map(weighable));
  return {
    ...weighed,
    figures: figureList(massFigures(weighed, { tensor: weighed.known?.inertia })),
    parts: [...byPart].map(([part, its]): InspectedPart => {
      const total = massOfSet(its.map(weighable)).known?.mass ?? null;
      const material = materialOf(part);
      const { typed } = given(part);
      const closed = geometryOf(part).mass !== null;
      return {
        name: parts[part].name,
        count: its.length,
        material: typed ? null : (material?.name ?? null),
        density: typed ? null : (material?.density ?? null),
        each: total === null ? null : total / its.length,
        total,
        ...(total === null && { problem: closed ? 'no material' : 'no volume: it is not a closed solid' }),
      };
    }),
  };
}
