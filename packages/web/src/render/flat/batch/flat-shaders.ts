import { MASK_WIDTH_BITS } from '../mask-texture';
import { STYLES_PER_ROW_BITS, TEXELS_PER_STYLE_BITS } from '../style-texture';
import { MOST_ASIDE } from './flat-block';

/** Opacity of the thinnest line, relative to a line 1 px wide: line widths can still be distinguished from far away. */
const THINNEST_INK = 0.5;
/** A dash pattern that comes back within fewer px is drawn as a fainter unbroken line. */
const SHORTEST_PERIOD_PX = 4;
/** Origins side by side in a row of the texture. */
export const ORIGINS_PER_ROW_BITS = 6;

/** What is compiled in. */
export interface ShaderParts {
  readonly hasWidth: boolean;
  readonly isHairline: boolean;
  readonly isDashed: boolean;
  /** What looks up hidden objects costs each vertex a read. */
  readonly hidesObjects: boolean;
}

const version = '#version 300 es\n';

/** Where in a texture a number is looked up: shifts, since a division of whole numbers takes a processor long. */
const texelOf = (number: string, perRowBits: number, texelBits = 0, index = '0u'): string =>
  `ivec2(int(((${number} & ${(1 << perRowBits) - 1}u) << ${texelBits}u) + ${index}), int(${number} >> ${perRowBits}u))`;

// Depth is the order of painting: what stands later in the file lies above, whichever tile it comes from. Origins and
// the view's middle are sums of two numbers of single precision; what is far from the middle may lose the smaller ones.
const vertexShader = /* glsl */ `
precision highp float;
precision highp int;
precision highp sampler2D;
precision highp usampler2D;
uniform usampler2D styles;
uniform sampler2D origins;
#ifdef HIDES_OBJECTS
uniform sampler2D hiddenObjects;
#endif
uniform vec4 middle;
uniform vec4 axes;
uniform vec2 shift;
uniform float unitsPerPx;
uniform float depthStep;
uniform float lineStyles;
uniform float transparency;
in vec2 place;
in uvec2 mark;
#ifdef STROKE
in vec2 aside;
#endif
flat out vec4 ink;
#ifdef DASHED
in float along;
out float reach;
flat out vec4 pattern;
flat out vec4 ends0;
flat out vec4 ends1;
#endif
uvec4 texel(uint index) {
  uint number = mark.y >> 16u;
  return texelFetch(styles, ${texelOf('number', STYLES_PER_ROW_BITS, TEXELS_PER_STYLE_BITS, 'index')}, 0);
}
#ifdef HIDES_OBJECTS
bool isHidden() {
  if ((mark.x & 1u) == 1u) return false; // stands for many objects
  uint object = mark.x >> 2u;
  return texelFetch(hiddenObjects, ${texelOf('object', MASK_WIDTH_BITS)}, 0).r > 0.5;
}
#endif
void main() {
#ifdef HIDES_OBJECTS
  if (isHidden()) {
    gl_Position = vec4(2.0, 2.0, 2.0, 1.0); // out of sight with all its corners
    return;
  }
#endif
  uvec4 style = texel(0u);
  ink = vec4((uvec4(style.x) >> uvec4(0u, 8u, 16u, 24u)) & 255u) / 255.0;
  if (transparency == 0.0) ink.a = 1.0;
  uint slot = mark.y & 65535u;
  vec4 origin = texelFetch(origins, ${texelOf('slot', ORIGINS_PER_ROW_BITS)}, 0);
  vec2 at = place + ((origin.xy - middle.xy) + (origin.zw - middle.zw));
#ifdef STROKE
  at += aside * (${(MOST_ASIDE / 2).toFixed(1)} * uintBitsToFloat(style.y));
#elif defined(HAIRLINE)
  float widthPx = uintBitsToFloat(style.y) / unitsPerPx;
  ink.a *= mix(${THINNEST_INK.toFixed(2)}, 1.0, clamp(widthPx, 0.0, 1.0));
  if (lineStyles == 0.0) ink = vec4(0.0, 0.0, 0.0, 1.0);
#endif
#ifdef DASHED
  pattern = vec4(0.0, uintBitsToFloat(style.z), float(style.w), 0.0);
  ends0 = uintBitsToFloat(texel(1u));
  ends1 = uintBitsToFloat(texel(2u));
  reach = along;
  if (pattern.y < ${SHORTEST_PERIOD_PX.toFixed(1)} * unitsPerPx) {
    ink.a *= 0.6;
    pattern.z = 0.0;
  }
#endif
  gl_Position = vec4(at.x * axes.xy + at.y * axes.zw - shift, 1.0 - (0.5 * float(mark.x) + 1.0) * depthStep, 1.0);
}`;

const fragmentShader = /* glsl */ `
precision highp float;
flat in vec4 ink;
out vec4 colour;
#ifdef DASHED
in float reach;
flat in vec4 pattern;
flat in vec4 ends0;
flat in vec4 ends1;
#endif
void main() {
#ifdef DASHED
  if (pattern.z > 0.0) {
    float at = mod(reach, pattern.y);
    int passed = 0;
    int count = int(pattern.z);
    for (int i = 0; i < 8; i++) {
      float end = i < 4 ? ends0[i] : ends1[i - 4];
      if (i < count && at >= end) passed++;
    }
    if (passed % 2 == 1) discard;
  }
#endif
  colour = ink;
}`;

/** Vertex and fragment shader. */
export function shadersOf(parts: ShaderParts): readonly [string, string] {
  const defines = [
    ...(parts.hasWidth ? ['STROKE'] : []),
    ...(parts.isHairline ? ['HAIRLINE'] : []),
    ...(parts.isDashed ? ['DASHED'] : []),
    ...(parts.hidesObjects ? ['HIDES_OBJECTS'] : []),
  ];
  const head = version + defines.map((name) => `#define ${name}\n`).join('');
  return [head + vertexShader, head + fragmentShader];
}
