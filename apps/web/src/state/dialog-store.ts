import { createStore } from './tracked-store.ts';

interface DialogState {
  open: 'help' | 'settings' | 'picture' | 'whole' | 'bin' | null;
  /** Which side of the picture dialog is shown first. */
  pictureKind: 'picture' | 'drawing';
  /** Set by the router: how commands change the page. */
  goTo: (address: string) => void;
}

export const createDialogState = () =>
  createStore<DialogState>()(() => ({ open: null, pictureKind: 'picture', goTo: () => {} }));
