import {
  Matrix4,
  OrthographicCamera,
  Quaternion,
  Scene,
  type Mesh,
  type Object3D,
  type WebGLRenderTarget,
  type WebGLRenderer,
} from 'three';
import { sameCamera, type Camera, type Viewport } from '@gull-pane/core/camera/camera';
import { selectTiles } from '@gull-pane/core/pyramid/select';
import type { DrawingScene } from './drawing-scene';
import { learn, startBudget } from './frame-budget';
import { WIDE_FROM_PX } from './materials';
import { NearGeometry, type LineLook } from './near-geometry';
import { PASSES, RestSmoother, passShift } from './rest-smoother';
import { groupRuns, indicesIn, type DrawGroup } from './run-groups';
import type { TextPainter } from './text-painter';
import type { TileDrawable } from './tile-drawable';

/** What a pane shows; whoever changes any of it hands in a new object. */
export interface PaneView {
  readonly camera: Camera;
  readonly viewport: Viewport;
  /** Ids of hidden layers. */
  readonly hidden: ReadonlySet<number>;
}

export interface DrawnCounts {
  readonly segments: number;
  readonly triangles: number;
  readonly tiles: number;
  readonly texts: number;
}

/** Time without a move after which a picture is at rest, ms. */
const QUIET_MS = 140;
/** At rest so much may be drawn in all: every object of a px in all but absurd views. Segments and triangles. */
const REST_WEIGHT = 3_000_000;
/** A tile larger than this many times the view is clipped to it. */
const NEAR_TIMES_VIEW = 4;
/** A tile whose edge single precision misses by more than this is drawn anew about the view, CSS px. */
const COARSE_PX = 0.05;
/** Time for making lines with width in one frame, ms. */
const STROKE_BUILD_MS = 6;

type Phase =
  /** The view has just changed: a share of the tiles that keeps the pace. */
  | 'moving'
  /** Tiles of the view at rest are added as they come, a slice a frame. */
  | 'filling'
  /** All is there: shifted passes are averaged. */
  | 'smoothing'
  | 'idle';

/**
 * The picture of one pane, drawn step by step: a coarse one at once, then what is missing over it, then smooth edges.
 * Depth is the order of painting, so tiles may be drawn in any order and over a kept picture.
 */
export class PanePicture {
  readonly #camera3 = new OrthographicCamera();
  readonly #scene = new Scene();
  readonly #near: NearGeometry;
  readonly #smoother: RestSmoother;
  #view: PaneView | null = null;
  #ground: unknown = null;
  #phase: Phase = 'idle';
  #movedAtMs = 0;
  #lastFrameMs = 0;
  #selection: readonly number[] = [];
  #drawn = new Set<number>();
  #queue: number[] = [];
  #pass = 0;
  #budget = startBudget;
  #counts = { segments: 0, triangles: 0, tiles: 0, texts: 0 };

  constructor(
    private readonly id: string,
    private readonly scene: DrawingScene,
    private readonly renderer: WebGLRenderer,
    private readonly texts: TextPainter,
  ) {
    this.#near = new NearGeometry(scene.materials);
    this.#smoother = new RestSmoother(renderer);
    this.#scene.matrixWorldAutoUpdate = false;
    this.#camera3.matrixWorldAutoUpdate = false;
  }

  get counts(): DrawnCounts {
    return this.#counts;
  }

  get frameMs(): number {
    return this.#budget.frameMs;
  }

  get pendingTiles(): number {
    return this.#selection.filter((tile) => this.scene.isAwaited(tile)).length;
  }

  get isSettled(): boolean {
    return this.#phase === 'idle' && this.#view !== null;
  }

  /** Draws again from the beginning, though the view is the same. */
  invalidate(): void {
    this.#view = null;
  }

  /**
   * Does the next piece of work.
   * @param nowMs one steady clock
   * @returns whether a further frame is wanted; false while waiting for tiles, too: their coming calls for one
   */
  draw(view: PaneView, nowMs: number): { readonly didDraw: boolean; readonly wantsMore: boolean } {
    const { viewport } = view;
    if (viewport.widthPx < 1 || viewport.heightPx < 1) return { didDraw: false, wantsMore: false };
    if (!this.#isSameView(view)) {
      this.#beginMoving(view, nowMs);
      return { didDraw: true, wantsMore: true };
    }
    switch (this.#phase) {
      case 'moving':
        if (nowMs - this.#movedAtMs < QUIET_MS) return { didDraw: false, wantsMore: true };
        this.#phase = 'filling';
        return this.#fill();
      case 'filling':
        return this.#fill();
      case 'smoothing':
        return this.#smooth();
      case 'idle':
        return { didDraw: false, wantsMore: false };
    }
  }

  dispose(): void {
    this.#near.dispose();
    this.#smoother.dispose();
    this.scene.want(this.id, []);
  }

  #isSameView({ camera, viewport, hidden }: PaneView): boolean {
    const last = this.#view;
    return (
      last !== null &&
      sameCamera(last.camera, camera) &&
      last.viewport.widthPx === viewport.widthPx &&
      last.viewport.heightPx === viewport.heightPx &&
      last.hidden === hidden &&
      this.#ground === this.scene.ground
    );
  }

  #beginMoving(view: PaneView, nowMs: number): void {
    const drawnBefore = this.#counts.segments + this.#counts.triangles;
    if (this.#phase === 'moving' && nowMs - this.#lastFrameMs < 500) {
      this.#budget = learn(this.#budget, drawnBefore, nowMs - this.#lastFrameMs);
    }
    this.#phase = 'moving';
    this.#movedAtMs = this.#lastFrameMs = nowMs;
    this.#view = view;
    this.#ground = this.scene.ground;
    const { tiles } = this.scene.tileset;
    const smallestPx = 1 / this.renderer.getPixelRatio();
    this.#selection = selectTiles(tiles, view.camera, view.viewport, { budget: REST_WEIGHT, smallestPx });
    this.scene.want(this.id, this.#selection);
    let weight = 0;
    let prefix = 0;
    for (const tile of this.#selection) {
      const drawable = this.scene.drawable(tile);
      if (drawable) weight += tiles[tile]!.weight;
      if (weight > this.#budget.weight && prefix > 0) break;
      prefix++;
    }
    this.#drawAfresh(this.#selection.slice(0, prefix), null, [0, 0]);
  }

  #fill(): { didDraw: boolean; wantsMore: boolean } {
    const missing = this.#selection.filter((tile) => !this.#drawn.has(tile) && this.scene.drawable(tile));
    if (missing.length > 0) {
      const slice = this.#sliceOf(missing);
      if (slice.some((tile) => this.#isNear(tile))) this.#drawAfresh([...this.#drawn, ...slice], null, [0, 0]);
      else this.#drawOver(slice, null);
      return { didDraw: true, wantsMore: true };
    }
    if (this.pendingTiles > 0) return { didDraw: false, wantsMore: false };
    this.#phase = 'smoothing';
    this.#pass = 0;
    this.#queue = [];
    return { didDraw: false, wantsMore: true };
  }

  #smooth(): { didDraw: boolean; wantsMore: boolean } {
    const { viewport } = this.#view!;
    const pixelRatio = this.renderer.getPixelRatio();
    const target = this.#smoother.begin(
      Math.round(viewport.widthPx * pixelRatio),
      Math.round(viewport.heightPx * pixelRatio),
    );
    const all = this.#selection.filter((tile) => this.scene.drawable(tile));
    if (this.#queue.length === 0) {
      this.#queue = all;
      const slice = this.#sliceOf(this.#queue);
      this.#queue = this.#queue.slice(slice.length);
      this.#drawAfresh(slice, target, passShift(this.#pass), all);
    } else {
      const slice = this.#sliceOf(this.#queue);
      this.#queue = this.#queue.slice(slice.length);
      this.#drawOver(slice, target);
    }
    if (this.#queue.length > 0) return { didDraw: true, wantsMore: true };
    this.#smoother.add(this.#pass++);
    if (this.#pass < PASSES) return { didDraw: true, wantsMore: true };
    this.#smoother.present();
    this.#countAll();
    this.#phase = 'idle';
    return { didDraw: true, wantsMore: false };
  }

  /** As many of the tiles as one frame should draw. */
  #sliceOf(tiles: readonly number[]): number[] {
    let weight = 0;
    const slice: number[] = [];
    for (const tile of tiles) {
      weight += this.scene.tileset.tiles[tile]!.weight;
      if (weight > this.#budget.weight && slice.length > 0) break;
      slice.push(tile);
    }
    return slice;
  }

  /** Clears and draws. @param near tiles whose near parts are drawn; those drawn now if left out */
  #drawAfresh(
    tiles: readonly number[],
    target: WebGLRenderTarget | null,
    shift: readonly [number, number],
    near: readonly number[] = tiles,
  ): void {
    const { camera, viewport } = this.#view!;
    const { renderer, scene } = this;
    if (!target) {
      this.texts.clear(viewport, renderer.getPixelRatio());
      this.#drawn = new Set();
      this.#counts = { segments: 0, triangles: 0, tiles: 0, texts: 0 };
    }
    this.#aim(shift);
    renderer.setRenderTarget(target);
    const { r, g, b } = scene.ground;
    renderer.setClearColor((r << 16) | (g << 8) | b, 1);
    renderer.clear(true, true, false);
    const nearTiles = near.filter((tile) => this.#isNear(tile)).flatMap((tile) => scene.drawable(tile) ?? []);
    const half = (Math.hypot(viewport.widthPx, viewport.heightPx) / 2) * camera.unitsPerPx * 1.1;
    const reach = half + this.#widestStroke();
    const clip = { minX: -reach, minY: -reach, maxX: reach, maxY: reach };
    const objects = this.#near.build(nearTiles, camera.target, clip, (style) => this.#lookOf(style));
    this.#render(objects);
    if (!target) {
      this.#counts.segments += this.#near.segments;
      this.#counts.triangles += this.#near.triangles;
    }
    this.#drawOver(tiles, target);
  }

  /** Draws tiles over what is there. */
  #drawOver(tiles: readonly number[], target: WebGLRenderTarget | null): void {
    const { camera, viewport, hidden } = this.#view!;
    const { renderer, scene } = this;
    const buildUntil = performance.now() + STROKE_BUILD_MS;
    const objects: Object3D[] = [];
    const { styles } = scene.tileset;
    for (const tile of tiles) {
      const drawable = scene.drawable(tile);
      if (!drawable) continue;
      if (!this.#isNear(tile)) objects.push(...this.#objectsOf(drawable, buildUntil, target === null));
      if (target) continue;
      this.#drawn.add(tile);
      this.#counts.tiles++;
      this.texts.draw(drawable.content.texts, drawable.origin, camera, viewport, renderer.getPixelRatio(), {
        colourOf: (style) => (hidden.has(styles[style]!.layer) ? null : scene.textColour(style)),
      });
      this.#counts.texts = this.texts.drawn;
    }
    renderer.setRenderTarget(target);
    this.#render(objects);
    renderer.setRenderTarget(null);
  }

  #objectsOf(drawable: TileDrawable, buildUntilMs: number, counts: boolean): Object3D[] {
    const { fills, hairlines, content, origin } = drawable;
    const objects: Object3D[] = [];
    const shift = new Matrix4().makeTranslation(
      origin.x - this.#view!.camera.target.x,
      origin.y - this.#view!.camera.target.y,
      origin.z - this.#view!.camera.target.z,
    );
    const add = (object: Mesh | TileDrawable['hairlines'], groups: DrawGroup[], indicesEach: number): number => {
      if (!object || groups.length === 0) return 0;
      object.geometry.groups = groups;
      object.matrixWorld.copy(shift);
      objects.push(object);
      return indicesIn(groups) / indicesEach;
    };
    const isWide = (style: number): boolean =>
      this.#lookOf(style) === 'stroke' || this.#lookOf(style) === 'dashedStroke';
    if (content.lineRuns.some(({ style }) => isWide(style)) && !drawable.strokes && performance.now() < buildUntilMs)
      drawable.buildStrokes();
    const canStroke = drawable.strokes !== null;
    const triangles = add(
      fills,
      groupRuns(content.triangleRuns, (style) => (this.#lookOf(style) === 'hidden' ? -1 : 0)),
      3,
    );
    const material = (wide: boolean) => (style: number) => {
      const look = this.#lookOf(style);
      if (look === 'hidden' || wide !== (canStroke && isWide(style))) return -1;
      return look === 'dashedHairline' || look === 'dashedStroke' ? 1 : 0;
    };
    const thin = add(hairlines, groupRuns(content.lineRuns, material(false)), 2);
    const wide = canStroke ? groupRuns(drawable.strokeRuns, material(true)) : [];
    add(drawable.strokes, wide, 6);
    if (counts) {
      this.#counts.triangles += triangles;
      this.#counts.segments += thin + (wide.length > 0 ? sumOf(content.lineRuns, material(true)) / 2 : 0);
    }
    return objects;
  }

  #lookOf(style: number): LineLook {
    const { layer, width, dashes } = this.scene.tileset.styles[style]!;
    const { camera, hidden } = this.#view!;
    if (hidden.has(layer)) return 'hidden';
    const isWide = width * this.renderer.getPixelRatio() > WIDE_FROM_PX * camera.unitsPerPx;
    if (dashes.length > 0) return isWide ? 'dashedStroke' : 'dashedHairline';
    return isWide ? 'stroke' : 'hairline';
  }

  #isNear(tile: number): boolean {
    const { halfSize } = this.scene.tileset.tiles[tile]!;
    const { camera, viewport } = this.#view!;
    const half = Math.max(halfSize.x, halfSize.y);
    const viewHalf = (Math.max(viewport.widthPx, viewport.heightPx) / 2) * camera.unitsPerPx;
    return half > NEAR_TIMES_VIEW * viewHalf || half / 2 ** 25 > COARSE_PX * camera.unitsPerPx;
  }

  #widestStroke(): number {
    return this.scene.tileset.styles.reduce((widest, { width }) => Math.max(widest, width), 0);
  }

  #aim([right, up]: readonly [number, number]): void {
    const { camera, viewport } = this.#view!;
    const pixelRatio = this.renderer.getPixelRatio();
    const { unitsPerPx } = camera;
    const [shiftX, shiftY] = [(right / pixelRatio) * unitsPerPx, (up / pixelRatio) * unitsPerPx];
    const [halfX, halfY] = [(viewport.widthPx / 2) * unitsPerPx, (viewport.heightPx / 2) * unitsPerPx];
    const camera3 = this.#camera3;
    camera3.left = -halfX + shiftX;
    camera3.right = halfX + shiftX;
    camera3.top = halfY + shiftY;
    camera3.bottom = -halfY + shiftY;
    const { x, y, z, w } = camera.orientation;
    camera3.matrixWorld.makeRotationFromQuaternion(new Quaternion(x, y, z, w));
    camera3.matrixWorldInverse.copy(camera3.matrixWorld).invert();
    camera3.updateProjectionMatrix();
    this.scene.materials.fill.uniforms.unitsPerPx!.value = unitsPerPx / pixelRatio;
  }

  /** The scene is a list in order: fills of all tiles first, since most of them are covered by lines. */
  #render(objects: readonly Object3D[]): void {
    if (objects.length === 0) return;
    this.#scene.children = [...objects].sort((a, b) => rankOf(a) - rankOf(b));
    this.renderer.render(this.#scene, this.#camera3);
    this.#scene.children = [];
  }

  /** After the last pass the counts are those of the whole picture at rest. */
  #countAll(): void {
    this.#counts = { ...this.#counts, tiles: this.#drawn.size };
  }
}

const rankOf = (object: Object3D): number => ('isLineSegments' in object ? 1 : 0);

const sumOf = (runs: TileDrawable['content']['lineRuns'], materialOf: (style: number) => number): number =>
  runs.reduce((sum, { style, count }) => sum + (materialOf(style) >= 0 ? count : 0), 0);
