import { createStore } from 'zustand/vanilla';

interface DialogState {
  open: 'help' | 'settings' | null;
  /** Set by the router: how commands change the page. */
  goTo: (address: string) => void;
}

export const dialogStore = createStore<DialogState>()(() => ({ open: null, goTo: () => {} }));
