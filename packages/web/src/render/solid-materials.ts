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
const OUT_OF_SIGHT = 'gl_Position = vec4(2.0, 2.0, 2.0, 1.0);';

const surfaceVertex = /* glsl */ `
precision highp float;
precision highp sampler2D;
uniform mat4 modelViewMatrix;
uniform mat4 projectionMatrix;
in vec3 position;
in vec4 normal;
${lookUp}
flat out vec4 base;
flat out vec2 finish;
flat out int state;
out vec3 facing;
out vec3 place;
void main() {
  state = stateOf();
  if (state == ${ObjectState.hidden}) { ${OUT_OF_SIGHT} return; }
  int index = int(material);
  base = colourAt(index, 0);
  finish = colourAt(index, 2).xy;
  facing = mat3(modelViewMatrix) * normal.xyz;
  vec4 seen = modelViewMatrix * vec4(position, 1.0);
  place = seen.xyz;
  gl_Position = projectionMatrix * seen;
}`;

// Light stays with the viewer: it comes over the left shoulder, so that every view is lit alike.
const surfaceFragment = /* glsl */ `
precision highp float;
uniform int look; // 0 plain ground, 1 shaded, 2 materials
uniform float alpha;
uniform bool isParallel;
uniform vec3 ground;
uniform vec3 accent;
uniform vec3 teal;
flat in vec4 base;
flat in vec2 finish;
flat in int state;
in vec3 facing;
in vec3 place;
out vec4 colour;
void main() {
  vec3 tint = look == 0 ? ground : base.rgb;
  if (state == ${ObjectState.picked}) tint = mix(tint, accent, 0.62);
  if (state == ${ObjectState.hovered}) tint = mix(tint, teal, 0.22);
  if (look == 0) { colour = vec4(tint, alpha); return; }
  vec3 sight = isParallel ? vec3(0.0, 0.0, 1.0) : normalize(-place);
  vec3 n = normalize(facing);
  if (dot(n, sight) < 0.0) n = -n;
  vec3 light = normalize(vec3(-0.4, 0.55, 0.75));
  float lit = 0.46 + 0.44 * max(dot(n, light), 0.0) + 0.12 * n.y;
  vec3 shown = tint * lit;
  if (look == 2) {
    // C. Schlick, "An inexpensive BRDF model for physically-based rendering", 1994, with the lobe of J. Blinn, 1977
    vec3 half_ = normalize(light + sight);
    float power = mix(180.0, 6.0, finish.y);
    float gloss = pow(max(dot(n, half_), 0.0), power) * (1.0 - 0.85 * finish.y);
    float rim = pow(1.0 - max(dot(n, sight), 0.0), 5.0);
    vec3 mirror = mix(vec3(0.04), tint, finish.x);
    shown = tint * lit * (1.0 - 0.45 * finish.x) + (mirror + (1.0 - mirror) * rim * 0.4) * (gloss * 1.6 + 0.28 * finish.x * (0.5 + 0.5 * n.y));
  }
  colour = vec4(min(shown, vec3(1.0)), alpha * (look == 2 ? base.a : 1.0));
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
flat out vec4 line;
void main() {
  int state = stateOf();
  vec4 seen = modelViewMatrix * vec4(position, 1.0);
  vec3 sight = isParallel ? vec3(0.0, 0.0, 1.0) : -seen.xyz;
  float a = dot(mat3(modelViewMatrix) * face.xyz, sight);
  float b = dot(mat3(modelViewMatrix) * other.xyz, sight);
  if (state == ${ObjectState.hidden} || a * b > 0.0) { ${OUT_OF_SIGHT} return; }
  line = vec4(mix(ink.rgb, colourAt(int(material), 1).rgb, ownColour), ink.a);
  // edges so dense that they would be one black are fainter
  float perPx = isParallel ? unitsPerPx : unitsPerPx * -seen.z / focus;
  line.a *= clamp(${MOST_INK.toFixed(2)} / (density * perPx), 0.0, 1.0);
  if (state == ${ObjectState.picked}) line = vec4(accent, 1.0);
  if (state == ${ObjectState.hovered}) line = vec4(teal, 1.0);
  gl_Position = projectionMatrix * seen;
  dashFrom = (0.5 + 0.5 * gl_Position.xy / gl_Position.w) * frame;
}`;
const edgeFragment = /* glsl */ `
precision highp float;
flat in vec4 line;
flat in vec2 dashFrom;
uniform float dash; // length of a dash and of a gap, px; 0 for a whole line
out vec4 colour;
void main() {
  if (dash > 0.0 && mod(distance(gl_FragCoord.xy, dashFrom), 2.0 * dash) > dash) discard;
  colour = line;
}`;

const SEE_THROUGH_ALPHA = 0.2;

/** What a look draws. */
interface LookRule {
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
const lookNumbers = { none: 0, ground: 0, shaded: 1, materials: 2 } as const;

/** The materials that a whole solid shares, and how a look sets them. */
export class SolidMaterials {
  readonly surface: RawShaderMaterial;
  readonly edges: RawShaderMaterial;
  /** Edges behind surfaces, once these are all drawn. */
  readonly behind: RawShaderMaterial;
  readonly #materials: readonly SolidMaterial[];
  #paletteTexture: DataTexture | null = null;

  constructor(objects: DataTexture, materials: readonly SolidMaterial[]) {
    this.#materials = materials;
    const uniforms = {
      ...{ objects: { value: objects }, palette: { value: null as DataTexture | null } },
      ...{ look: { value: 1 }, alpha: { value: 1 } },
      ...{ isParallel: { value: true }, ground: { value: new Vector3() }, accent: { value: new Vector3() } },
      ...{ teal: { value: new Vector3() }, ownColour: { value: 0 } },
      ...{ unitsPerPx: { value: 1 }, focus: { value: 1 }, frame: { value: new Vector2(1, 1) } },
    };
    const make = (vertexShader: string, fragmentShader: string, more: object): RawShaderMaterial => {
      const material = new RawShaderMaterial({ glslVersion: GLSL3, vertexShader, fragmentShader, ...more });
      material.uniforms = { ...uniforms, ...material.uniforms };
      return material;
    };
    const push = { polygonOffset: true, polygonOffsetFactor: 1, polygonOffsetUnits: 1 };
    this.surface = make(surfaceVertex, surfaceFragment, { side: 2, ...push });
    const ink = (): object => ({ ink: { value: [0, 0, 0, 1] }, dash: { value: 0 } });
    const line = { transparent: true, depthWrite: false };
    this.edges = make(edgeVertex, edgeFragment, { uniforms: ink(), ...line });
    this.behind = make(edgeVertex, edgeFragment, { uniforms: ink(), ...line, depthFunc: GreaterDepth });
  }

  setGround(ground: Colour): void {
    const isNight = luminance(ground) < 0.18;
    const shared = this.surface.uniforms;
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
    for (const { uniforms } of [this.edges, this.behind]) (uniforms.ink!.value as number[]).splice(0, 3, ...ink);
  }

  /** @param unitsPerPx in the plane through the target, which lies at the depth `focus` */
  apply(look: SolidLook, isParallel: boolean, unitsPerPx: number, focus: number): LookRule {
    const rule = lookRules[look];
    const isClear = rule.alpha < 1 || look === 'materials';
    for (const material of this.#all) {
      const own = material.uniforms;
      own.isParallel!.value = isParallel;
      own.unitsPerPx!.value = unitsPerPx;
      own.focus!.value = focus;
      own.look!.value = lookNumbers[rule.surface];
      own.alpha!.value = rule.alpha;
      own.ownColour!.value = rule.ownColour;
    }
    this.surface.transparent = isClear;
    this.surface.depthWrite = rule.alpha === 1;
    (this.edges.uniforms.ink!.value as number[])[3] = rule.edgeAlpha;
    (this.behind.uniforms.ink!.value as number[])[3] = rule.behindAlpha;
    return rule;
  }

  /** @param widthPx of the picture that is drawn into, physical px @param dashPx length of a dash */
  setFrame(widthPx: number, heightPx: number, dashPx: number): void {
    for (const { uniforms } of [this.edges, this.behind]) (uniforms.frame!.value as Vector2).set(widthPx, heightPx);
    this.behind.uniforms.dash!.value = dashPx;
  }

  dispose(): void {
    this.#paletteTexture?.dispose();
    for (const material of this.#all) material.dispose();
  }

  get #all(): readonly RawShaderMaterial[] {
    return [this.surface, this.edges, this.behind];
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
