import type { WebGLRenderTarget, WebGLRenderer } from 'three';
import { sameCamera, type Camera } from '@gull-pane/core/camera/camera';
import { QUIET_FRAMES, QUIET_MS, REPLACE_EVERY_MS } from '../budgets';
import { learn, startBudget } from './frame-budget';
import type { Batch, PanePainter, Share } from './painter';
import type { PaneView } from './pane-view';
import type { Drawn, DrawnCounts, Picture } from './picture';
import { PictureShifter, shiftBetween, type Shift, type Strip } from './picture-shifter';
import { RestSmoother, firstPasses, passShift, passesFor } from './rest-smoother';
import type { Work } from './turns';

type Phase =
  /** The view has just changed: a share of the tiles that keeps the pace. */
  | 'moving'
  /** Tiles of the view at rest are added as they come, a slice a frame. */
  | 'filling'
  /** All is there: shifted passes are averaged. */
  | 'smoothing'
  | 'idle';

/** How a view differs from the one that is being drawn; each kind includes those before it. */
type Change = 'none' | 'restyled' | 'camera' | 'all';

/** What is being drawn. */
interface Begun {
  readonly view: PaneView;
  readonly looks: readonly unknown[];
  readonly restyles: readonly unknown[];
}

/** A canvas of nothing but ground, or a picture that is drawn over. */
interface Onto extends Pick<Batch, 'target' | 'shiftPx' | 'round'> {
  readonly all: readonly number[];
}

const waiting: Drawn = { didDraw: false, wantsMore: false };
const later: Drawn = { didDraw: false, wantsMore: true };
const working: Drawn = { didDraw: true, wantsMore: true };

/** When what is drawn of a pane's picture; how is for its painter to say. */
export class ProgressivePicture implements Picture {
  readonly #smoother: RestSmoother;
  readonly #shifter: PictureShifter;
  #begun: Begun | null = null;
  /** What the picture on the canvas shows: within half a px of the view while it is panned. */
  #shown: Camera | null = null;
  #phase: Phase = 'idle';
  #movedAtMs = 0;
  /** When a picture of what was at hand was drawn last. */
  #replacedAtMs = 0;
  /** When the picture was last asked for a frame, whether or not it drew one. */
  #lastLookMs = 0;
  #selection: readonly number[] = [];
  /** The tiles in the picture, with the size down to which things are drawn, drawing units. */
  #drawn = new Map<number, number>();
  /** What a pass has still to draw in this round. */
  #queue: readonly number[] = [];
  #round = 0;
  #pass = 0;
  #passes = 8;
  #passBeganMs = 0;
  /** The first pass is shown before the others are made. */
  #showsFirst = false;
  /** What was summed up is to be shown as soon as it is done. */
  #presents = false;
  #budget = startBudget;
  #counts: DrawnCounts = { segments: 0, triangles: 0, tiles: 0, texts: 0 };

  constructor(
    private readonly painter: PanePainter,
    private readonly renderer: WebGLRenderer,
  ) {
    this.#smoother = new RestSmoother(renderer);
    this.#shifter = new PictureShifter(renderer);
  }

  get counts(): DrawnCounts {
    return this.#counts;
  }

  get frameMs(): number {
    return this.#budget.frameMs;
  }

  get pendingTiles(): number {
    return this.#selection.filter((tile) => this.painter.isAwaited(tile)).length + this.painter.pending;
  }

  get isSettled(): boolean {
    return this.#phase === 'idle' && this.#begun !== null;
  }

  get isWhole(): boolean {
    return (this.#phase === 'idle' || this.#phase === 'smoothing') && this.#begun !== null;
  }

  invalidate(): void {
    this.#begun = null;
  }

  workOn(view: PaneView): Work {
    if (this.#changeTo(view) !== 'none') return 'moving';
    // between the last move and the rest nothing is drawn
    return this.#phase === 'moving' ? 'idle' : this.#phase;
  }

  draw(view: PaneView, nowMs: number): Drawn {
    const { widthPx, heightPx } = view.viewport;
    if (widthPx < 1 || heightPx < 1) return waiting;
    const change = this.#changeTo(view);
    this.#learn(nowMs);
    if (change === 'restyled' && (this.#phase === 'idle' || this.#phase === 'smoothing')) {
      this.#take(view);
      return this.#beginSmoothing(view, view.smoothEdges);
    }
    if (change !== 'none') {
      const shift = change === 'camera' ? this.#shiftTo(view) : null;
      if (shift) this.#movePicture(view, shift, nowMs);
      else this.#beginMoving(view, nowMs);
      return working;
    }
    this.#lastLookMs = nowMs;
    switch (this.#phase) {
      case 'moving':
        if (nowMs - this.#movedAtMs < Math.max(QUIET_MS, QUIET_FRAMES * this.frameMs)) return later;
        this.#phase = 'filling';
        return this.#fill(view, nowMs);
      case 'filling':
        return this.#fill(view, nowMs);
      case 'smoothing':
        return this.#smooth(view, nowMs);
      case 'idle':
        return waiting;
    }
  }

  drawOnePass(view: PaneView, mostWeight = Infinity): DrawnCounts {
    const { painter } = this;
    this.#take(view);
    this.#select(view);
    painter.prepare(view, this.#selection, this.pendingTiles === 0);
    const share = painter.within(view, this.#selection, painter.weightPerSegment * mostWeight);
    this.#drawAfresh(view, share);
    return this.#counts;
  }

  dispose(): void {
    this.#smoother.dispose();
    this.#shifter.dispose();
    this.painter.want([]);
    this.painter.dispose();
  }

  #changeTo(view: PaneView): Change {
    const last = this.#begun;
    if (!last || !sameSize(last.view, view) || !sameItems(last.looks, this.painter.looks(view))) return 'all';
    if (!sameCamera(last.view.camera, view.camera)) return 'camera';
    const isSame = last.view.smoothEdges === view.smoothEdges && sameItems(last.restyles, this.painter.restyles());
    return isSame ? 'none' : 'restyled';
  }

  #take(view: PaneView): void {
    this.#begun = { view, looks: this.painter.looks(view), restyles: this.painter.restyles() };
  }

  #select(view: PaneView): void {
    this.#selection = this.painter.select(view);
    this.painter.want(this.#selection);
  }

  /** The first look after a moving frame comes as soon as that is drawn, and tells how long it took. */
  #learn(nowMs: number): void {
    if (this.#phase !== 'moving' || this.#lastLookMs !== this.#movedAtMs) return;
    const { segments, triangles } = this.#counts;
    this.#budget = learn(this.#budget, segments + triangles, nowMs - this.#movedAtMs);
  }

  #beginMoving(view: PaneView, nowMs: number): void {
    this.#phase = 'moving';
    this.#movedAtMs = this.#lastLookMs = nowMs;
    this.#take(view);
    this.#select(view);
    this.painter.begin(view, this.#selection);
    this.#drawAfresh(view, this.painter.within(view, this.#selection, this.#budget.weight));
  }

  /** How the picture that is there becomes one of a view; null if that is no pan. */
  #shiftTo(view: PaneView): Shift | null {
    if (!this.painter.mayShift || !this.#shown || this.#drawn.size === 0) return null;
    return shiftBetween(this.#shown, view.camera, view.viewport, this.renderer.getPixelRatio());
  }

  /** Pans: the picture moves as it is, and what comes into sight is drawn beside it. */
  #movePicture(view: PaneView, shift: Shift, nowMs: number): void {
    const before = new Set(this.#selection);
    this.#phase = 'moving';
    this.#movedAtMs = nowMs;
    this.#lastLookMs = -1; // such a frame tells nothing of the pace
    this.#take(view);
    this.#shown = shift.camera;
    this.#select(view);
    this.#counts = { ...this.#counts, segments: 0, triangles: 0, tiles: 0 };
    this.#shifter.apply(shift);
    this.painter.shiftTexts(shift.right, shift.down);
    for (const strip of shift.strips) this.#drawStrip(view, strip, before);
  }

  /** @param before the tiles that were in sight before: of those the picture may lack some elsewhere */
  #drawStrip(whole: PaneView, { left, top, viewport, camera }: Strip, before: ReadonlySet<number>): void {
    const { renderer, painter } = this;
    const view = { ...whole, camera, viewport, pane: whole.viewport };
    const selection = painter.select(view);
    const { tiles, smallest } = painter.within(view, selection, this.#budget.weight);
    const { widthPx, heightPx } = viewport;
    const bottom = whole.viewport.heightPx - top - heightPx;
    renderer.setViewport(left, bottom, widthPx, heightPx);
    renderer.setScissor(left, bottom, widthPx, heightPx);
    renderer.setScissorTest(true);
    this.#clear(null);
    const pixelRatio = renderer.getPixelRatio();
    const toDevice = (px: number): number => Math.round(px * pixelRatio);
    const counts = painter.draw({
      view,
      tiles,
      selection,
      smallest,
      all: tiles,
      below: () => Infinity,
      target: null,
      shiftPx: [0, 0],
      round: 0,
      isFirst: true,
      within: [toDevice(left), toDevice(top), toDevice(widthPx), toDevice(heightPx)],
    });
    this.#count(counts);
    renderer.setScissorTest(false);
    renderer.setViewport(0, 0, whole.viewport.widthPx, whole.viewport.heightPx);
    for (const tile of tiles) {
      const known = this.#drawn.get(tile);
      if (known !== undefined) this.#drawn.set(tile, Math.max(known, smallest));
      else if (!before.has(tile)) this.#drawn.set(tile, smallest);
    }
  }

  #fill(view: PaneView, nowMs: number): Drawn {
    const { painter } = this;
    if (painter.replaces) return this.#replace(view, nowMs);
    const { tiles, smallest } = painter.atRest(view, this.#selection);
    const missing = tiles.filter((tile) => (this.#drawn.get(tile) ?? Infinity) > smallest);
    if (missing.length > 0) {
      const slice = this.#sliceOf(missing);
      const fresh = slice.filter((tile) => !this.#drawn.has(tile));
      if (fresh.some((tile) => painter.needsAfresh(view, tile)))
        this.#drawAfresh(view, { tiles: [...this.#drawn.keys(), ...fresh], smallest });
      else this.#drawOver(view, { tiles: slice, smallest });
      return working;
    }
    if (this.pendingTiles > 0 || !painter.refine(view, this.#selection)) return waiting;
    if (this.#shown && !sameCamera(this.#shown, view.camera)) painter.rewriteTexts(view, this.#selection);
    painter.prepare(view, this.#selection, true);
    return this.#beginSmoothing(view, false);
  }

  /** Shows what is at hand until all is there, then the picture at rest. */
  #replace(view: PaneView, nowMs: number): Drawn {
    const { painter } = this;
    if (this.pendingTiles === 0) {
      painter.prepare(view, this.#selection, true);
      // what was ordered begins the picture anew when it is there
      return painter.pending > 0 ? waiting : this.#beginSmoothing(view, true);
    }
    const share = painter.within(view, this.#selection, this.#budget.weight);
    if (share.tiles.length === this.#drawn.size && share.tiles.every((tile) => this.#drawn.has(tile))) return waiting;
    if (nowMs - this.#replacedAtMs < REPLACE_EVERY_MS) return later;
    this.#replacedAtMs = nowMs;
    this.#drawAfresh(view, share);
    return working;
  }

  /** @param showsFirst the picture that is there is replaced as soon as one pass is complete */
  #beginSmoothing(view: PaneView, showsFirst: boolean): Drawn {
    this.#phase = 'smoothing';
    this.#pass = 0;
    this.#passes = firstPasses(view.smoothEdges);
    this.#queue = [];
    this.#showsFirst = showsFirst;
    this.#presents = false;
    return later;
  }

  #smooth(view: PaneView, nowMs: number): Drawn {
    if (this.#smoother.isBusy) return later;
    if (this.#presents) return this.#present(view);
    const { painter } = this;
    const target = this.#smoother.begin(...this.#deviceSize(view));
    const { tiles: all, smallest } = painter.atRest(view, this.#selection);
    const begins = this.#queue.length === 0;
    if (begins) {
      if (this.#pass === 1) {
        // the time of the first pass decides how many follow
        const passes = passesFor(nowMs - this.#passBeganMs);
        if (passes < this.#passes) [this.#passes, this.#pass] = [passes, 0];
      }
      this.#passBeganMs = nowMs;
      this.#round = 0;
      this.#queue = all;
    }
    const tiles = this.#sliceOf(this.#queue);
    this.#queue = this.#queue.slice(tiles.length);
    const share = { tiles, smallest };
    const onto = { target, shiftPx: passShift(this.#passes, this.#pass), all, round: this.#round };
    if (begins) this.#drawAfresh(view, share, onto);
    else this.#drawOver(view, share, onto);
    if (this.#queue.length === 0 && ++this.#round < painter.rounds(view)) this.#queue = all;
    if (this.#queue.length > 0) {
      this.#smoother.watch();
      return working;
    }
    painter.finish(view, target);
    if (this.#showsFirst) this.#smoother.add(0, 1);
    else this.#smoother.add(this.#pass++, this.#passes);
    this.#presents = this.#showsFirst || this.#pass === this.#passes;
    return working;
  }

  /** Shows what is summed up. The first pass that was shown by itself is made again with the others. */
  #present(view: PaneView): Drawn {
    this.#presents = false;
    this.#smoother.present();
    if (this.#showsFirst) {
      this.#showsFirst = false;
      return working;
    }
    this.#shown = view.camera;
    this.#phase = 'idle';
    return { didDraw: true, wantsMore: false };
  }

  #deviceSize({ viewport }: PaneView): [width: number, height: number] {
    const pixelRatio = this.renderer.getPixelRatio();
    return [Math.round(viewport.widthPx * pixelRatio), Math.round(viewport.heightPx * pixelRatio)];
  }

  /** As many of the tiles as one frame should draw. */
  #sliceOf(tiles: readonly number[]): number[] {
    let weight = 0;
    const slice: number[] = [];
    for (const tile of tiles) {
      weight += this.painter.weightOf(tile);
      if (weight > this.#budget.weight && slice.length > 0) break;
      slice.push(tile);
    }
    return slice;
  }

  #drawAfresh(view: PaneView, share: Share, onto: Onto = onCanvas(share.tiles)): void {
    this.#counts = { ...this.#counts, segments: 0, triangles: 0, tiles: 0 };
    if (!onto.target) {
      this.#shown = view.camera;
      this.#drawn.clear();
      this.painter.clearTexts(view);
    }
    this.#clear(onto.target);
    this.#draw(view, share, onto, true);
  }

  /** Draws tiles over what is there. */
  #drawOver(view: PaneView, share: Share, onto: Onto = onCanvas(this.#selection)): void {
    this.#draw(view, share, onto, false);
  }

  #draw(view: PaneView, { tiles, smallest }: Share, onto: Onto, isFirst: boolean): void {
    const below = (tile: number): number => (onto.target ? undefined : this.#drawn.get(tile)) ?? Infinity;
    const batch = { view, tiles, selection: this.#selection, smallest, below, isFirst, within: null, ...onto };
    this.#count(this.painter.draw(batch));
    if (!onto.target) for (const tile of tiles) if (this.painter.isThere(tile)) this.#drawn.set(tile, smallest);
  }

  #count({ segments, triangles, tiles }: Omit<DrawnCounts, 'texts'>): void {
    const before = this.#counts;
    this.#counts = {
      segments: before.segments + segments,
      triangles: before.triangles + triangles,
      tiles: before.tiles + tiles,
      texts: this.painter.texts,
    };
  }

  #clear(target: WebGLRenderTarget | null): void {
    const { r, g, b } = this.painter.ground;
    this.renderer.setRenderTarget(target);
    this.renderer.setClearColor((r << 16) | (g << 8) | b, 1);
    this.renderer.clear(true, true, false);
  }
}

const onCanvas = (all: readonly number[]): Onto => ({ all, target: null, shiftPx: [0, 0], round: 0 });

const sameSize = (a: PaneView, b: PaneView): boolean =>
  a.viewport.widthPx === b.viewport.widthPx && a.viewport.heightPx === b.viewport.heightPx;

const sameItems = (a: readonly unknown[], b: readonly unknown[]): boolean =>
  a.length === b.length && a.every((item, index) => item === b[index]);
