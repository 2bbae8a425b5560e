import { boxSize, transformBox } from '@bathyscope/core/math';
import { shortLength } from '@bathyscope/core/units';
import {
  changeStates,
  invert,
  isolate,
  neighboursWithin,
  sameStates,
  showAll,
  stateOf,
  type ComponentState,
  type ComponentStates,
} from '@bathyscope/core/visibility';
import {
  Blend,
  Eye,
  EyeClosed,
  EyeOff,
  Focus,
  Ghost,
  ListFilter,
  Paintbrush,
  Ruler,
  SunDim,
  SwatchBook,
  Telescope,
  Users,
} from 'lucide-react';
import { placedMeshes, standingBefore } from '../../workspace/picking/picking.ts';
import type { Inverse } from '../../state/history-store.ts';
import { type Picked } from '../../state/selection-store.ts';
import type { Command } from '../command.ts';
import type { Workspace } from '../../workspace/workspace.ts';
import { componentsBelow } from '../../workspace/shown/components.ts';
import { isShown } from '../../workspace/shown/shown.ts';
import { record } from '../../workspace/perform.ts';

/** Puts a new table in place and tells how to go back; nothing to undo when nothing changed. */
export function changeTable(ws: Workspace, name: string, next: ComponentStates): Inverse | void {
  const { states, set } = ws.visibility.getState();
  if (sameStates(states, next)) return;
  set(next);
  return { name, undo: () => set(states), redo: () => set(next) };
}

const count = (n: number): string => `${n} component${n === 1 ? '' : 's'}`;
/** Components at or below the given occurrences, each once. */
export const belowAll = (ws: Workspace, paths: readonly string[]): string[] => [
  ...new Set(paths.flatMap((path) => componentsBelow(ws, path))),
];
const componentsOf = (ws: Workspace, items: readonly Picked[]): string[] =>
  belowAll(
    ws,
    items.map((i) => i.component),
  );

/** Changes everything at or below the given occurrences. */
export function changeBelow(
  ws: Workspace,
  verb: string,
  paths: readonly string[],
  change: Partial<ComponentState>,
): Inverse | void {
  const all = belowAll(ws, paths);
  return changeTable(
    ws,
    `${verb} ${count(all.length)}`,
    changeStates(ws.visibility.getState().states, all, change),
  );
}

/** Hides or shows everything at or below the given occurrences. */
export const setVisible = (ws: Workspace, paths: readonly string[], visible: boolean): Inverse | void =>
  changeBelow(ws, visible ? 'show' : 'hide', paths, { visible });

const allPaths = (ws: Workspace): string[] => ws.model.getState().components.map((c) => c.path);
const table = (ws: Workspace): ComponentStates => ws.visibility.getState().states;

/** mm: the longest side of a component's box. */
export function sizeOf(ws: Workspace, path: string): number {
  const { byPath, parts } = ws.model.getState();
  const c = byPath.get(path);
  const part = c?.part === undefined ? undefined : parts.get(c.part);
  return c && part ? Math.max(...boxSize(transformBox(c.placement, part.geometry.box))) : 0;
}

export function hideSmallerThan(ws: Workspace, mm: number): void {
  const small = allPaths(ws).filter((path) => stateOf(table(ws), path).visible && sizeOf(ws, path) < mm);
  if (!small.length)
    return void ws.notify(`Nothing visible is smaller than ${shortLength(mm, ws.profile.getState().unit)}.`);
  record(
    ws,
    changeTable(
      ws,
      `hide ${count(small.length)} smaller than ${shortLength(mm, ws.profile.getState().unit)}`,
      changeStates(table(ws), small, { visible: false }),
    ),
  );
}

export function isolateWithin(ws: Workspace, paths: readonly string[], mm: number): void {
  const { components } = ws.model.getState();
  const seeds = new Set(belowAll(ws, paths));
  const near = neighboursWithin(
    placedMeshes(ws),
    components.flatMap((c, i) => (seeds.has(c.path) ? [i] : [])),
    mm,
  ).map((i) => components[i].path);
  record(ws, changeTable(ws, `isolate ${count(near.length)}`, isolate(table(ws), allPaths(ws), near)));
}

/** All components of the same part. */
export function samePart(ws: Workspace, paths: readonly string[]): string[] {
  const { components, byPath } = ws.model.getState();
  const parts = new Set(belowAll(ws, paths).map((p) => byPath.get(p)?.part));
  return components.filter((c) => parts.has(c.part)).map((c) => c.path);
}

/** Ghosts whatever stands between the eye and the picked face; one step back undoes it. */
export function lineOfSight(ws: Workspace, item: Picked): Inverse | void {
  const inFront = standingBefore(ws, item);
  const paths = inFront.filter((p) => p !== item.component);
  if (!paths.length)
    return void ws.notify(
      inFront.length ? 'Only its own part stands before this face.' : 'Nothing stands before this face.',
    );
  return changeTable(
    ws,
    `line of sight: ghost ${count(paths.length)}`,
    changeStates(table(ws), paths, { ghosted: true }),
  );
}

export const VISIBILITY_COMMANDS: Command[] = [
  {
    id: 'hide',
    name: 'Hide',
    group: 'Visibility',
    icon: EyeOff,
    shortcut: 'H',
    searchWords: ['switch off', 'invisible', 'out of sight', 'do not show'],
    needs: 'components',
    menu: 'thing',
    run: (ws, items) => {
      const inverse = setVisible(
        ws,
        items.map((i) => i.component),
        false,
      );
      ws.selection.getState().pick([]);
      return inverse;
    },
  },
  {
    id: 'isolate',
    name: 'Isolate',
    group: 'Visibility',
    icon: Focus,
    shortcut: 'I',
    searchWords: ['show only', 'alone', 'hide others'],
    needs: 'components',
    menu: 'thing',
    run: (ws, items) => {
      const kept = componentsOf(ws, items);
      return changeTable(ws, `isolate ${count(kept.length)}`, isolate(table(ws), allPaths(ws), kept));
    },
  },
  {
    id: 'ghost',
    name: 'Ghost',
    group: 'Visibility',
    icon: Ghost,
    shortcut: 'G',
    searchWords: ['transparent', 'fade', 'translucent', 'x-ray', 'see through'],
    needs: 'components',
    menu: 'thing',
    run: (ws, items) => {
      const paths = items.map((i) => i.component);
      const all = belowAll(ws, paths);
      const ghosted = !all.every((p) => stateOf(table(ws), p).ghosted);
      return changeBelow(ws, ghosted ? 'ghost' : 'make solid', paths, { ghosted });
    },
  },
  {
    id: 'ghost-others',
    name: 'Ghost all others',
    group: 'Visibility',
    icon: SunDim,
    searchWords: ['fade others', 'dim', 'context'],
    needs: 'components',
    menu: 'thing',
    run: (ws, items) => {
      const kept = new Set(componentsOf(ws, items));
      return changeTable(
        ws,
        'ghost all others',
        changeStates(
          changeStates(
            table(ws),
            allPaths(ws).filter((p) => !kept.has(p)),
            { ghosted: true },
          ),
          kept,
          { ghosted: false, visible: true },
        ),
      );
    },
  },
  {
    id: 'line-of-sight',
    name: 'Line of sight',
    group: 'Visibility',
    icon: Telescope,
    searchWords: ['clear the view', 'uncover', 'what is in front'],
    needs: 'thing',
    menu: 'thing',
    fits: (item) => item.kind === 'face',
    wants: 'Pick the face that shall be seen.',
    run: (ws, [item]) => lineOfSight(ws, item),
  },
  {
    id: 'show-all',
    name: 'Show all',
    group: 'Visibility',
    icon: Eye,
    shortcut: 'U',
    searchWords: ['unhide', 'switch on', 'make visible', 'show everything'],
    needs: 'nothing',
    menu: 'both',
    run: (ws) => {
      ws.visibility.setState({ peeking: false });
      return changeTable(ws, 'show all', showAll(table(ws), allPaths(ws)));
    },
  },
  {
    id: 'invert',
    name: 'Invert what is visible',
    group: 'Visibility',
    icon: Blend,
    searchWords: ['exchange shown and hidden', 'the other way round', 'reverse'],
    needs: 'nothing',
    menu: 'space',
    run: (ws) => changeTable(ws, 'invert what is visible', invert(table(ws), allPaths(ws))),
  },
  {
    id: 'peek',
    name: 'Peek at the hidden',
    group: 'Visibility',
    icon: EyeClosed,
    shortcut: 'P',
    searchWords: ['what is hidden', 'look at what is hidden', 'show hidden'],
    needs: 'nothing',
    menu: 'space',
    keepsMode: true,
    refusal: (ws) =>
      ws.visibility.getState().peeking || allPaths(ws).some((p) => !isShown(ws, p))
        ? null
        : 'Nothing is hidden.',
    run: (ws) => ws.visibility.setState((s) => ({ peeking: !s.peeking })),
  },
  {
    id: 'hide-same',
    name: 'Hide all of the same part',
    group: 'Visibility',
    icon: Users,
    searchWords: ['hide instances', 'identical', 'all bolts'],
    needs: 'components',
    menu: 'thing',
    run: (ws, items) => {
      const same = samePart(
        ws,
        items.map((i) => i.component),
      );
      ws.selection.getState().pick([]);
      return changeTable(
        ws,
        `hide ${count(same.length)} of the same part`,
        changeStates(table(ws), same, { visible: false }),
      );
    },
  },
  {
    id: 'hide-smaller',
    name: 'Hide everything smaller than …',
    group: 'Visibility',
    icon: ListFilter,
    searchWords: ['small parts', 'fasteners', 'filter by size'],
    needs: 'nothing',
    run: (ws) =>
      ws.ask.getState().ask({
        title: 'Hide everything smaller than',
        label: 'Longest side of the box',
        kind: 'length',
        value: 20,
        run: (mm) => hideSmallerThan(ws, mm),
      }),
  },
  {
    id: 'isolate-near',
    name: 'Isolate with neighbours …',
    group: 'Visibility',
    icon: Ruler,
    searchWords: ['proximity', 'adjacent', 'surroundings', 'touching'],
    needs: 'components',
    menu: 'thing',
    run: (ws, items) =>
      ws.ask.getState().ask({
        title: 'Isolate with neighbours',
        label: 'Nearer than',
        kind: 'length',
        value: 1,
        run: (mm) =>
          isolateWithin(
            ws,
            items.map((i) => i.component),
            mm,
          ),
      }),
  },
  {
    id: 'colour',
    name: 'Colour and transparency …',
    group: 'Visibility',
    icon: Paintbrush,
    searchWords: ['colour', 'appearance', 'paint', 'opacity', 'reset colour'],
    needs: 'components',
    menu: 'thing',
    run: (ws, items) => ws.ask.getState().askColour(componentsOf(ws, items)),
  },
  {
    id: 'reset-look',
    name: 'Colours as in the file',
    group: 'Visibility',
    icon: SwatchBook,
    searchWords: ['reset colour', 'reset appearance', 'remove override'],
    needs: 'components',
    run: (ws, items) =>
      changeBelow(
        ws,
        'reset',
        items.map((i) => i.component),
        { colour: undefined, transparency: undefined, style: undefined },
      ),
  },
];
