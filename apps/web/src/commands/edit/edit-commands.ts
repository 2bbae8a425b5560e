import {
  Boxes,
  CircleHelp,
  Fullscreen,
  LibraryBig,
  ListTree,
  MoonStar,
  MousePointerClick,
  Redo2,
  Search,
  Settings2,
  Undo2,
  X,
  Trash2,
} from 'lucide-react';
import type { Command } from '../command.ts';
import { focusCommandField } from './command-field-focus.ts';
import { stopWaiting } from '../run-command.ts';
import { abandonSection } from '../cut/section-changes.ts';
import { stopSweep } from '../cut/section-sweep.ts';
import { stopTour } from '../keep/tour.ts';
import { changeSettings } from '../../workspace/keeping/change-settings.ts';
import { capital } from '../../ui/capital.ts';

export const EDIT_COMMANDS: Command[] = [
  {
    id: 'pick-component',
    name: 'Pick the component',
    group: 'Picking',
    icon: Boxes,
    searchWords: ['select part', 'whole part', 'occurrence'],
    needs: 'components',
    menu: 'thing',
    run: (ws, items) => ws.selection.getState().pick(items),
  },
  {
    id: 'back-out',
    name: 'Back out',
    group: 'Picking',
    icon: X,
    shortcut: 'Esc',
    searchWords: ['cancel', 'deselect', 'clear selection', 'escape'],
    needs: 'nothing',
    // One level a press: a tour, what waits or is held on to, then the pick.
    run: (ws) => {
      if (stopTour(ws) || stopSweep(ws) || stopWaiting(ws) || abandonSection(ws)) return;
      if (ws.visibility.getState().peeking) return ws.visibility.setState({ peeking: false });
      if (ws.mode.getState().leftDrag) return ws.mode.setState({ leftDrag: null });
      if (ws.camera.getState().hinge) return ws.camera.getState().setHinge(null);
      ws.selection.getState().pick([]);
    },
    keepsMode: true,
  },
  {
    id: 'undo',
    name: 'Undo',
    group: 'Edit',
    icon: Undo2,
    shortcut: 'Ctrl+Z',
    searchWords: ['take back', 'revert'],
    needs: 'nothing',
    menu: 'space',
    refusal: (ws) =>
      ws.history.getState().done.length || ws.sweep.getState().plane
        ? null
        : 'There is nothing to undo. Turning the view is not undone: the model itself never changes.',
    run: (ws) => {
      // What is still playing is a step of its own.
      stopSweep(ws);
      const undone = ws.history.getState().undo();
      if (undone) ws.notify(`Undone: ${undone.name}`, { id: 'history' });
    },
  },
  {
    id: 'redo',
    name: 'Redo',
    group: 'Edit',
    icon: Redo2,
    shortcut: 'Ctrl+Shift+Z',
    alsoKeys: ['Ctrl+Y'],
    searchWords: ['repeat', 'again'],
    needs: 'nothing',
    refusal: (ws) => (ws.history.getState().undone.length ? null : 'There is nothing to do again.'),
    run: (ws) => {
      const redone = ws.history.getState().redo();
      if (redone) ws.notify(`${capital(redone.name)}: done again`, { id: 'history' });
    },
  },
  {
    id: 'command-field',
    name: 'Find a command',
    group: 'Window',
    icon: Search,
    shortcut: 'Ctrl+K',
    searchWords: ['search', 'palette'],
    needs: 'nothing',
    run: focusCommandField,
  },
  {
    id: 'theme',
    name: 'Day or night colours',
    group: 'Window',
    icon: MoonStar,
    searchWords: ['dark mode', 'light mode', 'theme', 'abyss', 'chart', 'background', 'contrast'],
    needs: 'nothing',
    run: (ws) => {
      changeSettings(ws, { theme: ws.profile.getState().theme === 'chart' ? 'abyss' : 'chart' });
    },
  },
  {
    id: 'help',
    name: 'Keys and gestures',
    group: 'Window',
    icon: CircleHelp,
    shortcut: '?',
    searchWords: ['help', 'shortcuts', 'mouse', 'manual'],
    needs: 'nothing',
    run: (ws) => ws.dialog.setState({ open: 'help' }),
  },
  {
    id: 'settings',
    name: 'Settings',
    group: 'Window',
    icon: Settings2,
    searchWords: ['preferences', 'options', 'gestures', 'mouse buttons', 'keyboard', 'own keys', 'customise'],
    needs: 'nothing',
    menu: 'space',
    run: (ws) => ws.dialog.setState({ open: 'settings' }),
  },
  {
    id: 'bin',
    name: 'Bin of this model',
    group: 'Edit',
    icon: Trash2,
    searchWords: ['deleted', 'restore', 'trash', 'recover', 'put back'],
    needs: 'nothing',
    run: (ws) => ws.dialog.setState({ open: 'bin' }),
  },
  {
    id: 'shelf',
    name: 'Back to the shelf',
    group: 'Window',
    icon: LibraryBig,
    searchWords: ['open file', 'close model', 'home page', 'library'],
    needs: 'nothing',
    run: (ws) => ws.dialog.getState().goTo('/'),
  },
  {
    id: 'full-screen',
    name: 'Full screen on or off',
    group: 'Window',
    icon: Fullscreen,
    searchWords: ['fullscreen', 'whole screen', 'presentation', 'kiosk'],
    needs: 'nothing',
    keepsMode: true,
    run: (ws) => {
      const done = document.fullscreenElement
        ? document.exitFullscreen()
        : document.documentElement.requestFullscreen();
      done.catch(() =>
        ws.notify('The browser does not give the whole screen here. Its own key for that is F11.', {
          id: 'refusal',
        }),
      );
    },
  },
  {
    id: 'parts-list',
    name: 'Parts',
    group: 'Window',
    icon: ListTree,
    searchWords: ['parts list', 'tree', 'structure', 'assembly', 'components', 'layers'],
    needs: 'nothing',
    keepsMode: true,
    run: (ws) => changeSettings(ws, { task: 'parts' }),
  },
  {
    id: 'panel',
    name: 'Open or close the panel',
    group: 'Window',
    icon: MousePointerClick,
    searchWords: ['sidebar', 'tree', 'side panel'],
    needs: 'nothing',
    run: (ws) => {
      changeSettings(ws, { task: ws.profile.getState().task ? null : 'parts' });
    },
  },
];
