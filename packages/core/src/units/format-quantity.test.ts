import { formatQuantity } from './format-quantity.ts';

describe('what is shown', () => {
  test('quantities are rounded to what is shown, in the chosen unit', () => {
    expect(formatQuantity(25.4, 'length', 'in').text).toBe('1.0000');
    expect(formatQuantity(-0.00001, 'length', 'mm').text).not.toMatch(/^[-\u2212]/);
  });
});
