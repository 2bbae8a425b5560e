import { takesPoint, type Vec3 } from '@bathyscope/core/math';
import { changePlane } from '../../commands/cut/section-changes.ts';
import { testWorkspace } from '../../testing/test-workspace.ts';
import { cutNow } from './section-now.ts';

const ws = testWorkspace();

test('what is cut away comes from the planes that are on, on the side that is removed', () => {
  const plane = {
    id: 'p',
    name: 'P',
    origin: [0, 0, 10] as const,
    normal: [0, 0, 1] as const,
    offset: 5,
    flipped: false,
    on: true,
  };
  ws.section.setState({ planes: [plane], on: true });
  const cutAway = (p: Vec3) => takesPoint(cutNow(ws), p);
  expect([cutAway([0, 0, 16]), cutAway([0, 0, 14])]).toEqual([true, false]);
  ws.section.setState({ planes: changePlane(ws, 'p', { flipped: true }) });
  expect([cutAway([0, 0, 16]), cutAway([0, 0, 14])]).toEqual([false, true]);
  ws.section.setState({ on: false });
  expect(cutNow(ws).planes).toEqual([]);
  ws.section.setState({ planes: [], on: true });
});
