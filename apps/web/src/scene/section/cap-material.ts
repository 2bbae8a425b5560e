import { DoubleSide, ShaderMaterial } from 'three';

const CAP_VERTEX = /* glsl */ `
  attribute vec2 inPlane;
  attribute vec3 tone;
  attribute vec3 hatch;
  varying vec2 vAt;
  varying vec3 vTone;
  varying vec3 vHatch;
  void main() {
    vAt = inPlane;
    vTone = tone;
    vHatch = hatch;
    gl_Position = projectionMatrix * modelViewMatrix * vec4( position, 1.0 );
  }`;
const CAP = /* glsl */ `
  varying vec2 vAt;
  varying vec3 vTone;
  varying vec3 vHatch;
  uniform float pxPerMm;
  void main() {
    float spacing = 10.0 * vHatch.y;
    float across = ( vAt.y * cos( vHatch.x ) - vAt.x * sin( vHatch.x ) ) * pxPerMm;
    float line = abs( fract( across / spacing ) - 0.5 ) * spacing;
    float ink = 1.0 - smoothstep( 0.45, 1.1, line );
    vec3 paper = mix( vTone, vec3( 1.0 ), 0.62 );
    // ISO 128-3: thin cuts are filled. Too thin for two lines of its hatch.
    float thin = 1.0 - smoothstep( 0.8, 1.2, vHatch.z * pxPerMm / spacing );
    vec3 hatched = mix( paper, vTone * 0.32, ink * 0.85 );
    gl_FragColor = vec4( mix( hatched, vTone * 0.5, thin ), 1.0 );
  }`;

/** Cut faces in a lighter tint of their components, hatched by attribute: angle (rad), relative spacing, wall thickness (mm). */
export const capMaterial = (): ShaderMaterial =>
  new ShaderMaterial({ name: 'cap', vertexShader: CAP_VERTEX, fragmentShader: CAP, side: DoubleSide, uniforms: { pxPerMm: { value: 1 } } });
