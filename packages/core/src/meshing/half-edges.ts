/**
 * Triangles that know their neighbours, to be changed in place. Corner h of triangle ⌊h / 3⌋ stands for the
 * half-edge from its vertex to that of the next corner. Nothing here looks at positions.
 */
export interface HalfEdges {
  /** The vertex of each corner; −1 in triangles that are gone. */
  at: number[];
  /** The half-edge on the other side; −1 at the outline, and where more than two triangles meet. */
  twin: number[];
}

export const next = (h: number): number => (h % 3 === 2 ? h - 2 : h + 1);
export const previous = (h: number): number => (h % 3 === 0 ? h + 2 : h - 1);

/** @param indices three vertices a triangle, all triangles turned the same way */
export function halfEdges(indices: ArrayLike<number>, vertexCount: number): HalfEdges {
  const at = Array.from(indices);
  const twin = new Array<number>(at.length).fill(-1);
  const leaving = new Map<number, number>();
  for (let h = 0; h < at.length; h++) {
    const key = at[h] * vertexCount + at[next(h)];
    leaving.set(key, leaving.has(key) ? -1 : h);
  }
  for (let h = 0; h < at.length; h++) {
    const own = leaving.get(at[h] * vertexCount + at[next(h)]);
    const other = leaving.get(at[next(h)] * vertexCount + at[h]);
    if (own === h && other !== undefined) twin[h] = other;
  }
  return { at, twin };
}

function join(mesh: HalfEdges, g: number, h: number): void {
  if (g >= 0) mesh.twin[g] = h;
  if (h >= 0) mesh.twin[h] = g;
}

/** Turns an inner edge to the other diagonal of its two triangles. */
export function flipEdge(mesh: HalfEdges, h: number): void {
  const { at, twin } = mesh;
  const [i, j, g] = [next(h), previous(h), twin[h]];
  const [k, l] = [next(g), previous(g)];
  const [c, d] = [at[j], at[l]];
  const [bc, ad, db] = [twin[i], twin[k], twin[l]];
  // (a, b, c) and (b, a, d) become (a, d, c) and (d, b, c).
  at[i] = d;
  at[k] = at[g];
  at[g] = d;
  at[l] = c;
  join(mesh, h, ad);
  join(mesh, i, l);
  join(mesh, g, db);
  join(mesh, k, bc);
}

/** Puts a vertex on an inner edge, which makes four triangles of two. */
export function splitEdge(mesh: HalfEdges, h: number, vertex: number): void {
  const { at, twin } = mesh;
  const g = twin[h];
  const [a, b] = [at[h], at[g]];
  const [i, k] = [next(h), next(g)];
  const [c, d] = [at[previous(h)], at[previous(g)]];
  const [bc, ad] = [twin[i], twin[k]];
  const m = at.length;
  at.push(vertex, b, c, vertex, a, d);
  twin.push(-1, -1, -1, -1, -1, -1);
  at[i] = vertex;
  at[k] = vertex;
  join(mesh, m + 1, bc);
  join(mesh, m + 2, i);
  join(mesh, m + 4, ad);
  join(mesh, m + 5, k);
  join(mesh, h, m + 3);
  join(mesh, g, m);
}

/**
 * Draws the vertex that a half-edge of an inner edge leaves into the one it goes to; two triangles are gone.
 */
export function collapseEdge(mesh: HalfEdges, h: number): void {
  const { at, twin } = mesh;
  const into = at[next(h)];
  for (const leaving of leavingFrom(mesh, h).halfEdges) at[leaving] = into;
  for (const gone of [h, twin[h]]) {
    join(mesh, twin[next(gone)], twin[previous(gone)]);
    for (const corner of [gone, next(gone), previous(gone)]) at[corner] = -1;
  }
}

/**
 * The half-edges that leave the same vertex as h, in order round it, the way its triangles are turned; open
 * where the outline passes the vertex.
 */
export function leavingFrom({ twin }: HalfEdges, h: number): { halfEdges: number[]; open: boolean } {
  const halfEdges = [h];
  for (let g = twin[previous(h)]; g !== h; g = twin[previous(g)]) {
    if (g < 0) {
      for (let back = twin[h]; back >= 0; back = twin[next(back)]) halfEdges.unshift(next(back));
      return { halfEdges, open: true };
    }
    halfEdges.push(g);
  }
  return { halfEdges, open: false };
}

/** The vertices that have an edge with the one h leaves. */
export function neighbours(mesh: HalfEdges, h: number): Set<number> {
  const around = new Set<number>();
  for (const g of leavingFrom(mesh, h).halfEdges) around.add(mesh.at[next(g)]).add(mesh.at[previous(g)]);
  return around;
}
