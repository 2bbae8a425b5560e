import { createStore } from './tracked-store.ts';

/** What is printed on the key at a place (`KeyA`), where the browser tells the keyboard's layout. */
export type KeyCaps = ReadonlyMap<string, string>;

export const createKeyboardState = () => createStore<{ caps: KeyCaps }>()(() => ({ caps: new Map() }));
