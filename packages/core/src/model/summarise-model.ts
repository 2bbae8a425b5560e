import type { MassFigures, PartGeometry } from '../geometry/part-geometry.ts';
import { placedBox } from '../geometry/placed-box.ts';
import { combineMass, placeMass } from '../mass/combine-mass.ts';
import { EMPTY_BOX, isEmptyBox, uniteBoxes, type Box3 } from '../math/box3.ts';
import { componentsOf, listOccurrences, type ModelStructure } from './structure.ts';

export interface ModelCounts {
  components: number;
  parts: number;
  solids: number;
  faces: number;
  edges: number;
  triangles: number;
}

export interface ModelSummary {
  /** Occurrences counted: two bolts have twice the faces of one. */
  counts: ModelCounts;
  /** Of solids and faces, mm; null for an empty model. */
  box: Box3 | null;
  /** mm² */
  area: number;
  /** Of all closed solids; null when there is none. */
  mass: MassFigures | null;
  /** Components that hold faces outside closed solids, so that `mass` does not cover them. */
  openComponents: number;
}

/**
 * Counts, box and volume figures of a whole model. `geometryOf` gives the geometry of each part by its index.
 */
export function summariseModel(
  structure: ModelStructure,
  geometryOf: (part: number) => PartGeometry,
): ModelSummary {
  const components = componentsOf(listOccurrences(structure));
  const counts: ModelCounts = {
    components: components.length,
    parts: new Set(components.map((c) => c.part)).size,
    solids: 0,
    faces: 0,
    edges: 0,
    triangles: 0,
  };
  let box = EMPTY_BOX;
  let area = 0;
  let openComponents = 0;
  const masses: MassFigures[] = [];
  for (const component of components) {
    const geometry = geometryOf(component.part);
    counts.solids += geometry.bodies.filter((b) => b.closed).length;
    counts.faces += geometry.faces.length;
    counts.edges += geometry.edges.length;
    counts.triangles += geometry.mesh.indices.length / 3;
    box = uniteBoxes(box, placedBox(geometry, component.placement));
    area += geometry.area;
    if (geometry.mass) masses.push(placeMass(geometry.mass, component.placement));
    if (geometry.bodies.some((b) => !b.closed)) openComponents++;
  }
  return { counts, box: isEmptyBox(box) ? null : box, area, mass: combineMass(masses), openComponents };
}
