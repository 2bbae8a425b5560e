import { boxSize, changeStates, invert, isolate, neighboursWithin, sameStates, showAll, stateOf, transformBox, type ComponentState, type ComponentStates } from '@bathyscope/core';
import { Blend, Eye, EyeClosed, EyeOff, Focus, Ghost, ListFilter, Paintbrush, Ruler, SunDim, SwatchBook, Telescope, Users } from 'lucide-react';
import { toast } from 'sonner';
import type { Inverse } from '../stores/history-store.ts';
import { askStore } from '../stores/ask-store.ts';
import { historyStore } from '../stores/history-store.ts';
import { componentsBelow, modelStore } from '../stores/model-store.ts';
import { sceneStore } from '../stores/scene-store.ts';
import { selectionStore, type Picked } from '../stores/selection-store.ts';
import { isShown, visibilityStore } from '../stores/visibility-store.ts';
import type { Command } from './command.ts';

/** Puts a new table in place and tells how to go back; nothing to undo when nothing changed. */
export function changeTable(name: string, next: ComponentStates): Inverse | void {
  const { states, set } = visibilityStore.getState();
  if (sameStates(states, next)) return;
  set(next);
  return { name, undo: () => set(states), redo: () => set(next) };
}

const count = (n: number): string => `${n} component${n === 1 ? '' : 's'}`;
const record = (inverse: Inverse | void): void => void (inverse && historyStore.getState().record(inverse));

/** Components at or below the given occurrences, each once. */
export const belowAll = (paths: readonly string[]): string[] => [...new Set(paths.flatMap(componentsBelow))];
const componentsOf = (items: readonly Picked[]): string[] => belowAll(items.map((i) => i.component));

/** Changes everything at or below the given occurrences. */
export function changeBelow(verb: string, paths: readonly string[], change: Partial<ComponentState>): Inverse | void {
  const all = belowAll(paths);
  return changeTable(`${verb} ${count(all.length)}`, changeStates(visibilityStore.getState().states, all, change));
}

/** Hides or shows everything at or below the given occurrences. */
export const setVisible = (paths: readonly string[], visible: boolean): Inverse | void => changeBelow(visible ? 'show' : 'hide', paths, { visible });

const allPaths = (): string[] => modelStore.getState().components.map((c) => c.path);
const table = (): ComponentStates => visibilityStore.getState().states;

/** mm: the longest side of a component's box. */
export function sizeOf(path: string): number {
  const { byPath, parts } = modelStore.getState();
  const c = byPath.get(path);
  const part = c?.part === undefined ? undefined : parts.get(c.part);
  return c && part ? Math.max(...boxSize(transformBox(c.placement, part.geometry.box))) : 0;
}

export function hideSmallerThan(mm: number): void {
  const small = allPaths().filter((path) => stateOf(table(), path).visible && sizeOf(path) < mm);
  if (!small.length) return void toast(`Nothing visible is smaller than ${mm} mm.`);
  record(changeTable(`hide ${count(small.length)} smaller than ${mm} mm`, changeStates(table(), small, { visible: false })));
}

export function isolateWithin(paths: readonly string[], mm: number): void {
  const { components } = modelStore.getState();
  const { scene } = sceneStore.getState();
  if (!scene) return;
  const seeds = belowAll(paths);
  const near = neighboursWithin(scene.view.picking.placedMeshes, components.flatMap((c, i) => (seeds.includes(c.path) ? [i] : [])), mm).map((i) => components[i].path);
  record(changeTable(`isolate ${count(near.length)}`, isolate(table(), allPaths(), near)));
}

/** All components of the same part. */
export function samePart(paths: readonly string[]): string[] {
  const { components, byPath } = modelStore.getState();
  const parts = new Set(belowAll(paths).map((p) => byPath.get(p)?.part));
  return components.filter((c) => parts.has(c.part)).map((c) => c.path);
}

/** Ghosts whatever stands between the eye and the picked face; one step back undoes it. */
function lineOfSight(item: Picked): Inverse | void {
  const inFront = sceneStore.getState().scene?.view.picking.standingBefore(item) ?? [];
  const paths = inFront.filter((p) => p !== item.component);
  if (!paths.length) return void toast(inFront.length ? 'Only its own part stands before this face.' : 'Nothing stands before this face.');
  return changeTable(`line of sight: ghost ${count(paths.length)}`, changeStates(table(), paths, { ghosted: true }));
}

export const VISIBILITY_COMMANDS: Command[] = [
  {
    id: 'hide', name: 'Hide', group: 'Visibility', icon: EyeOff, shortcut: 'H', searchWords: ['blank', 'switch off', 'invisible', 'suppress from view'],
    needs: 'components', menu: 'thing',
    run: (items) => {
      const inverse = setVisible(items.map((i) => i.component), false);
      selectionStore.getState().pick([]);
      return inverse;
    },
  },
  {
    id: 'isolate', name: 'Isolate', group: 'Visibility', icon: Focus, shortcut: 'I', searchWords: ['show only', 'solo', 'hide others'],
    needs: 'components', menu: 'thing',
    run: (items) => {
      const kept = componentsOf(items);
      return changeTable(`isolate ${count(kept.length)}`, isolate(table(), allPaths(), kept));
    },
  },
  {
    id: 'ghost', name: 'Ghost', group: 'Visibility', icon: Ghost, shortcut: 'G', searchWords: ['transparent', 'fade', 'translucent', 'x-ray', 'see through'], needs: 'components', menu: 'thing',
    run: (items) => {
      const paths = items.map((i) => i.component);
      const all = belowAll(paths);
      const ghosted = !all.every((p) => stateOf(table(), p).ghosted);
      return changeBelow(ghosted ? 'ghost' : 'make solid', paths, { ghosted });
    },
  },
  {
    id: 'ghost-others', name: 'Ghost all others', group: 'Visibility', icon: SunDim, searchWords: ['fade others', 'dim', 'context'], needs: 'components', menu: 'thing',
    run: (items) => {
      const kept = new Set(componentsOf(items));
      return changeTable('ghost all others', changeStates(changeStates(table(), allPaths().filter((p) => !kept.has(p)), { ghosted: true }), kept, { ghosted: false, visible: true }));
    },
  },
  {
    id: 'line-of-sight', name: 'Line of sight', group: 'Visibility', icon: Telescope, searchWords: ['reveal face', 'clear the view', 'uncover', 'what is in front'], needs: 'thing', menu: 'thing',
    fits: (item) => item.kind === 'face', wants: 'Pick the face that shall be seen.', run: ([item]) => lineOfSight(item),
  },
  {
    id: 'show-all', name: 'Show all', group: 'Visibility', icon: Eye, shortcut: 'U', searchWords: ['unhide', 'unblank', 'switch on', 'make visible'],
    needs: 'nothing', menu: 'both',
    run: () => {
      visibilityStore.setState({ peeking: false });
      return changeTable('show all', showAll(table(), allPaths()));
    },
  },
  { id: 'invert', name: 'Invert what is visible', group: 'Visibility', icon: Blend, searchWords: ['swap visible', 'reverse'], needs: 'nothing', menu: 'space', run: () => changeTable('invert what is visible', invert(table(), allPaths())) },
  {
    id: 'peek', name: 'Peek at the hidden', group: 'Visibility', icon: EyeClosed, shortcut: 'P', searchWords: ['show hidden', 'hidden set', 'swap visible space'], needs: 'nothing', menu: 'space', keepsMode: true,
    refusal: () => (visibilityStore.getState().peeking || allPaths().some((p) => !isShown(p)) ? null : 'Nothing is hidden.'),
    run: () => visibilityStore.setState((s) => ({ peeking: !s.peeking })),
  },
  {
    id: 'hide-same', name: 'Hide all of the same part', group: 'Visibility', icon: Users, searchWords: ['hide instances', 'identical', 'all bolts'], needs: 'components', menu: 'thing',
    run: (items) => {
      const same = samePart(items.map((i) => i.component));
      selectionStore.getState().pick([]);
      return changeTable(`hide ${count(same.length)} of the same part`, changeStates(table(), same, { visible: false }));
    },
  },
  {
    id: 'hide-smaller', name: 'Hide everything smaller than …', group: 'Visibility', icon: ListFilter, searchWords: ['small parts', 'fasteners', 'filter by size'], needs: 'nothing',
    run: () => askStore.getState().ask({ title: 'Hide everything smaller than', label: 'Longest side of the box', unit: 'mm', value: 20, run: hideSmallerThan }),
  },
  {
    id: 'isolate-near', name: 'Isolate with neighbours …', group: 'Visibility', icon: Ruler, searchWords: ['proximity', 'adjacent', 'surroundings', 'touching'], needs: 'components', menu: 'thing',
    run: (items) => askStore.getState().ask({ title: 'Isolate with neighbours', label: 'Nearer than', unit: 'mm', value: 1, run: (mm) => isolateWithin(items.map((i) => i.component), mm) }),
  },
  {
    id: 'colour', name: 'Colour and transparency …', group: 'Visibility', icon: Paintbrush, searchWords: ['appearance', 'paint', 'opacity', 'reset colour'], needs: 'components', menu: 'thing',
    run: (items) => askStore.getState().askColour(componentsOf(items)),
  },
  {
    id: 'reset-look', name: 'Colours as in the file', group: 'Visibility', icon: SwatchBook, searchWords: ['reset colour', 'reset appearance', 'remove override'], needs: 'components',
    run: (items) => changeBelow('reset', items.map((i) => i.component), { colour: undefined, transparency: undefined, style: undefined }),
  },
];

/** Components that are drawn. */
export const visiblePaths = (): string[] => allPaths().filter(isShown);
