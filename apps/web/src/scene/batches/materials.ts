import { MATERIAL_TONES } from '@bathyscope/core/mass';
import {
  Color,
  DoubleSide,
  GreaterDepth,
  LessEqualDepth,
  ShaderMaterial,
  Vector2,
  Vector3,
  Vector4,
  type IUniform,
  type Side,
} from 'three';
import { FACES, FLAT, LINES, SHADOW, VERTEX } from './shaders.ts';

/* The materials of every pass, made of the shaders and what all of them share. */

/** Whether what is drawn on has several samples a pixel; one for all materials. */
const MULTISAMPLED: IUniform<boolean> = { value: false };

export const setMultisampled = (on: boolean): void => void (MULTISAMPLED.value = on);

/**
 * The colours of whole components that are picked or under the cursor, and how strong they are: 0 in
 * pictures. One for all materials.
 */
const LIT = { picked: { value: new Vector4() }, hovered: { value: new Vector4() } };

/** @param opacity 0–1, of the tint over faces; lines take the colour itself */
export function setLit(how: keyof typeof LIT, colour: string, opacity: number): void {
  const { r, g, b } = displayColour(colour);
  LIT[how].value.set(r, g, b, opacity);
}

const uniforms = (colour: string, opacity = 1): Record<string, IUniform> => ({
  colour: { value: displayColour(colour) },
  opacity: { value: opacity },
  passClass: { value: 0 },
  passStyle: { value: 0 },
  litPicked: LIT.picked,
  litHovered: LIT.hovered,
  modelUp: { value: new Color(0, 0, 1) },
  viewport: { value: new Vector2(1, 1) },
  shift: { value: new Vector2(0, 0) },
  wobble: { value: 0 },
  seed: { value: 0 },
  dash: { value: 0 },
  contrast: { value: 0 },
  flatBack: { value: 0 },
  materialFirst: { value: 0 },
  tones: { value: MATERIAL_TONES.map((tone) => new Vector3(...tone)) },
  multisampled: MULTISAMPLED,
});

/** A colour whose numbers are those of the display, not linear light. */
export function displayColour(hex: string): Color {
  const n = parseInt(hex.slice(1), 16);
  return new Color().setRGB(((n >> 16) & 255) / 255, ((n >> 8) & 255) / 255, (n & 255) / 255, 'srgb-linear');
}

export type FaceKind = 'plain' | 'material' | 'tint' | 'depth';

/**
 * Faces; pushed back a little so that edges lie on top without speckle. `depth` paints nothing
 * and hides what lies behind.
 */
export function faceMaterial(kind: FaceKind): ShaderMaterial {
  const defines: Record<string, string> = { HAS_NORMAL: '', HAS_TINT: '', BY_CODE: '' };
  if (kind === 'material') defines['MATERIAL'] = '';
  if (kind === 'tint') defines['ONE_TINT'] = '';
  return new ShaderMaterial({
    name: `faces ${kind}`,
    vertexShader: VERTEX,
    fragmentShader: FACES,
    defines,
    uniforms: uniforms('#e9dfc6'),
    side: DoubleSide,
    clipping: true,
    polygonOffset: true,
    polygonOffsetFactor: 1,
    polygonOffsetUnits: 1,
    colorWrite: kind !== 'depth',
  });
}

/** Faces one looks through: blended, hiding nothing. An opacity below 0 stands for each component's own. */
export const clearMaterial = (opacity: number, side: Side = DoubleSide): ShaderMaterial =>
  new ShaderMaterial({
    name: 'clear faces',
    vertexShader: VERTEX,
    fragmentShader: FACES,
    defines: { HAS_NORMAL: '', HAS_TINT: '', BY_CODE: '', BLENDED: '' },
    uniforms: uniforms('#cccccc', opacity),
    side,
    clipping: true,
    transparent: true,
    depthWrite: false,
    polygonOffset: true,
    polygonOffsetFactor: 1,
    polygonOffsetUnits: 1,
  });

/** Lines of a batch: what lies in front, or what lies behind. */
export const lineMaterial = (where: 'front' | 'behind', outline = false): ShaderMaterial =>
  new ShaderMaterial({
    name: `lines ${where}`,
    vertexShader: VERTEX,
    fragmentShader: LINES,
    defines: { IS_LINE: '', BY_CODE: '', ...(outline && { IS_OUTLINE: '' }) },
    uniforms: uniforms('#15222c'),
    clipping: true,
    depthFunc: where === 'front' ? LessEqualDepth : GreaterDepth,
    depthWrite: where === 'front',
    transparent: true,
  });

/** A veil of colour over faces that are hovered or picked. */
export const veilMaterial = (colour: string, opacity: number): ShaderMaterial =>
  new ShaderMaterial({
    name: 'veil',
    vertexShader: VERTEX,
    fragmentShader: FLAT,
    uniforms: uniforms(colour, opacity),
    clipping: true,
    transparent: true,
    depthWrite: false,
    side: DoubleSide,
    polygonOffset: true,
    polygonOffsetFactor: 0.5,
    polygonOffsetUnits: 0.5,
  });

/** What a component leaves on the ground, the darker the nearer it is. */
export const shadowMaterial = (): ShaderMaterial =>
  new ShaderMaterial({
    name: 'shadow',
    vertexShader: VERTEX,
    fragmentShader: SHADOW,
    defines: { BY_CODE: '' },
    uniforms: uniforms('#000000'),
    side: DoubleSide,
    clipping: true,
  });
