/** The parts of the product that draw solids, beside the floor that they are held against. */
import { PerspectiveCamera, Scene, AmbientLight, Box3, Vector3, type WebGLRenderer } from 'three';
import { GLTFLoader } from 'three/examples/jsm/loaders/GLTFLoader.js';
import { planCamera, type Camera } from '@gull-pane/core/camera/camera';
import { HOME_DIRECTION } from '@gull-pane/core/camera/directions';
import { fitPoints } from '@gull-pane/core/camera/fit';
import { scaleLimitsFor } from '@gull-pane/core/camera/limits';
import { orientationOf, turnAbout } from '@gull-pane/core/camera/orbit';
import type { ClipVolume } from '@gull-pane/core/clip/clip-volume';
import { opaque } from '@gull-pane/core/drawing/colour';
import type { DrawingDto, LayerDto } from '@gull-pane/protocol/drawings';
import type { SolidTable } from '@gull-pane/protocol/solid-table';
import type { TilesetJson } from '@gull-pane/protocol/tileset';
import { allKinds } from '@gull-pane/core/view/shown';
import { makeRenderer } from '../../packages/web/src/render/gl/renderer.ts';
import { ProgressivePicture } from '../../packages/web/src/render/picture/progressive-picture.ts';
import type { PaneView } from '../../packages/web/src/render/picture/pane-view.ts';
import { COARSE_AT_REST_PX } from '../../packages/web/src/render/budgets.ts';
import { ObjectState, ObjectTexture } from '../../packages/web/src/render/solid/object-texture.ts';
import type { Picture } from '../../packages/web/src/render/picture/picture.ts';
import { SolidPainter } from '../../packages/web/src/render/solid/solid-painter.ts';
import { SolidScene } from '../../packages/web/src/render/solid/solid-scene.ts';
import { startSolidTileWorker } from '../../packages/web/src/tiles/start-solid-tile-worker.ts';
import { bareMatrix, cornersOf } from './bare-of-solid.ts';
import { BareTriangles } from './bare-triangles.ts';
import { fidelity, inkOf } from './fidelity.ts';

const viewport = { widthPx: 1280, heightPx: 800 };
const hiddenLayers = new Set<number>();

function newRenderer(): WebGLRenderer {
  const renderer = makeRenderer();
  renderer.setSize(viewport.widthPx, viewport.heightPx, false);
  return renderer;
}
function readPixel(renderer: WebGLRenderer): void {
  const gl = renderer.getContext();
  gl.readPixels(0, 0, 1, 1, gl.RGBA, gl.UNSIGNED_BYTE, new Uint8Array(4));
}

export class SolidBench {
  #renderer!: WebGLRenderer;
  #scene!: SolidScene;
  #picture!: Picture;
  #home!: Camera;
  #bare: BareTriangles | null = null;
  #corners = new Float32Array(0);
  #clips: readonly ClipVolume[] = [];

  /** @param coarsePx how far coarse forms may be off at rest; as in the product if absent */
  async open(id: string, coarsePx?: number): Promise<void> {
    const get = async <T>(path: string): Promise<T> => (await fetch(path)).json() as Promise<T>;
    const base = `/api/drawings/${id}`;
    const drawing = await get<DrawingDto>(base);
    const [layers, tileset, solid] = await Promise.all([
      get<LayerDto[]>(`${base}/layers`),
      get<TilesetJson>(`${base}/tiles/tileset.json`),
      get<SolidTable>(`${base}/tiles/r${drawing.revision}/solid.json`),
    ]);
    this.#close();
    this.#renderer = newRenderer();
    this.#scene = new SolidScene(drawing, tileset, solid, opaque(255, 255, 255), startSolidTileWorker);
    const painter = new SolidPainter('bench', this.#scene, this.#renderer, coarsePx);
    this.#picture = new ProgressivePicture(painter, this.#renderer);
    this.#close = () => {
      this.#picture.dispose();
      this.#scene.dispose();
      this.#renderer.dispose();
    };
    const start = { ...planCamera({ x: 0, y: 0, z: 0 }, 1), orientation: orientationOf(HOME_DIRECTION) };
    const points = layers.flatMap(({ support }) => support);
    this.#home = fitPoints(start, viewport, points, scaleLimitsFor(drawing.extents!));
  }

  #close = (): void => undefined;

  /**
   * Opens a solid and takes the time until it is recognised (no more than a quarter of the blocks of 16 × 16 px are off from what
   * they become) and until everything that the view wants is painted, ms.
   */
  async firstPicture(id: string): Promise<{ readonly first: number; readonly whole: number }> {
    const before = performance.now();
    await this.open(id);
    const inks: { readonly atMs: number; readonly ink: Float64Array }[] = [];
    let reading = 0;
    const keep = (): void => {
      const began = performance.now();
      inks.push({ atMs: began - before - reading, ink: this.#ink() });
      reading += performance.now() - began;
    };
    for (;;) {
      // a picture that is whole begins to smooth its edges
      const view = this.#view(this.#home);
      const { didDraw, wantsMore } = this.#picture.draw(view, performance.now());
      if (this.#picture.isSettled || this.#picture.workOn(view) === 'smoothing') break;
      if (didDraw) keep();
      await new Promise((resolve) => (wantsMore ? requestAnimationFrame(resolve) : setTimeout(resolve, 5)));
    }
    keep();
    const whole = inks.at(-1)!;
    return { first: inks.find(({ ink }) => fidelity(ink, whole.ink) <= 0.25)!.atMs, whole: whole.atMs };
  }

  #ink(): Float64Array {
    return inkOf(this.#renderer.getContext() as WebGL2RenderingContext, viewport.widthPx, viewport.heightPx);
  }

  /**
   * Share of the px at rest that differ by more than 24 of 255 from a picture of every triangle; four samples a px in both.
   * @param coarsePx how far coarse forms may be off
   */
  async differenceAtRest(id: string, look: PaneView['look'], coarsePx: number = COARSE_AT_REST_PX): Promise<number> {
    const ours = await this.#fourSamples(id, look, coarsePx);
    const exact = await this.#fourSamples(id, look, 0);
    let off = 0;
    for (let px = 0; px < ours.length; px += 4)
      if ([0, 1, 2].some((channel) => Math.abs(ours[px + channel]! - exact[px + channel]!) > 24)) off++;
    return off / (ours.length / 4);
  }

  /** @returns red, green, blue, alpha of each px */
  async #fourSamples(id: string, look: PaneView['look'], coarsePx: number): Promise<Float32Array> {
    await this.open(id, 2 * coarsePx);
    const [width, height] = [2 * viewport.widthPx, 2 * viewport.heightPx];
    this.#renderer.setSize(width, height, false);
    const view = {
      ...this.#view({ ...this.#home, unitsPerPx: this.#home.unitsPerPx / 2 }),
      look,
      viewport: { widthPx: width, heightPx: height },
    };
    await this.settle(view);
    this.#picture.drawOnePass(view);
    const gl = this.#renderer.getContext();
    const pixels = new Uint8Array(4 * width * height);
    gl.readPixels(0, 0, width, height, gl.RGBA, gl.UNSIGNED_BYTE, pixels);
    const means = new Float32Array(pixels.length / 4);
    for (let y = 0; y < height; y++)
      for (let i = 0; i < 4 * width; i++) {
        const to = 4 * (Math.floor(y / 2) * viewport.widthPx + Math.floor(i / 8)) + (i % 4);
        means[to]! += pixels[4 * width * y + i]! / 4;
      }
    return means;
  }

  /** Waits for all that a view wants. */
  async settle(view = this.#view(this.#home)): Promise<void> {
    for (;;) {
      this.#picture.drawOnePass(view, 1); // as little as can be: it only asks for what is missing
      readPixel(this.#renderer);
      if (this.#picture.pendingTiles === 0) return;
      await new Promise((resolve) => setTimeout(resolve, 20));
    }
  }

  /** One pass over everything at rest. */
  drawSettled(): { ms: number; triangles: number; edges: number } {
    readPixel(this.#renderer);
    const before = performance.now();
    const { triangles, segments } = this.#picture.drawOnePass(this.#view(this.#home));
    readPixel(this.#renderer);
    return { ms: performance.now() - before, triangles, edges: segments };
  }

  /** Two boxes that cut from the next frame on, one that keeps most of the solid and one that takes a part out of it. */
  async cut(isCut: boolean): Promise<void> {
    const { centre, halfSize } = this.#scene.tileset.tiles[0]!;
    const box = { kind: 'box', name: '', isOn: true, centre, orientation: { x: 0, y: 0, z: 0, w: 1 } } as const;
    const part = (share: number) => ({ x: halfSize.x * share, y: halfSize.y * share, z: halfSize.z * share });
    this.#clips = isCut
      ? [
          { ...box, id: 1, keeps: 'inside', half: part(0.97) },
          { ...box, id: 2, keeps: 'outside', half: part(0.2) },
        ]
      : [];
    await this.settle();
  }

  /** Hides every second one of 100,000 objects, as a person sees it: until the shaders have it. @returns ms */
  hideHalf(): number {
    const states = new ObjectTexture(100_000);
    const before = performance.now();
    states.update((object) => (object % 2 === 0 ? ObjectState.hidden : ObjectState.shown));
    this.#renderer.initTexture(states.texture);
    readPixel(this.#renderer);
    const ms = performance.now() - before;
    states.texture.dispose();
    return ms;
  }

  /** Frames of an orbit one after another, as a hand makes them. @returns ms of each */
  orbit(frames: number): number[] {
    const taken: number[] = [];
    for (let frame = 1; frame <= frames; frame++) {
      readPixel(this.#renderer);
      const before = performance.now();
      const orientation = orientationOf({ ...HOME_DIRECTION, bearingRad: HOME_DIRECTION.bearingRad + 0.01 * frame });
      this.#picture.draw(this.#view(turnAbout(this.#home, this.#home.target, orientation)), before);
      readPixel(this.#renderer);
      taken.push(performance.now() - before);
    }
    return taken;
  }

  /** Loads every triangle of the whole solid into one buffer. @returns how many */
  loadBare(): number {
    this.#corners = cornersOf(this.#scene, this.#home.target);
    this.#bare = new BareTriangles(viewport.widthPx, viewport.heightPx);
    this.#bare.load(this.#corners);
    return this.#corners.length / 9;
  }

  drawBare(): number {
    return this.#bare!.draw(bareMatrix(this.#home, viewport));
  }

  /** Keeps of the bare triangles those that own a pixel. @returns how many */
  keepOwners(): number {
    const owners = [...this.#bare!.owners(bareMatrix(this.#home, viewport))];
    const kept = new Float32Array(9 * owners.length);
    owners.forEach((triangle, i) => kept.set(this.#corners.subarray(9 * triangle, 9 * triangle + 9), 9 * i));
    this.#bare!.load(kept);
    return owners.length;
  }

  /** The same file by a general loader, until it is painted, ms. */
  async loadElsewhere(url: string): Promise<number> {
    const before = performance.now();
    const { scene } = await new GLTFLoader().loadAsync(url);
    const all = new Scene();
    all.add(scene, new AmbientLight(0xffffff, 3));
    const box = new Box3().setFromObject(scene);
    const [middle, size] = [box.getCenter(new Vector3()), box.getSize(new Vector3()).length()];
    scene.position.sub(middle);
    const camera = new PerspectiveCamera(45, viewport.widthPx / viewport.heightPx, size / 1000, size * 3);
    camera.position.set(size * 0.5, size * 0.5, size * 0.5);
    camera.lookAt(0, 0, 0);
    const renderer = newRenderer();
    renderer.autoClear = true;
    renderer.render(all, camera);
    readPixel(renderer);
    const ms = performance.now() - before;
    renderer.dispose();
    return ms;
  }

  #view(camera: Camera): PaneView {
    return {
      camera,
      viewport,
      hiddenLayers,
      kinds: allKinds,
      look: 'shaded-edges',
      clips: this.#clips,
      smoothEdges: true,
      sheet: null,
    };
  }
}

Object.assign(window, { solidBench: new SolidBench() });
