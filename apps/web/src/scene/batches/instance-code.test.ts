import { HOVERED, instanceCode, litCode, OPACITY_SHARE, PICKED, type InstanceLook } from './instance-code.ts';

const LOOK: InstanceLook = {
  colour: [1, 0.5, 0.25],
  ownFaceColours: true,
  drawnAs: 2,
  style: 5,
  opacity: 0.25,
  whole: true,
  look: 4,
  tone: 36,
  colourless: false,
};

/** As the shaders take it apart, in the single precision that the texture keeps. */
function taken(code: { x: number; y: number; z: number; w: number }) {
  const [r, g, b, a] = Float32Array.of(code.x, code.y, code.z, code.w);
  const toned = Math.floor(r / 2);
  const flags = Math.floor(a);
  return {
    colour: [r - 2 * toned, g, b],
    tone: toned > 1.5 ? Math.floor(toned / 2) - 1 : -1,
    colourless: toned % 2 < 0.5,
    ownFaceColours: flags % 2 === 1,
    drawnAs: (flags >> 1) & 3,
    style: (flags >> 3) & 63,
    whole: ((flags >> 9) & 1) === 1,
    lit: (flags >> 10) & 3,
    look: flags >> 12,
    opacity: (a - flags) / OPACITY_SHARE,
  };
}

test('what the shaders are told of a component comes apart again, in single precision', () => {
  const code = taken(litCode(instanceCode(LOOK), PICKED | HOVERED));
  expect(code).toMatchObject({ ...LOOK, colour: expect.anything(), opacity: expect.anything(), lit: 3 });
  LOOK.colour.forEach((c, k) => expect(code.colour[k]).toBeCloseTo(c, 2));
  expect(code.opacity).toBeCloseTo(0.25, 2);

  const bare = taken(
    instanceCode({
      ...LOOK,
      tone: -1,
      whole: false,
      ownFaceColours: false,
      drawnAs: 0,
      style: 0,
      look: 0,
      opacity: 1,
    }),
  );
  expect(bare).toMatchObject({
    tone: -1,
    whole: false,
    ownFaceColours: false,
    drawnAs: 0,
    style: 0,
    look: 0,
    lit: 0,
  });
  expect(bare.opacity).toBeCloseTo(1, 2);
  expect(taken(instanceCode({ ...LOOK, tone: 0, colourless: true }))).toMatchObject({
    tone: 0,
    colourless: true,
  });
});
