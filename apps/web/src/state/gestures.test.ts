import { actionFor, GESTURES, hintOf, LEFT, MIDDLE, PRESETS, RIGHT, ACTIONS_OF } from './gestures.ts';

const none = { ctrl: false, shift: false, alt: false };

test('every preset binds orbit, pan and zoom to gestures that exist and may do so', () => {
  for (const preset of PRESETS) {
    for (const action of ['orbit', 'pan', 'zoom'] as const)
      expect(Object.values(preset.map)).toContain(action);
    for (const [name, action] of Object.entries(preset.map)) {
      const gesture = GESTURES.find((g) => g.name === name)!;
      expect(ACTIONS_OF[gesture.kind]).toContain(action);
    }
    expect(hintOf(preset.map)).toMatch(/orbits, .* pans, (wheel|pinch) zooms$/);
  }
});

test('a gesture with keys that nothing is bound to does what it does without them', () => {
  const { map } = PRESETS[0];
  expect(actionFor(map, 'drag', RIGHT, { ...none, alt: true })).toBe('orbit');
  expect(actionFor(map, 'drag', MIDDLE, { ...none, shift: true })).toBe('orbit');
  expect(actionFor(map, 'drag', MIDDLE, none)).toBe('pan');
  expect(actionFor(PRESETS[3].map, 'drag', MIDDLE | RIGHT, none)).toBe('orbit');
  expect(actionFor(PRESETS[2].map, 'drag', LEFT, { ...none, shift: true })).toBe('box');
});
