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
import { eyeDistance, eyeOf, type Camera } from '@gull-pane/core/camera/camera';
import { depthRange } from '@gull-pane/core/camera/depth-range';
import { cutBy, mayRemain, remainsWhole } from '@gull-pane/core/clip/clip-volume';
import type { Vec3 } from '@gull-pane/core/geometry/vec';
import { tilesAtHand, tilesAtRest } from '@gull-pane/core/pyramid/levels';
import { sizeSeenIn, type SelectionRules } from '@gull-pane/core/pyramid/select';
import {
  COARSEST_AT_REST_PX,
  COARSE_AT_REST_PX,
  ENOUGH_AT_REST,
  QUICK_CAPS_MS,
  TRIANGLES_PER_SEGMENT,
  WEIGHT_AT_REST,
} from '../budgets';
import type { Batch, PaintedCounts, PanePainter, Share } from '../picture/painter';
import type { PaneView } from '../picture/pane-view';
import { TiledPainter } from '../scene/tiled-painter';
import { ClipCaps } from './clip-caps';
import { cutByPlanes } from './cut-materials';
import { GroundGrid } from './ground-grid';
import { shaderClips } from './shader-clips';
import type { SolidBody } from './solid-body';
import { lookRules } from './solid-materials';
import type { SolidScene } from './solid-scene';

/** Edges of things smaller than this would only blacken them, CSS px. */
const SMALLEST_EDGED_PX = 9;
/** Side of a point where nothing else is asked for, CSS px. */
const POINT_PX = 3;
/** Length of a dash of a hidden edge, CSS px. */
const DASH_PX = 3;

type EdgedBody = SolidBody & { readonly edges: NonNullable<SolidBody['edges']> };

/** Paints a solid: depth tells what lies before what. */
export class SolidPainter extends TiledPainter<SolidScene> implements PanePainter {
  readonly weightPerSegment = TRIANGLES_PER_SEGMENT;
  readonly replaces = true;
  readonly mayShift = false;
  /** Nothing is written on a solid. */
  readonly texts = 0;
  readonly #parallel = new OrthographicCamera();
  readonly #perspective = new PerspectiveCamera();
  readonly #scene3 = new Scene();
  readonly #grid = new GroundGrid();
  readonly #caps: ClipCaps;
  /** How far coarse forms of the view may be off at rest, CSS px: no frame of it is finer. */
  #restErrorPx = 0;

  /** @param coarseAtRestPx how far coarse forms may be off at rest, device px; 0 draws every triangle */
  constructor(
    id: string,
    scene: SolidScene,
    renderer: WebGLRenderer,
    private readonly coarseAtRestPx = COARSE_AT_REST_PX,
  ) {
    super(id, scene, renderer);
    this.#caps = new ClipCaps(scene.materials, scene.capLine, () => scene.tell());
    this.#scene3.matrixWorldAutoUpdate = false;
    for (const camera of [this.#parallel, this.#perspective]) camera.matrixWorldAutoUpdate = false;
  }

  looks({ look, clips, sheet, plane, pointPx }: PaneView): readonly unknown[] {
    return [look, clips, sheet, plane, pointPx];
  }

  restyles(): readonly unknown[] {
    return [this.scene.changes(this.id), this.#caps.changes];
  }

  /** Cuts that are being closed. */
  override get pending(): number {
    return this.#caps.isBusy ? 1 : 0;
  }

  select(view: PaneView): readonly number[] {
    const rules = this.#rules(view, WEIGHT_AT_REST.solid);
    const lighter = { enough: ENOUGH_AT_REST, mostErrorPx: this.#mostErrorPx };
    const { tiles, errorPx } = tilesAtRest(this.scene.tileset.tiles, view.camera, view.viewport, rules, lighter);
    this.#restErrorPx = errorPx;
    this.scene.choose(this.id, tiles);
    return tiles;
  }

  /** Coarse forms of what is wanted come first: with them something of everything is there at once. */
  override want(tiles: readonly number[]): void {
    super.want([...this.scene.coarseFormsAbove(tiles), ...tiles]);
  }

  /** A tile is drawn whole or not at all. */
  atRest(_view: PaneView, selection: readonly number[]): Share {
    return { tiles: selection.filter((tile) => this.isThere(tile)), smallest: 0 };
  }

  within(view: PaneView, _selection: readonly number[], mostWeight: number): Share {
    const rules = { ...this.#rules(view, mostWeight), errorPx: this.#restErrorPx };
    const { tiles } = this.scene.tileset;
    const atHand = tilesAtHand(tiles, view.camera, view.viewport, rules, (tile) => this.isThere(tile));
    return { tiles: atHand, smallest: 0 };
  }

  needsAfresh(): boolean {
    return false;
  }

  /** Edges that surfaces cover are drawn when all of these are there. */
  rounds({ look }: PaneView): number {
    return lookRules[look].behindAlpha > 0 ? 2 : 1;
  }

  /** Old cuts would hang in the air; where new ones come quickly they follow the hand. */
  begin(view: PaneView, selection: readonly number[]): void {
    if (this.#caps.areOf(view.clips)) return;
    if (this.#caps.lastMs < QUICK_CAPS_MS) this.#capAll(view, selection);
    else this.#caps.clear();
  }

  prepare(view: PaneView, selection: readonly number[], isWhole: boolean): void {
    if (isWhole) this.#capAll(view, selection);
    view.sheet?.update(view.camera, view.viewport, this.scene.ground);
  }

  refine(): boolean {
    return true; // there are no coarse forms
  }

  clearTexts(): void {
    /* there are none */
  }

  shiftTexts(): void {
    /* there are none */
  }

  rewriteTexts(): void {
    /* there are none */
  }

  draw(batch: Batch): PaintedCounts {
    const { view, target, isFirst } = batch;
    const origin = originOf(view);
    this.#aim(view, batch.selection, batch.shiftPx);
    this.#setFrame(view, origin);
    this.renderer.setRenderTarget(target);
    if (isFirst && !view.withoutGrid) {
      const grid = this.#grid.within(view, this.scene.tileset.tiles[0]!, this.scene.ground);
      this.#render(view, [place(grid, grid.userData.origin as Vec3, origin)]);
    }
    const counts = batch.round === 0 ? this.#drawTiles(batch, origin) : this.#drawBehind(batch, origin);
    if (isFirst) {
      if (!target) this.#drawSheet(view, origin);
      if (lookRules[view.look].surface !== 'none')
        for (const part of ['surfaces', 'lines'] as const) this.#render(view, this.#caps.placed(origin, part));
    }
    this.renderer.setRenderTarget(null);
    return counts;
  }

  finish(view: PaneView, target: WebGLRenderTarget): void {
    this.renderer.setRenderTarget(target);
    this.#drawSheet(view, originOf(view));
    this.renderer.setRenderTarget(null);
  }

  dispose(): void {
    this.#grid.dispose();
    this.#caps.dispose();
  }

  /** Orders the cut surfaces of everything that is drawn. */
  #capAll({ clips }: PaneView, selection: readonly number[]): void {
    this.#caps.order(
      clips,
      selection.flatMap((tile) => this.scene.body(tile) ?? []),
    );
  }

  #drawSheet(view: PaneView, origin: Vec3): void {
    const sheet = view.sheet?.placed(origin);
    if (sheet) this.#render(view, [sheet]);
  }

  /** The drawing's panes share its materials. */
  #setFrame(view: PaneView, origin: Vec3): void {
    const { camera, viewport, look, clips, pointPx = POINT_PX } = view;
    const { materials } = this.scene;
    const ratio = this.renderer.getPixelRatio();
    materials.setFrame(viewport.widthPx * ratio, viewport.heightPx * ratio, DASH_PX * ratio);
    materials.setPoints(pointPx * ratio);
    materials.showObjects(this.scene.objectStates(this.id));
    materials.clipBy(shaderClips(clips, origin), this.renderer);
    const isParallel = camera.projection === 'parallel';
    materials.apply(look, isParallel, camera.unitsPerPx / ratio, eyeDistance(camera, viewport));
  }

  #drawTiles({ view, tiles }: Batch, origin: Vec3): PaintedCounts {
    const { materials } = this.scene;
    const rule = lookRules[view.look];
    const material = materials.surfaceOf(rule);
    const hasEdges = this.#hasEdges(view);
    const surfaces: Object3D[] = [];
    const edges: Object3D[] = [];
    const points: Object3D[] = [];
    let [triangles, segments] = [0, 0];
    for (const tile of tiles) {
      const body = this.scene.body(tile);
      if (!body) continue;
      const which = this.#cutBy(view, tile);
      if (body.surface && rule.surface !== 'none') {
        body.surface.material = materials.cutOf(material, which);
        surfaces.push(place(body.surface, body.origin, origin));
        triangles += body.triangles;
      }
      if (body.points) {
        body.points.material = materials.cutOf(materials.points, which);
        points.push(place(body.points, body.origin, origin));
      }
      if (!rule.edges || !hasEdges(tile, body)) continue;
      body.edges.material = materials.cutOf(materials.edges, which);
      edges.push(place(body.edges, body.origin, origin));
      segments += body.segments;
    }
    this.#render(view, surfaces);
    this.#render(view, points);
    this.#render(view, edges);
    return { segments, triangles, tiles: tiles.length };
  }

  /** Draws edges where surfaces lie before them. */
  #drawBehind({ view, tiles }: Batch, origin: Vec3): PaintedCounts {
    const { materials } = this.scene;
    const hasEdges = this.#hasEdges(view);
    const edges = tiles.flatMap((tile) => {
      const body = this.scene.body(tile);
      if (!body || !hasEdges(tile, body)) return [];
      body.edges.material = materials.cutOf(materials.behind, this.#cutBy(view, tile));
      return [place(body.edges, body.origin, origin)];
    });
    this.#render(view, edges);
    return { segments: 0, triangles: 0, tiles: 0 };
  }

  /** How far coarse forms may be off in a large view at rest, CSS px. */
  get #mostErrorPx(): number {
    return COARSEST_AT_REST_PX.solid / this.renderer.getPixelRatio();
  }

  /** A tile that is cut open is never coarser than it may be at rest, also while moving. */
  #rules(view: PaneView, budget: number): SelectionRules {
    const ratio = this.renderer.getPixelRatio();
    return {
      budget,
      smallestPx: 1 / ratio,
      errorPx: this.coarseAtRestPx / ratio,
      mostErrorPxOf: (tile) => (this.#isWhole(view, tile) ? Infinity : this.#mostErrorPx),
      isGone: (tile) => !this.#remains(view, tile),
    };
  }

  /** Whether clips leave anything of a tile. */
  #remains({ clips }: PaneView, tile: number): boolean {
    const { centre, halfSize } = this.scene.tileset.tiles[tile]!;
    return clips.length === 0 || mayRemain(clips, centre, halfSize);
  }

  /** Whether no clip cuts a tile. */
  #isWhole({ clips }: PaneView, tile: number): boolean {
    const { centre, halfSize } = this.scene.tileset.tiles[tile]!;
    return clips.length === 0 || remainsWhole(clips, centre, halfSize);
  }

  /** Which clips cut a tile, as bits. */
  #cutBy({ clips }: PaneView, tile: number): number {
    const { centre, halfSize } = this.scene.tileset.tiles[tile]!;
    return clips.length === 0 ? 0 : cutBy(clips, centre, halfSize);
  }

  /** Whether a tile's edges are drawn: they are there, and its things aren't too small. */
  #hasEdges({ camera, viewport }: PaneView): (tile: number, body: SolidBody) => body is EdgedBody {
    const sizePx = sizeSeenIn(camera, viewport);
    const { tiles } = this.scene.tileset;
    return (tile, body): body is EdgedBody => body.edges !== null && sizePx(tiles[tile]!) >= SMALLEST_EDGED_PX;
  }

  #aim(
    { camera, viewport, sheet }: PaneView,
    selection: readonly number[],
    [right, up]: readonly [number, number],
  ): void {
    const ratio = this.renderer.getPixelRatio();
    const boxes: { readonly centre: Vec3; readonly halfSize: Vec3 }[] = selection.map(
      (tile) => this.scene.tileset.tiles[tile]!,
    );
    const { near, far } = depthRange(camera, viewport, sheet?.box ? [...boxes, sheet.box] : boxes);
    const camera3 = this.#cameraOf(camera);
    const { x, y, z, w } = camera.orientation;
    camera3.matrixWorld.makeRotationFromQuaternion(new Quaternion(x, y, z, w));
    camera3.matrixWorldInverse.copy(camera3.matrixWorld).invert();
    camera3.near = near;
    camera3.far = far;
    if (camera3 === this.#parallel) {
      const [halfX, halfY] = [(viewport.widthPx / 2) * camera.unitsPerPx, (viewport.heightPx / 2) * camera.unitsPerPx];
      Object.assign(camera3, { left: -halfX, right: halfX, top: halfY, bottom: -halfY });
    } else {
      this.#perspective.fov = ((camera.fovRad ?? 1) * 180) / Math.PI;
      this.#perspective.aspect = viewport.widthPx / viewport.heightPx;
    }
    camera3.updateProjectionMatrix();
    // a part of a px, in the frame that runs from −1 to 1
    const [dx, dy] = [(2 * right) / (viewport.widthPx * ratio), (2 * up) / (viewport.heightPx * ratio)];
    camera3.projectionMatrix.premultiply(new Matrix4().makeTranslation(-dx, -dy, 0));
    camera3.projectionMatrixInverse.copy(camera3.projectionMatrix).invert();
  }

  #render({ camera }: PaneView, objects: readonly Object3D[]): void {
    if (objects.length === 0) return;
    this.#scene3.children = [...objects];
    this.renderer.render(this.#scene3, this.#cameraOf(camera));
    this.#scene3.children = [];
    cutByPlanes(this.renderer, 0);
  }

  #cameraOf({ projection }: Camera): OrthographicCamera | PerspectiveCamera {
    return projection === 'parallel' ? this.#parallel : this.#perspective;
  }
}

/** What all is drawn about: differences to it keep large coordinates exact. */
const originOf = ({ camera, viewport }: PaneView): Vec3 =>
  camera.projection === 'parallel' ? camera.target : eyeOf(camera, viewport);

function place<Body extends Object3D>(body: Body, origin: Vec3, about: Vec3): Body {
  const { x, y, z } = origin;
  body.matrixWorld.makeRotationFromQuaternion(body.quaternion).setPosition(x - about.x, y - about.y, z - about.z);
  return body;
}
