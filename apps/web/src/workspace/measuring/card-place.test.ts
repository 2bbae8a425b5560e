import { lookFrom } from '@bathyscope/core/math';
import { boxPart } from '../../../../../packages/core/src/testing/box-part.ts';
import { placedAt, showModel } from '../../testing/test-model.ts';
import { testWorkspace } from '../../testing/test-workspace.ts';
import { cardPlace, type Rect } from './card-place.ts';
import type { Workspace } from '../workspace.ts';

/* 60 mm over 600 px, seen from above: a block of 20 × 20 from x = 0, one of 10 × 10 from x = 40. */
function opened(): Workspace {
  const ws = testWorkspace();
  showModel(
    ws,
    [boxPart(20, 20, 6), boxPart(10, 10, 6)],
    [
      ['large', 0, placedAt(0, 0, 0)],
      ['small', 1, placedAt(40, 0, 0)],
    ],
  );
  ws.camera.getState().setCanvas({ width: 600, height: 600 });
  ws.camera.getState().setCamera({
    projection: 'orthographic',
    target: [30, 30, 0],
    orientation: lookFrom([0, 0, 1], [0, 1, 0]),
    height: 60,
    lens: 0.5,
  });
  return ws;
}
/** Over what is there in mm, seen from above. */
const over = (x: number, y: number, width: number, height: number): Rect => ({
  left: 10 * x,
  right: 10 * (x + width),
  top: 600 - 10 * (y + height),
  bottom: 600 - 10 * y,
});
const LARGE = over(2, 2, 16, 16);
const SMALL = over(38, 0, 16, 16);
const FREE = over(20, 40, 16, 16);
const ws = opened();
const pick = (component: string, kind: 'component' | 'face' = 'component') =>
  ws.selection.getState().pick([{ kind, component: `a/${component}`, index: kind === 'face' ? 5 : 0 }]);

test('a card goes where it hides nothing picked, then where it hides least of the model, and stays where that is not worth it', () => {
  pick('small');
  expect(cardPlace(ws, [SMALL, LARGE], 0, false)).toBe(1);
  expect(cardPlace(ws, [SMALL, LARGE, FREE], 0, false)).toBe(2);
  pick('large', 'face');
  expect(cardPlace(ws, [SMALL, LARGE], 1, false)).toBe(0);
  // A rim of the block is under it only.
  expect(cardPlace(ws, [over(19, 30, 16, 16), FREE], 0, false)).toBe(0);
  pick('small');
  expect(cardPlace(ws, [over(19, 5, 30, 30), FREE], 0, false)).toBe(1);
});

test('of a view that turned, only what is picked moves it; where everything hides what is picked it stays', () => {
  pick('small');
  expect(cardPlace(ws, [LARGE, FREE], 0, true)).toBe(0);
  expect(cardPlace(ws, [SMALL, FREE], 0, true)).toBe(1);
  expect(cardPlace(ws, [SMALL, over(40, 0, 12, 12)], 0, true)).toBe(0);
});
