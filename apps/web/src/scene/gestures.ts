/** What a drag or click does. */
export type GestureAction = 'orbit' | 'pan' | 'zoom' | 'pick' | 'none';

export interface GestureBinding {
  /** As in PointerEvent.button: 0 left, 1 middle, 2 right. */
  button: 0 | 1 | 2;
  shift?: boolean;
  ctrl?: boolean;
  alt?: boolean;
  action: GestureAction;
}

export interface GesturePreset {
  id: string;
  name: string;
  /** One line for the status strip. */
  hint: string;
  drags: readonly GestureBinding[];
}

/** The first and default preset; the others are rows of the same table. */
export const RIGHT_DRAG_ORBITS: GesturePreset = {
  id: 'right-drag',
  name: 'Right drag orbits',
  hint: 'Drag right to orbit, middle to pan, wheel to zoom',
  drags: [
    { button: 2, action: 'orbit' },
    { button: 1, shift: true, action: 'orbit' },
    { button: 1, ctrl: true, action: 'zoom' },
    { button: 1, action: 'pan' },
    { button: 0, action: 'pick' },
  ],
};

type Modifiers = Pick<PointerEvent, 'button' | 'shiftKey' | 'ctrlKey' | 'altKey'>;

/** The action of a press: bindings with modifiers are asked first, so `Shift+middle` is not taken for `middle`. */
export function actionOf(preset: GesturePreset, e: Modifiers): GestureAction {
  const fits = (b: GestureBinding) => b.button === e.button
    && (b.shift === undefined || b.shift === e.shiftKey) && (b.ctrl === undefined || b.ctrl === e.ctrlKey) && (b.alt === undefined || b.alt === e.altKey);
  return preset.drags.find(fits)?.action ?? 'none';
}
