import { MOST_CLIPS } from '@gull-pane/core/clip/clip-volume';
import {
  DataTexture,
  FloatType,
  GLSL3,
  GreaterDepth,
  NearestFilter,
  RGBAFormat,
  RawShaderMaterial,
  Vector2,
  Vector3,
  type Matrix4,
} from 'three';
import { colourFromHex, fillOnGround, inkOnGround, luminance } from '@gull-pane/core/drawing/colour';
import type { Colour } from '@gull-pane/core/drawing/model';
import type { SolidMaterial } from '@gull-pane/protocol/solid-table';
import { OBJECTS_PER_ROW, ObjectState } from './object-texture';
import type { SolidLook } from '@gull-pane/core/solid/solid-looks';

/** Colours side by side in a row of the palette. */
const PER_ROW = 256;

const lookUp = /* glsl */ `
uniform sampler2D objects;
uniform sampler2D palette;
in float object;
in float material;
int stateOf() {
  int number = int(object);
  return int(255.0 * texelFetch(objects, ivec2(number % ${OBJECTS_PER_ROW}, number / ${OBJECTS_PER_ROW}), 0).r + 0.5);
}
vec4 colourAt(int index, int row) {
  return texelFetch(palette, ivec2(index % ${PER_ROW}, 3 * (index / ${PER_ROW}) + row), 0);
}
`;
/** So much of its area the edges of a piece may cover before they fade. */
const MOST_INK = 0.4;
/** So far a unit normal of three bytes may be from the true one. */
const NORMAL_ERROR = (0.5 * Math.sqrt(3)) / 127;
/** Of faded objects so much of their edges' ink is left. */
const FADED_INK = 0.22;
const OUT_OF_SIGHT = 'gl_Position = vec4(2.0, 2.0, 2.0, 1.0);';

// What a pane cuts open: places are told in each volume's own measure, where its sides are at 1 and −1.
const clipVertex = /* glsl */ `
#ifdef CLIPS
uniform mat4 modelMatrix;
out vec3 spot;
#define TELL_SPOT spot = (modelMatrix * vec4(position, 1.0)).xyz;
#else
#define TELL_SPOT
#endif
`;
const clipFragment = /* glsl */ `
#ifdef CLIPS
uniform mat4 clipTo[CLIPS];
uniform vec2 clipRule[CLIPS]; // the lowest that is inside along Z, and whether the inside is kept
in vec3 spot;
void clip() {
  for (int i = 0; i < CLIPS; i++) {
    vec3 own = (clipTo[i] * vec4(spot, 1.0)).xyz;
    bool isInside = abs(own.x) <= 1.0 && abs(own.y) <= 1.0 && own.z <= 1.0 && own.z >= clipRule[i].x;
    if (isInside != (clipRule[i].y > 0.5)) discard;
  }
}
#define CLIP clip();
#else
#define CLIP
#endif
`;
const surfaceUniforms = /* glsl */ `
precision highp float;
precision highp sampler2D;
uniform mat4 modelViewMatrix;
uniform mat4 projectionMatrix;
uniform bool isParallel;
uniform vec3 accent;
uniform vec3 teal;
in vec3 position;
in vec4 normal;
${lookUp}
${clipVertex}
vec3 marked(vec3 tint, int state) {
  if (state == ${ObjectState.picked}) return mix(tint, accent, 0.62);
  if (state == ${ObjectState.hovered}) return mix(tint, teal, 0.22);
  return tint;
}
`;
// Light stays with the viewer: it comes over the left shoulder, so that every view is lit alike.
const LIGHT = 'normalize(vec3(-0.4, 0.55, 0.75))';
const LIT = '0.46 + 0.44 * max(dot(n, light), 0.0) + 0.12 * n.y';

// Lit at the vertices: what is drawn most has the least to do at each px.
const plainVertex = /* glsl */ `${surfaceUniforms}
uniform bool isLit;
uniform vec3 ground;
out vec3 tint;
void main() {
  int state = stateOf();
  if (state == ${ObjectState.hidden} || state == ${ObjectState.faded}) { ${OUT_OF_SIGHT} return; }
  vec4 seen = modelViewMatrix * vec4(position, 1.0);
  gl_Position = projectionMatrix * seen;
  TELL_SPOT
  tint = marked(isLit ? colourAt(int(material), 0).rgb : ground, state);
  if (!isLit) return;
  vec3 n = normalize(mat3(modelViewMatrix) * normal.xyz);
  if (dot(n, isParallel ? vec3(0.0, 0.0, 1.0) : -seen.xyz) < 0.0) n = -n;
  vec3 light = ${LIGHT};
  tint = min(tint * (${LIT}), vec3(1.0));
}`;
const plainFragment = /* glsl */ `
precision highp float;
uniform float alpha;
in vec3 tint;
out vec4 colour;
${clipFragment}
void main() { CLIP colour = vec4(tint, alpha); }`;

const finishedVertex = /* glsl */ `${surfaceUniforms}
flat out vec4 base;
flat out vec2 finish;
out vec3 facing;
out vec3 place;
void main() {
  int state = stateOf();
  if (state == ${ObjectState.hidden} || state == ${ObjectState.faded}) { ${OUT_OF_SIGHT} return; }
  int index = int(material);
  base = colourAt(index, 0);
  base.rgb = marked(base.rgb, state);
  finish = colourAt(index, 2).xy;
  facing = mat3(modelViewMatrix) * normal.xyz;
  vec4 seen = modelViewMatrix * vec4(position, 1.0);
  place = seen.xyz;
  gl_Position = projectionMatrix * seen;
  TELL_SPOT
}`;
// C. Schlick, "An inexpensive BRDF model for physically-based rendering", 1994, with the lobe of J. Blinn, 1977
const finishedFragment = /* glsl */ `
precision highp float;
uniform bool isParallel;
flat in vec4 base;
flat in vec2 finish;
in vec3 facing;
in vec3 place;
out vec4 colour;
${clipFragment}
void main() {
  CLIP
  vec3 tint = base.rgb;
  vec3 sight = isParallel ? vec3(0.0, 0.0, 1.0) : normalize(-place);
  vec3 n = normalize(facing);
  if (dot(n, sight) < 0.0) n = -n;
  vec3 light = ${LIGHT};
  float lit = ${LIT};
  vec3 half_ = normalize(light + sight);
  float power = mix(180.0, 6.0, finish.y);
  float gloss = pow(max(dot(n, half_), 0.0), power) * (1.0 - 0.85 * finish.y);
  float rim = pow(1.0 - max(dot(n, sight), 0.0), 5.0);
  vec3 mirror = mix(vec3(0.04), tint, finish.x);
  vec3 shown = tint * lit * (1.0 - 0.45 * finish.x) + (mirror + (1.0 - mirror) * rim * 0.4) * (gloss * 1.6 + 0.28 * finish.x * (0.5 + 0.5 * n.y));
  colour = vec4(min(shown, vec3(1.0)), base.a);
}`;

// An edge is drawn where one of its faces is turned to the viewer and the other isn't; those of sharp edges always are.
const edgeVertex = /* glsl */ `
precision highp float;
precision highp sampler2D;
uniform mat4 modelViewMatrix;
uniform mat4 projectionMatrix;
uniform bool isParallel;
uniform vec4 ink;
uniform float ownColour;
uniform vec3 accent;
uniform vec3 teal;
in vec3 position;
in vec4 face;
in vec4 other;
in float density;
uniform vec2 frame;
flat out vec2 dashFrom;
uniform float unitsPerPx;
uniform float focus;
${lookUp}
${clipVertex}
flat out vec4 line;
flat out float isDrawn;
void main() {
  int state = stateOf();
  vec4 seen = modelViewMatrix * vec4(position, 1.0);
  vec3 sight = isParallel ? vec3(0.0, 0.0, 1.0) : -seen.xyz;
  float a = dot(mat3(modelViewMatrix) * face.xyz, sight);
  float b = dot(mat3(modelViewMatrix) * other.xyz, sight);
  // an edge is a contour where one of its faces is turned to the viewer and the other isn't; the stored normals are
  // rounded, so that nearly edge-on counts as both, and one end decides for the whole line
  float least = min(abs(a), abs(b)) / length(sight);
  bool isNoContour = a * b > 0.0;
  if (state == ${ObjectState.hidden} || (isNoContour && least > ${(3 * NORMAL_ERROR).toFixed(4)})) { ${OUT_OF_SIGHT} return; }
  isDrawn = isNoContour && least > ${NORMAL_ERROR.toFixed(4)} ? 0.0 : 1.0;
  line = vec4(mix(ink.rgb, colourAt(int(material), 1).rgb, ownColour), ink.a);
  // edges so dense that they would be one black are fainter
  float perPx = isParallel ? unitsPerPx : unitsPerPx * -seen.z / focus;
  line.a *= clamp(${MOST_INK.toFixed(2)} / (density * perPx), 0.0, 1.0);
  if (state == ${ObjectState.faded}) line.a *= ${FADED_INK.toFixed(2)};
  if (state == ${ObjectState.picked}) line = vec4(accent, 1.0);
  if (state == ${ObjectState.hovered}) line = vec4(teal, 1.0);
  gl_Position = projectionMatrix * seen;
  TELL_SPOT
  dashFrom = (0.5 + 0.5 * gl_Position.xy / gl_Position.w) * frame;
}`;
const edgeFragment = /* glsl */ `
precision highp float;
flat in vec4 line;
flat in float isDrawn;
flat in vec2 dashFrom;
uniform float dash; // length of a dash and of a gap, px; 0 for a whole line
out vec4 colour;
${clipFragment}
void main() {
  if (isDrawn < 0.5) discard;
  CLIP
  if (dash > 0.0 && mod(distance(gl_FragCoord.xy, dashFrom), 2.0 * dash) > dash) discard;
  colour = line;
}`;

// A cut through a solid, hatched in its material's own way.
const capVertex = /* glsl */ `
precision highp float;
precision highp sampler2D;
uniform mat4 modelViewMatrix;
uniform mat4 projectionMatrix;
uniform vec3 accent;
uniform vec3 teal;
in vec3 position;
${lookUp}
${clipVertex}
flat out vec3 tint;
flat out vec3 stroke; // the direction across its lines, and from one to the next, px
void main() {
  int state = stateOf();
  if (state == ${ObjectState.hidden} || state == ${ObjectState.faded}) { ${OUT_OF_SIGHT} return; }
  gl_Position = projectionMatrix * modelViewMatrix * vec4(position, 1.0);
  TELL_SPOT
  int index = int(material);
  tint = colourAt(index, 0).rgb;
  if (state == ${ObjectState.picked}) tint = mix(tint, accent, 0.62);
  if (state == ${ObjectState.hovered}) tint = mix(tint, teal, 0.3);
  float angle = 0.7854 + 0.5236 * float(index % 6);
  stroke = vec3(cos(angle), sin(angle), 5.0 + float(index % 4));
}`;
const capFragment = /* glsl */ `
precision highp float;
uniform vec3 ground;
uniform vec4 ink;
uniform float hatchScale;
flat in vec3 tint;
flat in vec3 stroke;
out vec4 colour;
${clipFragment}
void main() {
  CLIP
  float across = dot(gl_FragCoord.xy, stroke.xy) / hatchScale;
  float isLine = step(mod(across, stroke.z), 1.0);
  colour = vec4(mix(mix(ground, tint, 0.3), ink.rgb, 0.75 * isLine), 1.0);
}`;

/** What a volume is to the shaders. */
export interface ShaderClip {
  /** From places about the picture's origin to the volume's own measure. */
  readonly to: Matrix4;
  readonly lowest: number;
  readonly keepsInside: boolean;
}

const SEE_THROUGH_ALPHA = 0.2;

/** What a look draws. */
export interface LookRule {
  /** Surfaces: not at all, as the ground, shaded, or as the materials say. */
  readonly surface: 'none' | 'ground' | 'shaded' | 'materials';
  readonly edges: boolean;
  readonly edgeAlpha: number;
  /** How much of an edge's colour is its own rather than the ink. */
  readonly ownColour: number;
  readonly alpha: number;
  /** How strong edges behind surfaces are, as fine dashes; 0 for none. */
  readonly behindAlpha: number;
}
const plainRule = { alpha: 1, behindAlpha: 0, ownColour: 0, edges: true, edgeAlpha: 0 };
export const lookRules: Readonly<Record<SolidLook, LookRule>> = {
  lines: { ...plainRule, surface: 'none', edgeAlpha: 0.85, ownColour: 0.75 },
  'hidden-line': { ...plainRule, surface: 'ground', edgeAlpha: 1 },
  'hidden-dashed': { ...plainRule, surface: 'ground', edgeAlpha: 1, behindAlpha: 0.42 },
  shaded: { ...plainRule, surface: 'shaded', edges: false },
  'shaded-edges': { ...plainRule, surface: 'shaded', edgeAlpha: 0.72 },
  materials: { ...plainRule, surface: 'materials', edges: false },
  'see-through': { ...plainRule, surface: 'shaded', edgeAlpha: 0.6, ownColour: 0.4, alpha: SEE_THROUGH_ALPHA },
};

/** The materials that a whole solid shares, and how a look sets them. */
export class SolidMaterials {
  /** Surfaces in one colour a material. */
  readonly plain: RawShaderMaterial;
  /** Surfaces with the gloss of their materials. */
  readonly finished: RawShaderMaterial;
  readonly edges: RawShaderMaterial;
  /** Where solids are cut. */
  readonly caps: RawShaderMaterial;
  /** Edges behind surfaces, once these are all drawn. */
  readonly behind: RawShaderMaterial;
  /** Of each material the one that a pane's clips cut. */
  readonly #cuts = new Map<RawShaderMaterial, RawShaderMaterial>();
  readonly #materials: readonly SolidMaterial[];
  #paletteTexture: DataTexture | null = null;

  constructor(objects: DataTexture, materials: readonly SolidMaterial[]) {
    this.#materials = materials;
    const uniforms = {
      ...{ objects: { value: objects }, palette: { value: null as DataTexture | null } },
      ...{ isLit: { value: true }, alpha: { value: 1 } },
      ...{ isParallel: { value: true }, ground: { value: new Vector3() }, accent: { value: new Vector3() } },
      ...{ teal: { value: new Vector3() }, ownColour: { value: 0 } },
      ...{ unitsPerPx: { value: 1 }, focus: { value: 1 }, frame: { value: new Vector2(1, 1) } },
    };
    const make = (vertexShader: string, fragmentShader: string, more: object): RawShaderMaterial => {
      const material = new RawShaderMaterial({
        glslVersion: GLSL3,
        vertexShader,
        fragmentShader,
        defines: {},
        ...more,
      });
      material.uniforms = { ...uniforms, ...material.uniforms };
      return material;
    };
    const push = { polygonOffset: true, polygonOffsetFactor: 1, polygonOffsetUnits: 1 };
    this.plain = make(plainVertex, plainFragment, { side: 2, ...push });
    this.finished = make(finishedVertex, finishedFragment, { side: 2, transparent: true, ...push });
    const capInk = { ink: { value: [0, 0, 0, 1] }, hatchScale: { value: 1 } };
    this.caps = make(capVertex, capFragment, { side: 2, uniforms: capInk });
    const twin = (material: RawShaderMaterial): void => {
      const cut = material.clone();
      // its numbers are the material's own; only what cuts is another
      cut.uniforms = { ...material.uniforms };
      this.#cuts.set(material, cut);
    };
    const ink = (): object => ({ ink: { value: [0, 0, 0, 1] }, dash: { value: 0 } });
    const line = { transparent: true, depthWrite: false };
    this.edges = make(edgeVertex, edgeFragment, { uniforms: ink(), ...line });
    this.behind = make(edgeVertex, edgeFragment, { uniforms: ink(), ...line, depthFunc: GreaterDepth });
    for (const material of [this.plain, this.finished, this.edges, this.behind]) twin(material);
  }

  setGround(ground: Colour): void {
    const isNight = luminance(ground) < 0.18;
    const shared = this.plain.uniforms;
    this.#paletteTexture?.dispose();
    this.#paletteTexture = this.#palette(ground);
    for (const material of this.#all) material.uniforms.palette!.value = this.#paletteTexture;
    const set = (name: string, hex: string): void => {
      const { r, g, b } = colourFromHex(hex);
      (shared[name]!.value as Vector3).set(r / 255, g / 255, b / 255);
    };
    (shared.ground!.value as Vector3).set(ground.r / 255, ground.g / 255, ground.b / 255);
    set('accent', isNight ? '#ff8a5b' : '#d9532c');
    set('teal', isNight ? '#5cc4d4' : '#1f7a8c');
    const ink = isNight ? [0.9, 0.93, 0.95] : [0.09, 0.2, 0.29];
    for (const { uniforms } of [this.edges, this.behind, this.caps])
      (uniforms.ink!.value as number[]).splice(0, 3, ...ink);
  }

  /** @param objects how each object is shown, a byte each */
  showObjects(objects: DataTexture): void {
    for (const material of [...this.#all, ...this.#cuts.values()])
      if (material.uniforms.objects) material.uniforms.objects.value = objects;
  }

  /** @param unitsPerPx in the plane through the target, which lies at the depth `focus` */
  apply(look: SolidLook, isParallel: boolean, unitsPerPx: number, focus: number): LookRule {
    const rule = lookRules[look];
    for (const material of this.#all) {
      const own = material.uniforms;
      own.isParallel!.value = isParallel;
      own.unitsPerPx!.value = unitsPerPx;
      own.focus!.value = focus;
      own.isLit!.value = rule.surface === 'shaded';
      own.alpha!.value = rule.alpha;
      own.ownColour!.value = rule.ownColour;
    }
    for (const material of [this.plain, this.cutOf(this.plain)]) {
      material.transparent = rule.alpha < 1;
      material.depthWrite = rule.alpha === 1;
    }
    (this.edges.uniforms.ink!.value as number[])[3] = rule.edgeAlpha;
    (this.behind.uniforms.ink!.value as number[])[3] = rule.behindAlpha;
    return rule;
  }

  /** A material for what clips may cut. */
  cutOf(material: RawShaderMaterial): RawShaderMaterial {
    return this.#cuts.get(material)!;
  }

  /** What a look draws surfaces with. */
  surfaceOf({ surface }: LookRule): RawShaderMaterial {
    return surface === 'materials' ? this.finished : this.plain;
  }

  /** @param widthPx of the picture that is drawn into, physical px @param dashPx length of a dash */
  setFrame(widthPx: number, heightPx: number, dashPx: number): void {
    for (const { uniforms } of [this.edges, this.behind]) (uniforms.frame!.value as Vector2).set(widthPx, heightPx);
    this.behind.uniforms.dash!.value = dashPx;
    this.caps.uniforms.hatchScale!.value = dashPx / 3;
  }

  /** Cuts what is drawn from now on. */
  clipBy(clips: readonly ShaderClip[]): void {
    const used = clips.slice(0, MOST_CLIPS);
    for (const material of [...this.#cuts.values(), this.caps]) {
      const { uniforms } = material;
      uniforms.clipTo = { value: used.map(({ to }) => to) };
      uniforms.clipRule = {
        value: used.map(({ lowest, keepsInside }) => new Vector2(lowest, keepsInside ? 1 : 0)),
      };
      if (used.length === (Number(material.defines.CLIPS) || 0)) continue;
      material.defines = used.length > 0 ? { CLIPS: used.length } : {};
      material.needsUpdate = true;
    }
  }

  dispose(): void {
    this.#paletteTexture?.dispose();
    for (const material of [...this.#all, ...this.#cuts.values()]) material.dispose();
  }

  get #all(): readonly RawShaderMaterial[] {
    return [this.plain, this.finished, this.caps, this.edges, this.behind];
  }

  /** Three rows: colours of surfaces, of edges, and metalness with roughness. */
  #palette(ground: Colour): DataTexture {
    const entries = this.#materials.map(({ colour: [r, g, b, a], metalness, roughness }) => ({
      colour: { r, g, b, a },
      finish: [metalness, roughness],
    }));
    const rows = 3 * Math.max(Math.ceil(entries.length / PER_ROW), 1);
    const data = new Float32Array(4 * PER_ROW * rows);
    entries.forEach(({ colour, finish }, index) => {
      const at = (row: number): number => 4 * (PER_ROW * (3 * Math.floor(index / PER_ROW) + row) + (index % PER_ROW));
      const set = (row: number, { r, g, b, a }: Colour): void =>
        data.set([r / 255, g / 255, b / 255, a / 255], at(row));
      set(0, colour);
      set(1, inkOnGround(fillOnGround(colour, ground), ground));
      data.set(finish, at(2));
    });
    const texture = new DataTexture(data, PER_ROW, rows, RGBAFormat, FloatType);
    texture.minFilter = texture.magFilter = NearestFilter;
    texture.needsUpdate = true;
    return texture;
  }
}
