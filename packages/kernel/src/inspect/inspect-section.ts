import { plainFigures, sectionFacts } from '@bathyscope/core/facts';
import type { PlainFigure } from '@bathyscope/core/units';
import type { PartGeometry } from '@bathyscope/core/geometry';
import {
  type Box3,
  dot,
  IDENTITY,
  length,
  multiply,
  normalize,
  toVec3,
  type Vec3,
  vecOf,
} from '@bathyscope/core/math';
import type { Occurrence } from '@bathyscope/core/model';
import { buildPartBvh } from '@bathyscope/core/picking';
import {
  combineSections,
  type ComponentCut,
  cutComponents,
  type CutPlane,
  flushWithin,
  fromPlane,
  judgeCut,
  planeFrame,
  type SectionProperties,
} from '@bathyscope/core/section';
import { section } from '../questions/section.ts';
import type { ShapeSession } from '../shapes/shape-session.ts';
import { ModelFileError } from '../reading/step-text.ts';

/** How good a figure is: by the exact outlines, or from the mesh, whose outlines lie within so many mm. */
export type CutAccuracy =
  { accuracy: 'exact'; within?: undefined } | { accuracy: 'followed' | 'mesh'; within: number };

/** What `--section` adds: mm and mm², points in the model. */
export type InspectedSection = {
  origin: Vec3;
  normal: Vec3;
  area: number;
  perimeter: number;
  /** null where nothing is cut. */
  centroid: Vec3 | null;
  /** All that is told of it: mm, mm², mm⁴, rad. */
  figures: PlainFigure[];
  components: ({ path: string; name: string; area: number; perimeter: number } & CutAccuracy)[];
} & CutAccuracy;

export interface CutPlaneAsked {
  origin: Vec3;
  normal: Vec3;
}

/** `OX,OY,OZ,NX,NY,NZ`, or `x=`, `y=`, `z=` and a coordinate; mm. @throws ModelFileError with a sentence */
export function readPlane(text: string): CutPlaneAsked {
  const along = /^([xyz])=(.+)$/i.exec(text.trim());
  const numbers = (along ? [along[2]] : text.split(',')).map((s) => (s.trim() === '' ? NaN : Number(s)));
  const axis = along ? 'xyz'.indexOf(along[1].toLowerCase()) : -1;
  const unit = (k: number, size: number): Vec3 => vecOf((i) => (i === k ? size : 0));
  if (along && numbers.every(Number.isFinite))
    return { origin: unit(axis, numbers[0]), normal: unit(axis, 1) };
  const normal = toVec3(numbers.slice(3));
  if (numbers.length === 6 && numbers.every(Number.isFinite) && length(normal) > 0)
    return { origin: toVec3(numbers.slice(0, 3)), normal: normalize(normal) };
  throw new ModelFileError(
    `“${text}” is no plane. Give a point and a normal as six numbers (0,0,50,0,0,1), or a coordinate (z=50); in millimetres.`,
  );
}

type Component = Occurrence & { part: number };

/** Cuts all components: by the kernel where its outlines agree with the mesh's, else by the mesh. */
export function inspectSection(
  { origin, normal }: CutPlaneAsked,
  components: readonly Component[],
  geometryOf: (part: number) => { hash: string; geometry: PartGeometry },
  box: Box3,
  session: ShapeSession,
): InspectedSection {
  const plane: CutPlane = { normal, constant: dot(origin, normal), within: flushWithin(box) };
  const trees = new Map<string, ReturnType<typeof buildPartBvh>>();
  const inputs = components.map(({ part, placement }) => {
    const { hash, geometry } = geometryOf(part);
    if (!trees.has(hash)) trees.set(hash, buildPartBvh(geometry));
    return {
      geometry,
      bvh: trees.get(hash)!,
      placement,
      stored: multiply(placement, [...IDENTITY.slice(0, 12), ...geometry.origin, 1]),
    };
  });
  const cuts = cutComponents(inputs, plane).flatMap((cut) => {
    const component = components[cut.component];
    const { hash, geometry } = geometryOf(component.part);
    const best = exactCut(cut, plane, component, hash, geometry.chordTolerance, session) ?? {
      properties: cut.properties,
      accuracy: 'mesh' as const,
      within: geometry.chordTolerance * cut.lean.most,
    };
    return best.properties ? [{ component, ...best, properties: best.properties }] : [];
  });
  const frame = planeFrame(plane);
  const whole = combineSections(cuts.map((c) => c.properties));
  return {
    origin,
    normal,
    area: whole?.area ?? 0,
    perimeter: whole?.perimeter ?? 0,
    centroid: whole ? fromPlane(frame, whole.centroid) : null,
    figures: whole ? plainFigures(sectionFacts(whole, frame)) : [],
    ...accuracyOf(cuts),
    components: cuts.map(({ component, properties: { area, perimeter }, ...good }) => ({
      path: component.path,
      name: component.instanceName ?? component.name,
      area,
      perimeter,
      ...accuracyOf([good as CutAccuracy]),
    })),
  };
}

function accuracyOf(cuts: readonly CutAccuracy[]): CutAccuracy {
  const within = Math.max(0, ...cuts.map((c) => c.within ?? 0));
  if (cuts.some((c) => c.accuracy === 'mesh')) return { accuracy: 'mesh', within };
  return within > 0 ? { accuracy: 'followed', within } : { accuracy: 'exact' };
}

/** As the kernel answers the page, and judged as the page judges it. */
function exactCut(
  cut: ComponentCut,
  { normal, constant }: CutPlane,
  { path, placement }: Component,
  hash: string,
  chord: number,
  session: ShapeSession,
): ({ properties: SectionProperties } & CutAccuracy) | null {
  try {
    const asked = { normal, constant, components: [path] };
    const [answer] = section.answer(asked, { [path]: { hash, placement } }, session);
    const judged = 'failed' in answer ? answer : judgeCut(answer, cut, chord);
    if ('failed' in judged || !judged.properties) return null;
    const { properties, tolerance } = judged;
    return {
      properties,
      ...(tolerance > 0 ? { accuracy: 'followed', within: tolerance } : { accuracy: 'exact' }),
    };
  } catch (error) {
    // Of the kernel's own exceptions, which are numbers, one cut less is exact; the mesh still answers.
    if (typeof error === 'number') return null;
    throw error;
  }
}
