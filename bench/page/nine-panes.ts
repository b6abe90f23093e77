/** Nine panes of a plan and a model, without their screens, beside bare draws of what they show. */
import type { WebGLRenderer } from 'three';
import { planCamera, type Camera } from '@gull-pane/core/camera/camera';
import { standardDirections } from '@gull-pane/core/camera/directions';
import { fitPoints } from '@gull-pane/core/camera/fit';
import { scaleLimitsFor } from '@gull-pane/core/camera/limits';
import { orientationOf } from '@gull-pane/core/camera/orbit';
import { opaque } from '@gull-pane/core/drawing/colour';
import type { DrawingDto, LayerDto } from '@gull-pane/protocol/drawings';
import type { SolidTable } from '@gull-pane/protocol/solid-table';
import type { TilesetJson } from '@gull-pane/protocol/tileset';
import { FlatScene } from '../../packages/web/src/render/flat/flat-scene.ts';
import { makeRenderer } from '../../packages/web/src/render/gl/renderer.ts';
import { makePicture } from '../../packages/web/src/render/painters.ts';
import { allKinds } from '@gull-pane/core/view/shown';
import type { PaneView } from '../../packages/web/src/render/picture/pane-view.ts';
import type { Picture } from '../../packages/web/src/render/picture/picture.ts';
import type { Scene } from '../../packages/web/src/render/scene/scene.ts';
import { SolidScene } from '../../packages/web/src/render/solid/solid-scene.ts';
import { startSolidTileWorker } from '../../packages/web/src/tiles/start-solid-tile-worker.ts';
import { startTileWorker } from '../../packages/web/src/tiles/start-tile-worker.ts';
import { BareLines } from './bare-lines.ts';
import { bareMatrix, cornersOf } from './bare-of-solid.ts';
import { BareTriangles } from './bare-triangles.ts';

/** A pane of nine in a window of 1280 × 800, CSS px. */
const viewport = { widthPx: 320, heightPx: 184 };
const PLANS = 5;
const MODELS = 4;
const white = opaque(255, 255, 255);

interface Opened {
  readonly scene: Scene;
  readonly fitted: (camera: Camera) => Camera;
}
interface NinePane {
  readonly renderer: WebGLRenderer;
  readonly picture: Picture;
  readonly view: PaneView;
}

export class NinePanes {
  #panes: NinePane[] = [];
  #lines!: BareLines;
  #triangles!: BareTriangles;
  #plan!: Camera;
  #models: Camera[] = [];
  #solid!: SolidScene;

  /** @param lines ends of the plan's lines as they are seen in such a pane, about its middle @returns that middle and px */
  async open(planId: string, modelId: string): Promise<Camera> {
    const [plan, model] = [await open(planId), await open(modelId)];
    this.#solid = model.scene as SolidScene;
    this.#plan = plan.fitted(planCamera({ x: 0, y: 0, z: 0 }, 1));
    this.#models = standardDirections
      .slice(0, MODELS)
      .map((direction) =>
        model.fitted({ ...planCamera({ x: 0, y: 0, z: 0 }, 1), orientation: orientationOf(direction) }),
      );
    const views = [
      ...Array.from({ length: PLANS }, () => [plan.scene, this.#plan] as const),
      ...this.#models.map((camera) => [model.scene, camera] as const),
    ];
    this.#panes = views.map(([scene, camera], k) => {
      const renderer = makeRenderer();
      renderer.setSize(viewport.widthPx, viewport.heightPx, false);
      const letters = document.createElement('canvas').getContext('2d')!;
      return {
        renderer,
        picture: makePicture(String(k + 1), scene, renderer, letters),
        view: {
          camera,
          viewport,
          hiddenLayers: new Set<number>(),
          kinds: allKinds,
          look: 'shaded' as const,
          clips: [],
          smoothEdges: true,
          sheet: null,
        },
      };
    });
    for (;;) {
      this.draw();
      if (this.#panes.every(({ picture }) => picture.pendingTiles === 0)) return this.#plan;
      await new Promise((resolve) => setTimeout(resolve, 30));
    }
  }

  async loadBare(url: string): Promise<void> {
    const canvas = Object.assign(document.createElement('canvas'), { width: 320, height: 184 });
    this.#lines = new BareLines(canvas);
    this.#lines.load(new Float32Array(await (await fetch(url)).arrayBuffer()));
    this.#triangles = new BareTriangles(viewport.widthPx, viewport.heightPx);
    this.#triangles.load(cornersOf(this.#solid, this.#models[0]!.target));
  }

  /** One pass of all nine at rest. @returns ms */
  draw(): number {
    for (const { renderer } of this.#panes) readPixel(renderer);
    const before = performance.now();
    for (const { picture, view } of this.#panes) picture.drawOnePass(view);
    for (const { renderer } of this.#panes) readPixel(renderer);
    return performance.now() - before;
  }

  /** All lines of the plan and all triangles of the model, as often as there are panes of them. @returns ms */
  drawBare(): number {
    this.#lines.readPixel();
    const before = performance.now();
    const { widthPx, heightPx } = viewport;
    for (let k = 0; k < PLANS; k++) this.#lines.draw(0, 0, this.#plan.unitsPerPx, widthPx, heightPx);
    for (const camera of this.#models) this.#triangles.draw(bareMatrix(camera, viewport));
    return performance.now() - before;
  }
}

function readPixel(renderer: WebGLRenderer): void {
  const gl = renderer.getContext();
  gl.readPixels(0, 0, 1, 1, gl.RGBA, gl.UNSIGNED_BYTE, new Uint8Array(4));
}

async function open(id: string): Promise<Opened> {
  const get = async <T>(path: string): Promise<T> => (await fetch(path)).json() as Promise<T>;
  const base = `/api/drawings/${id}`;
  const drawing = await get<DrawingDto>(base);
  const layers = await get<LayerDto[]>(`${base}/layers`);
  const tileset = await get<TilesetJson>(`${base}/tiles/tileset.json`);
  const points = layers.flatMap(({ support }) => support);
  const scene =
    drawing.kind === 'solid'
      ? new SolidScene(
          ...([drawing, tileset, await get<SolidTable>(`${base}/tiles/r${drawing.revision}/solid.json`)] as const),
          ...([white, startSolidTileWorker] as const),
        )
      : new FlatScene(drawing, tileset, white, startTileWorker);
  return { scene, fitted: (camera) => fitPoints(camera, viewport, points, scaleLimitsFor(drawing.extents!)) };
}

Object.assign(window, { ninePanes: new NinePanes() });
