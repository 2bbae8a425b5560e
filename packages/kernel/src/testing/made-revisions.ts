import type { FaceFacts, PartGeometry } from '@bathyscope/core/geometry';
import {
  invertAffine,
  map3,
  transformDirection,
  transformPoint,
  type Mat4,
  type Vec3,
} from '@bathyscope/core/math';
import type { ModelStructure, StructureNode } from '@bathyscope/core/model';
import type { Occt } from '../occt/load.ts';
import { describePart } from '../describing/describe-part.ts';
import type { MadeSolids } from './made-solids.ts';

/*
 * A model that is revised: made from dimensions, so that of each face of each revision it
 * is known what it is. mm.
 */

/** A hole that goes through: place and radius. */
type Drilled = readonly [x: number, y: number, r: number];

export interface Rig {
  thickness: number;
  right: number;
  holes: Record<string, Drilled>;
  pocket: boolean;
  groove: boolean;
  fillet: number;
  chamfer: number;
  flangeHoles: number;
  bracketHole: number;
  /** Of the parts' names. */
  names: Record<string, string>;
  /** All parts lie otherwise in their frames, and the components so that nothing else changes. */
  baked: Mat4 | null;
  /** How shapes come about. */
  written: 'as made' | 'as splines' | 'shuffled' | 'in inches';
  /** The components. */
  root: StructureNode;
}

export const PARTS = ['plate', 'bracket', 'flange', 'pin', 'washer', 'cube', 'lid'] as const;
export type RigPart = (typeof PARTS)[number];

const grid = (): Record<string, Drilled> => {
  const holes: Record<string, Drilled> = { 'dowel a': [-85, -45, 4], 'dowel b': [85, 45, 4] };
  for (const [i, x] of [-60, -20, 20, 60].entries())
    for (const [j, y] of [-30, 0, 30].entries()) holes[`hole ${i} ${j}`] = [x, y, 3];
  return holes;
};

/** A placement: turned about Z, then moved. */
export const at = (x: number, y: number, z: number, turn = 0): Mat4 => {
  const [c, s] = [Math.cos(turn), Math.sin(turn)];
  return [c, s, 0, 0, -s, c, 0, 0, 0, 0, 1, 0, x, y, z, 1];
};

export const component = (
  part: RigPart,
  name: string,
  placement: Mat4,
  instanceName?: string,
): StructureNode => ({
  name,
  part: PARTS.indexOf(part),
  placement,
  ...(instanceName && { instanceName }),
});

export function firstRig(): Rig {
  const washers = Array.from({ length: 12 }, (_, i) =>
    component('washer', 'Washer', at(-60 + 40 * (i % 4), -30 + 30 * Math.floor(i / 4), 10)),
  );
  const leg = (n: number, x: number, y: number): StructureNode => ({
    name: 'Leg',
    placement: at(x, y, -60, n),
    children: [
      component('bracket', 'Bracket', at(0, 0, 0)),
      component('pin', 'Pin', at(10, 5, 8), `Pin ${2 * n + 1}`),
      component('pin', 'Pin', at(50, 5, 8), `Pin ${2 * n + 2}`),
    ],
  });
  const root: StructureNode = {
    name: 'Rig',
    placement: at(0, 0, 0),
    children: [
      component('plate', 'Base plate', at(0, 0, 0)),
      { name: 'Washers', placement: at(0, 0, 0), children: washers },
      {
        name: 'Legs',
        placement: at(0, 0, 0),
        children: [leg(0, -90, -50), leg(1, 90, -50), leg(2, 90, 50), leg(3, -90, 50)],
      },
      component('flange', 'Flange', at(0, 0, 40)),
      component('cube', 'Cube', at(0, 80, 0)),
    ],
  };
  const names = {
    plate: 'Base plate',
    bracket: 'Bracket',
    flange: 'Flange',
    pin: 'Pin',
    washer: 'Washer',
    cube: 'Cube',
    lid: 'Lid',
  };
  return {
    thickness: 10,
    right: 100,
    holes: grid(),
    pocket: true,
    groove: false,
    fillet: 0,
    chamfer: 0,
    flangeHoles: 6,
    bracketHole: 35,
    names,
    baked: null,
    written: 'as made',
    root,
  };
}

function shapeOf(rig: Rig, part: RigPart, oc: Occt, make: MadeSolids): Occt {
  const drilled = (holes: readonly Drilled[], from: number, to: number) =>
    holes.map(([x, y, r]) => make.cylinder([x, y, from - 1], r, to - from + 2));
  const t = rig.thickness;
  switch (part) {
    case 'plate': {
      const blank = make.box([-100, -60, 0], [rig.right, 60, t]);
      const dressed = rig.fillet || rig.chamfer ? rounded(oc, blank, rig, t) : blank;
      const pocket = rig.pocket ? [make.box([-15, -54, t - 4], [15, -42, t + 1])] : [];
      const groove = rig.groove ? [make.box([38, -61, t - 2], [42, 61, t + 1])] : [];
      return make.minus(dressed, ...drilled(Object.values(rig.holes), 0, t), ...pocket, ...groove);
    }
    case 'bracket':
      return make.minus(
        make.plus(make.box([0, 0, 0], [60, 40, 8]), make.box([0, 0, 0], [8, 40, 50])),
        ...drilled(
          [
            [35, 10, 3.4],
            [35, 30, 3.4],
          ],
          0,
          8,
        ),
        make.cylinder([-1, 20, rig.bracketHole], 5, 10, [1, 0, 0]),
      );
    case 'flange':
      return make.minus(
        make.plus(make.cylinder([0, 0, 0], 40, 8), make.cylinder([0, 0, 0], 20, 25)),
        make.cylinder([0, 0, -1], 12, 30),
        ...Array.from({ length: rig.flangeHoles }, (_, i) => {
          const a = (2 * Math.PI * i) / rig.flangeHoles;
          return make.cylinder([30 * Math.cos(a), 30 * Math.sin(a), -1], 2.75, 10);
        }),
      );
    case 'pin':
      return make.plus(make.cylinder([0, 0, 0], 4, 28), make.cone([0, 0, 28], 4, 3, 2));
    case 'washer':
      return make.minus(make.cylinder([0, 0, 0], 6, 1.2), make.cylinder([0, 0, -1], 3.2, 4));
    case 'cube':
      return make.box([-10, -10, -10], [10, 10, 10]);
    case 'lid':
      return make.minus(make.box([-50, -40, 0], [50, 40, 4]), make.cylinder([20, 0, -1], 8, 6));
  }
}

/** One edge of the plate rounded, or one chamfered: those at the top, before and behind. */
function rounded(oc: Occt, blank: Occt, { fillet, chamfer }: Rig, t: number): Occt {
  const maker = fillet
    ? new oc.BRepFilletAPI_MakeFillet(blank, oc.ChFi3d_FilletShape.ChFi3d_Rational)
    : new oc.BRepFilletAPI_MakeChamfer(blank);
  const explorer = new oc.TopExp_Explorer_2(
    blank,
    oc.TopAbs_ShapeEnum.TopAbs_EDGE,
    oc.TopAbs_ShapeEnum.TopAbs_SHAPE,
  );
  let done = false;
  for (; explorer.More() && !done; explorer.Next()) {
    const edge = oc.TopoDS.Edge_1(explorer.Current());
    const curve = new oc.BRepAdaptor_Curve_2(edge);
    const p = curve.Value((curve.FirstParameter() + curve.LastParameter()) / 2);
    if (Math.abs(p.Y() + 60) > 1e-6 || Math.abs(p.Z() - t) > 1e-6) continue;
    maker.Add_2(fillet || chamfer, edge);
    done = true;
  }
  maker.Build(new oc.Message_ProgressRange_1());
  return maker.Shape();
}

/** What a face is: by the plane or axis it lies on, in the frame in which it was made. */
function labelOf(rig: Rig, part: RigPart, f: FaceFacts): string {
  const [o, n] = [f.origin ?? [0, 0, 0], f.axis ?? [0, 0, 0]];
  const round = (x: number) => Math.round(100 * x) / 100;
  if (f.surface === 'plane') {
    const off = round(o[0] * n[0] + o[1] * n[1] + o[2] * n[2]);
    if (part !== 'plate') return `plane ${n.map(Math.round).join(' ')} ${off}`;
    const named = new Map([
      [`0 0 1 ${rig.thickness}`, 'top'],
      [`0 0 1 ${rig.thickness - 4}`, 'floor of the pocket'],
      [`1 0 0 ${rig.right}`, 'right'],
    ]);
    const key = `${n.map(Math.round).join(' ')} ${off}`;
    return named.get(key) ?? `plane ${key}`;
  }
  if (f.surface === 'cylinder' && part === 'plate' && f.concave) {
    const hole = Object.entries(rig.holes).find(([, [x, y]]) => Math.hypot(x - o[0], y - o[1]) < 0.01);
    return hole?.[0] ?? 'unknown';
  }
  if (f.surface === 'cylinder' && part === 'bracket' && Math.abs(n[0]) > 0.9) return 'cross hole';
  const across = f.surface === 'cylinder' ? o.map((x, k) => (Math.abs(n[k]) > 0.9 ? 0 : round(x))) : [];
  // The radius of a cone is given at any place of its axis.
  return `${f.surface} ${f.concave} ${round(f.surface === 'cone' ? f.semiAngle! : (f.radius ?? 0))} ${across.join(' ')}`;
}

export interface MadePart {
  geometry: PartGeometry;
  /** Of each thing what it is; things that are called the same cannot be told apart by this. */
  labels: Record<'face' | 'edge' | 'vertex' | 'body', string[]>;
}

export interface MadeRevision {
  structure: ModelStructure;
  parts: readonly MadePart[];
}

const INCH = 25.4;

/**
 * @param describe how a shape becomes a geometry where it goes through a file @param known parts that were
 * made before, by their dimensions
 */
export function makeRevision(
  oc: Occt,
  make: MadeSolids,
  rig: Rig,
  fromText: (text: string) => PartGeometry,
  known: Map<string, MadePart>,
): MadeRevision {
  const { root, names, ...dimensions } = rig;
  const parts = PARTS.map((part) => {
    const key = JSON.stringify([
      part,
      part === 'plate' ? dimensions : [rig.flangeHoles, rig.bracketHole, rig.baked, rig.written],
    ]);
    let found = known.get(key);
    if (!found) known.set(key, (found = makePart(oc, make, rig, part, fromText)));
    return { key, found };
  });
  return {
    structure: { root, parts: PARTS.map((part, i) => ({ name: names[part], geometry: parts[i].key })) },
    parts: parts.map(({ found }) => found),
  };
}

function makePart(
  oc: Occt,
  make: MadeSolids,
  rig: Rig,
  part: RigPart,
  fromText: (text: string) => PartGeometry,
): MadePart {
  const plain = shapeOf(rig, part, oc, make);
  const moved = rig.baked ? placed(oc, plain, rig.baked) : plain;
  const geometry =
    rig.written === 'shuffled'
      ? fromText(shuffledFaces(make.stepText(moved)))
      : describePart(
          oc,
          rig.written === 'as splines'
            ? make.asSplines(moved)
            : rig.written === 'in inches'
              ? make.scaled(moved, INCH)
              : moved,
        );
  const scale = rig.written === 'in inches' ? 1 / INCH : 1;
  const face = geometry.faces.map((f) => labelOf(rig, part, asMade(f, rig.baked, scale)));
  const among = (faces: readonly number[]) => [...new Set(faces.map((f) => face[f]))].sort().join(' | ');
  const at = Array.from({ length: geometry.vertices.length / 3 }, () => new Set<number>());
  for (const e of geometry.edges) for (const v of e.vertices) for (const f of e.faces) at[v].add(f);
  return {
    geometry,
    labels: {
      face,
      edge: geometry.edges.map((e) => `${e.seam ? 'seam ' : ''}${e.curve}: ${among(e.faces)}`),
      vertex: at.map((faces) => among([...faces])),
      body: geometry.bodies.map(() => 'body'),
    },
  };
}

/** The facts of a face as they were before its part was moved and scaled. */
function asMade(f: FaceFacts, baked: Mat4 | null, scale: number): FaceFacts {
  const back = baked && invertAffine(baked);
  const point = (p: Vec3): Vec3 => map3(back ? transformPoint(back, p) : p, (x) => x * scale);
  return {
    ...f,
    ...(f.origin && { origin: point(f.origin) }),
    ...(f.axis && { axis: back ? transformDirection(back, f.axis) : f.axis }),
    ...(f.radius !== undefined && { radius: f.radius * scale }),
  };
}

function placed(oc: Occt, shape: Occt, m: Mat4): Occt {
  const t = new oc.gp_Trsf_1();
  t.SetValues(m[0], m[4], m[8], m[12], m[1], m[5], m[9], m[13], m[2], m[6], m[10], m[14]);
  return new oc.BRepBuilderAPI_Transform_2(shape, t, true).Shape();
}

/** The same file with its statements and the faces of its shells in another order. */
export function shuffledFaces(text: string): string {
  let seed = 7;
  const next = () => (seed = (seed * 1_103_515_245 + 12_345) % 2 ** 31) / 2 ** 31;
  const shuffle = <T>(list: T[]): T[] =>
    list
      .map((x) => [next(), x] as const)
      .sort((a, b) => a[0] - b[0])
      .map(([, x]) => x);
  const [head, rest] = text.split('DATA;');
  const [data, tail] = rest.split('ENDSEC;');
  const statements = data.split(/;\s*\n/).filter((s) => s.trim());
  const faces = (s: string) =>
    s.replace(
      /(CLOSED_SHELL\('[^']*',\()([^)]*)\)/,
      (_, begin: string, list: string) => `${begin}${shuffle(list.split(',')).join(',')})`,
    );
  return `${head}DATA;\n${shuffle(statements).map(faces).join(';\n')};\nENDSEC;${tail}`;
}
