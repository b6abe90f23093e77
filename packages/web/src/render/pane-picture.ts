import {
  Matrix4,
  OrthographicCamera,
  Quaternion,
  Scene,
  type LineSegments,
  type Mesh,
  type Object3D,
  type WebGLRenderTarget,
  type WebGLRenderer,
} from 'three';
import { cameraAxes, sameCamera } from '@gull-pane/core/camera/camera';
import type { Box2 } from '@gull-pane/core/geometry/clip';
import { selectTiles } from '@gull-pane/core/pyramid/select';
import type { DrawingScene } from './drawing-scene';
import { learn, startBudget } from './frame-budget';
import { MAX_CHORD_ERROR_PX, fineWish } from './fine-wish';
import { WIDE_FROM_PX } from './materials';
import { NearGeometry, type LineLook } from './near-geometry';
import type { PaneView } from './pane-view';
import { RestSmoother, passShift, passesFor } from './rest-smoother';
import { groupRuns, indicesIn, type DrawGroup } from './run-groups';
import type { TextPainter } from './text-painter';
import type { TileDrawable } from './tile-drawable';

export interface DrawnCounts {
  readonly segments: number;
  readonly triangles: number;
  readonly tiles: number;
  readonly texts: number;
}

/** Time without a move after which a picture is at rest, ms; on a slow machine so many frames. */
const QUIET_MS = 140;
const QUIET_FRAMES = 3;
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
  /** When the picture was last asked for a frame, whether or not it drew one. */
  #lastLookMs = 0;
  #selection: readonly number[] = [];
  #drawn = new Set<number>();
  #queue: number[] = [];
  #pass = 0;
  #passes = 8;
  #passBeganMs = 0;
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
    this.#lastLookMs = nowMs;
    switch (this.#phase) {
      case 'moving':
        if (nowMs - this.#movedAtMs < Math.max(QUIET_MS, QUIET_FRAMES * this.frameMs))
          return { didDraw: false, wantsMore: true };
        this.#phase = 'filling';
        return this.#fill();
      case 'filling':
        return this.#fill();
      case 'smoothing':
        return this.#smooth(nowMs);
      case 'idle':
        return { didDraw: false, wantsMore: false };
    }
  }

  /**
   * Draws everything that has arrived of the view at rest in one go, as one pass; for measuring.
   * @param mostWeight segments and triangles that may be drawn
   * @returns what was drawn
   */
  drawOnePass(view: PaneView, mostWeight = Infinity): DrawnCounts {
    this.#view = view;
    this.#ground = this.scene.ground;
    this.#select(mostWeight);
    this.#drawAfresh(this.#selection, null, [0, 0]);
    return this.#counts;
  }

  dispose(): void {
    this.#near.dispose();
    this.#smoother.dispose();
    this.scene.want(this.id, []);
  }

  #isSameView({ camera, viewport, hidden, looks }: PaneView): boolean {
    const last = this.#view;
    return (
      last !== null &&
      sameCamera(last.camera, camera) &&
      last.viewport.widthPx === viewport.widthPx &&
      last.viewport.heightPx === viewport.heightPx &&
      last.hidden === hidden &&
      last.looks === looks &&
      this.#ground === this.scene.ground
    );
  }

  #beginMoving(view: PaneView, nowMs: number): void {
    const drawnBefore = this.#counts.segments + this.#counts.triangles;
    // only a frame that followed at once tells how long the one before took
    if (this.#phase === 'moving' && this.#lastLookMs === this.#movedAtMs) {
      this.#budget = learn(this.#budget, drawnBefore, nowMs - this.#movedAtMs);
    }
    this.#phase = 'moving';
    this.#movedAtMs = this.#lastLookMs = nowMs;
    this.#view = view;
    this.#ground = this.scene.ground;
    this.#select(REST_WEIGHT);
    let weight = 0;
    let prefix = 0;
    for (const tile of this.#selection) {
      const drawable = this.scene.drawable(tile);
      if (drawable) weight += this.scene.tileset.tiles[tile]!.weight;
      if (weight > this.#budget.weight && prefix > 0) break;
      prefix++;
    }
    this.#drawAfresh(this.#selection.slice(0, prefix), null, [0, 0]);
  }

  /** Chooses the tiles of the view at rest and asks for them. */
  #select(budget: number): void {
    const { camera, viewport } = this.#view!;
    const smallestPx = 1 / this.renderer.getPixelRatio();
    this.#selection = selectTiles(this.scene.tileset.tiles, camera, viewport, { budget, smallestPx });
    this.scene.want(this.id, this.#selection);
  }

  #fill(): { didDraw: boolean; wantsMore: boolean } {
    const missing = this.#selection.filter((tile) => !this.#drawn.has(tile) && this.scene.drawable(tile));
    if (missing.length > 0) {
      const slice = this.#sliceOf(missing);
      if (slice.some((tile) => this.#isNear(tile))) this.#drawAfresh([...this.#drawn, ...slice], null, [0, 0]);
      else this.#drawOver(slice, null);
      return { didDraw: true, wantsMore: true };
    }
    if (this.pendingTiles > 0 || this.#isRefining()) return { didDraw: false, wantsMore: false };
    this.#phase = 'smoothing';
    this.#pass = 0;
    this.#passes = 8;
    this.#queue = [];
    return { didDraw: false, wantsMore: true };
  }

  /** Orders the exact form of what is seen too coarsely. @returns whether any is still to come */
  #isRefining(): boolean {
    let isBusy = false;
    for (const tile of this.#selection) {
      const drawable = this.scene.drawable(tile);
      const wish =
        drawable &&
        fineWish(this.scene.tileset.tiles[tile]!, drawable.fine, this.#view!, this.renderer.getPixelRatio());
      if (!wish) continue;
      this.scene.wantFine(tile, wish.chordError, wish.region);
      isBusy ||= this.scene.isRefining(tile);
    }
    return isBusy;
  }

  /** Whether a tile's coarse lines would show. */
  #needsFine(tile: number): boolean {
    return (
      this.scene.tileset.tiles[tile]!.tolerance >
      (MAX_CHORD_ERROR_PX * this.#view!.camera.unitsPerPx) / this.renderer.getPixelRatio()
    );
  }

  #smooth(nowMs: number): { didDraw: boolean; wantsMore: boolean } {
    if (this.#smoother.isBusy) return { didDraw: false, wantsMore: true };
    if (this.#pass === 1 && this.#queue.length === 0) {
      // the first pass tells how many can be had
      const passes = passesFor(nowMs - this.#passBeganMs);
      if (passes < this.#passes) [this.#passes, this.#pass] = [passes, 0];
    }
    const { viewport } = this.#view!;
    const pixelRatio = this.renderer.getPixelRatio();
    const target = this.#smoother.begin(
      Math.round(viewport.widthPx * pixelRatio),
      Math.round(viewport.heightPx * pixelRatio),
    );
    const all = this.#selection.filter((tile) => this.scene.drawable(tile));
    if (this.#queue.length === 0) {
      this.#queue = all;
      this.#passBeganMs = nowMs;
      const slice = this.#sliceOf(this.#queue);
      this.#queue = this.#queue.slice(slice.length);
      this.#drawAfresh(slice, target, passShift(this.#passes, this.#pass), all);
    } else {
      const slice = this.#sliceOf(this.#queue);
      this.#queue = this.#queue.slice(slice.length);
      this.#drawOver(slice, target);
    }
    if (this.#queue.length > 0) return { didDraw: true, wantsMore: true };
    this.#smoother.add(this.#pass++, this.#passes);
    if (this.#pass < this.#passes) return { didDraw: true, wantsMore: true };
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
    const nearTiles = near.flatMap((tile) => {
      const drawable = this.#isNear(tile) ? scene.drawable(tile) : undefined;
      return drawable ? [{ drawable, body: drawable.lines(this.#needsFine(tile)) }] : [];
    });
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
    const { camera, viewport, hidden, looks } = this.#view!;
    const { renderer, scene } = this;
    const buildUntil = performance.now() + STROKE_BUILD_MS;
    const objects: Object3D[] = [];
    const { styles } = scene.tileset;
    for (const tile of tiles) {
      const drawable = scene.drawable(tile);
      if (!drawable) continue;
      if (!this.#isNear(tile))
        objects.push(...this.#objectsOf(drawable, this.#needsFine(tile), buildUntil, target === null));
      if (target) continue;
      this.#drawn.add(tile);
      this.#counts.tiles++;
      if (looks.texts)
        this.texts.draw(drawable.content.texts, drawable.origin, camera, viewport, renderer.getPixelRatio(), {
          colourOf: (style) => (hidden.has(styles[style]!.layer) ? null : scene.textColour(style)),
        });
      this.#counts.texts = this.texts.drawn;
    }
    renderer.setRenderTarget(target);
    this.#render(objects);
    renderer.setRenderTarget(null);
  }

  #objectsOf(drawable: TileDrawable, useFine: boolean, buildUntilMs: number, counts: boolean): Object3D[] {
    const objects: Object3D[] = [];
    const { origin } = drawable;
    const { target } = this.#view!.camera;
    const shift = new Matrix4().makeTranslation(origin.x - target.x, origin.y - target.y, origin.z - target.z);
    const add = (object: Mesh | LineSegments | null, groups: DrawGroup[]): number => {
      if (!object || groups.length === 0) return 0;
      object.geometry.groups = groups;
      object.matrixWorld.copy(shift);
      objects.push(object);
      return indicesIn(groups);
    };
    const isWide = (style: number): boolean => this.#lookOf(style).toLowerCase().endsWith('stroke');
    const fills = groupRuns(drawable.triangleRuns, (style) => (this.#lookOf(style) === 'hidden' ? -1 : 0));
    const triangles = add(drawable.fills, fills) / 3;
    let segments = 0;
    const body = drawable.lines(useFine);
    const { lineRuns } = body.content;
    const wantsStrokes = lineRuns.some(({ style }) => isWide(style));
    if (wantsStrokes && performance.now() < buildUntilMs) body.buildStrokes();
    const hasStrokes = body.strokes !== null;
    const material = (wide: boolean) => (style: number) => {
      const look = this.#lookOf(style);
      if (look === 'hidden' || wide !== (hasStrokes && isWide(style))) return -1;
      return look.startsWith('dashed') ? 1 : 0;
    };
    const seen = this.#seenFrom(drawable);
    const thin = seen
      ? body.pieces.filter(
          (p) => p.minX <= seen.maxX && p.maxX >= seen.minX && p.minY <= seen.maxY && p.maxY >= seen.minY,
        )
      : lineRuns;
    segments += add(body.hairlines, groupRuns(thin, material(false))) / 2;
    if (hasStrokes && wantsStrokes) {
      add(body.strokes, groupRuns(body.strokeRuns, material(true)));
      segments += indicesIn(groupRuns(lineRuns, material(true))) / 2;
    }
    if (counts) {
      this.#counts.triangles += triangles;
      this.#counts.segments += segments;
    }
    return objects;
  }

  /** What is seen, relative to a tile's origin; null if all of the tile is. */
  #seenFrom({ origin, box }: TileDrawable): Box2 | null {
    const { camera, viewport } = this.#view!;
    const { right, up } = cameraAxes(camera);
    const [w, h] = [(viewport.widthPx / 2) * camera.unitsPerPx, (viewport.heightPx / 2) * camera.unitsPerPx];
    const reachX = w * Math.abs(right.x) + h * Math.abs(up.x);
    const reachY = w * Math.abs(right.y) + h * Math.abs(up.y);
    const [x, y] = [camera.target.x - origin.x, camera.target.y - origin.y];
    const seen = { minX: x - reachX, minY: y - reachY, maxX: x + reachX, maxY: y + reachY };
    const isAll = box.minX >= seen.minX && box.maxX <= seen.maxX && box.minY >= seen.minY && box.maxY <= seen.maxY;
    return isAll ? null : seen;
  }

  #lookOf(style: number): LineLook {
    const { kind, layer, width, dashes } = this.scene.tileset.styles[style]!;
    const { camera, hidden, looks } = this.#view!;
    if (hidden.has(layer) || (kind === 'fill' && !looks.fills)) return 'hidden';
    if (!looks.lineStyles) return 'hairline';
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
    this.scene.materials.fill.uniforms.lineStyles!.value = this.#view!.looks.lineStyles ? 1 : 0;
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
