import { MATERIAL_TONES } from '@bathyscope/core/mass';
import { OPACITY_SHARE } from './instance-code.ts';

/*
 * The shaders of every pass. All of them take batching and clipping, so that a section cuts whatever is
 * drawn, and all work in display colours: what the file or the theme says is what is seen. Which components a
 * pass draws is decided here, by the code that each carries in its batch colour (see `instance-code.ts`).
 */

/**
 * Discards what is cut away: by any of the first planes, or by all of the rest. The middle of a pixel may lie
 * outside a triangle that covers part of it, and of one seen nearly edge on far outside: there single pixels
 * of what is cut away would stay. What comes so near to the plane on such a triangle (89° and more) goes too.
 * Only where edges are smooth: else the middle of a pixel is what is covered.
 */
const CUT = /* glsl */ `
  #if NUM_CLIPPING_PLANES > 0
    vec3 play = vec3( 0.0 );
    if ( multisampled ) {
      vec3 sight = isOrthographic ? vec3( 0.0, 0.0, 1.0 ) : normalize( vClipPosition );
      vec3 toRight = dFdx( vClipPosition );
      vec3 toTop = dFdy( vClipPosition );
      vec2 deeper = vec2( dot( toRight, sight ), dot( toTop, sight ) );
      float across = length( toRight - deeper.x * sight ) + length( toTop - deeper.y * sight );
      if ( abs( deeper.x ) + abs( deeper.y ) > 57.0 * across ) play = abs( toRight ) + abs( toTop );
    }
    #define LEFT( p ) ( dot( vClipPosition, p.xyz ) + dot( play, abs( p.xyz ) ) <= p.w )
    for ( int i = 0; i < UNION_CLIPPING_PLANES; i ++ ) if ( ! LEFT( clippingPlanes[ i ] ) ) discard;
    #if UNION_CLIPPING_PLANES < NUM_CLIPPING_PLANES
      bool cutAway = true;
      for ( int i = UNION_CLIPPING_PLANES; i < NUM_CLIPPING_PLANES; i ++ ) cutAway = cutAway && ! LEFT( clippingPlanes[ i ] );
      if ( cutAway ) discard;
    #endif
  #endif`;

const CUT_PARS = /* glsl */ `
  #include <clipping_planes_pars_fragment>
  uniform bool multisampled;`;

const LIT_PARS = /* glsl */ `
  varying float vLit;
  uniform vec4 litPicked;
  uniform vec4 litHovered;
  vec4 litColour() { return mod( vLit, 2.0 ) > 0.5 ? litPicked : vLit > 1.5 ? litHovered : vec4( 0.0 ); }`;

export const VERTEX = /* glsl */ `
  #include <common>
  #include <batching_pars_vertex>
  #include <clipping_planes_pars_vertex>
  uniform vec3 colour;
  #ifdef HAS_TINT
    attribute vec4 tint;
    varying vec3 vColour;
  #endif
  #ifdef HAS_NORMAL
    varying vec3 vNormalView;
    varying vec3 vAt;
    varying vec3 vUpView;
    uniform vec3 modelUp;
  #endif
  #ifdef BY_CODE
    varying float vWhole;
    uniform float passClass;
    uniform float passStyle;
    varying float vLit;
    varying float vOpacity;
    varying float vLook;
  #endif
  #ifdef MATERIAL
    uniform float materialFirst;
    uniform vec3 tones[ ${MATERIAL_TONES.length} ];
  #endif
  #ifdef IS_LINE
    attribute vec3 tangent3;
    attribute vec4 tint;
    uniform vec2 viewport;
    uniform vec2 shift;
    uniform float wobble;
    uniform float seed;
    varying float vAcross;
    varying vec3 vOwn;
  #endif
  #ifdef IS_OUTLINE
    attribute vec3 sideA;
    attribute vec3 sideB;
    attribute vec3 middle;
  #endif
  #ifdef IS_LINE
    // A stroke by hand: the same place is always off by the same amount, so that lines still meet.
    vec2 handOff( vec3 p ) {
      vec3 q = floor( p * 3.0 + 0.5 ) * 0.37 + seed;
      return vec2( sin( dot( q, vec3( 12.9898, 78.233, 37.719 ) ) ), sin( dot( q, vec3( 93.989, 67.345, 11.135 ) ) ) );
    }
  #endif
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
      vUpView = normalMatrix * modelUp;
    #endif
    vec4 code = vec4( 0.0 );
    #ifdef USE_BATCHING_COLOR
      code = getBatchingColor( getIndirectIndex( gl_DrawID ) );
    #endif
    float toned = floor( code.r / 2.0 );
    code.r -= 2.0 * toned;
    #ifdef HAS_TINT
      vColour = mix( code.rgb, tint.rgb, tint.a * mod( floor( code.a ), 2.0 ) );
    #endif
    #ifdef MATERIAL
      // The colour of its material, where it has none of its own or that is asked for.
      if ( toned > 1.5 && ( materialFirst > 0.5 || mod( toned, 2.0 ) < 0.5 ) ) vColour = tones[ int( toned / 2.0 ) - 1 ];
    #endif
    vec4 mvPosition = modelViewMatrix * local;
    #ifdef HAS_NORMAL
      vAt = mvPosition.xyz;
    #endif
    gl_Position = projectionMatrix * mvPosition;
    #ifdef IS_LINE
      vOwn = mix( code.rgb, tint.rgb, tint.a * mod( floor( code.a ), 2.0 ) );
      vec3 along = tangent3;
      #ifdef USE_BATCHING
        along = mat3( batchingMatrix ) * along;
      #endif
      vec4 ahead = projectionMatrix * modelViewMatrix * vec4( local.xyz + along * ( 0.001 * abs( mvPosition.z ) + 0.01 ), 1.0 );
      vec2 way = abs( ( ahead.xy / ahead.w - gl_Position.xy / gl_Position.w ) * viewport );
      vAcross = way.x >= way.y ? 1.0 : 0.0;
      vec2 off = shift;
      if ( wobble > 0.0 ) off += wobble * handOff( local.xyz );
      gl_Position.xy += off / viewport * 2.0 * gl_Position.w;
    #endif
    #ifdef BY_CODE
      float flags = floor( code.a );
      vLook = floor( flags / 4096.0 );
      flags -= 4096.0 * vLook;
      // Picked (1) or under the cursor (2) as a whole.
      vLit = floor( flags / 1024.0 );
      flags -= 1024.0 * vLit;
      // Kept whole: no plane cuts it.
      vWhole = floor( flags / 512.0 );
      flags -= 512.0 * vWhole;
      vOpacity = fract( code.a ) / ${OPACITY_SHARE};
      bool mine = abs( mod( floor( flags / 2.0 ), 4.0 ) - passClass ) < 0.5 && abs( floor( flags / 8.0 ) - passStyle ) < 0.5;
      #ifdef IS_OUTLINE
        vec3 m = middle;
        vec3 a = sideA;
        vec3 b = sideB;
        #ifdef USE_BATCHING
          m = ( batchingMatrix * vec4( middle, 1.0 ) ).xyz;
          a = mat3( batchingMatrix ) * a;
          b = mat3( batchingMatrix ) * b;
        #endif
        vec3 mid = ( modelViewMatrix * vec4( m, 1.0 ) ).xyz;
        vec3 eye = isOrthographic ? vec3( 0.0, 0.0, 1.0 ) : -mid;
        mine = mine && dot( normalMatrix * a, eye ) * dot( normalMatrix * b, eye ) <= 0.0;
      #endif
      if ( !mine ) gl_Position = vec4( 2.0, 2.0, 2.0, 1.0 );
    #endif
    #include <clipping_planes_vertex>
  }`;

export const FACES = /* glsl */ `
  #include <common>
  ${CUT_PARS}
  varying float vWhole;
  varying vec3 vColour;
  varying vec3 vNormalView;
  varying vec3 vAt;
  varying vec3 vUpView;
  varying float vOpacity;
  varying float vLook;
  ${LIT_PARS}
  uniform vec3 colour;
  uniform float opacity;
  uniform float flatBack;
  #ifdef MATERIAL
    // A studio made here: a bright ceiling, a soft window to the left, a dark floor.
    vec3 studio( vec3 d, vec3 up, float blur ) {
      float h = dot( d, up );
      vec3 sky = mix( vec3( 0.62, 0.66, 0.7 ), vec3( 1.05 ), smoothstep( -0.1, 1.0, h ) );
      vec3 floorTone = mix( vec3( 0.46, 0.45, 0.43 ), vec3( 0.3, 0.3, 0.31 ), smoothstep( 0.0, -1.0, h ) );
      vec3 light = mix( floorTone, sky, smoothstep( -blur, blur, h ) );
      float window = smoothstep( 0.75 - blur, 0.98, dot( d, normalize( vec3( -0.6, 0.5, 0.62 ) ) ) );
      float strip = smoothstep( 0.9 - blur, 1.0, dot( d, normalize( vec3( 0.8, 0.15, 0.5 ) ) ) );
      return light + window * 0.9 + strip * 0.5;
    }
  #endif
  void main() {
    if ( vWhole < 0.5 ) {
    ${CUT}
    }
    vec3 n = normalize( vNormalView );
    vec3 toEye = isOrthographic ? vec3( 0.0, 0.0, 1.0 ) : normalize( -vAt );
    // Whatever is seen faces the eye, also the inside of open shells and mirrored components.
    // At a silhouette the smooth normal leans away from the eye a little; turned round there, single pixels
    // would be lit from the other side.
    float away = -dot( n, toEye );
    if ( away > 0.0 ) n = normalize( mix( n + 2.0 * away * toEye, -n, smoothstep( 0.2, 0.6, away ) ) );
    #ifdef MATERIAL
      vec3 up = normalize( vUpView );
      vec3 diffuse = studio( n, up, 0.9 );
      float edge = pow( 1.0 - max( 0.0, dot( n, toEye ) ), 4.0 );
      vec3 base = vColour;
      vec3 soft = base * min( diffuse, vec3( 1.35 ) );
      vec3 way = reflect( -toEye, n );
      vec3 shone;
      // Metal throws back in its own colour, a polymer shines a little, rubber hardly does, glass is clear
      // but for its edges.
      if ( vLook > 3.5 ) shone = soft * 0.2 + vec3( 0.42, 0.46, 0.48 ) + mix( vec3( 0.12 ), vec3( 0.62 ), edge ) * studio( way, up, 0.06 ) - 0.3 * edge * ( 1.0 - base );
      else if ( vLook > 2.5 ) shone = soft * 0.5 + vec3( 0.05 ) * edge;
      else if ( vLook > 1.5 ) shone = soft * 0.66 + vec3( 0.07 + 0.3 * edge ) * studio( way, up, 0.3 );
      else if ( vLook > 0.5 ) shone = soft * 0.26 + mix( base, vec3( 1.0 ), 0.15 + 0.6 * edge ) * studio( way, up, 0.12 ) * ( 0.52 + 0.25 * edge );
      else shone = soft * 0.58 + mix( base * 0.3, vec3( 0.26 ), 0.4 + 0.5 * edge ) * studio( way, up, 0.18 ) * ( 0.26 + 0.4 * edge );
      gl_FragColor = vec4( shone, 1.0 );
    #else
      float key = max( 0.0, dot( n, normalize( vec3( -0.42, 0.62, 0.66 ) ) ) );
      float fill = max( 0.0, dot( n, normalize( vec3( 0.75, 0.1, 0.55 ) ) ) );
      #ifdef ONE_TINT
        gl_FragColor = vec4( colour * ( 0.82 + 0.18 * key ), 1.0 );
      #else
        float light = 0.55 + 0.4 * key + 0.14 * fill + 0.05 * n.y;
        float gloss = pow( max( 0.0, dot( n, normalize( vec3( -0.24, 0.36, 0.9 ) ) ) ), 40.0 );
        gl_FragColor = vec4( vColour * light + 0.07 * gloss, 1.0 );
      #endif
    #endif
    #ifndef BLENDED
      // While caps are on their way the inside of what is cut stands for them.
      if ( flatBack > 0.5 && !gl_FrontFacing ) gl_FragColor = vec4( mix( vColour, vec3( 1.0 ), 0.62 ), 1.0 );
    #endif
    vec4 lit = litColour();
    gl_FragColor.rgb = mix( gl_FragColor.rgb, lit.rgb, lit.a );
    #ifdef BLENDED
      // Flat views of a clear wall let more through than grazing ones.
      float graze = 1.0 - abs( dot( n, toEye ) );
      gl_FragColor.a = opacity < 0.0 ? vOpacity : opacity + 0.25 * graze * graze;
    #endif
  }`;

export const LINES = /* glsl */ `
  #include <common>
  ${CUT_PARS}
  varying float vWhole;
  uniform vec3 colour;
  uniform float opacity;
  uniform float dash;
  // On faces: ink would be lost on dark ones.
  uniform float contrast;
  varying float vAcross;
  varying vec3 vOwn;
  ${LIT_PARS}
  void main() {
    if ( vWhole < 0.5 ) {
    ${CUT}
    }
    if ( dash > 0.0 ) {
      float at = vAcross > 0.5 ? gl_FragCoord.x : gl_FragCoord.y;
      if ( fract( at / dash ) > 0.62 ) discard;
    }
    vec4 lit = litColour();
    bool dark = contrast > 0.5 && dot( vOwn, vec3( 0.299, 0.587, 0.114 ) ) < 0.32;
    vec3 ink = dark ? mix( vOwn, vec3( 0.86, 0.91, 0.93 ), 0.62 ) : colour;
    gl_FragColor = vec4( mix( ink, lit.rgb, step( 0.001, lit.a ) ), opacity );
  }`;

export const FLAT = /* glsl */ `
  #include <common>
  ${CUT_PARS}
  uniform vec3 colour;
  uniform float opacity;
  void main() {
    ${CUT}
    gl_FragColor = vec4( colour, opacity );
  }`;

export const SHADOW = /* glsl */ `
  ${CUT_PARS}
  varying float vWhole;
  void main() {
    if ( vWhole < 0.5 ) {
    ${CUT}
    }
    float height = gl_FragCoord.z;
    gl_FragColor = vec4( 0.0, 0.0, 0.0, 0.12 + 0.88 * pow( 1.0 - height, 3.0 ) );
  }`;
