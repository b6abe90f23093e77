import { GLSL3, RawShaderMaterial, type DataTexture } from 'three';
import { MASK_WIDTH } from './mask-texture';
import { STYLES_PER_ROW, TEXELS_PER_STYLE } from './style-texture';

/** Ink of the thinnest of lines, as a share of one that is a px wide: pens stay told apart when far away. */
const THINNEST_INK = 0.5;
/** A dash pattern that comes back within fewer px is drawn as a fainter unbroken line. */
const SHORTEST_PERIOD_PX = 4;

// Depth is the order of painting: what stands later in the file lies above, whichever tile it comes from.
const vertexShader = /* glsl */ `
precision highp float;
precision highp sampler2D;
uniform mat4 modelViewMatrix;
uniform mat4 projectionMatrix;
uniform sampler2D styles;
#ifdef HIDES_OBJECTS
uniform sampler2D hiddenObjects;
#endif
uniform float unitsPerPx;
uniform float depthStep;
uniform float lineStyles;
uniform float transparency;
in vec3 position;
in float style;
in float order;
#ifdef STROKE
in vec2 offset;
#endif
flat out vec4 ink;
#ifdef DASHED
in float along;
out float reach;
flat out vec4 pattern;
flat out vec4 ends0;
flat out vec4 ends1;
#endif
vec4 texel(int index) {
  int number = int(style);
  return texelFetch(styles, ivec2((number % ${STYLES_PER_ROW}) * ${TEXELS_PER_STYLE} + index, number / ${STYLES_PER_ROW}), 0);
}
#ifdef HIDES_OBJECTS
bool isHidden() {
  if (fract(order) > 0.0) return false; // stands for many objects
  int object = int(order * 0.5);
  return texelFetch(hiddenObjects, ivec2(object % ${MASK_WIDTH}, object / ${MASK_WIDTH}), 0).r > 0.5;
}
#endif
void main() {
#ifdef HIDES_OBJECTS
  if (isHidden()) {
    gl_Position = vec4(2.0, 2.0, 2.0, 1.0); // out of sight with all its corners
    return;
  }
#endif
  ink = texel(0);
  if (transparency == 0.0) ink.a = 1.0;
  vec3 place = position;
#ifdef STROKE
  place.xy += offset * (0.5 * texel(1).x);
#elif defined(HAIRLINE)
  float widthPx = texel(1).x / unitsPerPx;
  ink.a *= mix(${THINNEST_INK.toFixed(2)}, 1.0, clamp(widthPx, 0.0, 1.0));
  if (lineStyles == 0.0) ink = vec4(0.0, 0.0, 0.0, 1.0);
#endif
#ifdef DASHED
  pattern = texel(1);
  ends0 = texel(2);
  ends1 = texel(3);
  reach = along;
  if (pattern.y < ${SHORTEST_PERIOD_PX.toFixed(1)} * unitsPerPx) {
    ink.a *= 0.6;
    pattern.z = 0.0;
  }
#endif
  gl_Position = projectionMatrix * (modelViewMatrix * vec4(place, 1.0));
  gl_Position.z = (1.0 - (order + 1.0) * depthStep) * gl_Position.w;
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

export interface DrawingMaterials {
  readonly fill: RawShaderMaterial;
  /** Unbroken and dashed. */
  readonly hairlines: readonly [RawShaderMaterial, RawShaderMaterial];
  readonly strokes: readonly [RawShaderMaterial, RawShaderMaterial];
  readonly all: readonly RawShaderMaterial[];
}

/** What looks up hidden objects is compiled in only while some are: it costs each vertex a read. */
export function setHidesObjects({ all }: DrawingMaterials, hides: boolean): void {
  for (const material of all) {
    if ('HIDES_OBJECTS' in material.defines === hides) continue;
    if (hides) material.defines.HIDES_OBJECTS = '';
    else delete material.defines.HIDES_OBJECTS;
    material.needsUpdate = true;
  }
}

/** What a picture sets before it draws. */
export interface Frame {
  /** Drawing units per device px. */
  readonly unitsPerPx: number;
  readonly lineStyles: boolean;
  readonly transparency: boolean;
  readonly hiddenObjects: DataTexture;
}

export function setFrame({ fill }: DrawingMaterials, frame: Frame): void {
  const { uniforms } = fill; // all materials share them
  uniforms.unitsPerPx!.value = frame.unitsPerPx;
  uniforms.lineStyles!.value = frame.lineStyles ? 1 : 0;
  uniforms.transparency!.value = frame.transparency ? 1 : 0;
  uniforms.hiddenObjects!.value = frame.hiddenObjects;
}

/** The few materials that a whole drawing shares; they differ by what is compiled in. */
export function makeMaterials(styles: DataTexture, hiddenObjects: DataTexture, objects: number): DrawingMaterials {
  const uniforms = {
    styles: { value: styles },
    hiddenObjects: { value: hiddenObjects },
    unitsPerPx: { value: 1 },
    lineStyles: { value: 1 },
    transparency: { value: 1 },
    // orders run to twice the number of objects: a fill, then the lines of the same object
    depthStep: { value: 2 / (2 * objects + 4) },
  };
  const make = (...parts: string[]): RawShaderMaterial => {
    const defines = Object.fromEntries(parts.map((part) => [part, '']));
    const look = { glslVersion: GLSL3, transparent: true, depthTest: true, depthWrite: true, side: 2 } as const;
    const material = new RawShaderMaterial({ ...look, vertexShader, fragmentShader, defines });
    material.uniforms = uniforms; // shared, so that one write reaches all
    return material;
  };
  const fill = make();
  const hairlines = [make('HAIRLINE'), make('HAIRLINE', 'DASHED')] as const;
  const strokes = [make('STROKE'), make('STROKE', 'DASHED')] as const;
  return { fill, hairlines, strokes, all: [fill, ...hairlines, ...strokes] };
}
