import { scaleBar } from './scale-bar.ts';

test('a scale bar is a round length, 50 to 125 px long at any scale and in any unit', () => {
  for (const unit of ['mm', 'cm', 'm', 'in'] as const)
    for (let e = -6; e < 6; e += 0.37) {
      const { px, text } = scaleBar(10 ** e, unit);
      expect(px).toBeGreaterThanOrEqual(50 - 1e-9);
      expect(px).toBeLessThanOrEqual(125 + 1e-9);
      expect(text).toMatch(/^([125]0*|0\.0*[125]|[125]e[-+]\d+) (mm|cm|m|in)$/);
      const [value] = text.split(' ');
      expect((Number(value) * { mm: 1, cm: 10, m: 1000, in: 25.4 }[unit]) / 10 ** e).toBeCloseTo(px, 6);
    }
});
