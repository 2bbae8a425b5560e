import { DRAWING_LEAST, ROUNDING } from '../tolerances.ts';
import type { PartGeometry } from '../geometry/part-geometry.ts';
import { isMirrored, transformDirection, transformPoint, type Mat4 } from '../math/mat4.ts';
import { cutChain } from '../math/plane.ts';
import { rotate, type Quaternion } from '../math/quaternion.ts';
import { add, addScaled, dot, normalize, pointAt, scale, subtract, vecOf, type Vec3 } from '../math/vec3.ts';
import { assembleDrawing } from './assemble-drawing.ts';
import type { Drawing, LineKind } from './drawing.ts';
import { capChains, capTriangles, viewCut, type DrawnSection } from './drawn-section.ts';
import { meshEdges, type MeshEdges } from './mesh-edges.ts';
import { TriangleGrid } from './triangle-grid.ts';
import type { ViewChain } from './view-chain.ts';
import type { Stretch } from './view-chain.ts';
import { SAME_END, FACE_ON } from '../tolerances.ts';

export interface DrawnComponent {
  placement: Mat4;
  geometry: PartGeometry;
  /** No section cuts it. */
  whole?: boolean;
}

export interface HiddenLineOptions {
  hidden: boolean;
  smooth: boolean;
  section?: DrawnSection;
  /** Called with 0…1. */
  onProgress?: (share: number) => void;
}

/**
 * The orthographic line drawing of components: edges and outlines, split where their visibility changes.
 * Edges come from the exact geometry, the outlines of cylinders, cones and spheres are put on the exact
 * surface, those of other faces are the mesh's. What hides is the mesh, looked up in a grid of the drawing's
 * plane, so that the work grows with the number of lines and not with its product with the triangles. After
 * A. Appel, The notion of quantitative invisibility, Proc. ACM National Conference 1967, with intervals
 * instead of counts. A section takes its part of lines and of what hides them; its cut faces hide as faces
 * do, are outlined wide and hatched narrow (ISO 128-3).
 */
export function hiddenLineDrawing(
  components: readonly DrawnComponent[],
  orientation: Quaternion,
  options: HiddenLineOptions,
): Drawing {
  const axes = [
    rotate(orientation, [1, 0, 0]),
    rotate(orientation, [0, 1, 0]),
    rotate(orientation, [0, 0, 1]),
  ] as const;
  const toView = (p: Vec3): Vec3 => [dot(p, axes[0]), dot(p, axes[1]), dot(p, axes[2])];
  const known = new Map<PartGeometry, MeshEdges>();
  const edgesOf = (part: PartGeometry): MeshEdges =>
    known.get(part) ?? (known.set(part, meshEdges(part)), known.get(part)!);

  const { section } = options;
  const cut = section && viewCut(section, toView);
  const grid = TriangleGrid.of(
    components,
    toView,
    cut,
    (section?.caps ?? []).flatMap((cap) => capTriangles(cap).map(toView)),
  );
  const chainsOf = (c: DrawnComponent): ViewChain[] => {
    const chains = [
      ...edgeChains(c, toView, axes[2], options.smooth),
      ...outlineChains(c, edgesOf(c.geometry), toView, axes[2]),
    ];
    return cut && !c.whole
      ? chains.flatMap((chain) => cutChain(chain.points, cut).map((points) => ({ ...chain, points })))
      : chains;
  };
  // Outlines of cuts come first: of lines that fall together the first is drawn, and theirs shall be whole.
  const chains = [
    ...(section?.caps ?? []).flatMap((cap) => capChains(cap, toView)),
    ...components.flatMap(chainsOf),
  ];
  const tolerance = Math.max(DRAWING_LEAST, ...components.map((c) => c.geometry.chordTolerance));
  const stretches: Stretch[] = [];
  chains.forEach((chain, i) => {
    if (options.onProgress && i % 500 === 0) options.onProgress(i / chains.length);
    stretches.push(...splitByVisibility(chain, grid, tolerance, options.hidden));
  });
  return assembleDrawing(stretches, tolerance);
}

function edgeChains(
  { placement, geometry }: DrawnComponent,
  toView: (p: Vec3) => Vec3,
  back: Vec3,
  smooth: boolean,
): ViewChain[] {
  const { lines, edges, origin } = geometry;
  return edges.flatMap((edge, e) => {
    if (edge.seam || (edge.smooth && !smooth)) return [];
    const points: Vec3[] = [];
    for (let i = lines.start[e]; i < lines.start[e + 1]; i++)
      points.push(toView(transformPoint(placement, add(pointAt(lines.positions, i), origin))));
    const round =
      edge.curve === 'circle' &&
      Math.abs(dot(normalize(transformDirection(placement, edge.axis!)), back)) > 1 - FACE_ON ** 2;
    return [
      {
        points,
        kind: edge.smooth ? 'smooth' : 'visible',
        ...(round && {
          circle: { centre: toView(transformPoint(placement, edge.centre!)), radius: edge.radius! },
        }),
      },
    ];
  });
}

/**
 * The outline of the curved faces: mesh edges with one side facing the eye and the other not,
 * put on the exact surface.
 */
function outlineChains(
  { placement, geometry }: DrawnComponent,
  mesh: MeshEdges,
  toView: (p: Vec3) => Vec3,
  back: Vec3,
): ViewChain[] {
  const facing = trianglesFacing(geometry, placement, back);
  const { positions } = geometry.mesh;
  const chains: ViewChain[] = [];
  for (let i = 0; i < mesh.faces.length; i++) {
    if (facing[mesh.triangles[2 * i]] === facing[mesh.triangles[2 * i + 1]]) continue;
    const ends = [0, 1].map((k) => add(pointAt(positions, mesh.vertices[2 * i + k]), geometry.origin));
    const points = ends.map((p) =>
      toView(transformPoint(placement, onExactOutline(p, geometry, mesh.faces[i], placement, back))),
    );
    chains.push({ points, kind: 'visible' });
  }
  return linkChains(chains);
}

/** Joins segments whose ends meet two by two, so that an outline is one line and its dashes run on. */
function linkChains(segments: readonly ViewChain[]): ViewChain[] {
  const key = (p: Vec3) => p.map((x) => Math.round(x / SAME_END)).join();
  const at = new Map<string, number[]>();
  segments.forEach(({ points }, i) => {
    for (const p of points) at.set(key(p), [...(at.get(key(p)) ?? []), i]);
  });
  const used = new Uint8Array(segments.length);
  const grow = (points: Vec3[]): void => {
    for (;;) {
      const end = points[points.length - 1];
      const here = at.get(key(end))!;
      const next = here.length === 2 ? here.find((i) => !used[i]) : undefined;
      if (next === undefined) return;
      used[next] = 1;
      const [a, b] = segments[next].points;
      points.push(key(a) === key(end) ? b : a);
    }
  };
  return segments.flatMap(({ points, kind }, i) => {
    if (used[i]) return [];
    used[i] = 1;
    const chain = [...points];
    grow(chain);
    chain.reverse();
    grow(chain);
    return [{ points: chain, kind }];
  });
}

/** For every triangle whether its outer side faces the eye. */
function trianglesFacing({ mesh }: PartGeometry, placement: Mat4, back: Vec3): Uint8Array {
  const sign = isMirrored(placement) ? -1 : 1;
  const out = new Uint8Array(mesh.indices.length / 3);
  for (let t = 0; t < out.length; t++) {
    const [a, b, c] = [0, 1, 2].map((k) =>
      transformDirection(placement, pointAt(mesh.positions, mesh.indices[3 * t + k])),
    );
    const [u, v] = [subtract(b, a), subtract(c, a)];
    const n: Vec3 = [u[1] * v[2] - u[2] * v[1], u[2] * v[0] - u[0] * v[2], u[0] * v[1] - u[1] * v[0]];
    out[t] = sign * dot(n, back) > 0 ? 1 : 0;
  }
  return out;
}

/**
 * Moves a vertex of the mesh's outline (part's frame) to where the exact surface has its outline: for
 * cylinders, cones and spheres.
 */
function onExactOutline(p: Vec3, { faces }: PartGeometry, f: number, placement: Mat4, back: Vec3): Vec3 {
  const face = faces[f];
  if (!face.origin || face.radius === undefined) return p;
  // The line of sight in the part's frame (placements are rigid, so the transpose takes it back).
  const m = placement;
  const sight: Vec3 = normalize(
    vecOf((k) => m[4 * k] * back[0] + m[4 * k + 1] * back[1] + m[4 * k + 2] * back[2]),
  );
  if (face.surface === 'sphere') {
    const d = subtract(p, face.origin);
    const across = normalize(addScaled(d, sight, -dot(d, sight)));
    return addScaled(face.origin, across, face.radius);
  }
  if ((face.surface !== 'cylinder' && face.surface !== 'cone') || !face.axis) return p;
  const height = dot(subtract(p, face.origin), face.axis);
  const onAxis = addScaled(face.origin, face.axis, height);
  const slope = face.surface === 'cone' ? Math.tan(face.semiAngle!) : 0;
  const radius = face.radius + height * slope;
  // Normals of the surface are (radial − slope·axis): the outline is where that is
  // square to the line of sight.
  const radial = addScaled(sight, face.axis, -dot(sight, face.axis));
  const seen = Math.hypot(...radial);
  const share = seen > ROUNDING ? (slope * dot(sight, face.axis)) / seen : 2;
  if (Math.abs(share) > 1) return p;
  const [u, v] = [scale(radial, 1 / seen), crossUnit(face.axis, radial)];
  const side = Math.sign(dot(subtract(p, onAxis), v)) || 1;
  return add(onAxis, add(scale(u, radius * share), scale(v, side * radius * Math.sqrt(1 - share * share))));
}

function crossUnit(a: Vec3, b: Vec3): Vec3 {
  return normalize([a[1] * b[2] - a[2] * b[1], a[2] * b[0] - a[0] * b[2], a[0] * b[1] - a[1] * b[0]]);
}

/** Cuts a chain where something begins or ends to hide it. */
function splitByVisibility(
  chain: ViewChain,
  grid: TriangleGrid,
  tolerance: number,
  hidden: boolean,
): Stretch[] {
  const stretches: Stretch[] = [];
  let current: Stretch | null = null;
  const circle = chain.circle && {
    centre: [chain.circle.centre[0], chain.circle.centre[1]] as const,
    radius: chain.circle.radius,
  };
  const put = (from: Vec3, to: Vec3, t0: number, t1: number, kind: LineKind) => {
    if (t1 - t0 < ROUNDING) return;
    const at = (t: number) => [from[0] + (to[0] - from[0]) * t, from[1] + (to[1] - from[1]) * t] as const;
    if (!current || current.kind !== kind) {
      current = { kind, points: [at(t0)], ...(circle && { circle }) };
      stretches.push(current);
    }
    current.points.push(at(t1));
  };
  for (let i = 0; i + 1 < chain.points.length; i++) {
    const [a, b] = [chain.points[i], chain.points[i + 1]];
    let t = 0;
    for (const [from, to] of grid.hiddenIntervals(a, b, tolerance)) {
      put(a, b, t, from, chain.kind);
      if (chain.kind === 'hatch') current = null;
      else put(a, b, from, to, 'hidden');
      t = to;
    }
    put(a, b, t, 1, chain.kind);
  }
  return hidden ? stretches : stretches.filter((s) => s.kind !== 'hidden');
}
