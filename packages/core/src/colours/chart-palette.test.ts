import { CHART_PALETTE, componentColour, mostOf } from './chart-palette.ts';
import type { Vec3 } from '../math/vec3.ts';

const RED: Vec3 = [1, 0, 0];
const BLUE: Vec3 = [0, 0, 1];
const faces = (...areas: number[]) => ({ faces: areas.map((area) => ({ area })) });

test('a part whose faces are coloured has the colour of most of its surface, also when that is spread over many faces', () => {
  expect(mostOf({ 0: RED, 1: BLUE, 2: BLUE }, faces(5, 3, 3))).toBe(BLUE);
  expect(mostOf({ 0: RED, 1: BLUE, 2: BLUE }, faces(7, 3, 3))).toBe(RED);
  // The same colour told twice is one.
  expect(mostOf({ 0: [0, 0, 1], 1: [0, 0, 1], 2: RED }, faces(3, 3, 5))).toEqual(BLUE);
});

test('where most of the surface has no colour, or nothing is known of it, none is claimed', () => {
  expect(mostOf({ 0: RED }, faces(2, 1, 1.5))).toBeUndefined();
  expect(mostOf({ 0: RED }, faces(2, 1))).toBe(RED);
  expect(mostOf(undefined, faces(1))).toBeUndefined();
  expect(mostOf({}, faces(1))).toBeUndefined();
  expect(mostOf({ 0: RED }, undefined)).toBeUndefined();
});

test('a colour given on the screen goes before the file’s, that before the palette, which is stable and goes round', () => {
  expect(componentColour({ part: 1, colour: RED }, { colour: BLUE })).toBe(BLUE);
  expect(componentColour({ part: 1, colour: RED }, {})).toBe(RED);
  expect(componentColour({ part: 1 })).toBe(CHART_PALETTE[1]);
  expect(componentColour({ part: CHART_PALETTE.length + 1 })).toBe(CHART_PALETTE[1]);
  // Neighbours differ.
  CHART_PALETTE.forEach((colour, i) =>
    expect(colour).not.toEqual(CHART_PALETTE[(i + 1) % CHART_PALETTE.length]),
  );
});
