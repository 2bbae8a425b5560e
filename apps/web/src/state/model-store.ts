import type { ModelDetail } from '@bathyscope/contracts';
import { mostOf } from '@bathyscope/core/colours';
import type { PartGeometry } from '@bathyscope/core/geometry';
import type { Vec3 } from '@bathyscope/core/math';
import { componentsOf, listOccurrences, partKeys, type Occurrence } from '@bathyscope/core/model';
import type { MeshBVH } from 'three-mesh-bvh';
import { createStore } from './tracked-store.ts';
export type Component = Occurrence & { part: number };

export interface LoadedPart {
  geometry: PartGeometry;
  bvh: MeshBVH;
}

interface ModelState {
  status: 'empty' | 'loading' | 'ready' | 'failed';
  /** A sentence, when it failed. */
  error: string | null;
  /** 0–1 of the geometry. */
  progress: number;
  detail: ModelDetail | null;
  occurrences: Occurrence[];
  byPath: ReadonlyMap<string, Occurrence>;
  /** Key of each part, by its number. */
  partKeys: readonly string[];
  components: Component[];
  parts: ReadonlyMap<number, LoadedPart>;
  clear: () => void;
  begin: (detail: ModelDetail) => void;
  setProgress: (progress: number) => void;
  finish: (parts: ReadonlyMap<number, LoadedPart>) => void;
  fail: (error: string) => void;
  rename: (name: string) => void;
}

const EMPTY = {
  status: 'empty',
  error: null,
  progress: 0,
  detail: null,
  occurrences: [],
  byPath: new Map(),
  partKeys: [],
  components: [],
  parts: new Map(),
} as const;

/**
 * Where a file colours the faces of a part and not the part itself, the part has the
 * colour of most of its surface.
 */
function withFaceColours(
  occurrences: readonly Occurrence[],
  parts: ReadonlyMap<number, LoadedPart>,
  detail: ModelDetail | null,
): Occurrence[] {
  const found = new Map<number, Vec3 | undefined>();
  const colourOf = (part: number): Vec3 | undefined => {
    if (!found.has(part))
      found.set(part, mostOf(detail?.structure.parts[part]?.faceColours, parts.get(part)?.geometry));
    return found.get(part);
  };
  return occurrences.map((o) => (o.colour || o.part === undefined ? o : { ...o, colour: colourOf(o.part) }));
}

/** The model on the screen: structure and geometry, never changed by viewing. */
export const createModelState = () =>
  createStore<ModelState>()((set) => ({
    ...EMPTY,
    occurrences: [],
    components: [],
    clear: () => set({ ...EMPTY, occurrences: [], components: [] }),
    begin: (detail) => {
      const occurrences = listOccurrences(detail.structure);
      set({
        status: 'loading',
        error: null,
        progress: 0,
        detail,
        occurrences,
        byPath: new Map(occurrences.map((o) => [o.path, o])),
        partKeys: partKeys(detail.structure),
        components: componentsOf(occurrences),
        parts: new Map(),
      });
    },
    setProgress: (progress) => set({ progress }),
    finish: (parts) =>
      set(({ occurrences, detail }) => {
        const coloured = withFaceColours(occurrences, parts, detail);
        return {
          status: 'ready',
          progress: 1,
          parts,
          occurrences: coloured,
          byPath: new Map(coloured.map((o) => [o.path, o])),
          components: componentsOf(coloured),
        };
      }),
    fail: (error) => set({ status: 'failed', error }),
    rename: (name) => set((s) => ({ detail: s.detail && { ...s.detail, name } })),
  }));
