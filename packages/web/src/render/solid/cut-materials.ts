import { Vector2, type Matrix4, type RawShaderMaterial, type Vector4, type WebGLRenderer } from 'three';

/** What a volume is to the shaders. */
export interface ShaderClip {
  /** From places about the picture's origin to the volume's own measure. */
  readonly to: Matrix4;
  readonly lowest: number;
  readonly keepsInside: boolean;
  /** Planes about the picture's origin before which all that is kept lies; null where it isn't convex. */
  readonly planes: readonly Vector4[] | null;
}

/** What lets a graphics processor cut by planes, and the number of the first of them. */
const EXTENSION = 'WEBGL_clip_cull_distance';
const CLIP_DISTANCE0 = 0x3000;
/** Every graphics processor that has them has so many. */
const MOST_PLANES = 8;

/** A material for what some of the clips cut. */
interface CutMaterial {
  readonly material: RawShaderMaterial;
  /** Bit i: the i-th clip in force cuts. */
  readonly which: number;
}

/**
 * The materials that clips cut, one for each set of them. What keeps the inside of a box or a side of a plane is cut by planes
 * before it is filled; what keeps the outside of a box, and what is too much for that, is looked at in each px.
 */
export class CutMaterials {
  readonly #cuts = new Map<RawShaderMaterial, Map<number, CutMaterial>>();
  #clips: readonly ShaderClip[] = [];
  #hasPlanes = false;

  /** All that were made. */
  *[Symbol.iterator](): Generator<RawShaderMaterial> {
    for (const ofMaterial of this.#cuts.values()) for (const { material } of ofMaterial.values()) yield material;
  }

  /** Those of one material. */
  *of(material: RawShaderMaterial): Generator<RawShaderMaterial> {
    for (const cut of this.#cuts.get(material)?.values() ?? []) yield cut.material;
  }

  /** @param renderer that draws next: where it can't cut by planes every px is looked at */
  setClips(clips: readonly ShaderClip[], renderer: WebGLRenderer): void {
    this.#clips = clips;
    this.#hasPlanes = renderer.extensions.has(EXTENSION);
    for (const ofMaterial of this.#cuts.values()) for (const cut of ofMaterial.values()) this.#set(cut);
  }

  /** @param which bit i: the i-th clip in force cuts what is drawn with it */
  cutOf(material: RawShaderMaterial, which: number): RawShaderMaterial {
    let ofMaterial = this.#cuts.get(material);
    if (!ofMaterial) this.#cuts.set(material, (ofMaterial = new Map<number, CutMaterial>()));
    let cut = ofMaterial.get(which);
    if (!cut) {
      const own = material.clone();
      // its numbers are the material's own; only what cuts is another
      own.uniforms = { ...material.uniforms };
      cut = { material: own, which };
      ofMaterial.set(which, cut);
      this.#set(cut);
    }
    return cut.material;
  }

  dispose(): void {
    for (const material of this) material.dispose();
  }

  #set({ material, which }: CutMaterial): void {
    const planes: Vector4[] = [];
    const volumes: ShaderClip[] = [];
    this.#clips.forEach((clip, i) => {
      if ((which & (1 << i)) === 0) return;
      if (this.#hasPlanes && clip.planes && planes.length + clip.planes.length <= MOST_PLANES)
        planes.push(...clip.planes);
      else volumes.push(clip);
    });
    setCuts(material, planes, volumes);
  }
}

/** @param volumes that are looked at in each px */
export function setCuts(material: RawShaderMaterial, planes: readonly Vector4[], volumes: readonly ShaderClip[]): void {
  const { uniforms, defines } = material;
  uniforms.planes = { value: planes };
  uniforms.clipTo = { value: volumes.map(({ to }) => to) };
  uniforms.clipRule = { value: volumes.map(({ lowest, keepsInside }) => new Vector2(lowest, keepsInside ? 1 : 0)) };
  cutsBy(material, planes.length);
  if (planes.length === Number(defines.PLANES ?? 0) && volumes.length === Number(defines.CLIPS ?? 0)) return;
  const { CLIPS: _clips, PLANES: _planes, ...others } = defines;
  material.defines = {
    ...others,
    ...(planes.length > 0 ? { PLANES: planes.length } : {}),
    ...(volumes.length > 0 ? { CLIPS: volumes.length } : {}),
  };
  material.needsUpdate = true;
}

/** What is drawn with a material is cut by so many planes. */
export function cutsBy(material: RawShaderMaterial, planes: number): void {
  material.onBeforeRender = (renderer) => cutByPlanes(renderer, planes);
}

/** What is drawn from now on is cut by so many planes, whose distances its vertices tell. */
export function cutByPlanes({ state, extensions }: WebGLRenderer, planes: number): void {
  if (!extensions.has(EXTENSION)) return;
  // three remembers what is on
  for (let plane = 0; plane < MOST_PLANES; plane++)
    if (plane < planes) state.enable(CLIP_DISTANCE0 + plane);
    else state.disable(CLIP_DISTANCE0 + plane);
}
