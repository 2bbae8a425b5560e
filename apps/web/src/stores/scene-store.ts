import { createStore } from 'zustand/vanilla';
import type { Navigator } from '../scene/navigator.ts';
import type { SceneView } from '../scene/scene-view.ts';

/** The scene on the page, for commands that ask it something; null while there is none. */
export const sceneStore = createStore<{ scene: { view: SceneView; navigator: Navigator } | null }>()(() => ({ scene: null }));
