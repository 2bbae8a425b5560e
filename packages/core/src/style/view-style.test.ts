import { presetOfStyle, readStyle, STYLE_PRESETS } from './view-style.ts';

test('styles are read back as written; nonsense becomes Work; presets are told apart', () => {
  for (const p of STYLE_PRESETS)
    expect(presetOfStyle(readStyle(JSON.parse(JSON.stringify(p.style))))?.id).toBe(p.id);
  expect(presetOfStyle(readStyle({ surface: 'gold', edgeWeight: 99, outlines: 'yes' }))?.id).toBe('work');
});
