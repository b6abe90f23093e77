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
  type WebGLRenderer,
} from 'three';
import { colourFromHex, fillOnGround, inkOnGround, luminance } from '@gull-pane/core/drawing/colour';
import type { Colour } from '@gull-pane/core/drawing/model';
import type { SolidMaterial } from '@gull-pane/protocol/solid-table';
import {
  PER_ROW,
  capFragment,
  capVertex,
  edgeFragment,
  edgeVertex,
  finishedFragment,
  finishedVertex,
  plainFragment,
  plainVertex,
  pointFragment,
  pointVertex,
} from './solid-shaders';
import type { SolidLook } from '@gull-pane/core/solid/solid-looks';
import { CutMaterials, cutsBy, setCuts, type ShaderClip } from './cut-materials';

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
  readonly points: RawShaderMaterial;
  /** Edges behind surfaces, once these are all drawn. */
  readonly behind: RawShaderMaterial;
  readonly #cuts = new CutMaterials();
  readonly #materials: readonly SolidMaterial[];
  #paletteTexture: DataTexture | null = null;
  #isOpaque = true;

  constructor(objects: DataTexture, materials: readonly SolidMaterial[]) {
    this.#materials = materials;
    const uniforms = {
      objects: { value: objects },
      palette: { value: null as DataTexture | null },
      isLit: { value: true },
      alpha: { value: 1 },
      isParallel: { value: true },
      ground: { value: new Vector3() },
      accent: { value: new Vector3() },
      teal: { value: new Vector3() },
      ownColour: { value: 0 },
      unitsPerPx: { value: 1 },
      focus: { value: 1 },
      frame: { value: new Vector2(1, 1) },
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
      cutsBy(material, 0);
      return material;
    };
    const push = { polygonOffset: true, polygonOffsetFactor: 1, polygonOffsetUnits: 1 };
    this.plain = make(plainVertex, plainFragment, { side: 2, ...push });
    this.finished = make(finishedVertex, finishedFragment, { side: 2, transparent: true, ...push });
    const capInk = { ink: { value: [0, 0, 0, 1] }, hatchScale: { value: 1 } };
    this.caps = make(capVertex, capFragment, { side: 2, uniforms: capInk });
    const ink = (): object => ({ ink: { value: [0, 0, 0, 1] }, dash: { value: 0 } });
    const line = { transparent: true, depthWrite: false };
    this.edges = make(edgeVertex, edgeFragment, { uniforms: ink(), ...line });
    this.behind = make(edgeVertex, edgeFragment, { uniforms: ink(), ...line, depthFunc: GreaterDepth });
    this.points = make(pointVertex, pointFragment, { uniforms: { side: { value: 1 } }, defines: { POINTS: '' } });
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
    for (const material of [...this.#all, ...this.#cuts])
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
    this.#isOpaque = rule.alpha === 1;
    for (const material of [this.plain, ...this.#cuts.of(this.plain)]) this.#setOpacity(material);
    (this.edges.uniforms.ink!.value as number[])[3] = rule.edgeAlpha;
    (this.behind.uniforms.ink!.value as number[])[3] = rule.behindAlpha;
    return rule;
  }

  /**
   * A material for what clips cut.
   * @param which bit i: the i-th clip in force does
   */
  cutOf(material: RawShaderMaterial, which: number): RawShaderMaterial {
    if (which === 0) return material;
    const cut = this.#cuts.cutOf(material, which);
    if (material === this.plain) this.#setOpacity(cut);
    return cut;
  }

  /** What a look draws surfaces with. */
  surfaceOf({ surface }: LookRule): RawShaderMaterial {
    return surface === 'materials' ? this.finished : this.plain;
  }

  /** @param sidePx of a point, physical px */
  setPoints(sidePx: number): void {
    this.points.uniforms.side!.value = sidePx;
  }

  /** @param widthPx of the picture that is drawn into, physical px @param dashPx length of a dash */
  setFrame(widthPx: number, heightPx: number, dashPx: number): void {
    for (const { uniforms } of [this.edges, this.behind]) (uniforms.frame!.value as Vector2).set(widthPx, heightPx);
    this.behind.uniforms.dash!.value = dashPx;
    this.caps.uniforms.hatchScale!.value = dashPx / 3;
  }

  /** Cuts what the renderer draws from now on. */
  clipBy(clips: readonly ShaderClip[], renderer: WebGLRenderer): void {
    this.#cuts.setClips(clips, renderer);
    // cuts are few: each px of them is looked at
    setCuts(this.caps, [], clips);
  }

  dispose(): void {
    this.#paletteTexture?.dispose();
    for (const material of [...this.#all, ...this.#cuts]) material.dispose();
  }

  #setOpacity(material: RawShaderMaterial): void {
    material.transparent = !this.#isOpaque;
    material.depthWrite = this.#isOpaque;
  }

  get #all(): readonly RawShaderMaterial[] {
    return [this.plain, this.finished, this.caps, this.edges, this.behind, this.points];
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
