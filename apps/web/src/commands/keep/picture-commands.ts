import { Camera, ClipboardCopy, Clapperboard, PencilRuler, Printer } from 'lucide-react';
import { DEFAULT_LENS } from '@bathyscope/core/camera';
import { download, fileName, printPicture } from '../../pictures/export-file.ts';
import { makePicture, type PictureOptions } from '../../pictures/make-picture.ts';
import { recordTour } from '../../pictures/tour-video.ts';
import type { Command } from '../command.ts';
import type { Workspace } from '../../workspace/workspace.ts';
import { activePane } from '../../workspace/view/panes.ts';

/** What is in the pane, twice as fine as on the screen. */
const asShown = (ws: Workspace): PictureOptions => ({
  width: Math.round(activePane(ws).size.width * 2),
  height: Math.round(activePane(ws).size.height * 2),
  type: 'image/png',
  background: 'theme',
  projection: 'as shown',
  lens: DEFAULT_LENS,
  references: true,
  dimensions: true,
  exact: null,
});

export async function copyPicture(ws: Workspace, options: PictureOptions): Promise<void> {
  // Over plain http pages have none for pictures.
  if (!('clipboard' in navigator) || !('ClipboardItem' in window))
    throw new Error(
      'Over plain http the browser lets no picture on the clipboard. Save the picture instead, or open the page over https.',
    );
  await navigator.clipboard.write([
    new ClipboardItem({ 'image/png': makePicture(ws, { ...options, type: 'image/png' }) }),
  ]);
  ws.notify('The picture is on the clipboard.');
}

export async function saveTourVideo(ws: Workspace): Promise<void> {
  const video = await recordTour(ws);
  download(video, fileName(ws.model.getState().detail?.name ?? 'Model', 'tour', 'webm'));
}

export const PICTURE_COMMANDS: Command[] = [
  {
    id: 'picture',
    name: 'Picture or drawing …',
    group: 'Pictures',
    icon: Camera,
    searchWords: ['screenshot', 'image', 'export', 'png', 'jpeg', 'svg', 'dxf', 'render'],
    needs: 'nothing',
    keepsMode: true,
    run: (ws) => ws.dialog.setState({ open: 'picture', pictureKind: 'picture' }),
  },
  {
    id: 'copy-picture',
    name: 'Copy the picture',
    group: 'Pictures',
    icon: ClipboardCopy,
    shortcut: 'Ctrl+Shift+C',
    searchWords: ['clipboard', 'screenshot'],
    needs: 'nothing',
    keepsMode: true,
    run: (ws) => void copyPicture(ws, asShown(ws)).catch(ws.notify.failed),
  },
  {
    id: 'print',
    name: 'Print the view',
    group: 'Pictures',
    icon: Printer,
    shortcut: 'Ctrl+P',
    searchWords: ['paper', 'pdf'],
    needs: 'nothing',
    keepsMode: true,
    run: (ws) =>
      void makePicture(ws, { ...asShown(ws), background: 'white' })
        .then(printPicture)
        .catch(ws.notify.failed),
  },
  {
    id: 'drawing',
    name: 'Line drawing of the view …',
    group: 'Pictures',
    icon: PencilRuler,
    searchWords: ['hidden line', 'vector', 'svg', 'dxf', '2d'],
    needs: 'nothing',
    keepsMode: true,
    run: (ws) => ws.dialog.setState({ open: 'picture', pictureKind: 'drawing' }),
  },
  {
    id: 'tour-video',
    name: 'Record the tour as video',
    group: 'Pictures',
    icon: Clapperboard,
    searchWords: ['webm', 'movie', 'animation', 'export'],
    needs: 'nothing',
    run: (ws) => void saveTourVideo(ws).catch(ws.notify.failed),
  },
];
