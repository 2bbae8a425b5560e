import { createStore } from './tracked-store.ts';
import type { ScenePort } from './scene-port.ts';

/** The scene on the page, for commands that ask it something; null while there is none. */
export const createSceneState = () => createStore<{ scene: ScenePort | null }>()(() => ({ scene: null }));
