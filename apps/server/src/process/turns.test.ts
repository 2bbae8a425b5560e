import { Turns } from './turns.ts';

/**
 * Serves all that waits by so many at once, each for one round. @returns askers in the order
 * in which they were served
 */
function serve(waiting: { asker: string }[], slots: number): string[] {
  const turns = new Turns();
  const order: string[] = [];
  const under: (() => void)[] = [];
  let left = [...waiting];
  while (left.length) {
    while (under.length < slots && left.length) {
      const next = turns.next(left)!;
      left = left.filter((w) => w !== next);
      under.push(turns.begin(next.asker));
      order.push(next.asker);
    }
    under.shift()!();
  }
  return order;
}
const of = (asker: string, n: number) => Array.from({ length: n }, () => ({ asker }));

test.each([1, 2, 4])(
  'with %i slots, who asks one thing after another’s forty is served as soon as a slot is free',
  (slots) => {
    const order = serve([...of('many', 40), ...of('one', 1), ...of('two', 2)], slots);
    expect(order).toHaveLength(43);
    // At most one of the forty for each slot, and then by turns.
    expect(order.indexOf('one')).toBeLessThanOrEqual(slots + 1);
    expect(order.lastIndexOf('two')).toBeLessThanOrEqual(slots + 6);
  },
);

test('those of one asker are served in the order in which they came', () => {
  const turns = new Turns();
  const [first, second] = [{ asker: 'a' }, { asker: 'a' }];
  expect(turns.next([first, second])).toBe(first);
  expect(turns.next([])).toBeUndefined();
});
