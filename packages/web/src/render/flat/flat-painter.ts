import { OrthographicCamera, Quaternion, Scene, type WebGLRenderer } from 'three';
import { cameraAxes, type Viewport } from '@gull-pane/core/camera/camera';
import { tilesOfLargerThings } from '@gull-pane/core/pyramid/levels';
import type { TilePart } from '../../tiles/tile-worker';
import {
  COARSEST_AT_REST_PX,
  LEAST_LINES_AT_REST,
  LINES_PER_PX_AT_REST,
  STROKE_BUILD_MS,
  WEIGHT_AT_REST,
} from '../budgets';
import type { Batch, PaintedCounts, PanePainter, Share } from '../picture/painter';
import type { PaneView } from '../picture/pane-view';
import { TiledPainter } from '../scene/tiled-painter';
import { fineWish } from './fine-wish';
import type { FlatScene } from './flat-scene';
import { DrawLists } from './batch/draw-lists';
import { inTwoFloats } from './batch/block-store';
import type { FlatBatches, FlatFrame } from './batch/flat-batches';
import { lighterShare, withThingsOf } from './lighter-share';
import { NearGeometry } from './near-geometry';
import { TextPainter } from './text-painter';
import type { TileDrawable } from './tile-drawable';
import { listTile } from './tile-lists';
import type { TileShare } from './tile-share';
import { ViewRules } from './view-rules';

/** Things larger than this are always drawn themselves: a stand-in of that size would look wrong. CSS px. */
const COARSEST_PX = 24;
/** So much of the weight of a view's tiles comes to a line that is drawn of them at rest, about. */
const WEIGHT_PER_LINE = 4;

/** As many lines of a view as can be told apart. */
const linesAtRest = ({ widthPx, heightPx }: Viewport): number =>
  Math.max(LINES_PER_PX_AT_REST * widthPx * heightPx, LEAST_LINES_AT_REST);

/** Paints a flat drawing: depth is the order of painting. */
export class FlatPainter extends TiledPainter<FlatScene> implements PanePainter {
  readonly weightPerSegment = 1;
  readonly replaces = false;
  readonly mayShift = true;
  readonly #camera3 = new OrthographicCamera();
  readonly #scene3 = new Scene();
  readonly #near = new NearGeometry();
  readonly #batches: FlatBatches;
  readonly #texts: TextPainter;
  /** What {@link atRest} found last, and for what. */
  #atRest: { readonly asked: readonly unknown[]; readonly share: Share } | null = null;

  constructor(id: string, scene: FlatScene, renderer: WebGLRenderer, letters: CanvasRenderingContext2D) {
    super(id, scene, renderer);
    this.#batches = scene.borrowBatches(renderer);
    this.#texts = new TextPainter(letters);
    this.#scene3.matrixWorldAutoUpdate = false;
    this.#camera3.matrixWorldAutoUpdate = false;
  }

  /** Tiles of raster pictures. */
  override get pending(): number {
    return this.scene.lacksPictures || this.scene.pictures?.isBusyFor(this.id) ? 1 : 0;
  }

  get texts(): number {
    return this.#texts.drawn;
  }

  looks({ hiddenLayers, kinds }: PaneView): readonly unknown[] {
    const { ground, pictures } = this.scene;
    return [hiddenLayers, kinds, ground, this.scene.hiddenObjects(this.id), pictures?.version];
  }

  restyles(): readonly unknown[] {
    return []; // hiding objects is quick enough to begin anew
  }

  select({ camera, viewport }: PaneView): readonly number[] {
    const rules = { budget: WEIGHT_AT_REST.flat, smallestPx: 1 / this.renderer.getPixelRatio() };
    const larger = { enough: WEIGHT_PER_LINE * linesAtRest(viewport), mostPx: COARSEST_AT_REST_PX.flat };
    return tilesOfLargerThings(this.scene.tileset.tiles, camera, viewport, rules, larger);
  }

  /** Where more lines would be drawn than can be told apart, the smallest things give way to their stand-ins. */
  atRest(view: PaneView, selection: readonly number[]): Share {
    const { camera, viewport } = view;
    const loaded = selection.filter((tile) => this.isThere(tile));
    const pixelRatio = this.renderer.getPixelRatio();
    const asked = [camera, viewport.widthPx, viewport.heightPx, pixelRatio, selection, loaded.length] as const;
    if (this.#atRest?.asked.every((item, k) => item === asked[k])) return this.#atRest.share;
    const enough = linesAtRest(viewport);
    const ofDevicePx = camera.unitsPerPx / pixelRatio;
    const share = this.#lighter(view, loaded, { from: ofDevicePx, upToPx: COARSEST_AT_REST_PX.flat, enough });
    const whole = { ...share, tiles: withThingsOf(loaded, this.#largestOf, share.smallest) };
    this.#atRest = { asked, share: whole };
    return whole;
  }

  within(view: PaneView, selection: readonly number[], mostWeight: number): Share {
    const { tiles, smallest } = this.atRest(view, selection);
    return this.#lighter(view, tiles, { from: smallest, upToPx: COARSEST_PX, enough: mostWeight });
  }

  /**
   * @param from things of this size are drawn if that is possible, drawing units
   * @param upToPx things of this size are drawn in any case
   */
  #lighter(
    view: PaneView,
    tiles: readonly number[],
    { from, upToPx, enough }: { readonly from: number; readonly upToPx: number; readonly enough: number },
  ): Share {
    const weightOf = (tile: number, smallest: number, drawn: ReadonlySet<number>): number =>
      this.scene.body(tile)!.costs.of(this.#shareOf(view, tile, smallest, Infinity, drawn));
    const upTo = upToPx * view.camera.unitsPerPx;
    return lighterShare({ tiles, largestOf: this.#largestOf, weightOf, from, upTo, enough });
  }

  readonly #largestOf = (tile: number): number => this.scene.tileset.tiles[tile]!.largest;

  /** Near tiles are cut to the view and placed anew, all of them together. */
  needsAfresh(view: PaneView, tile: number): boolean {
    return this.#rules(view).isNear(tile);
  }

  rounds(): number {
    return 1;
  }

  begin(): void {
    /* nothing is left over from the view before */
  }

  prepare(): void {
    /* tiles are all there is */
  }

  refine(view: PaneView, selection: readonly number[]): boolean {
    let isBusy = !this.#wantPictures(view);
    for (const tile of selection) {
      const drawable = this.scene.body(tile);
      if (!drawable) continue;
      for (const part of ['lines', 'fills'] as const) {
        const entry = this.scene.tileset.tiles[tile]!;
        const wish = fineWish(entry, part, drawable.fine(part, this.id), view, this.renderer.getPixelRatio());
        if (!wish) continue;
        this.scene.wantFine(this.id, tile, part, wish.chordError, wish.region);
        isBusy ||= this.scene.isRefining(this.id, tile, part);
      }
    }
    return !isBusy;
  }

  clearTexts({ viewport }: PaneView): void {
    this.#texts.clear(viewport, this.renderer.getPixelRatio());
  }

  shiftTexts(right: number, down: number): void {
    this.#texts.shift(right, down);
  }

  rewriteTexts(view: PaneView, selection: readonly number[]): void {
    this.clearTexts(view);
    if (!view.kinds.texts) return;
    for (const tile of selection) {
      const drawable = this.scene.body(tile);
      if (drawable) this.#write(view, drawable);
    }
  }

  draw(batch: Batch): PaintedCounts {
    const { view, tiles, all, target, isFirst, within } = batch;
    const rules = this.#rules(view);
    const lists = new DrawLists();
    let [segments, triangles] = [0, 0];
    this.renderer.setRenderTarget(target);
    if (isFirst) {
      if (!within && !target) this.#wantPictures(view);
      this.#drawPictures(view, batch.shiftPx);
      this.#listNear(lists, view, all, rules);
      [segments, triangles] = [this.#near.segments, this.#near.triangles];
    }
    const counts = this.#listTiles(lists, batch, rules);
    this.#batches.draw(lists, this.#frame(view, batch.shiftPx));
    this.renderer.setRenderTarget(null);
    if (!target && view.kinds.texts) {
      const write = (): void => {
        for (const tile of tiles) {
          const drawable = this.scene.body(tile);
          if (drawable && batch.below(tile) === Infinity) this.#write(view, drawable);
        }
      };
      if (within) this.#texts.within(...within, write);
      else write();
    }
    return { segments: segments + counts.segments, triangles: triangles + counts.triangles, tiles: counts.tiles };
  }

  finish(): void {
    /* nothing lies over the lines */
  }

  dispose(): void {
    this.scene.pictures?.leave(this.id);
    this.#near.dispose();
    this.scene.returnBatches(this.renderer);
  }

  /** @returns whether all that the view shows of raster pictures is there */
  #wantPictures(view: PaneView): boolean {
    const { pictures } = this.scene;
    if (!pictures) return !this.scene.lacksPictures;
    return pictures.want(this.id, view, this.scene.hiddenObjects(this.id), this.renderer.getPixelRatio());
  }

  #drawPictures(view: PaneView, shiftPx: readonly [number, number]): void {
    const { pictures } = this.scene;
    if (!pictures) return;
    const hidden = this.scene.hiddenObjects(this.id);
    const objects = pictures.objects(view, hidden, this.renderer.getPixelRatio(), view.camera.target);
    if (objects.length === 0) return;
    this.#aim(view, shiftPx);
    this.#scene3.children = [...objects];
    this.renderer.render(this.#scene3, this.#camera3);
    this.#scene3.children = [];
  }

  #listNear(lists: DrawLists, view: PaneView, all: readonly number[], rules: ViewRules): void {
    const tiles = all.flatMap((tile) => {
      const drawable = rules.isNear(tile) ? this.scene.body(tile) : undefined;
      if (!drawable) return [];
      const fineFor = this.#fineFor(rules, tile);
      return [
        { origin: drawable.origin, body: drawable.lines(fineFor('lines')), fills: drawable.fills(fineFor('fills')) },
      ];
    });
    const { camera, hiddenLayers, kinds } = view;
    this.#near.list(lists, tiles, {
      middle: camera.target,
      reach: rules.nearReach(),
      isPart: view.pane !== undefined,
      looks: [hiddenLayers, kinds, camera.unitsPerPx, this.renderer.getPixelRatio()],
      lookOf: (style) => rules.lookOf(style),
    });
  }

  #listTiles(lists: DrawLists, batch: Batch, rules: ViewRules): PaintedCounts {
    const { view, tiles, all, smallest, below, target } = batch;
    // a picture that stays is right at once; one that moves may be for a moment without width
    const buildUntilMs = target ? Infinity : performance.now() + STROKE_BUILD_MS;
    const mayBuild = (): boolean => performance.now() < buildUntilMs;
    const isDrawn = new Set(all);
    let [segments, triangles, count] = [0, 0, 0];
    for (const tile of tiles) {
      const drawable = this.scene.body(tile);
      if (!drawable) continue;
      count++;
      if (rules.isNear(tile)) continue;
      const share = this.#shareOf(view, tile, smallest, below(tile), isDrawn);
      const listed = listTile(lists, drawable, rules, share, this.#fineFor(rules, tile), mayBuild);
      segments += listed.segments;
      triangles += listed.triangles;
    }
    return { segments, triangles, tiles: count };
  }

  #frame({ camera, viewport, kinds }: PaneView, [right, up]: readonly [number, number]): FlatFrame {
    const pixelRatio = this.renderer.getPixelRatio();
    const { anchor, styles, depthStep } = this.scene;
    const { target, unitsPerPx } = camera;
    const [halfX, halfY] = [(viewport.widthPx / 2) * unitsPerPx, (viewport.heightPx / 2) * unitsPerPx];
    const axes = cameraAxes(camera);
    return {
      middle: inTwoFloats(target.x - anchor.x, target.y - anchor.y),
      axes: [axes.right.x / halfX, axes.up.x / halfY, axes.right.y / halfX, axes.up.y / halfY],
      shift: [(2 * right) / (pixelRatio * viewport.widthPx), (2 * up) / (pixelRatio * viewport.heightPx)],
      unitsPerPx: unitsPerPx / pixelRatio,
      depthStep,
      lineStyles: kinds.lineStyles,
      transparency: kinds.transparency,
      styles,
      hiddenObjects: this.scene.maskTexture(this.id),
    };
  }

  #shareOf(
    { camera }: PaneView,
    tile: number,
    smallest: number,
    below: number,
    isDrawn: ReadonlySet<number>,
  ): TileShare {
    const { tiles } = this.scene.tileset;
    const { children } = tiles[tile]!;
    const coarsest = COARSEST_PX * camera.unitsPerPx;
    const hasChild = (child: number): boolean =>
      isDrawn.has(children[child]!) || tiles[children[child]!]!.largest > coarsest;
    return { smallest, below, hasChild, unitsPerPx: camera.unitsPerPx / this.renderer.getPixelRatio() };
  }

  #write({ camera, viewport, hiddenLayers }: PaneView, { content, origin }: TileDrawable): void {
    const { styles } = this.scene.tileset;
    const hiddenObjects = this.scene.hiddenObjects(this.id);
    this.#texts.draw(content.texts, origin, camera, viewport, this.renderer.getPixelRatio(), {
      colourOf: ({ style, object }) =>
        hiddenLayers.has(styles[style]!.layer) || hiddenObjects?.has(object) ? null : this.scene.textColour(style),
    });
  }

  /** Whose exact form of a tile is drawn, where the coarse one would show. */
  #fineFor(rules: ViewRules, tile: number): (part: TilePart) => string | null {
    return (part) => (rules.needsFine(tile, part) ? this.id : null);
  }

  #rules(view: PaneView): ViewRules {
    return new ViewRules(view, this.scene.tileset, this.renderer.getPixelRatio(), this.scene.isMostlyHidden(this.id));
  }

  /** For raster pictures. */
  #aim({ camera, viewport }: PaneView, [right, up]: readonly [number, number]): void {
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
  }
}
