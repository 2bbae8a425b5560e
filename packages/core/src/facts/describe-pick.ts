import { FULL_TURN } from '../tolerances.ts';
import type {
  CurveKind,
  EdgeFacts,
  FaceFacts,
  PartGeometry,
  SurfaceKind,
} from '../geometry/part-geometry.ts';
import { coneRadii } from './cone-radii.ts';
import { patternOf } from '../holes/hole-patterns.ts';
import { likelyFor } from '../holes/likely-for.ts';
import type { Hole, HoleStepKind } from '../geometry/hole.ts';
import { boxSize } from '../math/box3.ts';
import { placedBoxKnown } from '../geometry/placed-box.ts';
import { boundText } from './bound-text.ts';
import { isMirrored, transformDirection, transformPoint, type Mat4 } from '../math/mat4.ts';
import { normalize, pointAt, type Vec3 } from '../math/vec3.ts';
import type { Material } from '../model/structure.ts';
import type { PickKind } from '../picking/pick-scene.ts';
import type { QuantityKind } from '../units/format-quantity.ts';
import type { Accuracy, SumAccuracy } from '../geometry/accuracy.ts';

export type FactValue =
  | { kind: QuantityKind; value: number; prefix?: string }
  | { kind: 'point' | 'size' | 'direction'; value: Vec3 }
  | { kind: 'text'; value: string };

export interface Fact {
  label: string;
  value: FactValue;
  /** Set where one row is less certain than the rest, or wants a word of caution. */
  note?: string;
  /** Between which two places it is measured, where that is known; model space. */
  ends?: readonly [Vec3, Vec3];
}

/** What is said about a picked thing: a title, its main figure, and rows. Figures in mm and rad. */
export interface PickFacts {
  title: string;
  main: Fact | null;
  rows: Fact[];
  /**
   * Sums: within a share of the figure; `chords`: within so many mm, where round things are
   * followed in short lines.
   */
  accuracy: Accuracy | SumAccuracy | { kind: 'chords'; within: number } | null;
}

const SURFACES: Record<SurfaceKind, string> = {
  plane: 'Plane face',
  cylinder: 'Cylinder face',
  cone: 'Cone face',
  sphere: 'Sphere face',
  torus: 'Torus face',
  freeform: 'Free-form face',
  extrusion: 'Extruded face',
  revolution: 'Turned face',
  offset: 'Offset face',
};

const CURVES: Record<CurveKind, string> = {
  line: 'Straight edge',
  circle: 'Arc edge',
  ellipse: 'Elliptic edge',
  hyperbola: 'Hyperbolic edge',
  parabola: 'Parabolic edge',
  freeform: 'Free-form edge',
};

const length = (label: string, value: number, prefix?: string): Fact => ({
  label,
  value: { kind: 'length', value, ...(prefix && { prefix }) },
});
const diameter = (value: number): Fact => length('Diameter', value, 'Ø');

export interface PickedPart {
  geometry: PartGeometry;
  placement: Mat4;
  material?: Material;
}

/** The exact facts of a picked face, edge, vertex or component, placed in the model. */
export function describePick(kind: PickKind, index: number, part: PickedPart): PickFacts {
  if (kind === 'face') return describeFace(part, index);
  if (kind === 'edge') return describeEdge(part.geometry.edges[index], part);
  if (kind === 'vertex') {
    const point = transformPoint(part.placement, pointAt(part.geometry.vertices, index));
    return {
      title: 'Vertex',
      main: null,
      rows: [{ label: 'Position', value: { kind: 'point', value: point } }],
      accuracy: { kind: 'exact' },
    };
  }
  return kind === 'body' ? describeBody(part, index) : describeComponent(part);
}

function describeFace(part: PickedPart, index: number): PickFacts {
  const face = part.geometry.faces[index];
  const area: Fact = { label: 'Area', value: { kind: 'area', value: face.area } };
  if (face.hole !== undefined) return describeHole(part.geometry.holes[face.hole], part, index, area);
  const rows: Fact[] = [area, ...axisRows(face, part.placement)];
  const title =
    SURFACES[face.surface] + (face.surface === 'cylinder' ? (face.concave ? ' · hollow' : ' · outside') : '');
  const sizes = face.surface === 'cone' ? coneRows(part.geometry, index) : sizeRows(face);
  return { title, main: mainOfFace(face), rows: [...sizes, ...rows], accuracy: face.accuracy };
}

function mainOfFace(face: FaceFacts): Fact | null {
  if (face.surface === 'cylinder' || face.surface === 'sphere') return diameter(2 * face.radius!);
  if (face.surface === 'cone')
    return { label: 'Opening angle', value: { kind: 'angle', value: 2 * face.semiAngle! } };
  if (face.surface === 'torus') return length('Tube radius', face.minorRadius!, 'R');
  return null;
}

function sizeRows(face: FaceFacts): Fact[] {
  if (face.surface === 'cylinder' || face.surface === 'sphere') return [length('Radius', face.radius!)];
  if (face.surface === 'torus') return [length('Ring radius', face.radius!)];
  return [];
}

function coneRows(part: PartGeometry, index: number): Fact[] {
  const { largest, smallest, exact } = coneRadii(part, index);
  const note = exact ? {} : { note: 'of its drawn outline' };
  return [
    { ...length('Largest radius', largest), ...note },
    { ...length('Smallest radius', smallest), ...note },
  ];
}

function axisRows(face: FaceFacts, placement: Mat4): Fact[] {
  const rows: Fact[] = [];
  if (face.surface === 'sphere' || face.surface === 'torus')
    rows.push({ label: 'Centre', value: { kind: 'point', value: transformPoint(placement, face.origin!) } });
  if (face.axis && face.surface !== 'sphere')
    rows.push({
      label: face.surface === 'plane' ? 'Normal' : 'Axis',
      value: { kind: 'direction', value: direction(placement, face.axis) },
    });
  if (face.surface === 'cylinder' || face.surface === 'cone')
    rows.push({
      label: 'Axis through',
      value: { kind: 'point', value: transformPoint(placement, face.origin!) },
    });
  return rows;
}

const direction = (placement: Mat4, d: Vec3): Vec3 => normalize(transformDirection(placement, d));

const ENDS: Record<Hole['ends'], string> = {
  through: 'through',
  blind: 'blind',
  closed: 'closed at both ends',
};

const STEPS: Record<HoleStepKind, string> = {
  counterbore: 'Counterbore',
  countersink: 'Countersink',
  chamfer: 'Rim chamfered',
  rounding: 'Rim rounded',
  groove: 'Groove',
  keyway: 'Keyway',
  slit: 'Slit',
  gap: 'Interrupted',
  cone: 'Cone',
  'drill point': 'Drill point',
  'ball bottom': 'Ball bottom',
  'bottom rounding': 'Bottom rounded',
};

/** Two rows at most for each: its leading size, then the other. */
function stepRows({ steps }: Hole): Fact[] {
  const bothEnds = new Set(steps.map((s) => s.side)).size > 1;
  return steps.flatMap((step): Fact[] => {
    const lead = (value: FactValue): Fact => ({
      label: STEPS[step.kind],
      value,
      ...(bothEnds && step.side === 'far' && { note: 'at the far end' }),
    });
    const across = diameter(step.diameter).value;
    const angle: Fact[] =
      step.angle === undefined
        ? []
        : [{ label: '\u2013 angle', value: { kind: 'angle', value: step.angle } }];
    switch (step.kind) {
      case 'rounding':
      case 'bottom rounding':
      case 'ball bottom':
        return [lead(length('', step.width!, 'R').value)];
      case 'keyway':
        return [lead(length('', step.width!).value), length('\u2013 over the bore', step.diameter)];
      case 'slit':
        return [lead(length('', step.width!).value)];
      case 'gap':
        return [{ ...lead(length('', step.width!).value), note: 'by a slot' }];
      case 'cone':
        return [lead({ kind: 'angle', value: step.angle! }), length('\u2013 depth', step.depth)];
      case 'chamfer':
        return [lead(length('', step.depth).value), ...angle];
      case 'drill point':
        return [lead({ kind: 'angle', value: step.angle! }), length('\u2013 depth', step.depth)];
      case 'countersink':
        return [lead(across), ...angle];
      default:
        return [lead(across), length(step.kind === 'groove' ? '\u2013 width' : '\u2013 depth', step.depth)];
    }
  });
}

/** The pattern that a hole is one of. */
function patternRows(holes: readonly Hole[], index: number): Fact[] {
  const pattern = patternOf(holes, index);
  if (!pattern) return [];
  const says = (value: string): Fact => ({ label: 'Pattern', value: { kind: 'text', value } });
  if (pattern.kind === 'row')
    return [says(`row of ${pattern.holes.length}`), length('\u2013 pitch', pattern.pitch)];
  if (pattern.kind === 'grid')
    return [
      says(`${pattern.counts.join(' × ')} holes`),
      ...pattern.pitches.map((pitch, i) => length(i ? '\u2013 by' : '\u2013 pitches', pitch)),
    ];
  const spacing: Fact =
    pattern.spacing === null
      ? { label: '\u2013 spacing', value: { kind: 'text', value: 'not equal' } }
      : { label: '\u2013 spacing', value: { kind: 'angle', value: pattern.spacing } };
  return [
    says(`${pattern.holes.length} on a circle`),
    { label: '\u2013 pitch circle', value: diameter(pattern.pitchDiameter).value },
    spacing,
  ];
}

function describeHole(hole: Hole, part: PickedPart, index: number, area: Fact): PickFacts {
  const face = part.geometry.faces[index];
  const wall = hole.faces.reduce((sum, f) => sum + part.geometry.faces[f].area, 0);
  const step = hole.steps.find((s) => s.faces.includes(index));
  const into = new Set(hole.opensInto.map((f) => part.geometry.faces[f].radius!));
  return {
    title: `Hole · ${ENDS[hole.ends]}`,
    main: diameter(hole.diameter),
    rows: [
      {
        ...length('Depth', hole.depth),
        note: hole.along ? `${ENDS[hole.ends]}, along the axis` : ENDS[hole.ends],
      },
      ...(hole.along
        ? [
            length('\u2013 least along the wall', hole.along.least),
            length('\u2013 greatest', hole.along.greatest),
          ]
        : []),
      ...stepRows(hole),
      ...patternRows(part.geometry.holes, face.hole!),
      ...likelyFor(hole).map(({ use, rule }): Fact => ({
        label: 'Likely',
        value: { kind: 'text', value: use },
        note: rule,
      })),
      ...[...into].map((radius): Fact => ({ label: 'Opens into a bore', value: diameter(2 * radius).value })),
      length('Radius', hole.diameter / 2),
      { label: 'Axis', value: { kind: 'direction', value: direction(part.placement, hole.axis) } },
      { label: 'Starts at', value: { kind: 'point', value: transformPoint(part.placement, hole.start) } },
      { label: 'Wall area', value: { kind: 'area', value: wall } },
      ...(step ? [{ ...area, label: 'Picked face', note: `of the ${step.kind}` }] : []),
      ...(!step && hole.faces.length > 1
        ? [{ ...area, label: 'Picked face', note: `one of ${hole.faces.length} in the file` }]
        : []),
    ],
    accuracy: face.accuracy,
  };
}

function describeEdge(edge: EdgeFacts, { placement }: PickedPart): PickFacts {
  const whole = length('Length', edge.length);
  const centre: Fact[] = edge.centre
    ? [{ label: 'Centre', value: { kind: 'point', value: transformPoint(placement, edge.centre) } }]
    : [];
  const axis: Fact[] = edge.axis
    ? [
        {
          label: edge.curve === 'line' ? 'Direction' : 'Axis',
          value: { kind: 'direction', value: direction(placement, edge.axis) },
        },
      ]
    : [];
  if (edge.curve === 'circle') {
    const full = (edge.arcAngle ?? 0) > FULL_TURN;
    const angle: Fact[] = full
      ? []
      : [{ label: 'Arc angle', value: { kind: 'angle', value: edge.arcAngle! } }];
    return {
      title: full ? 'Circle edge' : CURVES.circle,
      main: full ? diameter(2 * edge.radius!) : length('Radius', edge.radius!, 'R'),
      rows: [
        full ? length('Radius', edge.radius!) : length('Diameter', 2 * edge.radius!),
        ...angle,
        whole,
        ...centre,
        ...axis,
      ],
      accuracy: edge.accuracy,
    };
  }
  const radii =
    edge.curve === 'ellipse' ? [length('Half axes', edge.radius!), length('', edge.minorRadius!)] : [];
  return {
    title: CURVES[edge.curve],
    main: whole,
    rows: [...radii, ...centre, ...axis],
    accuracy: edge.accuracy,
  };
}

function describeBody({ geometry }: PickedPart, index: number): PickFacts {
  const body = geometry.bodies[index];
  return {
    title: body.closed ? 'Solid body' : 'Open body',
    main: null,
    accuracy: { kind: 'exact' },
    rows: [
      {
        label: 'Area',
        value: { kind: 'area', value: body.faces.reduce((sum, f) => sum + geometry.faces[f].area, 0) },
      },
      { label: 'Faces', value: { kind: 'count', value: body.faces.length } },
      { label: 'Bodies of the part', value: { kind: 'count', value: geometry.bodies.length } },
      ...(body.closed
        ? []
        : [{ label: 'Volume', value: { kind: 'text' as const, value: 'none: not a closed solid' } }]),
    ],
  };
}

/** Open bodies beside solids have no volume, which is said. */
function notInVolume({ bodies }: PartGeometry): { note?: string } {
  const open = bodies.filter((b) => !b.closed).length;
  return open ? { note: open === 1 ? 'without one open sheet' : `without ${open} open sheets` } : {};
}

const boxNote = (within: number): { note?: string } =>
  within > 0 ? { note: `free forms: within ${boundText(within, 'mm')}` } : {};

function describeComponent({ geometry, placement, material }: PickedPart): PickFacts {
  const { mass } = geometry;
  const { box, within } = placedBoxKnown(geometry, placement);
  const rows: Fact[] = [
    { label: 'Box', value: { kind: 'size', value: boxSize(box) }, ...boxNote(within) },
    mass
      ? { label: 'Volume', value: { kind: 'volume', value: mass.volume }, ...notInVolume(geometry) }
      : { label: 'Volume', value: { kind: 'text', value: 'none: not a closed solid' } },
    { label: 'Area', value: { kind: 'area', value: geometry.area } },
    ...(mass
      ? [
          {
            label: 'Centre of gravity',
            value: { kind: 'point' as const, value: transformPoint(placement, mass.centreOfGravity) },
          },
        ]
      : []),
    { label: 'Material', value: { kind: 'text', value: material?.name ?? 'none given' } },
    {
      label: 'Faces, edges',
      value: {
        kind: 'text',
        value: `${geometry.faces.length}, ${geometry.edges.filter((e) => !e.seam).length}`,
      },
    },
    ...(isMirrored(placement)
      ? [{ label: 'Placed', value: { kind: 'text' as const, value: 'as a mirror image' } }]
      : []),
  ];
  return { title: 'Component', main: null, rows, accuracy: mass ? mass.accuracy : null };
}
