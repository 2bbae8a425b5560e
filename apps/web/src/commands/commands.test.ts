import { type Picked } from '../state/selection-store.ts';
import { Box } from 'lucide-react';
import { GROUPS, type Command } from './command.ts';
import { commandForPress, keysOf, pressName, shownKey } from './keys.ts';
import { absentFor, findCommands } from './find-commands.ts';
import { COMMANDS } from './registry.ts';
import { offerPick, runCommand, stopWaiting } from './run-command.ts';
import { testWorkspace } from '../testing/test-workspace.ts';

/** What the user was told. */
const told: string[] = [];
const ws = testWorkspace(told);

const press = (
  key: string,
  code: string,
  more: Partial<Record<'ctrlKey' | 'shiftKey' | 'altKey', boolean>> = {},
) => ({
  key,
  code,
  ctrlKey: false,
  metaKey: false,
  shiftKey: false,
  altKey: false,
  ...more,
});
const face: Picked = { kind: 'face', component: 'a/b', index: 3 };
const vertex: Picked = { kind: 'vertex', component: 'a/b', index: 1 };

beforeEach(() => {
  ws.selection.setState({ hover: null, picked: [] });
  ws.history.getState().clear();
  stopWaiting(ws);
  ws.profile.getState().change({ ownKeys: {} });
});

test('a command that takes several points counts those that are picked and collects the rest, click by click', () => {
  const runs: Picked[][] = [];
  const command: Command = {
    id: 'three',
    name: 'Three',
    group: 'Reference',
    icon: Box,
    searchWords: ['x'],
    needs: 'thing',
    count: 3,
    fits: (i) => i.kind === 'vertex',
    wants: 'Click vertices.',
    run: (_ws, items) => void runs.push(items),
  };
  ws.selection.getState().pick([vertex, face]);
  runCommand(ws, command);
  expect(ws.waiting.getState().collected).toEqual([vertex]);
  expect(offerPick(ws, face)).toBe(true);
  offerPick(ws, { ...vertex, index: 2 });
  expect(runs).toEqual([]);
  // The same thing again at another point counts.
  offerPick(ws, { ...vertex, index: 2, point: [1, 2, 3] });
  expect(runs).toEqual([[vertex, { ...vertex, index: 2 }, { ...vertex, index: 2, point: [1, 2, 3] }]]);
  expect(ws.waiting.getState().waiting).toBeNull();
  expect(ws.selection.getState().picked).toEqual([]);
});

describe('the registry', () => {
  test('every command is known by one id, has search words and a group that help lists', () => {
    expect(new Set(COMMANDS.map((c) => c.id)).size).toBe(COMMANDS.length);
    for (const c of COMMANDS) {
      expect(c.searchWords.length).toBeGreaterThan(0);
      expect(GROUPS).toContain(c.group);
    }
  });

  test('no two commands share a key, and none takes one that the browser keeps', () => {
    const keys = COMMANDS.flatMap((c) => keysOf(ws, c));
    expect(keys.filter((k, i) => keys.indexOf(k) !== i)).toEqual([]);
    for (const k of ['Ctrl+T', 'Ctrl+N', 'Ctrl+W', 'F5', 'F11', 'Tab']) expect(keys).not.toContain(k);
  });

  const ids = (text: string) => findCommands(text).map(({ command }) => command.id);

  test('the trade’s words find a command, names that begin with them first', () => {
    expect(ids('hide')[0]).toBe('hide');
    // Two commands clear the line of sight; the one of that very name comes first.
    for (const text of ['Line of sight', 'line of'])
      expect(ids(text).slice(0, 2)).toEqual(['line-of-sight', 'section-sight']);
    expect(findCommands('clip')[0].command.group).toBe('Section');
    expect(ids('no such thing')).toEqual([]);
    expect(ids('')).toHaveLength(COMMANDS.length);
    // The word that it was found by is told, where its name does not.
    const by = (text: string) => findCommands(text).map((f) => f.by);
    expect([by('ruler')[0], by('hide')[0]]).toEqual(['ruler', null]);
  });

  test.each([
    ['measure', 'measure'],
    ['dimension', 'measure'],
    ['distance', 'measure'],
    ['ruler', 'measure'],
    ['gap', 'measure'],
    ['angle', 'measure'],
    ['area', 'measure'],
    ['mass', 'mass'],
    ['weight', 'mass'],
    ['volume', 'mass'],
    ['center of gravity', 'mass'],
    ['centre of gravity', 'mass'],
    ['density', 'mass'],
    ['material', 'mass'],
    ['bill of materials', 'mass'],
    ['parts list', 'parts-list'],
    ['interference', 'clashes'],
    ['clash', 'clashes'],
    ['units', 'unit'],
    ['inch', 'unit'],
    ['background', 'theme'],
    ['color', 'colour'],
    ['full screen', 'full-screen'],
    ['export', 'picture'],
    ['print', 'print'],
    ['wall thickness', 'wall'],
    ['lens', 'projection'],
    ['delete section', 'section-remove'],
    ['whole model', 'fit'],
    ['smaller', 'hide-smaller'],
  ])('“%s” finds %s first', (text, id) => {
    expect(ids(text)[0]).toBe(id);
  });

  test('a word is found where it begins, not in the middle of another', () => {
    expect(ids('angle')).not.toContain('triangles');
    expect(ids('area')).not.toContain('section');
  });

  test.each([
    ['explode', 'exploded views', 'ghost-others'],
    ['exploded view', 'exploded views', 'ghost-others'],
    ['note', 'Notes', 'save-view'],
    ['annotation', 'Notes', 'save-view'],
    ['markup', 'Notes', 'save-view'],
    ['thread', 'Threads', 'holes'],
    ['draft', 'Draft', 'wall'],
    ['language', 'English only', 'settings'],
    ['delete', 'never changes', 'hide'],
  ])('what “%s” asks for is not there, and is said with what comes nearest', (text, said, nearest) => {
    expect(absentFor(text)).toMatchObject({
      say: expect.stringContaining(said) as string,
      nearest: { id: nearest },
    });
  });

  test('what is there is not called absent', () => {
    for (const c of COMMANDS) expect([c.name, absentFor(c.name)]).toEqual([c.name, null]);
    expect(absentFor('')).toBeNull();
  });
});

describe('keys', () => {
  test('presses are named by their character, signs without Shift, arrows with T when it is held', () => {
    expect(pressName(ws, press('f', 'KeyF', { shiftKey: true }))).toBe('Shift+F');
    expect(pressName(ws, press('?', 'Slash', { shiftKey: true }))).toBe('?');
    expect(pressName(ws, press('z', 'KeyZ', { ctrlKey: true, shiftKey: true }))).toBe('Ctrl+Shift+Z');
    ws.mode.setState({ panning: true });
    expect(pressName(ws, press('ArrowLeft', 'ArrowLeft'))).toBe('T+Left');
    ws.mode.setState({ panning: false });
    expect(shownKey('Ctrl+Shift+Left', new Map())).toBe('Ctrl+Shift+←');
  });

  test('the view pad goes by the place of the key, everything else by its character', () => {
    // On a French keyboard the key at the place of Q prints A.
    expect(commandForPress(ws, press('a', 'KeyQ'))?.id).toBe('look-front-left-top');
    expect(commandForPress(ws, press('Q', 'KeyQ', { shiftKey: true }))?.id).toBe('behind-front-left-top');
    expect(commandForPress(ws, press('f', 'KeyF'))?.id).toBe('fit');
  });

  test('a key of one’s own wins over those that come with the program, and replaces the command’s first', () => {
    ws.profile.getState().change({ ownKeys: { isolate: 'F' } });
    expect(commandForPress(ws, press('f', 'KeyF'))?.id).toBe('isolate');
    expect(commandForPress(ws, press('i', 'KeyI'))).toBeUndefined();
  });
});

describe('pick first or command first', () => {
  const acted: Picked[][] = [];
  const command: Command = {
    id: 'test',
    name: 'Test',
    group: 'Edit',
    icon: Box,
    searchWords: ['test'],
    needs: 'thing',
    fits: (i) => i.kind === 'face',
    wants: 'Pick a face.',
    run: (_ws, items) => {
      acted.push(items);
      return { name: 'test', undo: () => acted.pop(), redo: () => acted.push(items) };
    },
  };
  beforeEach(() => void (acted.length = told.length = 0));

  test('what fits of the picked things is acted on at once, and can be undone and done again', () => {
    ws.selection.getState().pick([vertex, face]);
    runCommand(ws, command);
    expect(acted).toEqual([[face]]);
    expect(ws.history.getState().undo()?.name).toBe('test');
    expect(acted).toEqual([]);
    ws.history.getState().redo();
    expect(acted).toHaveLength(1);
  });

  test('otherwise it waits for one pick and ends; what does not fit is refused and it waits on', () => {
    runCommand(ws, command);
    expect(offerPick(ws, vertex)).toBe(true);
    expect([acted, told]).toEqual([[], ['Pick a face.']]);
    expect(offerPick(ws, face)).toBe(true);
    expect(acted).toEqual([[face]]);
    expect(offerPick(ws, face)).toBe(false);
  });

  test('started twice it goes on until it is stopped; another command ends it', () => {
    runCommand(ws, command);
    runCommand(ws, command);
    for (let i = 0; i < 3; i++) offerPick(ws, face);
    expect(acted).toHaveLength(3);
    expect(stopWaiting(ws)).toBe(true);
    expect(stopWaiting(ws)).toBe(false);
    runCommand(ws, command);
    runCommand(ws, { ...command, id: 'other', needs: 'nothing', run: () => {} });
    expect(ws.waiting.getState().waiting).toBeNull();
  });

  test('a command for components takes any picked thing for its component, each once; a refusal only says why', () => {
    ws.selection.getState().pick([face, vertex, { ...face, component: 'a/c' }]);
    runCommand(ws, { ...command, fits: undefined, needs: 'components' });
    expect(acted[0].map((i) => [i.kind, i.component])).toEqual([
      ['component', 'a/b'],
      ['component', 'a/c'],
    ]);
    runCommand(ws, { ...command, refusal: () => 'Not now.' });
    expect([acted.length, told]).toEqual([1, ['Not now.']]);
  });
});
