import { Color, DoubleSide, ShaderMaterial, type IUniform } from 'three';

/*
 * The shaders of every pass. All of them take batching and clipping, so that a section cuts whatever is drawn, and all
 * work in display colours: what the file or the theme says is what is seen.
 */

const VERTEX = /* glsl */ `
  #include <common>
  #include <batching_pars_vertex>
  #include <clipping_planes_pars_vertex>
  #ifdef HAS_TINT
    attribute vec4 tint;
    varying vec3 vColour;
  #endif
  #ifdef HAS_NORMAL
    varying vec3 vNormalView;
    varying vec3 vToEye;
  #endif
  uniform vec3 colour;
  void main() {
    #include <batching_vertex>
    vec4 local = vec4( position, 1.0 );
    #ifdef USE_BATCHING
      local = batchingMatrix * local;
    #endif
    #ifdef HAS_NORMAL
      vec3 n = normal;
      #ifdef USE_BATCHING
        n = mat3( batchingMatrix ) * n;
      #endif
      vNormalView = normalMatrix * n;
    #endif
    #ifdef HAS_TINT
      vec3 base = colour;
      float useTint = 1.0;
      #ifdef USE_BATCHING_COLOR
        vec4 batch = getBatchingColor( getIndirectIndex( gl_DrawID ) );
        base = batch.rgb;
        useTint = batch.a;
      #endif
      vColour = mix( base, tint.rgb, tint.a * useTint );
    #endif
    vec4 mvPosition = modelViewMatrix * local;
    #ifdef HAS_NORMAL
      vToEye = isOrthographic ? vec3( 0.0, 0.0, 1.0 ) : -mvPosition.xyz;
    #endif
    gl_Position = projectionMatrix * mvPosition;
    #include <clipping_planes_vertex>
  }`;

const SHADED = /* glsl */ `
  #include <common>
  #include <clipping_planes_pars_fragment>
  varying vec3 vColour;
  varying vec3 vNormalView;
  varying vec3 vToEye;
  void main() {
    #include <clipping_planes_fragment>
    vec3 n = normalize( vNormalView );
    // Whatever is seen faces the eye, also the inside of open shells and mirrored components.
    if ( dot( n, vToEye ) < 0.0 ) n = -n;
    float key = max( 0.0, dot( n, normalize( vec3( -0.42, 0.62, 0.66 ) ) ) );
    float fill = max( 0.0, dot( n, normalize( vec3( 0.75, 0.1, 0.55 ) ) ) );
    float light = 0.55 + 0.4 * key + 0.14 * fill + 0.05 * n.y;
    float gloss = pow( max( 0.0, dot( n, normalize( vec3( -0.24, 0.36, 0.9 ) ) ) ), 40.0 );
    gl_FragColor = vec4( vColour * light + 0.07 * gloss, 1.0 );
  }`;

const FLAT = /* glsl */ `
  #include <common>
  #include <clipping_planes_pars_fragment>
  uniform vec3 colour;
  uniform float opacity;
  void main() {
    #include <clipping_planes_fragment>
    gl_FragColor = vec4( colour, opacity );
  }`;

const uniforms = (colour: string, opacity = 1): Record<string, IUniform> => ({
  colour: { value: displayColour(colour) },
  opacity: { value: opacity },
});

/** A colour whose numbers are those of the display, not linear light. */
export function displayColour(hex: string): Color {
  const n = parseInt(hex.slice(1), 16);
  return new Color().setRGB(((n >> 16) & 255) / 255, ((n >> 8) & 255) / 255, (n & 255) / 255, 'srgb-linear');
}

/** Faces with light; pushed back a little so that edges lie on top without speckle. */
export const faceMaterial = (): ShaderMaterial => new ShaderMaterial({
  name: 'faces', vertexShader: VERTEX, fragmentShader: SHADED, defines: { HAS_NORMAL: '', HAS_TINT: '' }, uniforms: uniforms('#cccccc'),
  side: DoubleSide, clipping: true, polygonOffset: true, polygonOffsetFactor: 1, polygonOffsetUnits: 1,
});

export const lineMaterial = (colour: string): ShaderMaterial => new ShaderMaterial({
  name: 'edges', vertexShader: VERTEX, fragmentShader: FLAT, uniforms: uniforms(colour), clipping: true,
});

/** A veil of colour over faces that are hovered or picked. */
export const veilMaterial = (colour: string, opacity: number): ShaderMaterial => new ShaderMaterial({
  name: 'veil', vertexShader: VERTEX, fragmentShader: FLAT, uniforms: uniforms(colour, opacity), clipping: true, transparent: true,
  depthWrite: false, side: DoubleSide, polygonOffset: true, polygonOffsetFactor: 0.5, polygonOffsetUnits: 0.5,
});
