import {
  OrthographicCamera,
  Quaternion,
  Scene,
  type Object3D,
  type WebGLRenderTarget,
  type WebGLRenderer,
} from 'three';
import { sameCamera, type Camera } from '@gull-pane/core/camera/camera';
import { selectTiles } from '@gull-pane/core/pyramid/select';
import type { DrawingScene } from './drawing-scene';
import { learn, startBudget } from './frame-budget';
import { fineWish } from './fine-wish';
import { NearGeometry } from './near-geometry';
import type { PaneView } from './pane-view';
import { PictureShifter, shiftBetween, type Shift, type Strip } from './picture-shifter';
import type { DrawnCounts, Picture } from './scene';
import { RestSmoother, firstPasses, passShift, passesFor } from './rest-smoother';
import type { TextPainter } from './text-painter';
import type { Work } from './turns';
import type { TilePart } from '../tiles/tile-worker';
import type { TileDrawable } from './tile-drawable';
import { tileObjects } from './tile-objects';
import type { TileShare } from './tile-share';
import { ViewRules } from './view-rules';

/** Time without a move after which a picture is at rest, ms; on a slow machine so many frames. */
const QUIET_MS = 140;
const QUIET_FRAMES = 3;
/** At rest so much may be drawn in all: every object of a px in all but absurd views. Segments and triangles. */
const REST_WEIGHT = 3_000_000;
/** Things larger than this have no stand-ins, however slow the machine: nobody would take those for them. CSS px. */
const COARSEST_PX = 24;
/** From one attempt to keep the pace to the next. */
const COARSER = Math.SQRT2;
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
export class PanePicture implements Picture {
  readonly #camera3 = new OrthographicCamera();
  readonly #scene = new Scene();
  readonly #near: NearGeometry;
  readonly #smoother: RestSmoother;
  readonly #shifter: PictureShifter;
  /** What the picture on the canvas shows: within half a px of the view while it is panned. */
  #shown: Camera | null = null;
  #view: PaneView | null = null;
  #ground: unknown = null;
  #hiddenObjects: unknown = null;
  #phase: Phase = 'idle';
  #movedAtMs = 0;
  /** When the picture was last asked for a frame, whether or not it drew one. */
  #lastLookMs = 0;
  #selection: readonly number[] = [];
  /** The tiles in the picture, with the size down to which things are drawn, drawing units. */
  #drawn = new Map<number, number>();
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
    this.#shifter = new PictureShifter(renderer);
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

  workOn(view: PaneView): Work {
    if (!this.#isSameView(view)) return 'moving';
    // between the last move and the rest nothing is drawn
    return this.#phase === 'moving' ? 'idle' : this.#phase;
  }

  /**
   * Does the next piece of work.
   * @param nowMs one steady clock
   * @returns whether a further frame is wanted; false while waiting for tiles, too: their coming calls for one
   */
  draw(view: PaneView, nowMs: number): { readonly didDraw: boolean; readonly wantsMore: boolean } {
    const { viewport } = view;
    if (viewport.widthPx < 1 || viewport.heightPx < 1) return { didDraw: false, wantsMore: false };
    this.scene.enter(this.id);
    if (!this.#isSameView(view)) {
      const shift = this.#panTo(view);
      if (shift) this.#movePicture(view, shift, nowMs);
      else this.#beginMoving(view, nowMs);
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
    this.scene.enter(this.id);
    this.#view = view;
    this.#ground = this.scene.ground;
    this.#hiddenObjects = this.scene.hiddenObjects(this.id);
    this.#select(REST_WEIGHT);
    const { tiles, smallest } = this.#withinPace(mostWeight);
    this.#drawAfresh(tiles, smallest, null, [0, 0]);
    return this.#counts;
  }

  dispose(): void {
    this.#near.dispose();
    this.#smoother.dispose();
    this.#shifter.dispose();
    this.scene.want(this.id, []);
  }

  #isSameView(view: PaneView): boolean {
    return this.#view !== null && sameCamera(this.#view.camera, view.camera) && this.#isSamePane(view);
  }

  /** Whether a view differs from the last one only by its camera. */
  #isSamePane({ viewport, hiddenLayers, kinds }: PaneView): boolean {
    const last = this.#view;
    return (
      last !== null &&
      last.viewport.widthPx === viewport.widthPx &&
      last.viewport.heightPx === viewport.heightPx &&
      last.hiddenLayers === hiddenLayers &&
      last.kinds === kinds &&
      this.#ground === this.scene.ground &&
      this.#hiddenObjects === this.scene.hiddenObjects(this.id)
    );
  }

  /** How the picture that is there becomes one of a view; null if that is no pan. */
  #panTo(view: PaneView): Shift | null {
    if (!this.#shown || this.#drawn.size === 0 || !this.#isSamePane(view)) return null;
    return shiftBetween(this.#shown, view.camera, view.viewport, this.renderer.getPixelRatio());
  }

  /** Pans: the picture moves as it is, and what comes into sight is drawn beside it. */
  #movePicture(view: PaneView, shift: Shift, nowMs: number): void {
    const before = new Set(this.#selection);
    this.#phase = 'moving';
    this.#movedAtMs = nowMs;
    this.#lastLookMs = -1; // such a frame tells nothing of the pace
    this.#view = view;
    this.#shown = shift.camera;
    this.#select(REST_WEIGHT);
    const { drawn: texts } = this.texts;
    this.#counts = { ...this.#counts, segments: 0, triangles: 0, tiles: 0 };
    this.#shifter.apply(shift);
    this.texts.shift(shift.right, shift.down);
    for (const strip of shift.strips) this.#drawStrip(view, strip, before);
    this.#counts.texts = Math.max(texts, this.texts.drawn);
  }

  /** @param before the tiles that were in sight before: of those the picture may lack some elsewhere */
  #drawStrip(whole: PaneView, { left, top, viewport, camera }: Strip, before: ReadonlySet<number>): void {
    const { renderer } = this;
    const [selection, drawn] = [this.#selection, this.#drawn];
    const pixelRatio = renderer.getPixelRatio();
    const bottom = whole.viewport.heightPx - top - viewport.heightPx;
    this.#view = { ...whole, camera, viewport };
    const smallestPx = 1 / pixelRatio;
    this.#selection = selectTiles(this.scene.tileset.tiles, camera, viewport, { budget: REST_WEIGHT, smallestPx });
    this.#drawn = new Map();
    const { tiles, smallest } = this.#withinPace(this.#budget.weight);
    renderer.setViewport(left, bottom, viewport.widthPx, viewport.heightPx);
    renderer.setScissor(left, bottom, viewport.widthPx, viewport.heightPx);
    renderer.setScissorTest(true);
    const { r, g, b } = this.scene.ground;
    renderer.setClearColor((r << 16) | (g << 8) | b, 1);
    renderer.clear(true, true, false);
    const size = [left, top, viewport.widthPx, viewport.heightPx].map((px) => Math.round(px * pixelRatio));
    const [x, y, width, height] = size as [number, number, number, number];
    this.texts.within(x, y, width, height, () => this.#drawAll(tiles, smallest, null, [0, 0], tiles));
    renderer.setScissorTest(false);
    renderer.setViewport(0, 0, whole.viewport.widthPx, whole.viewport.heightPx);
    for (const [tile, down] of this.#drawn) {
      const known = drawn.get(tile);
      if (known !== undefined) drawn.set(tile, Math.max(known, down));
      else if (!before.has(tile)) drawn.set(tile, down);
    }
    [this.#view, this.#selection, this.#drawn] = [whole, selection, drawn];
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
    this.#hiddenObjects = this.scene.hiddenObjects(this.id);
    this.#select(REST_WEIGHT);
    const { tiles, smallest } = this.#withinPace(this.#budget.weight);
    this.#drawAfresh(tiles, smallest, null, [0, 0]);
  }

  /**
   * As much of the view at rest as the pace allows: the smallest things give way to their stand-ins first.
   * @param mostWeight segments and triangles that may be drawn
   */
  #withinPace(mostWeight: number): { readonly tiles: readonly number[]; readonly smallest: number } {
    const { unitsPerPx } = this.#view!.camera;
    const loaded = this.#selection.filter((tile) => this.scene.drawable(tile));
    for (let smallest = this.#smallestAtRest; ; smallest *= COARSER) {
      const tiles = loaded.filter((tile) => tile === 0 || this.scene.tileset.tiles[tile]!.largest >= smallest);
      const isDrawn = new Set(tiles);
      let weight = 0;
      let prefix = 0;
      for (const tile of tiles) {
        weight += this.scene.drawable(tile)!.costs.of(this.#shareOf(tile, smallest, Infinity, isDrawn));
        if (weight > mostWeight && prefix > 0) break;
        prefix++;
      }
      if (prefix === tiles.length || smallest * COARSER > COARSEST_PX * unitsPerPx)
        return { tiles: tiles.slice(0, prefix), smallest };
    }
  }

  get #smallestAtRest(): number {
    return this.#view!.camera.unitsPerPx / this.renderer.getPixelRatio();
  }

  #shareOf(tile: number, smallest: number, below: number, isDrawn: ReadonlySet<number>): TileShare {
    const { tiles } = this.scene.tileset;
    const { children } = tiles[tile]!;
    const coarsest = COARSEST_PX * this.#view!.camera.unitsPerPx;
    const hasChild = (child: number): boolean =>
      isDrawn.has(children[child]!) || tiles[children[child]!]!.largest > coarsest;
    return { smallest, below, hasChild };
  }

  /** Chooses the tiles of the view at rest and asks for them. */
  #select(budget: number): void {
    const { camera, viewport } = this.#view!;
    const smallestPx = 1 / this.renderer.getPixelRatio();
    this.#selection = selectTiles(this.scene.tileset.tiles, camera, viewport, { budget, smallestPx });
    this.scene.want(this.id, this.#selection);
  }

  #fill(): { didDraw: boolean; wantsMore: boolean } {
    const smallest = this.#smallestAtRest;
    const missing = this.#selection.filter(
      (tile) => (this.#drawn.get(tile) ?? Infinity) > smallest && this.scene.drawable(tile),
    );
    if (missing.length > 0) {
      const slice = this.#sliceOf(missing);
      const isNew = (tile: number): boolean => !this.#drawn.has(tile);
      if (slice.some((tile) => isNew(tile) && this.#rules().isNear(tile)))
        this.#drawAfresh([...this.#drawn.keys(), ...slice.filter(isNew)], smallest, null, [0, 0]);
      else this.#drawOver(slice, smallest, null, this.#selection);
      return { didDraw: true, wantsMore: true };
    }
    if (this.pendingTiles > 0 || this.#isRefining()) return { didDraw: false, wantsMore: false };
    if (this.#shown && !sameCamera(this.#shown, this.#view!.camera)) this.#rewriteTexts();
    this.#phase = 'smoothing';
    this.#pass = 0;
    this.#passes = firstPasses(this.#view!.smoothEdges);
    this.#queue = [];
    return { didDraw: false, wantsMore: true };
  }

  /** Orders the exact form of what is seen too coarsely. @returns whether any is still to come */
  #isRefining(): boolean {
    let isBusy = false;
    for (const tile of this.#selection) {
      const drawable = this.scene.drawable(tile);
      if (!drawable) continue;
      for (const part of ['lines', 'fills'] as const) {
        const entry = this.scene.tileset.tiles[tile]!;
        const wish = fineWish(entry, part, drawable.fine(part, this.id), this.#view!, this.renderer.getPixelRatio());
        if (!wish) continue;
        this.scene.wantFine(this.id, tile, part, wish.chordError, wish.region);
        isBusy ||= this.scene.isRefining(this.id, tile, part);
      }
    }
    return isBusy;
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
      this.#drawAfresh(slice, this.#smallestAtRest, target, passShift(this.#passes, this.#pass), all);
    } else {
      const slice = this.#sliceOf(this.#queue);
      this.#queue = this.#queue.slice(slice.length);
      this.#drawOver(slice, this.#smallestAtRest, target, all);
    }
    if (this.#queue.length > 0) return { didDraw: true, wantsMore: true };
    this.#smoother.add(this.#pass++, this.#passes);
    if (this.#pass < this.#passes) return { didDraw: true, wantsMore: true };
    this.#smoother.present();
    this.#shown = this.#view!.camera;
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

  /**
   * Clears and draws.
   * @param smallest size of the smallest things, drawing units
   * @param all the tiles of the whole picture, if it is drawn in slices
   */
  #drawAfresh(
    tiles: readonly number[],
    smallest: number,
    target: WebGLRenderTarget | null,
    shift: readonly [number, number],
    all: readonly number[] = tiles,
  ): void {
    const { camera, viewport } = this.#view!;
    const { renderer, scene } = this;
    this.#counts = { ...this.#counts, segments: 0, triangles: 0, tiles: 0 };
    if (!target) {
      this.#shown = camera;
      this.texts.clear(viewport, renderer.getPixelRatio());
      this.#drawn = new Map();
      this.#counts.texts = 0;
    }
    renderer.setRenderTarget(target);
    const { r, g, b } = scene.ground;
    renderer.setClearColor((r << 16) | (g << 8) | b, 1);
    renderer.clear(true, true, false);
    this.#drawAll(tiles, smallest, target, shift, all);
  }

  /** Draws on cleared ground. */
  #drawAll(
    tiles: readonly number[],
    smallest: number,
    target: WebGLRenderTarget | null,
    shift: readonly [number, number],
    all: readonly number[],
  ): void {
    const { scene } = this;
    const { camera } = this.#view!;
    const rules = this.#rules();
    this.#aim(shift);
    this.renderer.setRenderTarget(target);
    const nearTiles = all.flatMap((tile) => {
      const drawable = rules.isNear(tile) ? scene.drawable(tile) : undefined;
      if (!drawable) return [];
      const fineFor = this.#fineFor(rules, tile);
      return [
        { origin: drawable.origin, body: drawable.lines(fineFor('lines')), fills: drawable.fills(fineFor('fills')) },
      ];
    });
    const objects = this.#near.build(nearTiles, camera.target, rules.nearClip(), (style) => rules.lookOf(style));
    this.#render(objects);
    this.#counts.segments += this.#near.segments;
    this.#counts.triangles += this.#near.triangles;
    this.#drawOver(tiles, smallest, target, all);
  }

  /**
   * Draws tiles over what is there.
   * @param all the tiles of the whole picture: what isn't among them has stand-ins
   */
  #drawOver(
    tiles: readonly number[],
    smallest: number,
    target: WebGLRenderTarget | null,
    all: readonly number[],
  ): void {
    const { camera, kinds } = this.#view!;
    const { renderer, scene } = this;
    const rules = this.#rules();
    // a picture that stays is right at once; one that moves may be for a moment without width
    const buildUntilMs = target ? Infinity : performance.now() + STROKE_BUILD_MS;
    const mayBuild = (): boolean => performance.now() < buildUntilMs;
    const objects: Object3D[] = [];
    const isDrawn = new Set(all);
    for (const tile of tiles) {
      const drawable = scene.drawable(tile);
      if (!drawable) continue;
      this.#counts.tiles++;
      if (!rules.isNear(tile)) {
        const below = (target ? undefined : this.#drawn.get(tile)) ?? Infinity;
        const share = this.#shareOf(tile, smallest, below, isDrawn);
        const drawn = tileObjects(drawable, camera.target, rules, share, this.#fineFor(rules, tile), mayBuild);
        objects.push(...drawn.objects);
        this.#counts.segments += drawn.segments;
        this.#counts.triangles += drawn.triangles;
      }
      if (target) continue;
      const isNew = !this.#drawn.has(tile);
      this.#drawn.set(tile, smallest);
      if (kinds.texts && isNew) this.#write(drawable, renderer.getPixelRatio());
      this.#counts.texts = this.texts.drawn;
    }
    renderer.setRenderTarget(target);
    this.#render(objects);
    renderer.setRenderTarget(null);
  }

  /** Texts of a picture that was panned by whole pixels, at their exact places. */
  #rewriteTexts(): void {
    const { viewport, kinds } = this.#view!;
    const pixelRatio = this.renderer.getPixelRatio();
    this.texts.clear(viewport, pixelRatio);
    if (!kinds.texts) return;
    for (const tile of this.#selection) {
      const drawable = this.scene.drawable(tile);
      if (!drawable) continue;
      this.#write(drawable, pixelRatio);
    }
    this.#counts = { ...this.#counts, texts: this.texts.drawn };
  }

  #write({ content, origin }: TileDrawable, pixelRatio: number): void {
    const { camera, viewport, hiddenLayers } = this.#view!;
    const { tileset } = this.scene;
    const hiddenObjects = this.scene.hiddenObjects(this.id);
    this.texts.draw(content.texts, origin, camera, viewport, pixelRatio, {
      colourOf: ({ style, object }) =>
        hiddenLayers.has(tileset.styles[style]!.layer) || hiddenObjects?.has(object)
          ? null
          : this.scene.textColour(style),
    });
  }

  /** Whose exact form of a tile is drawn, where the coarse one would show. */
  #fineFor(rules: ViewRules, tile: number): (part: TilePart) => string | null {
    return (part) => (rules.needsFine(tile, part) ? this.id : null);
  }

  #rules(): ViewRules {
    return new ViewRules(
      this.#view!,
      this.scene.tileset,
      this.renderer.getPixelRatio(),
      this.scene.isMostlyHidden(this.id),
    );
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
    const { uniforms } = this.scene.materials.fill;
    uniforms.lineStyles!.value = this.#view!.kinds.lineStyles ? 1 : 0;
    uniforms.transparency!.value = this.#view!.kinds.transparency ? 1 : 0;
  }

  /** The scene is a list in order: fills of all tiles first, since most of them are covered by lines. */
  #render(objects: readonly Object3D[]): void {
    if (objects.length === 0) return;
    this.#scene.children = [...objects].sort((a, b) => rankOf(a) - rankOf(b));
    this.renderer.render(this.#scene, this.#camera3);
    this.#scene.children = [];
  }
}

const rankOf = (object: Object3D): number => ('isLineSegments' in object ? 1 : 0);
