import { capital } from '../ui/capital.ts';
/** What a gesture does. */
export type GestureAction =
  | 'orbit'
  | 'pan'
  | 'zoom'
  | 'roll'
  | 'box'
  | 'window'
  | 'pick'
  | 'add'
  | 'pivot'
  | 'menu'
  | 'fit'
  | 'centre'
  | 'none';

export type GestureKind = 'drag' | 'click' | 'double click' | 'wheel' | 'two fingers';

/** Bits as in PointerEvent.buttons. */
export const LEFT = 1;
export const RIGHT = 2;
export const MIDDLE = 4;

/** One thing a hand can do, known by its name: `Ctrl+Shift+middle drag`. */
export interface Gesture {
  name: string;
  kind: GestureKind;
  buttons: number;
  ctrl: boolean;
  shift: boolean;
  alt: boolean;
}

type Modifiers = Pick<Gesture, 'ctrl' | 'shift' | 'alt'>;

const BUTTON_NAMES: readonly [number, string][] = [
  [LEFT, 'left'],
  [MIDDLE, 'middle'],
  [RIGHT, 'right'],
];

export function gestureName(kind: GestureKind, buttons: number, m: Modifiers): string {
  const keys = [m.ctrl && 'Ctrl', m.shift && 'Shift', m.alt && 'Alt'].filter(Boolean);
  const held = BUTTON_NAMES.filter(([bit]) => buttons & bit).map(([, name]) => name);
  const hand = kind === 'wheel' || kind === 'two fingers' ? kind : `${held.join('+')} ${kind}`;
  return [...keys, hand].join('+');
}

const gesture = (kind: GestureKind, buttons = 0, ...keys: ('ctrl' | 'shift' | 'alt')[]): Gesture => {
  const modifiers = { ctrl: keys.includes('ctrl'), shift: keys.includes('shift'), alt: keys.includes('alt') };
  return { name: gestureName(kind, buttons, modifiers), kind, buttons, ...modifiers };
};

const BUTTONS = [LEFT, MIDDLE, RIGHT];

/** All gestures that can be bound, in the order of the settings' table. */
export const GESTURES: readonly Gesture[] = [
  ...BUTTONS.flatMap((b) => [
    gesture('drag', b),
    gesture('drag', b, 'shift'),
    gesture('drag', b, 'ctrl'),
    gesture('drag', b, 'ctrl', 'shift'),
    gesture('drag', b, 'alt'),
  ]),
  ...[LEFT | MIDDLE, MIDDLE | RIGHT].flatMap((b) => [gesture('drag', b), gesture('drag', b, 'shift')]),
  gesture('wheel'),
  gesture('wheel', 0, 'shift'),
  gesture('wheel', 0, 'ctrl'),
  gesture('two fingers'),
  gesture('two fingers', 0, 'shift'),
  gesture('click', LEFT),
  gesture('click', LEFT, 'shift'),
  gesture('click', LEFT, 'ctrl'),
  gesture('click', MIDDLE),
  gesture('click', RIGHT),
  gesture('double click', LEFT),
  gesture('double click', MIDDLE),
];

/** What each kind of gesture can be bound to. */
export const ACTIONS_OF: Record<GestureKind, readonly GestureAction[]> = {
  drag: ['orbit', 'pan', 'zoom', 'roll', 'box', 'window', 'none'],
  wheel: ['zoom', 'roll', 'none'],
  'two fingers': ['orbit', 'pan', 'zoom', 'none'],
  click: ['pick', 'add', 'pivot', 'centre', 'menu', 'none'],
  'double click': ['fit', 'pivot', 'centre', 'none'],
};

export const ACTION_NAMES: Record<GestureAction, string> = {
  orbit: 'Orbit',
  pan: 'Pan',
  zoom: 'Zoom',
  roll: 'Roll',
  box: 'Box pick',
  window: 'Zoom window',
  pick: 'Pick',
  add: 'Add to the pick',
  pivot: 'Move the pivot there',
  menu: 'Menu',
  fit: 'Fit all',
  centre: 'Centre there',
  none: 'Nothing',
};

export type GestureMap = Readonly<Record<string, GestureAction>>;

export interface GesturePreset {
  id: string;
  name: string;
  /** A trackpad sends two-finger drags and pinches as wheel events. */
  trackpad?: boolean;
  map: GestureMap;
}

const CLICKS: GestureMap = {
  'left click': 'pick',
  'Shift+left click': 'add',
  'Ctrl+left click': 'add',
  'middle click': 'pivot',
  'right click': 'menu',
  'middle double click': 'fit',
};
const COMMON: GestureMap = { ...CLICKS, wheel: 'zoom', 'Ctrl+wheel': 'zoom' };

/** Named by what the hand does. The first is the default. */
export const PRESETS: readonly GesturePreset[] = [
  {
    id: 'right',
    name: 'Right drag orbits',
    map: {
      ...COMMON,
      'right drag': 'orbit',
      'Shift+middle drag': 'orbit',
      'middle drag': 'pan',
      'Ctrl+middle drag': 'zoom',
      'left drag': 'box',
    },
  },
  {
    id: 'middle',
    name: 'Middle drag orbits',
    map: {
      ...COMMON,
      'middle drag': 'orbit',
      'Ctrl+middle drag': 'pan',
      'Shift+middle drag': 'pan',
      'Ctrl+Shift+middle drag': 'zoom',
      'left drag': 'box',
    },
  },
  {
    id: 'left',
    name: 'Left drag orbits',
    map: {
      ...COMMON,
      'left drag': 'orbit',
      'Shift+left drag': 'box',
      'right drag': 'pan',
      'middle drag': 'zoom',
    },
  },
  {
    id: 'two',
    name: 'Two buttons',
    map: {
      ...COMMON,
      'middle+right drag': 'orbit',
      'left+middle drag': 'orbit',
      'middle drag': 'pan',
      'Shift+middle+right drag': 'zoom',
      'Shift+left+middle drag': 'zoom',
      'left drag': 'box',
    },
  },
  {
    id: 'alt',
    name: 'Alt drag',
    map: {
      ...COMMON,
      'Alt+left drag': 'orbit',
      'Alt+middle drag': 'pan',
      'Alt+right drag': 'zoom',
      'left drag': 'box',
    },
  },
  {
    id: 'trackpad',
    name: 'Trackpad',
    trackpad: true,
    map: {
      ...CLICKS,
      'two fingers': 'orbit',
      'Shift+two fingers': 'pan',
      'Ctrl+wheel': 'zoom',
      'left drag': 'box',
    },
  },
];

export const presetById = (id: string): GesturePreset => PRESETS.find((p) => p.id === id) ?? PRESETS[0];

/** The action of a gesture; one with modifiers that nothing is bound to does what it does without them. */
export function actionFor(map: GestureMap, kind: GestureKind, buttons: number, m: Modifiers): GestureAction {
  return (
    map[gestureName(kind, buttons, m)] ??
    map[gestureName(kind, buttons, { ctrl: false, shift: false, alt: false })] ??
    'none'
  );
}

/** In words what the buttons do: “right drag orbits, middle drag pans, wheel zooms”. */
export function hintOf(map: GestureMap): string {
  const keys = (g: Gesture) => Number(g.ctrl) + Number(g.shift) + Number(g.alt);
  // Of several the one with the fewest keys.
  const first = (action: GestureAction) =>
    GESTURES.filter((g) => map[g.name] === action && (g.kind === 'drag' || g.kind === 'two fingers')).sort(
      (a, b) => keys(a) - keys(b),
    )[0]?.name;
  const said: [GestureAction, string][] = [
    ['orbit', 'orbits'],
    ['pan', 'pans'],
  ];
  const words = said.flatMap(([action, verb]) => (first(action) ? [`${first(action)} ${verb}`] : []));
  const wheel = map['wheel'] === 'zoom' ? 'wheel zooms' : map['Ctrl+wheel'] === 'zoom' ? 'pinch zooms' : null;
  const text = [...words, ...(wheel ? [wheel] : [])].join(', ');
  return capital(text);
}
