import { testWorkspace } from '../../testing/test-workspace.ts';
import { isShown } from './shown.ts';

const ws = testWorkspace();

test('peeking turns round what is shown', () => {
  ws.visibility.setState({
    states: { a: { visible: false, ghosted: false, keptWhole: false } },
    peeking: false,
  });
  expect([isShown(ws, 'a'), isShown(ws, 'b')]).toEqual([false, true]);
  ws.visibility.setState({ peeking: true });
  expect([isShown(ws, 'a'), isShown(ws, 'b')]).toEqual([true, false]);
  ws.visibility.setState({ states: {}, peeking: false });
});
