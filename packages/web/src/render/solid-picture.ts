import {
  Matrix4,
  OrthographicCamera,
  PerspectiveCamera,
  Quaternion,
  Scene,
  type Object3D,
  type WebGLRenderTarget,
  type WebGLRenderer,
} from 'three';
import { eyeDistance, eyeOf, sameCamera, type Camera } from '@gull-pane/core/camera/camera';
import { depthRange } from '@gull-pane/core/camera/depth-range';
import type { Vec3 } from '@gull-pane/core/geometry/vec';
import { mayRemain, remainsWhole, type ClipVolume } from '@gull-pane/core/clip/clip-volume';
import { selectTiles, sizeSeenIn } from '@gull-pane/core/pyramid/select';
import { ClipCaps } from './clip-caps';
import { learn, startBudget } from './frame-budget';
import { GroundGrid } from './ground-grid';
import type { PaneView } from './pane-view';
import { RestSmoother, firstPasses, passShift, passesFor } from './rest-smoother';
import type { DrawnCounts, Picture } from './scene';
import { shaderClips } from './shader-clips';
import { lookRules } from './solid-materials';
import type { SolidScene } from './solid-scene';
import type { TextPainter } from './text-painter';
import type { Work } from './turns';

/** Time without a move after which a picture is at rest, ms. */
const QUIET_MS = 140;
/** At rest so much may be drawn in all, triangles and edges. */
const REST_WEIGHT = 8_000_000;
/** Edges of things smaller than this would only blacken them, CSS px. */
const SMALLEST_EDGED_PX = 9;
/** Cuts that are made so quickly follow the hand, ms. */
const QUICK_CAPS_MS = 40;
/** Length of a dash of a hidden edge, CSS px. */
const DASH_PX = 3;

/** So many triangles cost what a line of a plan does. */
const TRIANGLES_PER_SEGMENT = 8;

type Phase = 'moving' | 'filling' | 'smoothing' | 'idle';

/** The picture of a solid in one pane. Depth tells what lies before what, so tiles may be drawn in any order. */
export class SolidPicture implements Picture {
  readonly #parallel = new OrthographicCamera();
  readonly #perspective = new PerspectiveCamera();
  readonly #scene = new Scene();
  readonly #smoother: RestSmoother;
  readonly #grid = new GroundGrid();
  #view: PaneView | null = null;
  #changes = -1;
  #phase: Phase = 'idle';
  #movedAtMs = 0;
  #selection: readonly number[] = [];
  readonly #drawn = new Set<number>();
  #queue: number[] = [];
  #pass = 0;
  #passes = 8;
  #passBeganMs = 0;
  /** All surfaces of a pass are there: what lies behind them is drawn. */
  #isBehind = false;
  /** The first pass is shown before the others are made. */
  #showsFirst = false;
  readonly #caps: ClipCaps;
  /** What the caps were made of. */
  #capped: { readonly clips: readonly ClipVolume[]; readonly bodies: number } | null = null;
  #budget = startBudget;
  #counts: DrawnCounts = { segments: 0, triangles: 0, tiles: 0, texts: 0 };

  constructor(
    private readonly id: string,
    private readonly scene: SolidScene,
    private readonly renderer: WebGLRenderer,
    private readonly texts: TextPainter,
  ) {
    this.#smoother = new RestSmoother(renderer);
    this.#caps = new ClipCaps(scene.materials);
    this.#scene.matrixWorldAutoUpdate = false;
    for (const camera of [this.#parallel, this.#perspective]) camera.matrixWorldAutoUpdate = false;
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

  /** Everything that the view wants is there, if not yet with smooth edges. */
  get isComplete(): boolean {
    return this.#phase === 'smoothing' || this.#phase === 'idle';
  }

  invalidate(): void {
    this.#view = null;
  }

  workOn(view: PaneView): Work {
    if (!this.#isSameView(view)) return 'moving';
    // between the last move and the rest nothing is drawn
    return this.#phase === 'moving' ? 'idle' : this.#phase;
  }

  draw(view: PaneView, nowMs: number): { readonly didDraw: boolean; readonly wantsMore: boolean } {
    const { viewport } = view;
    if (viewport.widthPx < 1 || viewport.heightPx < 1) return { didDraw: false, wantsMore: false };
    this.scene.enter(this.id);
    if (this.#isOnlyRestyled(view)) return this.#restyle(view);
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
        return this.#smooth(nowMs);
      case 'idle':
        return { didDraw: false, wantsMore: false };
    }
  }

  drawOnePass(view: PaneView, mostWeight = Infinity): DrawnCounts {
    this.scene.enter(this.id);
    this.#view = view;
    this.#changes = this.scene.changes(this.id);
    this.#select();
    if (this.pendingTiles === 0) this.#capAll();
    this.#layPlan();
    this.#drawAfresh(this.#withinPace(TRIANGLES_PER_SEGMENT * mostWeight), null, [0, 0]);
    return this.#counts;
  }

  dispose(): void {
    this.#smoother.dispose();
    this.#grid.dispose();
    this.#caps.dispose();
    this.scene.want(this.id, []);
  }

  #isSameView(view: PaneView): boolean {
    const last = this.#view;
    return (
      last !== null &&
      sameCamera(last.camera, view.camera) &&
      last.viewport.widthPx === view.viewport.widthPx &&
      last.viewport.heightPx === view.viewport.heightPx &&
      last.look === view.look &&
      last.clips === view.clips &&
      last.sheet === view.sheet &&
      this.#changes === this.scene.changes(this.id)
    );
  }

  /** Whether a picture at rest only shows objects differently: nothing has moved. */
  #isOnlyRestyled(view: PaneView): boolean {
    if (this.#phase !== 'idle' && this.#phase !== 'smoothing') return false;
    const changes = this.#changes;
    if (!this.#view || changes === this.scene.changes(this.id)) return false;
    this.#changes = this.scene.changes(this.id);
    const isSame = this.#isSameView(view);
    if (!isSame) this.#changes = changes;
    return isSame;
  }

  /** Draws the picture anew while the one that is there stays; a first pass is shown as soon as it is complete. */
  #restyle(view: PaneView): { didDraw: boolean; wantsMore: boolean } {
    this.#view = view;
    this.#phase = 'smoothing';
    this.#pass = 0;
    this.#passes = firstPasses(view.smoothEdges);
    this.#queue = [];
    this.#showsFirst = view.smoothEdges;
    return { didDraw: false, wantsMore: true };
  }

  #beginMoving(view: PaneView, nowMs: number): void {
    // only a frame that followed at once tells how long the one before took
    if (this.#phase === 'moving')
      this.#budget = learn(this.#budget, this.#counts.segments + this.#counts.triangles, nowMs - this.#movedAtMs);
    this.#phase = 'moving';
    this.#movedAtMs = nowMs;
    this.#view = view;
    this.#changes = this.scene.changes(this.id);
    this.#select();
    // old cuts would hang in the air; new ones are made at once where that is quick
    if (this.#capped?.clips !== view.clips) {
      if (this.#capped && this.#caps.lastMs < QUICK_CAPS_MS) this.#capAll();
      else this.#uncap();
    }
    this.#drawAfresh(this.#withinPace(this.#budget.weight), null, [0, 0]);
  }

  #select(): void {
    const { camera, viewport } = this.#view!;
    const smallestPx = 1 / this.renderer.getPixelRatio();
    const { clips } = this.#view!;
    const { tiles } = this.scene.tileset;
    this.#selection = selectTiles(tiles, camera, viewport, { budget: REST_WEIGHT, smallestPx }).filter(
      (tile) => clips.length === 0 || mayRemain(clips, tiles[tile]!.centre, tiles[tile]!.halfSize),
    );
    this.scene.want(this.id, this.#selection);
  }

  /** The largest things that the pace allows. */
  #withinPace(mostWeight: number): number[] {
    let weight = 0;
    const chosen: number[] = [];
    for (const tile of this.#selection) {
      if (!this.scene.body(tile)) continue;
      weight += this.scene.tileset.tiles[tile]!.weight;
      if (weight > mostWeight && chosen.length > 0) break;
      chosen.push(tile);
    }
    return chosen;
  }

  /** Makes the cut surfaces of everything that is drawn, unless they are made. */
  #capAll(): void {
    const { clips } = this.#view!;
    const bodies = this.#selection.flatMap((tile) => this.scene.body(tile) ?? []);
    if (this.#capped?.clips === clips && this.#capped.bodies === bodies.length) return;
    this.#caps.make(clips, bodies);
    this.#capped = { clips, bodies: bodies.length };
  }

  #layPlan(): void {
    const { camera, viewport, sheet } = this.#view!;
    sheet?.update(camera, viewport, this.scene.ground);
  }

  #drawPlan(target: WebGLRenderTarget | null): void {
    const plan = this.#view!.sheet?.placed(this.#origin);
    if (!plan) return;
    this.renderer.setRenderTarget(target);
    this.#render([plan]);
    this.renderer.setRenderTarget(null);
  }

  #uncap(): void {
    this.#caps.clear();
    this.#capped = null;
  }

  #fill(): { didDraw: boolean; wantsMore: boolean } {
    const missing = this.#selection.filter((tile) => !this.#drawn.has(tile) && this.scene.body(tile));
    if (missing.length > 0) {
      this.#drawOver(this.#sliceOf(missing), null);
      return { didDraw: true, wantsMore: true };
    }
    if (this.pendingTiles > 0) return { didDraw: false, wantsMore: false };
    this.#capAll();
    this.#layPlan();
    this.#phase = 'smoothing';
    this.#pass = 0;
    this.#passes = firstPasses(this.#view!.smoothEdges);
    this.#queue = [];
    return { didDraw: false, wantsMore: true };
  }

  #smooth(nowMs: number): { didDraw: boolean; wantsMore: boolean } {
    if (this.#smoother.isBusy) return { didDraw: false, wantsMore: true };
    if (this.#pass === 1 && this.#queue.length === 0) {
      // the first pass tells how many can be had
      const passes = passesFor(nowMs - this.#passBeganMs);
      if (passes < this.#passes) [this.#passes, this.#pass] = [passes, 0];
    }
    const { viewport } = this.#view!;
    const ratio = this.renderer.getPixelRatio();
    const target = this.#smoother.begin(Math.round(viewport.widthPx * ratio), Math.round(viewport.heightPx * ratio));
    const isFirst = this.#queue.length === 0;
    if (isFirst) {
      this.#queue = this.#selection.filter((tile) => this.scene.body(tile));
      this.#passBeganMs = nowMs;
      this.#isBehind = false;
    }
    const slice = this.#sliceOf(this.#queue);
    this.#queue = this.#queue.slice(slice.length);
    if (isFirst) this.#drawAfresh(slice, target, passShift(this.#passes, this.#pass));
    else if (this.#isBehind) this.#drawBehind(slice, target);
    else this.#drawOver(slice, target);
    if (this.#queue.length === 0 && !this.#isBehind && lookRules[this.#view!.look].behindAlpha > 0) {
      this.#isBehind = true;
      this.#queue = this.#selection.filter((tile) => this.scene.body(tile));
    }
    if (this.#queue.length > 0) return { didDraw: true, wantsMore: true };
    this.#drawPlan(target);
    if (this.#showsFirst) {
      this.#showsFirst = false;
      this.#smoother.add(0, 1);
      this.#smoother.present();
      return { didDraw: true, wantsMore: true };
    }
    this.#smoother.add(this.#pass++, this.#passes);
    if (this.#pass < this.#passes) return { didDraw: true, wantsMore: true };
    this.#smoother.present();
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

  /** Clears and draws. @param shift of the view, px to the right and up */
  #drawAfresh(tiles: readonly number[], target: WebGLRenderTarget | null, shift: readonly [number, number]): void {
    const { renderer, scene } = this;
    const { viewport } = this.#view!;
    this.#counts = { segments: 0, triangles: 0, tiles: 0, texts: 0 };
    if (!target) {
      this.#drawn.clear();
      this.texts.clear(viewport, renderer.getPixelRatio());
    }
    this.#aim(shift);
    const ratio = renderer.getPixelRatio();
    scene.materials.setFrame(viewport.widthPx * ratio, viewport.heightPx * ratio, DASH_PX * ratio);
    renderer.setRenderTarget(target);
    const { r, g, b } = scene.ground;
    renderer.setClearColor((r << 16) | (g << 8) | b, 1);
    renderer.clear(true, true, false);
    const grid = this.#grid.within(this.#view!, scene.tileset.tiles[0]!, scene.ground);
    place(grid, grid.userData.origin as Vec3, this.#origin);
    this.#render([grid]);
    this.#drawOver(tiles, target);
    if (!target) this.#drawPlan(null);
    if (this.#caps.isEmpty || lookRules[this.#view!.look].surface === 'none') return;
    renderer.setRenderTarget(target);
    this.#render(this.#caps.placed(this.#origin, 'surfaces'));
    this.#render(this.#caps.placed(this.#origin, 'lines'));
    renderer.setRenderTarget(null);
  }

  /** Draws tiles over what is there. */
  #drawOver(tiles: readonly number[], target: WebGLRenderTarget | null): void {
    const { camera, viewport, look, clips } = this.#view!;
    const { renderer, scene } = this;
    scene.materials.clipBy(shaderClips(this.#view!.clips, this.#origin));
    const rule = scene.materials.apply(
      look,
      camera.projection === 'parallel',
      camera.unitsPerPx / renderer.getPixelRatio(),
      eyeDistance(camera, viewport),
    );
    const { materials } = scene;
    const material = materials.surfaceOf(rule);
    const sizePx = sizeSeenIn(camera, viewport);
    const surfaces: Object3D[] = [];
    const edges: Object3D[] = [];
    let [triangles, segments] = [0, 0];
    for (const tile of tiles) {
      const body = scene.body(tile);
      if (!body) continue;
      if (!target) this.#drawn.add(tile);
      const { centre, halfSize } = scene.tileset.tiles[tile]!;
      const isWhole = clips.length === 0 || remainsWhole(clips, centre, halfSize);
      if (body.surface && rule.surface !== 'none') {
        body.surface.material = isWhole ? material : materials.cutOf(material);
        surfaces.push(place(body.surface, body.origin, this.#origin));
        triangles += body.triangles;
      }
      if (!body.edges || !rule.edges || sizePx(scene.tileset.tiles[tile]!) < SMALLEST_EDGED_PX) continue;
      body.edges.material = isWhole ? materials.edges : materials.cutOf(materials.edges);
      edges.push(place(body.edges, body.origin, this.#origin));
      segments += body.segments;
    }
    renderer.setRenderTarget(target);
    this.#render(surfaces);
    this.#render(edges);
    renderer.setRenderTarget(null);
    this.#counts = {
      segments: this.#counts.segments + segments,
      triangles: this.#counts.triangles + triangles,
      tiles: this.#counts.tiles + tiles.length,
      texts: 0,
    };
  }

  /** Draws edges where surfaces lie before them. */
  #drawBehind(tiles: readonly number[], target: WebGLRenderTarget): void {
    const { camera, viewport } = this.#view!;
    const sizePx = sizeSeenIn(camera, viewport);
    const { behind, edges: before } = this.scene.materials;
    const edges = tiles.flatMap((tile) => {
      const body = this.scene.body(tile);
      if (!body?.edges || sizePx(this.scene.tileset.tiles[tile]!) < SMALLEST_EDGED_PX) return [];
      return [place(body.edges, body.origin, this.#origin)];
    });
    const cut = this.scene.materials.cutOf(behind);
    for (const edge of edges) edge.material = edge.material === before ? behind : cut;
    this.renderer.setRenderTarget(target);
    this.#render(edges);
    this.renderer.setRenderTarget(null);
    for (const edge of edges) edge.material = edge.material === behind ? before : this.scene.materials.cutOf(before);
  }

  /** What all is drawn about: differences to it keep large coordinates exact. */
  get #origin(): Vec3 {
    const { camera, viewport } = this.#view!;
    return camera.projection === 'parallel' ? camera.target : eyeOf(camera, viewport);
  }

  #aim([right, up]: readonly [number, number]): void {
    const { camera, viewport } = this.#view!;
    const ratio = this.renderer.getPixelRatio();
    const boxes: { readonly centre: Vec3; readonly halfSize: Vec3 }[] = this.#selection.map(
      (tile) => this.scene.tileset.tiles[tile]!,
    );
    const plan = this.#view!.sheet?.box;
    const { near, far } = depthRange(camera, viewport, plan ? [...boxes, plan] : boxes);
    const camera3 = camera.projection === 'parallel' ? this.#aimParallel(camera) : this.#perspective;
    const { x, y, z, w } = camera.orientation;
    camera3.matrixWorld.makeRotationFromQuaternion(new Quaternion(x, y, z, w));
    camera3.matrixWorldInverse.copy(camera3.matrixWorld).invert();
    camera3.near = near;
    camera3.far = far;
    if (camera3 === this.#perspective) {
      this.#perspective.fov = ((camera.fovRad ?? 1) * 180) / Math.PI;
      this.#perspective.aspect = viewport.widthPx / viewport.heightPx;
    }
    camera3.updateProjectionMatrix();
    // a part of a px, in the frame that runs from −1 to 1
    const [dx, dy] = [(2 * right) / (viewport.widthPx * ratio), (2 * up) / (viewport.heightPx * ratio)];
    camera3.projectionMatrix.premultiply(new Matrix4().makeTranslation(-dx, -dy, 0));
    camera3.projectionMatrixInverse.copy(camera3.projectionMatrix).invert();
  }

  #aimParallel(camera: Camera): OrthographicCamera {
    const { viewport } = this.#view!;
    const [x, y] = [(viewport.widthPx / 2) * camera.unitsPerPx, (viewport.heightPx / 2) * camera.unitsPerPx];
    return Object.assign(this.#parallel, { left: -x, right: x, top: y, bottom: -y });
  }

  #render(objects: readonly Object3D[]): void {
    if (objects.length === 0) return;
    this.#scene.children = [...objects];
    const isParallel = this.#view!.camera.projection === 'parallel';
    this.renderer.render(this.#scene, isParallel ? this.#parallel : this.#perspective);
    this.#scene.children = [];
  }
}

function place<Body extends Object3D>(body: Body, origin: Vec3, about: Vec3): Body {
  const { x, y, z } = origin;
  body.matrixWorld.makeRotationFromQuaternion(body.quaternion).setPosition(x - about.x, y - about.y, z - about.z);
  return body;
}
