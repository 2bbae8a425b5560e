import { NO_SECTION, type Section } from '@bathyscope/core/section';
import { createStore } from './tracked-store.ts';

interface SectionState extends Section {
  /** The plane whose handle is in the scene. */
  active: string | null;
  /** What Esc goes back to while a plane is being set. */
  before: Section | null;
  /** Ids of panes that show the model uncut. */
  uncutPanes: string[];
  /** mm of one step by arrow key. */
  step: number;
  /** Centroid and principal axes of each cut are drawn. */
  axes: boolean;
}

export const createSectionState = () =>
  createStore<SectionState>()(() => ({
    ...NO_SECTION,
    active: null,
    before: null,
    uncutPanes: [],
    step: 1,
    axes: false,
  }));
