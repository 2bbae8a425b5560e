import { pickSet } from '@bathyscope/contracts/records';
import { added, kept, putRecords } from '../../workspace/keeping/records.ts';
import type { PartGeometry } from '@bathyscope/core/geometry';
import { coaxialFaces, facesOfSameRadius, tangentFaces } from '@bathyscope/core/picking';
import {
  BookmarkPlus,
  Boxes,
  Circle,
  Crosshair,
  Disc3,
  Filter,
  Footprints,
  Layers,
  MousePointerClick,
  Spline,
  Users,
} from 'lucide-react';
import { visiblePaths } from '../../workspace/shown/shown.ts';
import { walkBounds, walkFaces } from '../../workspace/picking/walk.ts';
import { clickOn } from './clicks.ts';
import { candidatesAt, through } from '../../workspace/picking/picking.ts';
import { type PickFilter } from '../../state/filter-store.ts';
import { type Picked } from '../../state/selection-store.ts';
import { geometryOf } from '../../workspace/view/camera-targets.ts';
import type { Command } from '../command.ts';
import { samePart } from '../show/visibility-commands.ts';
import type { Workspace } from '../../workspace/workspace.ts';
import { setPickFilter } from '../../workspace/picking/pick-filter.ts';
import { openPickList, walkPickList } from '../../workspace/picking/pick-list.ts';
import { referenceTo } from '../../workspace/measuring/references.ts';

/** Opens the list of everything under the cursor; again: steps to the next. */
function pickThrough(ws: Workspace): void {
  if (ws.pickList.getState().list) return walkPickList(ws, 1);
  const { at } = ws.pointer.getState();
  const items = at ? through(ws, at.x, at.y) : [];
  if (!items.length)
    return void ws.notify('Point at the model to list what lies under the cursor.', { id: 'refusal' });
  openPickList(ws, items, at!.x, at!.y);
}

/** Steps to the next of what may be meant under the cursor: the thing, then the points near it. */
function nextPoint(ws: Workspace, by: 1 | -1): void {
  const { at, cycled } = ws.pointer.getState();
  const all = at ? candidatesAt(ws, at.x, at.y) : [];
  if (!all.length)
    return void ws.notify('Point at the model for the points that may be meant there.', { id: 'refusal' });
  const nth = ((cycled?.nth ?? 0) + by + all.length) % all.length;
  ws.pointer.setState({ cycled: { x: at!.x, y: at!.y, nth, of: all.length } });
  ws.selection.getState().setHover(all[nth]);
}

/** A command that points by keys. */
const walk = (
  id: string,
  name: string,
  shortcut: string,
  words: string[],
  go: (ws: Workspace) => boolean,
  none: string,
): Command => ({
  id,
  name,
  group: 'Picking',
  icon: Footprints,
  shortcut,
  searchWords: ['keyboard', 'without a mouse', ...words],
  needs: 'nothing',
  keepsMode: true,
  run: (ws) => {
    if (!go(ws)) ws.notify(none, { id: 'refusal' });
  },
});

/** Clicks by key: what is pointed at is picked, or what a waiting command wants. */
function pickPointed(ws: Workspace, adding: boolean): void {
  const { hover } = ws.selection.getState();
  if (!hover)
    return void ws.notify('Nothing is pointed at. Page Down goes to the next face in view.', {
      id: 'refusal',
    });
  clickOn(ws, hover, adding);
}

const NO_FACE = 'No face of the model is in view. Fit all (F) brings it back.';
const NO_BOUNDS = 'No edge or corner of a face is in view here. Page Down goes to another face.';

/** Picks all faces of the same part that are like the picked one. */
const similar = (
  id: string,
  name: string,
  icon: Command['icon'],
  words: string[],
  wants: string,
  find: (part: PartGeometry, face: number) => number[],
): Command => ({
  id,
  name,
  group: 'Picking',
  icon,
  searchWords: ['select similar', ...words],
  needs: 'thing',
  menu: 'thing',
  wants,
  fits: (item, ws) => {
    const placed = item.kind === 'face' ? geometryOf(ws, item) : undefined;
    return placed !== undefined && find(placed.geometry, item.index).length > 0;
  },
  run: (ws, [item]) => {
    const faces = find(geometryOf(ws, item)!.geometry, item.index);
    ws.selection
      .getState()
      .pick(faces.map((index): Picked => ({ kind: 'face', component: item.component, index })));
    ws.notify(`${faces.length} face${faces.length === 1 ? '' : 's'} picked.`, { id: 'similar' });
  },
});

const FILTERS: [PickFilter, string][] = [
  ['all', 'everything'],
  ['component', 'components'],
  ['body', 'bodies'],
  ['face', 'faces'],
  ['edge', 'edges'],
  ['vertex', 'vertices'],
  ['point', 'points'],
];

export const PICKING_COMMANDS: Command[] = [
  {
    id: 'pick-through',
    name: 'Pick-through',
    group: 'Picking',
    icon: Layers,
    shortcut: 'B',
    searchWords: ['what lies behind', 'hidden behind', 'under the cursor', 'list'],
    needs: 'nothing',
    menu: 'thing',
    keepsMode: true,
    run: pickThrough,
  },
  {
    id: 'next-point',
    name: 'Next point under the cursor',
    group: 'Picking',
    icon: Crosshair,
    shortcut: 'R',
    searchWords: ['snap', 'midpoint', 'centre', 'quadrant', 'intersection', 'nearest', 'cycle'],
    needs: 'nothing',
    keepsMode: true,
    run: (ws) => nextPoint(ws, 1),
  },
  {
    id: 'previous-point',
    name: 'Previous point under the cursor',
    group: 'Picking',
    icon: Crosshair,
    shortcut: 'Shift+R',
    searchWords: ['snap'],
    needs: 'nothing',
    keepsMode: true,
    run: (ws) => nextPoint(ws, -1),
  },
  walk(
    'next-in-view',
    'Point at the next face in view',
    'PageDown',
    ['next face', 'walk'],
    (ws) => walkFaces(ws, 1),
    NO_FACE,
  ),
  walk(
    'previous-in-view',
    'Point at the face before',
    'PageUp',
    ['previous face'],
    (ws) => walkFaces(ws, -1),
    NO_FACE,
  ),
  walk(
    'next-bound',
    'Point at the next edge or corner of the face',
    'Shift+PageDown',
    ['next edge', 'vertex'],
    (ws) => walkBounds(ws, 1),
    NO_BOUNDS,
  ),
  walk(
    'previous-bound',
    'Point at the edge or corner before',
    'Shift+PageUp',
    ['previous edge'],
    (ws) => walkBounds(ws, -1),
    NO_BOUNDS,
  ),
  {
    id: 'pick-pointed',
    name: 'Pick what is pointed at',
    group: 'Picking',
    icon: MousePointerClick,
    shortcut: 'Enter',
    searchWords: ['keyboard', 'click', 'without a mouse'],
    needs: 'nothing',
    keepsMode: true,
    run: (ws) => pickPointed(ws, false),
  },
  {
    id: 'add-pointed',
    name: 'Add what is pointed at to the pick',
    group: 'Picking',
    icon: MousePointerClick,
    shortcut: 'Shift+Enter',
    searchWords: ['keyboard', 'without a mouse'],
    needs: 'nothing',
    keepsMode: true,
    run: (ws) => pickPointed(ws, true),
  },
  similar(
    'same-radius',
    'Pick faces of the same radius',
    Circle,
    ['equal diameter', 'all holes', 'all fillets'],
    'Pick a cylinder, sphere or fillet face.',
    facesOfSameRadius,
  ),
  similar(
    'tangent-faces',
    'Pick tangent faces',
    Spline,
    ['smooth', 'tangent chain', 'loop'],
    'Pick a face.',
    tangentFaces,
  ),
  similar(
    'coaxial-faces',
    'Pick coaxial holes',
    Disc3,
    ['same axis', 'concentric'],
    'Pick a turned face: a cylinder, cone or torus.',
    coaxialFaces,
  ),
  {
    id: 'same-part',
    name: 'Pick all of the same part',
    group: 'Picking',
    icon: Users,
    searchWords: ['select instances', 'identical', 'all occurrences'],
    needs: 'components',
    menu: 'thing',
    run: (ws, items) => {
      const paths = samePart(
        ws,
        items.map((i) => i.component),
      );
      ws.selection.getState().pick(paths.map((component) => ({ kind: 'component', component, index: 0 })));
      ws.notify(`${paths.length} component${paths.length === 1 ? '' : 's'} picked.`, { id: 'similar' });
    },
  },
  ...FILTERS.map(([filter, name]): Command => ({
    id: `filter-${filter}`,
    name: `Pick ${name}${filter === 'all' ? '' : ' only'}`,
    group: 'Picking',
    icon: Filter,
    searchWords: ['selection filter', 'select'],
    needs: 'nothing',
    keepsMode: true,
    refusal: (ws) => (ws.filter.getState().filter === filter ? `Picking takes ${name} already.` : null),
    run: (ws) => setPickFilter(ws, filter),
  })),
  {
    id: 'keep-picks',
    name: 'Keep the picked set',
    group: 'Picking',
    icon: BookmarkPlus,
    searchWords: ['selection set', 'group', 'named selection'],
    needs: 'thing',
    run: (ws) => {
      const { picked } = ws.selection.getState();
      const name = `Set ${kept(ws, pickSet).length + 1}`;
      ws.notify(`${picked.length} thing${picked.length === 1 ? '' : 's'} kept as “${name}”, in Parts.`);
      return putRecords(ws, `keep “${name}”`, [
        added(ws, pickSet, { name, items: picked.map((item) => referenceTo(ws, item)) }),
      ]);
    },
  },
  {
    id: 'pick-all',
    name: 'Pick all that is shown',
    group: 'Picking',
    icon: Boxes,
    shortcut: 'Ctrl+A',
    searchWords: ['select all'],
    needs: 'nothing',
    run: (ws) =>
      ws.selection
        .getState()
        .pick(visiblePaths(ws).map((component) => ({ kind: 'component', component, index: 0 }))),
  },
];
