import { type Vec3 } from '@bathyscope/core';
import { changePlane } from '../commands/cut/section-changes.ts';
import { testWorkspace } from '../testing/test-workspace.ts';
import { clipsNow } from './section-now.ts';

const ws = testWorkspace();

test('clips come from the planes that are on, on the side that is removed', () => {
  const plane = { id: 'p', name: 'P', origin: [0, 0, 10] as const, normal: [0, 0, 1] as const, offset: 5, flipped: false, on: true };
  ws.section.setState({ planes: [plane], on: true });
  const cutAway = (p: Vec3) => clipsNow(ws).some((c) => c.normal[0] * p[0] + c.normal[1] * p[1] + c.normal[2] * p[2] + c.constant < 0);
  expect([cutAway([0, 0, 16]), cutAway([0, 0, 14])]).toEqual([true, false]);
  ws.section.setState({ planes: changePlane(ws, 'p', { flipped: true }) });
  expect([cutAway([0, 0, 16]), cutAway([0, 0, 14])]).toEqual([false, true]);
  ws.section.setState({ on: false });
  expect(clipsNow(ws)).toEqual([]);
  ws.section.setState({ planes: [], on: true });
});
