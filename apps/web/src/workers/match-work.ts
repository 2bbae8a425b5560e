import { decodeGeometry } from '@bathyscope/contracts';
import type { PartGeometry } from '@bathyscope/core/geometry';
import { add, pointAt, type Vec3 } from '@bathyscope/core/math';
import type { ModelStructure } from '@bathyscope/core/model';
import type { IndexedKind } from '@bathyscope/core/references';
import {
  matchParts,
  matchStructures,
  partsAlike,
  type MatchedPart,
  type MatchedStructures,
} from '@bathyscope/core/revisions';

/* Finds the parts, components and things of one revision in another. */

export type MatchRequest =
  /**
   * Containers of the geometries of parts that neither name nor hash tells: which of the old ones could be
   * which of the new ones.
   */
  | { kind: 'alike'; was: readonly ArrayBuffer[]; is: readonly ArrayBuffer[] }
  /** @param alike pairs of old and new parts that are of one shape */
  | {
      kind: 'structures';
      was: ModelStructure;
      is: ModelStructure;
      alike: readonly (readonly [number, number])[];
    }
  | { kind: 'parts'; was: ArrayBuffer; is: ArrayBuffer }
  /** The lines that a thing of a part, or the whole part, is drawn by, in the part's own frame. */
  | { kind: 'outline'; container: ArrayBuffer; thing: IndexedKind | 'component'; index: number };

export interface MatchAnswers {
  alike: boolean[][];
  structures: MatchedStructures;
  parts: MatchedPart;
  outline: Vec3[][];
}

export type MatchReply = { answer: MatchAnswers[keyof MatchAnswers] } | { error: string };

const decoded = (container: ArrayBuffer) => decodeGeometry(new Uint8Array(container));

export function answerMatch(request: MatchRequest): MatchAnswers[keyof MatchAnswers] {
  switch (request.kind) {
    case 'alike': {
      const is = request.is.map(decoded);
      return request.was.map(decoded).map((a) => is.map((b) => partsAlike(a, b)));
    }
    case 'structures': {
      const alike = new Set(request.alike.map(([o, n]) => `${o} ${n}`));
      return matchStructures(request.was, request.is, (o, n) => alike.has(`${o} ${n}`));
    }
    case 'parts':
      return matchParts(decoded(request.was), decoded(request.is));
    case 'outline':
      return outlineOf(decoded(request.container), request.thing, request.index);
  }
}

function outlineOf(part: PartGeometry, thing: IndexedKind | 'component', index: number): Vec3[][] {
  const { start, positions } = part.lines;
  const line = (e: number) =>
    Array.from({ length: start[e + 1] - start[e] }, (_, i) =>
      add(pointAt(positions, start[e] + i), part.origin),
    );
  if (thing === 'vertex') {
    const at = pointAt(part.vertices, index);
    return part.edges
      .flatMap((edge, e) => (edge.vertices.includes(index) ? [line(e)] : []))
      .concat([[at, at]]);
  }
  const faces = thing === 'body' ? (part.bodies[index]?.faces ?? []) : thing === 'face' ? [index] : [];
  const edges =
    thing === 'component'
      ? part.edges.flatMap((e, i) => (e.smooth ? [] : [i]))
      : thing === 'edge'
        ? [index]
        : faces.flatMap((f) => part.faces[f]?.edges ?? []);
  return [...new Set(edges)].filter((e) => !part.edges[e]?.seam).map(line);
}
