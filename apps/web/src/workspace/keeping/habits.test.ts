import { DEFAULT_STYLE } from '@bathyscope/core/style';
import { createProfileState } from '../../state/settings-store.ts';
import { habitsFile, readHabits, readSettings, settingsOf } from './habits.ts';

test('habits go to another browser whole', () => {
  const here = createProfileState();
  here.getState().change({
    theme: 'abyss',
    unit: 'in',
    gesturePreset: 'left',
    ownKeys: { hide: 'J' },
    ownStyles: [{ id: 'own-1', name: 'Mine', style: { ...DEFAULT_STYLE.style, shadow: true } }],
  });
  const text = habitsFile(here);
  const there = createProfileState();
  there.getState().change(readHabits(text));
  expect(settingsOf(there.getState())).toEqual(settingsOf(here.getState()));
});

test('a value that cannot be is left out; every default can be', () => {
  const plain = settingsOf(createProfileState().getState());
  expect(readSettings(plain)).toEqual(plain);
  const bad = {
    theme: 'purple',
    panelWidth: 1e9,
    ownKeys: { hide: 3 },
    lens: 'wide',
    unheard: 1,
    unit: 'cm',
    ownStyles: [{ id: 1 }],
  };
  expect(readSettings(bad)).toEqual({ unit: 'cm' });
  for (const none of [null, 'text', [], 7]) expect(readSettings(none)).toEqual({});
});

test('what is no file of habits is refused with a sentence', () => {
  expect(() => readHabits('ISO-10303-21;')).toThrow('cannot be read as JSON');
  expect(() => readHabits('{"settings":{}}')).toThrow('“Save habits”');
  expect(() => readHabits('{"kind":"Bathyscope habits","version":7}')).toThrow(
    'another version of the program (7)',
  );
  expect(() => readHabits('{"kind":"Bathyscope habits","version":1,"settings":{"theme":"purple"}}')).toThrow(
    'no habit',
  );
});
