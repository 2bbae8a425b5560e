import { BookmarkPlus, Hash, Link, Play, SkipForward, Undo2 } from 'lucide-react';
import type { Command } from '../command.ts';
import { copyLink, overwriteView, recallView, saveView, savedViews, viewInSlot } from './saved-views.ts';
import { startTour, stopTour } from './tour.ts';
import type { Workspace } from '../../workspace/workspace.ts';

const slotCommand = (slot: number): Command => ({
  id: `slot-${slot}`,
  name: `Saved view in slot ${slot}`,
  group: 'Saved views',
  icon: Hash,
  shortcut: String(slot),
  searchWords: ['named view', 'bookmark', 'camera'],
  needs: 'nothing',
  keepsMode: true,
  run: (ws) => {
    const view = viewInSlot(ws, slot);
    if (view) return recallView(ws, view);
    ws.notify(`Slot ${slot} is empty. Hold the key ${slot} to store this view there.`, { id: 'slot' });
  },
  hold: (ws) => {
    const view = viewInSlot(ws, slot);
    if (view) overwriteView(ws, view);
    else saveView(ws, slot);
  },
});

function stepView(ws: Workspace, by: 1 | -1): ReturnType<Command['run']> {
  const [views, { current }] = [savedViews(ws), ws.savedViews.getState()];
  if (!views.length) return void ws.notify('There are no saved views yet.', { id: 'slot' });
  const at = views.findIndex((v) => v.id === current);
  return recallView(ws, views[(at + by + views.length) % views.length]);
}

export const SAVED_VIEW_COMMANDS: Command[] = [
  {
    id: 'save-view',
    name: 'Save this view',
    group: 'Saved views',
    icon: BookmarkPlus,
    searchWords: ['named view', 'bookmark', 'store camera', 'new view'],
    needs: 'nothing',
    menu: 'space',
    keepsMode: true,
    run: (ws) => saveView(ws),
  },
  ...Array.from({ length: 9 }, (_, i) => slotCommand(i + 1)),
  {
    id: 'next-view',
    name: 'Next saved view',
    group: 'Saved views',
    icon: SkipForward,
    searchWords: ['named view'],
    needs: 'nothing',
    keepsMode: true,
    run: (ws) => stepView(ws, 1),
  },
  {
    id: 'previous-saved-view',
    name: 'Previous saved view',
    group: 'Saved views',
    icon: Undo2,
    searchWords: ['named view'],
    needs: 'nothing',
    keepsMode: true,
    run: (ws) => stepView(ws, -1),
  },
  {
    id: 'tour',
    name: 'Tour of the saved views',
    group: 'Saved views',
    icon: Play,
    searchWords: ['play', 'slideshow', 'animation', 'presentation'],
    needs: 'nothing',
    refusal: (ws) => (savedViews(ws).length > 1 ? null : 'A tour needs at least two saved views.'),
    run: (ws) => {
      if (ws.tour.getState().at === null) startTour(ws);
      else stopTour(ws);
    },
  },
  {
    id: 'link',
    name: 'Copy a link to this view',
    group: 'Saved views',
    icon: Link,
    searchWords: ['share', 'url', 'send', 'colleague'],
    needs: 'nothing',
    keepsMode: true,
    run: (ws) => void copyLink(ws),
  },
];
