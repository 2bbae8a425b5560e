import { Color, DoubleSide, ShaderMaterial } from 'three';

const CAP_VERTEX = /* glsl */ `
  attribute vec2 inPlane;
  attribute vec3 tone;
  // The colour of the material, and how it stands to the other: 0 never, 1 where it is to
  // go first, 2 the only one.
  attribute vec4 material;
  uniform float materialTone;
  attribute vec3 hatch;
  varying vec2 vAt;
  varying vec3 vTone;
  varying vec3 vHatch;
  void main() {
    vAt = inPlane;
    vTone = material.a + materialTone > 2.5 ? material.rgb : tone;
    vHatch = hatch;
    gl_Position = projectionMatrix * modelViewMatrix * vec4( position, 1.0 );
  }`;
const CAP = /* glsl */ `
  varying vec2 vAt;
  varying vec3 vTone;
  varying vec3 vHatch;
  uniform float pxPerMm;
  uniform int look;
  uniform bool night;
  uniform vec3 tint;
  void main() {
    if ( look == TINTED ) { gl_FragColor = vec4( tint, 1.0 ); return; }
    // By night a light paper would glare: the face is dark and its hatch light.
    vec3 away = night ? vec3( 0.06, 0.11, 0.15 ) : vec3( 1.0 );
    if ( look == PLAIN ) { gl_FragColor = vec4( mix( vTone, away, 0.18 ), 1.0 ); return; }
    float spacing = 10.0 * vHatch.y;
    float across = ( vAt.y * cos( vHatch.x ) - vAt.x * sin( vHatch.x ) ) * pxPerMm;
    float line = abs( fract( across / spacing ) - 0.5 ) * spacing;
    float ink = 1.0 - smoothstep( 0.45, 1.1, line );
    vec3 paper = mix( vTone, away, 0.62 );
    vec3 pen = night ? mix( vTone, vec3( 1.0 ), 0.45 ) : vTone * 0.32;
    // ISO 128-3: thin cuts are filled. Too thin for two lines of its hatch.
    float thin = 1.0 - smoothstep( 0.8, 1.2, vHatch.z * pxPerMm / spacing );
    vec3 hatched = mix( paper, pen, ink * 0.85 );
    gl_FragColor = vec4( mix( hatched, night ? pen : vTone * 0.5, thin ), 1.0 );
  }`;

/** How cut faces look, by the choice of the style. */
export const CAP_LOOKS = { hatched: 0, plain: 1, tinted: 2 } as const;

/**
 * Cut faces: in a tint of their components, hatched by attribute (angle in rad, relative spacing, wall
 * thickness in mm), plain, or all alike.
 */
export const capMaterial = (): ShaderMaterial =>
  new ShaderMaterial({
    name: 'cap',
    vertexShader: CAP_VERTEX,
    fragmentShader: CAP,
    side: DoubleSide,
    defines: { PLAIN: CAP_LOOKS.plain, TINTED: CAP_LOOKS.tinted },
    uniforms: {
      pxPerMm: { value: 1 },
      look: { value: 0 },
      night: { value: false },
      tint: { value: new Color() },
      materialTone: { value: 0 },
    },
  });
