import type { DataTexture } from 'three';
import { inForce, isKept, type ClipVolume } from '@gull-pane/core/clip/clip-volume';
import { eyeDistance, worldToScreen, type Camera, type Viewport } from '@gull-pane/core/camera/camera';
import { meetBox, type ScreenBox } from '@gull-pane/core/pick/solid-box';
import { sightThrough, type Sight } from '@gull-pane/core/camera/projection';
import type { Colour } from '@gull-pane/core/drawing/model';
import type { ObjectMask } from '@gull-pane/core/drawing/object-mask';
import { add3, length3, sub3, type Vec2, type Vec3 } from '@gull-pane/core/geometry/vec';
import { hitPoints, hitTile, slabTest, type SightWidth, type SurfaceHit } from '@gull-pane/core/solid/sight-hit';
import { RUN } from '@gull-pane/core/solid/solid-tile';
import type { DrawingDto } from '@gull-pane/protocol/drawings';
import type { SolidTable } from '@gull-pane/protocol/solid-table';
import type { TilesetJson } from '@gull-pane/protocol/tileset';
import type { FromLoader, Loader, ToLoader } from '../../tiles/tile-cache';
import { buffersOfSolid, type SolidTileContent } from '../../tiles/solid-tile-content';
import { readTileset } from '@gull-pane/protocol/read-tileset';
import { CACHED_BYTES } from '../budgets';
import { ObjectState, ObjectTexture } from './object-texture';
import type { Surface } from '@gull-pane/core/pick/surface';
import { paneOf } from '../scene/scene';
import { TiledScene } from '../scene/tiled-scene';
import { WorkerLine } from '../../basics/worker-line';
import type { CapCalls } from './cap-calls';
import { startCapWorker } from './start-cap-worker';
import { cornersOf, loadedOf } from './exact-corners';
import { ShownLevels } from './shown-levels';
import { SolidBody } from './solid-body';
import { SolidMaterials } from './solid-materials';

/** Which objects stand out. */
export interface Marked {
  readonly hiddenLayers: ReadonlySet<number>;
  readonly picked: ReadonlySet<number>;
  readonly hovered: number | null;
  /** Nothing but what is picked shows, for now. */
  readonly isAlone: boolean;
  /** What stands before something that is looked at. */
  readonly faded: ReadonlySet<number>;
}

/** Things that stand one behind the other before a place: more aren't looked at. */
const MOST_BEFORE = 200;
/** It is looked for at so many places across and along the part of the pane that the objects take. */
const PLACES_A_SIDE = 16;

/** So near a point must be to be pointed at, CSS px. */
const POINT_REACH_PX = 6;
/** How a pane shows the objects. */
interface PaneObjects {
  readonly states: ObjectTexture;
  mask: ObjectMask | null;
  marked: Marked;
  changes: number;
}

const unmarked: Marked = {
  hiddenLayers: new Set(),
  picked: new Set(),
  faded: new Set(),
  hovered: null,
  isAlone: false,
};

/** What the panes of a solid share: its tiles, and how each pane shows its objects. */
export class SolidScene extends TiledScene<SolidTileContent, SolidBody> {
  readonly kind = 'solid';
  readonly materials: SolidMaterials;
  /** To the worker that closes cuts. */
  readonly capLine = new WorkerLine<CapCalls>(startCapWorker);
  readonly #levels: ShownLevels;
  /** How each pane shows the objects. */
  readonly #shown = new Map<string, PaneObjects>();
  #changes = 0;

  constructor(
    drawing: DrawingDto,
    json: TilesetJson,
    private readonly table: SolidTable,
    ground: Colour,
    startWorker: () => Loader<ToLoader, FromLoader<SolidTileContent>>,
  ) {
    super({
      drawingId: drawing.id,
      tileset: readTileset(json),
      ground,
      loader: startWorker(),
      buffersOf: buffersOfSolid,
      maxBytes: CACHED_BYTES.solid,
    });
    this.#levels = new ShownLevels(this.tileset.tiles);
    this.materials = new SolidMaterials(this.#objectsOf('').states.texture, table.materials);
    this.materials.setGround(ground);
  }

  /** Rises whenever objects or colours are shown differently in a pane. */
  changes(picture: string): number {
    return this.#changes + this.#objectsOf(paneOf(picture)).changes;
  }

  setGround(ground: Colour): void {
    this.paper = ground;
    this.materials.setGround(ground);
    this.#changes++;
  }

  /** A picture shows these tiles at rest. */
  choose(picture: string, tiles: readonly number[]): void {
    this.#levels.choose(picture, tiles);
  }

  /** The coarse forms that stand for some tiles and others, the coarsest first. */
  coarseFormsAbove(tiles: readonly number[]): number[] {
    return this.#levels.coarseFormsAbove(tiles);
  }

  hideObjects(pane: string, mask: ObjectMask | null): void {
    this.#objectsOf(pane).mask = mask;
    this.#mark(pane);
  }

  mark(pane: string, marked: Marked): void {
    this.#objectsOf(pane).marked = marked;
    this.#mark(pane);
  }

  override leave(pane: string): void {
    super.leave(pane);
    this.#levels.leave(pane);
    this.#shown.get(pane)?.states.texture.dispose();
    this.#shown.delete(pane);
  }

  /** How many objects a pane shows faded. */
  fadedIn(pane: string): number {
    return this.#objectsOf(pane).marked.faded.size;
  }

  /** How a picture's pane shows the objects, as the shaders read it. */
  objectStates(picture: string): DataTexture {
    return this.#objectsOf(paneOf(picture)).states.texture;
  }

  /** What a pane sees of it that cuts it open. */
  surface(pane: string, clips: () => readonly ClipVolume[]): Surface {
    const isShown = (object: number): boolean => {
      const state = this.#objectsOf(pane).states.stateOf(object);
      return state !== ObjectState.hidden && state !== ObjectState.faded;
    };
    return {
      hit: (camera, viewport, at) => {
        const least = camera.projection === 'parallel' ? -Infinity : 0;
        const width = sightWidth(camera, viewport);
        return this.#nearest(pane, sightThrough(camera, viewport, at), least, Infinity, clips(), isShown, width);
      },
      meet: (from, along, most) => this.#nearest(pane, { from, along }, 0, most, clips(), isShown),
      cornersOf: (objects) => cornersOf(this.#exactBodies(), this.table, objects),
      loadedOf: (objects) => loadedOf(this.#exactBodies(), this.table, objects),
      within: (camera, viewport, box, objects) => this.#within(pane, camera, viewport, box, objects),
    };
  }

  /**
   * What stands between the eye and some objects in a pane: whatever a line of sight to a place on them meets first.
   * @param clips what cuts the pane's view open
   */
  standingBefore(
    pane: string,
    { camera, viewport }: { readonly camera: Camera; readonly viewport: Viewport },
    objects: ReadonlySet<number>,
    clips: readonly ClipVolume[],
  ): ReadonlySet<number> {
    const before = new Set<number>();
    const { states } = this.#objectsOf(pane);
    const isShown = (object: number): boolean => states.stateOf(object) !== ObjectState.hidden;
    const least = camera.projection === 'parallel' ? -Infinity : 0;
    for (const at of this.#placesOn(camera, viewport, objects)) {
      const sight = sightThrough(camera, viewport, at);
      const own = this.#nearest(pane, sight, least, Infinity, clips, (object) => objects.has(object));
      if (!own) continue;
      for (let met = 0; met < MOST_BEFORE; met++) {
        const hit = this.#nearest(
          pane,
          sight,
          least,
          own.distance,
          clips,
          (object) => isShown(object) && !objects.has(object) && !before.has(object),
        );
        if (!hit) break;
        before.add(hit.object);
      }
    }
    return before;
  }

  /** Places spread over the part of a pane that objects take, CSS px. */
  #placesOn(camera: Camera, viewport: Viewport, objects: ReadonlySet<number>): Vec2[] {
    const { boxes } = this.table;
    let [left, top, right, bottom] = [Infinity, Infinity, -Infinity, -Infinity];
    for (const object of objects)
      for (let corner = 0; corner < 8; corner++) {
        const at = (axis: number): number => boxes[6 * object + axis + ((corner >> axis) & 1) * 3]!;
        const { x, y } = worldToScreen(camera, viewport, { x: at(0), y: at(1), z: at(2) });
        if (!Number.isFinite(x)) continue; // behind the eye
        [left, right] = [Math.min(left, x), Math.max(right, x)];
        [top, bottom] = [Math.min(top, y), Math.max(bottom, y)];
      }
    [left, right] = [Math.max(left, 0), Math.min(right, viewport.widthPx)];
    [top, bottom] = [Math.max(top, 0), Math.min(bottom, viewport.heightPx)];
    if (!(left < right && top < bottom)) return [];
    const shares = Array.from({ length: PLACES_A_SIDE }, (_, k) => (k + 0.5) / PLACES_A_SIDE);
    return shares.flatMap((across) =>
      shares.map((along) => ({ x: left + across * (right - left), y: top + along * (bottom - top) })),
    );
  }

  #within(
    pane: string,
    camera: Camera,
    viewport: Viewport,
    box: ScreenBox,
    objects: ReadonlySet<number>,
  ): { readonly inside: ReadonlySet<number>; readonly touching: ReadonlySet<number> } {
    const outside = new Set<number>();
    const touching = new Set<number>();
    for (const tile of this.#levels.shownIn(pane, this.bodies)) {
      const { content, origin } = this.bodies.get(tile)!;
      const { runs, positions, triangles, pointPositions } = content;
      let [vertex, corner, point] = [0, 0, 0];
      for (let run = 0; run < runs.length; run += RUN) {
        const object = runs[run]!;
        const [lastVertex, lastCorner, lastPoint] = [runs[run + 2]!, runs[run + 3]!, runs[run + 5]!];
        if (objects.has(object)) {
          for (; point < lastPoint; point++) {
            const own = placeAt(pointPositions, point);
            const { x, y } = worldToScreen(camera, viewport, add3(origin, own));
            if (x >= box.left && x <= box.right && y >= box.top && y <= box.bottom) touching.add(object);
            else outside.add(object);
            if (outside.has(object) && touching.has(object)) break;
          }
          const seen = new Float64Array(2 * (lastVertex - vertex));
          for (let v = vertex; v < lastVertex; v++) {
            const { x, y } = worldToScreen(camera, viewport, add3(origin, placeAt(positions, v)));
            seen[2 * (v - vertex)] = x;
            seen[2 * (v - vertex) + 1] = y;
          }
          const local = Array.from(triangles.subarray(corner, lastCorner), (index) => index - vertex);
          const { isInside, isTouching } = meetBox(seen, local, [0, local.length], box);
          if (!isInside && local.length > 0) outside.add(object);
          if (isTouching) touching.add(object);
        }
        [vertex, corner, point] = [lastVertex, lastCorner, lastPoint];
      }
    }
    return { inside: new Set([...touching].filter((object) => !outside.has(object))), touching };
  }

  #nearest(
    pane: string,
    sight: Sight,
    least: number,
    most: number,
    clips: readonly ClipVolume[],
    isShown: (object: number) => boolean,
    width: SightWidth | null = null,
  ): SurfaceHit | null {
    const cuts = inForce(clips);
    let nearest = most;
    let found: SurfaceHit | null = null;
    for (const tile of this.#levels.shownIn(pane, this.bodies)) {
      const { content, origin } = this.bodies.get(tile)!;
      const { centre, halfSize } = this.tileset.tiles[tile]!;
      const from = sub3(sight.from, origin);
      const own = { from, along: sight.along };
      const middle = sub3(centre, origin);
      const box = [
        middle.x - halfSize.x,
        middle.y - halfSize.y,
        middle.z - halfSize.z,
        middle.x + halfSize.x,
        middle.y + halfSize.y,
        middle.z + halfSize.z,
      ];
      if (width) {
        // points are met a little beside the line
        const reach = width.atBeginning + width.perUnit * Math.max(length3(sub3(middle, from)) + length3(halfSize), 0);
        for (let k = 0; k < 3; k++) [box[k], box[k + 3]] = [box[k]! - reach, box[k + 3]! + reach];
      }
      if (!slabTest(own, least)(box, 0, nearest)) continue;
      const { x, y, z } = origin;
      const keeps = (px: number, py: number, pz: number): boolean => isKept(cuts, { x: x + px, y: y + py, z: z + pz });
      const kept = cuts.length > 0 ? keeps : undefined;
      const met = hitTile(content, content.sights, own, nearest, isShown, least, kept);
      const hit = width ? (hitPoints(content, own, width, met?.distance ?? nearest, isShown, least, kept) ?? met) : met;
      if (!hit) continue;
      nearest = hit.distance;
      found = { ...hit, point: add3(origin, hit.point) };
    }
    return found;
  }

  override dispose(): void {
    super.dispose();
    this.capLine.close();
    this.materials.dispose();
    for (const { states } of this.#shown.values()) states.texture.dispose();
  }

  protected makeBody(tile: number, content: SolidTileContent): SolidBody {
    return new SolidBody(content, this.tileset.tiles[tile]!.origin, this.materials);
  }

  *#exactBodies(): Generator<SolidBody> {
    for (const [tile, body] of this.bodies) if (!this.#levels.isCoarse(tile)) yield body;
  }

  #objectsOf(pane: string): PaneObjects {
    let objects = this.#shown.get(pane);
    if (!objects) {
      objects = { states: new ObjectTexture(this.table.layers.length), mask: null, marked: unmarked, changes: 0 };
      this.#shown.set(pane, objects);
    }
    return objects;
  }

  #mark(pane: string): void {
    const objects = this.#objectsOf(pane);
    const { mask, marked } = objects;
    const { hiddenLayers, picked, hovered, isAlone, faded } = marked;
    const { layers } = this.table;
    const hasChanged = objects.states.update((object) => {
      if (hiddenLayers.has(layers[object]!) || mask?.has(object)) return ObjectState.hidden;
      if (picked.has(object)) return ObjectState.picked;
      if (isAlone) return ObjectState.hidden;
      if (faded.has(object)) return ObjectState.faded;
      return object === hovered ? ObjectState.hovered : ObjectState.shown;
    });
    if (!hasChanged) return;
    objects.changes++;
    this.tell();
  }
}

const placeAt = (positions: Float32Array, vertex: number): Vec3 => ({
  x: positions[3 * vertex]!,
  y: positions[3 * vertex + 1]!,
  z: positions[3 * vertex + 2]!,
});

/** How wide a line of sight is for points. */
function sightWidth(camera: Camera, viewport: Viewport): SightWidth {
  const width = POINT_REACH_PX * camera.unitsPerPx;
  if (camera.projection === 'parallel') return { atBeginning: width, perUnit: 0 };
  return { atBeginning: 0, perUnit: width / eyeDistance(camera, viewport) };
}
