import { changeStates, visibilityOf } from './component-states.ts';

describe('what is shown', () => {
  test('a change of states leaves the old table as it was; plain ones are not kept', () => {
    const hidden = changeStates({}, ['a', 'b'], { visible: false });
    expect(visibilityOf(hidden, ['a', 'b'])).toBe('none');
    expect(visibilityOf(hidden, ['a', 'c'])).toBe('some');
    expect(changeStates(hidden, ['a', 'b'], { visible: true })).toEqual({});
    expect(Object.keys(hidden)).toHaveLength(2);
  });
});
