/** The parts of the product that draw, without its screens, beside the floor that they are held against. */
import { planCamera, type Camera } from '@gull-pane/core/camera/camera';
import { fitPoints } from '@gull-pane/core/camera/fit';
import { scaleLimitsFor } from '@gull-pane/core/camera/limits';
import { opaque } from '@gull-pane/core/drawing/colour';
import { visibilityIn } from '@gull-pane/core/pyramid/select';
import type { DrawingDto, LayerDto } from '@gull-pane/protocol/drawings';
import type { TilesetJson } from '@gull-pane/protocol/tileset';
import { FlatScene } from '../../packages/web/src/render/flat/flat-scene.ts';
import { makeRenderer } from '../../packages/web/src/render/gl/renderer.ts';
import { makePicture } from '../../packages/web/src/render/painters.ts';
import { allKinds } from '@gull-pane/core/view/shown';
import type { PaneView } from '../../packages/web/src/render/picture/pane-view.ts';
import type { Picture } from '../../packages/web/src/render/picture/picture.ts';
import { startTileWorker } from '../../packages/web/src/tiles/start-tile-worker.ts';
import { BareLines } from './bare-lines.ts';
import { fidelity, inkOf } from './fidelity.ts';
import { callsOf, type GlCalls } from './gl-calls.ts';

const viewport = { widthPx: 1280, heightPx: 800 };
const canvas = (id: string): HTMLCanvasElement => document.getElementById(id) as HTMLCanvasElement;
const plainKinds = {
  ...allKinds,
  fills: false,
  texts: false,
  lineStyles: false,
  weights: false,
  dashes: false,
  transparency: false,
};
const hiddenLayers = new Set<number>();

class Bench {
  readonly #renderer = makeRenderer(canvas('lines'));
  readonly #bare = new BareLines(canvas('bare'));
  #scene!: FlatScene;
  #picture!: Picture;
  #drawing!: DrawingDto;
  #layers!: LayerDto[];
  #anchor = { x: 0, y: 0 };
  #lines = new Float32Array(0);

  constructor() {
    this.#renderer.setSize(viewport.widthPx, viewport.heightPx, false);
  }

  /** Opens a drawing as its page does. */
  async open(id: string): Promise<void> {
    const get = async <T>(path: string): Promise<T> => (await fetch(path)).json() as Promise<T>;
    const base = `/api/drawings/${id}`;
    const [drawing, layers, tileset] = await Promise.all([
      get<DrawingDto>(base),
      get<LayerDto[]>(`${base}/layers`),
      get<TilesetJson>(`${base}/tiles/tileset.json`),
    ]);
    this.#drawing = drawing;
    this.#layers = layers;
    this.#scene = new FlatScene(drawing, tileset, opaque(255, 255, 255), startTileWorker);
    this.#picture = makePicture('bench', this.#scene, this.#renderer, canvas('letters').getContext('2d')!);
  }

  async loadBare(url: string, anchor: { x: number; y: number }): Promise<number> {
    this.#lines = new Float32Array(await (await fetch(url)).arrayBuffer());
    this.#anchor = anchor;
    this.#bare.load(this.#lines);
    return this.#lines.length / 4;
  }

  extentsCamera(): Camera {
    const { extents } = this.#drawing;
    const points = this.#layers.flatMap(({ support }) => support);
    return fitPoints(planCamera({ x: 0, y: 0, z: 0 }, 1), viewport, points, scaleLimitsFor(extents!));
  }

  #view(camera: Camera, isPlain = true): PaneView {
    return {
      camera,
      viewport,
      hiddenLayers,
      kinds: isPlain ? plainKinds : allKinds,
      look: 'lines',
      clips: [],
      smoothEdges: true,
      sheet: null,
    };
  }

  #readPixel(): void {
    const gl = this.#renderer.getContext();
    gl.readPixels(0, 0, 1, 1, gl.RGBA, gl.UNSIGNED_BYTE, new Uint8Array(4));
  }

  /** Waits until everything that a view wants has come. */
  async settle(camera: Camera): Promise<void> {
    for (;;) {
      this.#picture.drawOnePass(this.#view(camera));
      if (this.#picture.pendingTiles === 0) return;
      await new Promise((resolve) => setTimeout(resolve, 30));
    }
  }

  /** One pass over everything at rest. @returns ms */
  drawSettled(camera: Camera, mostWeight = Infinity): { ms: number; segments: number } {
    this.#readPixel();
    const before = performance.now();
    const { segments } = this.#picture.drawOnePass(this.#view(camera), mostWeight);
    this.#readPixel();
    return { ms: performance.now() - before, segments };
  }

  /** One pass over everything at rest, time and again. @returns ms of each */
  async framesAt(camera: Camera, samples: number): Promise<number[]> {
    await this.settle(camera);
    for (let i = 0; i < 2; i++) this.drawSettled(camera); // warming up
    return Array.from({ length: samples }, () => this.drawSettled(camera).ms);
  }

  /** A view of the middle in which no more than so many lines are drawn; looked for from where that may be on. */
  async closeCamera(lines: number): Promise<Camera> {
    const whole = this.extentsCamera();
    const { counts } = this.#drawing;
    const steps = Math.max(0, Math.floor(Math.log(Math.sqrt(counts.segments / (4 * lines))) / Math.log(1.25)));
    for (let k = steps; ; k++) {
      const camera = { ...whole, unitsPerPx: whole.unitsPerPx / 1.25 ** k };
      await this.settle(camera);
      if (this.drawSettled(camera).segments <= lines) return camera;
    }
  }

  drawBare(camera: Camera): { ms: number } {
    this.#bare.readPixel();
    const before = performance.now();
    const { x, y } = this.#anchor;
    this.#bare.draw(camera.target.x - x, camera.target.y - y, camera.unitsPerPx, viewport.widthPx, viewport.heightPx);
    return { ms: performance.now() - before };
  }

  /** Keeps of the bare lines only those that reach into a view. @returns how many */
  keepBareIn(camera: Camera): number {
    const isSeen = visibilityIn(camera, viewport);
    const kept: number[] = [];
    for (let i = 0; i < this.#lines.length; i += 4) {
      const [x0, y0, x1, y1] = this.#lines.subarray(i, i + 4) as unknown as [number, number, number, number];
      const centre = { x: this.#anchor.x + (x0 + x1) / 2, y: this.#anchor.y + (y0 + y1) / 2, z: 0 };
      const halfSize = { x: Math.abs(x1 - x0) / 2, y: Math.abs(y1 - y0) / 2, z: 0 };
      if (isSeen({ centre, halfSize, largest: 0, weight: 1, children: [] })) kept.push(x0, y0, x1, y1);
    }
    this.#bare.load(Float32Array.from(kept));
    return kept.length / 4;
  }

  /** How far ours is from the bare draw at the same camera. */
  fidelityAt(camera: Camera, mostWeight = Infinity): number {
    this.#picture.drawOnePass(this.#view(camera), mostWeight);
    const ours = inkOf(this.#renderer.getContext() as WebGL2RenderingContext, viewport.widthPx, viewport.heightPx);
    this.drawBare(camera);
    return fidelity(ours, inkOf(this.#bare.context, viewport.widthPx, viewport.heightPx));
  }

  /**
   * Opens a drawing and takes the time until the picture is good. Looking at the picture doesn't count.
   * @returns ms, and which tiles had come by then
   */
  async firstPicture(id: string, goodEnough: number): Promise<{ ms: number; fidelity: number; tiles: number[] }> {
    let looking = 0;
    const begin = performance.now();
    await this.open(id);
    const camera = this.extentsCamera();
    for (;;) {
      const { tiles } = this.#picture.drawOnePass(this.#view(camera));
      this.#readPixel();
      const now = performance.now();
      if (tiles > 0) {
        const reached = this.fidelityAt(camera);
        const done = this.#scene.tileset.tiles.flatMap((_, tile) => (this.#scene.body(tile) ? [tile] : []));
        if (reached <= goodEnough || this.#picture.pendingTiles === 0)
          return { ms: now - begin - looking, fidelity: reached, tiles: done };
      }
      looking += performance.now() - now;
      await new Promise((resolve) => requestAnimationFrame(resolve));
    }
  }

  loadedTiles(): string[] {
    return this.#scene.tileset.tiles.flatMap(({ uri }, tile) => (this.#scene.body(tile) ? [uri] : []));
  }

  tileNames(tiles: readonly number[]): string[] {
    return tiles.map((tile) => this.#scene.tileset.tiles[tile]!.uri);
  }

  /** How long a fit takes at a twist, ms. */
  fitMs(angleRad: number, rounds: number): number {
    return this.#fit(angleRad, rounds).ms;
  }

  #fit(angleRad: number, rounds: number): { readonly ms: number; readonly fitted: Camera } {
    const camera: Camera = {
      ...planCamera({ x: 0, y: 0, z: 0 }, 1),
      orientation: { x: 0, y: 0, z: Math.sin(angleRad / 2), w: Math.cos(angleRad / 2) },
    };
    const limits = scaleLimitsFor(this.#drawing.extents!);
    const points = this.#layers.flatMap(({ support }) => support);
    const before = performance.now();
    let fitted = camera;
    for (let i = 0; i < rounds; i++) fitted = fitPoints(camera, viewport, points, limits);
    return { ms: (performance.now() - before) / rounds, fitted };
  }

  /** A fit against a loop over all points, at a twist. */
  fit(angleRad: number, rounds: number): { oursMs: number; loopMs: number; apart: number } {
    const { ms: oursMs, fitted } = this.#fit(angleRad, rounds);
    const before = performance.now();
    const [cos, sin] = [Math.cos(angleRad), Math.sin(angleRad)];
    let [minA, maxA, minB, maxB] = [Infinity, -Infinity, Infinity, -Infinity];
    for (let i = 0; i < this.#lines.length; i += 2) {
      const a = this.#lines[i]! * cos + this.#lines[i + 1]! * sin;
      const b = this.#lines[i + 1]! * cos - this.#lines[i]! * sin;
      if (a < minA) minA = a;
      if (a > maxA) maxA = a;
      if (b < minB) minB = b;
      if (b > maxB) maxB = b;
    }
    const loopMs = performance.now() - before;
    const wanted = Math.max((maxA - minA) / (viewport.widthPx - 32), (maxB - minB) / (viewport.heightPx - 32));
    return { oursMs, loopMs, apart: Math.abs(fitted.unitsPerPx / wanted - 1) };
  }

  /** One step of a pan in the full looks of the drawing. */
  panStep(camera: Camera, right: number, down = 0): { ms: number } {
    this.#readPixel();
    const before = performance.now();
    const { x, y } = camera.target;
    const target = { ...camera.target, x: x + right * camera.unitsPerPx, y: y - down * camera.unitsPerPx };
    this.#picture.draw(this.#view({ ...camera, target }, false), before);
    this.#readPixel();
    return { ms: performance.now() - before };
  }

  /** What a step of a pan asks of the graphics processor. */
  panCalls(camera: Camera, right: number, down: number): GlCalls {
    return callsOf(this.#renderer.getContext() as WebGL2RenderingContext, () => this.panStep(camera, right, down));
  }

  /** Draws a view in its full looks, as a pane does before it is panned. */
  drawWhole(camera: Camera): void {
    this.#picture.drawOnePass(this.#view(camera, false));
  }

  cachedBytes(): number {
    return this.#scene.cachedBytes;
  }
}

Object.assign(window, { bench: new Bench() });
