import {
  AddEquation,
  CustomBlending,
  GLSL3,
  HalfFloatType,
  Mesh,
  NearestFilter,
  OneFactor,
  OrthographicCamera,
  PlaneGeometry,
  RawShaderMaterial,
  Scene,
  WebGLRenderTarget,
  type WebGLRenderer,
} from 'three';
import { QUICK_PASS_MS, SLOW_PASS_MS } from '../budgets';

type Shift = readonly [number, number];

/** Where in a pixel each pass looks, px from its middle, by the number of passes: no two in one row or column. */
const PASS_SHIFTS_PX: Readonly<Record<number, readonly Shift[]>> = {
  8: [
    ...([
      [0.0625, -0.1875],
      [-0.0625, 0.1875],
      [0.3125, 0.0625],
      [-0.1875, -0.3125],
    ] as const),
    ...([
      [-0.3125, 0.3125],
      [-0.4375, -0.0625],
      [0.1875, 0.4375],
      [0.4375, -0.4375],
    ] as const),
  ],
  4: [
    [-0.125, -0.375],
    [0.375, -0.125],
    [-0.375, 0.125],
    [0.125, 0.375],
  ],
  2: [
    [-0.25, -0.25],
    [0.25, 0.25],
  ],
  1: [[0, 0]],
};

/** How many passes a picture at rest begins with: the time of the first one decides how many follow. */
export const firstPasses = (smoothEdges: boolean): number => (smoothEdges ? 8 : 1);

/** How many passes a picture gets, by how long one takes. */
export const passesFor = (passMs: number): number => (passMs <= QUICK_PASS_MS ? 8 : passMs <= SLOW_PASS_MS ? 4 : 2);

export const passShift = (passes: number, pass: number): Shift => PASS_SHIFTS_PX[passes]![pass]!;

const copyVertex = /* glsl */ `
precision highp float;
in vec3 position;
out vec2 place;
void main() {
  gl_Position = vec4(position.xy, 0.0, 1.0);
  place = 0.5 + 0.5 * position.xy;
}`;
const copyFragment = /* glsl */ `
precision highp float;
uniform sampler2D picture;
uniform float share;
in vec2 place;
out vec4 colour;
void main() { colour = vec4(texture(picture, place).rgb * share, 1.0); }`;

/**
 * Smooths the edges of a picture at rest: several passes, each shifted by a part of a pixel, are averaged. While
 * something moves nothing of this is paid for.
 */
export class RestSmoother {
  readonly #scene = new Scene();
  readonly #camera = new OrthographicCamera(-1, 1, 1, -1, 0, 1);
  readonly #material: RawShaderMaterial;
  #pass: WebGLRenderTarget | null = null;
  #sum: WebGLRenderTarget | null = null;
  #fence: WebGLSync | null = null;

  constructor(private readonly renderer: WebGLRenderer) {
    this.#material = new RawShaderMaterial({
      glslVersion: GLSL3,
      vertexShader: copyVertex,
      fragmentShader: copyFragment,
      depthTest: false,
      depthWrite: false,
      blending: CustomBlending,
      blendEquation: AddEquation,
      blendSrc: OneFactor,
      blendDst: OneFactor,
      transparent: true,
      uniforms: { picture: { value: null }, share: { value: 1 } },
    });
    const plane = new Mesh(new PlaneGeometry(2, 2), this.#material);
    plane.frustumCulled = false;
    this.#scene.add(plane);
  }

  /** Where the next pass is to be drawn; device px. */
  begin(width: number, height: number): WebGLRenderTarget {
    if (this.#pass?.width !== width || this.#pass.height !== height) {
      this.dispose();
      const options = { minFilter: NearestFilter, magFilter: NearestFilter, generateMipmaps: false } as const;
      this.#pass = new WebGLRenderTarget(width, height, { ...options, depthBuffer: true });
      this.#sum = new WebGLRenderTarget(width, height, { ...options, depthBuffer: false, type: HalfFloatType });
    }
    return this.#pass;
  }

  /** Adds the pass that was drawn to the sum. */
  add(pass: number, passes: number): void {
    this.#copy(this.#pass!, this.#sum, 1 / passes, pass === 0);
    this.watch();
  }

  /** From now on it is busy until what was drawn so far is done. */
  watch(): void {
    const gl = this.renderer.getContext() as WebGL2RenderingContext;
    if (this.#fence) gl.deleteSync(this.#fence);
    this.#fence = gl.fenceSync(gl.SYNC_GPU_COMMANDS_COMPLETE, 0);
    gl.flush();
  }

  /**
   * Whether the graphics processor still draws: more would only keep it from following the hand, and a page that shows what
   * isn't done waits for it.
   */
  get isBusy(): boolean {
    if (!this.#fence) return false;
    const gl = this.renderer.getContext() as WebGL2RenderingContext;
    if (gl.clientWaitSync(this.#fence, 0, 0) === gl.TIMEOUT_EXPIRED) return true;
    gl.deleteSync(this.#fence);
    this.#fence = null;
    return false;
  }

  /** Puts the average where it is seen. */
  present(): void {
    this.#copy(this.#sum!, null, 1, true);
  }

  dispose(): void {
    this.#pass?.dispose();
    this.#sum?.dispose();
    this.#pass = this.#sum = null;
  }

  #copy(from: WebGLRenderTarget, to: WebGLRenderTarget | null, share: number, isFirst: boolean): void {
    this.#material.uniforms.picture!.value = from.texture;
    this.#material.uniforms.share!.value = share;
    this.renderer.setRenderTarget(to);
    if (isFirst) {
      this.renderer.setClearColor(0x000000, 0);
      this.renderer.clear(true, false, false);
    }
    this.renderer.render(this.#scene, this.#camera);
    this.renderer.setRenderTarget(null);
  }
}
