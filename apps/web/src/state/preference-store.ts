import type { KeptFigure, Reference, Section, TypedMass, UpAxis, Vec3, ViewState } from '@bathyscope/core';
import { createStore } from 'zustand/vanilla';

/** What a user set about one model. */
export interface ModelPreference {
  upAxis: UpAxis;
  /** Where Home leads instead of the isometric view; null for that. */
  home: ViewState | null;
  /** Home frames what is visible instead of the whole model. */
  homeFramesVisible: boolean;
  /** Names of components on the screen, by path; the file stays as it is. */
  names: Record<string, string>;
  /** Picked sets that were named and kept. */
  pickSets: PickSet[];
  /** Sections that were named and kept. */
  sections: KeptSection[];
  /** Clashes that are meant so. */
  accepted: AcceptedFit[];
  /** Measurements that are kept, in order. */
  figures: KeptFigure[];
  /** Materials given to parts, by the part's key: ids of the library. */
  materials: Record<string, string>;
  /** Materials given to single components, by path. */
  componentMaterials: Record<string, string>;
  /** Masses typed in, by the part's key. */
  typedMasses: Record<string, TypedMass>;
  /** Hollows that are marked as sealed, by a place in them. */
  sealed: { id: string; at: Vec3 }[];
  /** Weights that were kept, to be compared with. */
  weights: KeptWeight[];
  /** Reference systems of one's own. */
  systems: KeptSystem[];
}

/** What something weighed when it was kept. kg, mm. */
export interface KeptWeight {
  id: string;
  name: string;
  mass: number;
  centreOfGravity: Vec3;
  revision: number;
}

export interface PickSet {
  id: string;
  name: string;
  items: Reference[];
}

export interface KeptSection {
  id: string;
  name: string;
  section: Section;
  /** Components that it leaves whole. */
  whole: Reference[];
}

/** Two components whose overlap is meant so: a thread, a press fit. */
export interface AcceptedFit {
  id: string;
  a: Reference;
  b: Reference;
}

/** A reference system, by what it was made of: its origin, what X runs along, on which side Y lies. */
export interface KeptSystem {
  id: string;
  name: string;
  of: Reference[];
}

export const PLAIN_PREFERENCE: ModelPreference = {
  upAxis: 'z',
  home: null,
  homeFramesVisible: true,
  names: {},
  pickSets: [],
  sections: [],
  accepted: [],
  figures: [],
  systems: [],
  materials: {},
  componentMaterials: {},
  typedMasses: {},
  sealed: [],
  weights: [],
};

export const createPreferenceState = () => createStore<ModelPreference>()(() => PLAIN_PREFERENCE);
