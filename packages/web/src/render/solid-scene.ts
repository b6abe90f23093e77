import { inForce, isKept, type ClipVolume } from '@gull-pane/core/clip/clip-volume';
import { worldToScreen, type Camera, type Viewport } from '@gull-pane/core/camera/camera';
import { meetBox, type ScreenBox } from '@gull-pane/core/pick/solid-box';
import { sightThrough, type Sight } from '@gull-pane/core/camera/projection';
import type { Colour } from '@gull-pane/core/drawing/model';
import type { ObjectMask } from '@gull-pane/core/drawing/object-mask';
import { add3, sub3 } from '@gull-pane/core/geometry/vec';
import { hitTile, slabTest, type SurfaceHit } from '@gull-pane/core/solid/sight-hit';
import { RUN } from '@gull-pane/core/solid/solid-tile';
import type { DrawingDto } from '@gull-pane/protocol/drawings';
import type { SolidTable } from '@gull-pane/protocol/solid-table';
import type { TilesetJson } from '@gull-pane/protocol/tileset';
import { TileCache, type FromLoader, type Loader, type ToLoader } from '../tiles/tile-cache';
import { buffersOfSolid, type SolidTileContent } from '../tiles/solid-tile-content';
import { readTileset, type Tileset } from '../tiles/tileset';
import { ObjectState, ObjectTexture } from './object-texture';
import { PaneWishes } from './pane-wishes';
import { paneOf, type Scene, type Surface } from './scene';
import { SolidBody } from './solid-body';
import { SolidMaterials } from './solid-materials';

/** Decoded tiles that are kept, bytes. */
const CACHE_BYTES = 768 * 1024 * 1024;

/** Which objects stand out. */
export interface Marked {
  readonly hiddenLayers: ReadonlySet<number>;
  readonly picked: ReadonlySet<number>;
  readonly hovered: number | null;
  /** Nothing but what is picked shows, for now. */
  readonly isAlone: boolean;
}

/** How a pane shows the objects. */
interface PaneObjects {
  readonly states: ObjectTexture;
  mask: ObjectMask | null;
  marked: Marked;
  changes: number;
}

const unmarked: Marked = { hiddenLayers: new Set(), picked: new Set(), hovered: null, isAlone: false };

/** Everything of one solid that its panes share: tiles, what the graphics processor holds of them, states of objects. */
export class SolidScene implements Scene {
  readonly kind = 'solid';
  readonly tileset: Tileset;
  readonly materials: SolidMaterials;
  readonly #cache: TileCache<SolidTileContent>;
  readonly #bodies = new Map<number, SolidBody>();
  readonly #wishes = new PaneWishes();
  /** How each pane shows the objects. */
  readonly #shown = new Map<string, PaneObjects>();
  readonly #listeners = new Set<() => void>();
  #ground: Colour;
  #changes = 0;

  constructor(
    drawing: DrawingDto,
    json: TilesetJson,
    private readonly table: SolidTable,
    ground: Colour,
    startWorker: () => Loader<ToLoader, FromLoader<SolidTileContent>>,
  ) {
    this.tileset = readTileset(json);
    this.#ground = ground;
    this.materials = new SolidMaterials(this.#objectsOf('').states.texture, table.materials);
    this.materials.setGround(ground);
    const base = `${location.origin}/api/drawings/${drawing.id}/tiles/`;
    this.#cache = new TileCache<SolidTileContent>({
      urlOf: (tile) => base + this.tileset.tiles[tile]!.uri,
      loader: startWorker(),
      buffersOf: buffersOfSolid,
      maxBytes: CACHE_BYTES,
      now: () => performance.now(),
      onLoaded: (tile, content) => {
        this.#bodies.set(tile, new SolidBody(content, this.tileset.tiles[tile]!.origin, this.materials));
        this.#tell();
      },
      onEvicted: (tile) => {
        this.#bodies.get(tile)?.dispose();
        this.#bodies.delete(tile);
      },
      onFailed: (tile, reason) => {
        console.error(`tile ${this.tileset.tiles[tile]!.uri}: ${reason}`);
        this.#tell();
      },
    });
  }

  onChange(listener: () => void): () => void {
    this.#listeners.add(listener);
    return () => this.#listeners.delete(listener);
  }

  /** Rises whenever objects or colours are shown differently in a pane. */
  changes(picture: string): number {
    return this.#changes + this.#objectsOf(paneOf(picture)).changes;
  }

  get ground(): Colour {
    return this.#ground;
  }

  get cachedBytes(): number {
    return this.#cache.bytes;
  }

  body(tile: number): SolidBody | undefined {
    return this.#bodies.get(tile);
  }

  isAwaited(tile: number): boolean {
    return this.#cache.isAwaited(tile);
  }

  setGround(ground: Colour): void {
    this.#ground = ground;
    this.materials.setGround(ground);
    this.#changes++;
  }

  hideObjects(pane: string, mask: ObjectMask | null): void {
    this.#objectsOf(pane).mask = mask;
    this.#mark(pane);
  }

  mark(pane: string, marked: Marked): void {
    this.#objectsOf(pane).marked = marked;
    this.#mark(pane);
  }

  leave(pane: string): void {
    this.#cache.want(this.#wishes.drop(pane));
    this.#shown.get(pane)?.states.texture.dispose();
    this.#shown.delete(pane);
  }

  /** What is drawn from now on is drawn for a picture of a pane. */
  enter(picture: string): void {
    this.materials.showObjects(this.#objectsOf(paneOf(picture)).states.texture);
  }

  want(pane: string, tiles: readonly number[]): void {
    this.#cache.want(this.#wishes.change(pane, tiles));
  }

  /** What a pane sees of it that cuts it open. */
  surface(pane: string, clips: () => readonly ClipVolume[]): Surface {
    const isShown = (object: number): boolean => this.#objectsOf(pane).states.stateOf(object) !== ObjectState.hidden;
    return {
      hit: (camera, viewport, at) => {
        const least = camera.projection === 'parallel' ? -Infinity : 0;
        return this.#nearest(sightThrough(camera, viewport, at), least, Infinity, clips(), isShown);
      },
      meet: (from, along, most) => this.#nearest({ from, along }, 0, most, clips(), isShown),
      cornersOf: (objects) => this.cornersOf(objects),
      within: (camera, viewport, box, objects) => this.#within(camera, viewport, box, objects),
    };
  }

  #within(
    camera: Camera,
    viewport: Viewport,
    box: ScreenBox,
    objects: ReadonlySet<number>,
  ): { readonly inside: ReadonlySet<number>; readonly touching: ReadonlySet<number> } {
    const outside = new Set<number>();
    const touching = new Set<number>();
    for (const { content, origin } of this.#bodies.values()) {
      const { runs, positions, triangles } = content;
      let [vertex, corner] = [0, 0];
      for (let run = 0; run < runs.length; run += RUN) {
        const object = runs[run]!;
        const [lastVertex, lastCorner] = [runs[run + 2]!, runs[run + 3]!];
        if (objects.has(object)) {
          const seen = new Float64Array(2 * (lastVertex - vertex));
          for (let v = vertex; v < lastVertex; v++) {
            const own = { x: positions[3 * v]!, y: positions[3 * v + 1]!, z: positions[3 * v + 2]! };
            const { x, y } = worldToScreen(camera, viewport, add3(origin, own));
            seen[2 * (v - vertex)] = x;
            seen[2 * (v - vertex) + 1] = y;
          }
          const local = Array.from(triangles.subarray(corner, lastCorner), (index) => index - vertex);
          const { isInside, isTouching } = meetBox(seen, local, [0, local.length], box);
          if (!isInside && local.length > 0) outside.add(object);
          if (isTouching) touching.add(object);
        }
        [vertex, corner] = [lastVertex, lastCorner];
      }
    }
    return { inside: new Set([...touching].filter((object) => !outside.has(object))), touching };
  }

  #nearest(
    sight: Sight,
    least: number,
    most: number,
    clips: readonly ClipVolume[],
    isShown: (object: number) => boolean,
  ): SurfaceHit | null {
    const cuts = inForce(clips);
    let nearest = most;
    let found: SurfaceHit | null = null;
    for (const [tile, { content, origin }] of this.#bodies) {
      const { centre, halfSize } = this.tileset.tiles[tile]!;
      const from = sub3(sight.from, origin);
      const own = { from, along: sight.along };
      const middle = sub3(centre, origin);
      const box = [
        ...[middle.x - halfSize.x, middle.y - halfSize.y, middle.z - halfSize.z],
        ...[middle.x + halfSize.x, middle.y + halfSize.y, middle.z + halfSize.z],
      ];
      if (!slabTest(own, least)(box, 0, nearest)) continue;
      const { x, y, z } = origin;
      const keeps = (px: number, py: number, pz: number): boolean => isKept(cuts, { x: x + px, y: y + py, z: z + pz });
      const hit = hitTile(content, content.sights, own, nearest, isShown, least, cuts.length > 0 ? keeps : undefined);
      if (!hit) continue;
      nearest = hit.distance;
      found = { ...hit, point: add3(origin, hit.point) };
    }
    return found;
  }

  cornersOf(objects: ReadonlySet<number>): number[] {
    const corners: number[] = [];
    for (const { content, origin } of this.#bodies.values()) {
      const { runs, positions, edgePositions } = content;
      let [vertex, end] = [0, 0];
      for (let run = 0; run < runs.length; run += RUN) {
        const [vertices, ends] = [runs[run + 2]!, runs[run + 4]!];
        if (objects.has(runs[run]!)) {
          for (const [from, first, last] of [
            [positions, vertex, vertices],
            [edgePositions, end, ends],
          ] as const)
            for (let i = 3 * first; i < 3 * last; i += 3)
              corners.push(origin.x + from[i]!, origin.y + from[i + 1]!, origin.z + from[i + 2]!);
        }
        [vertex, end] = [vertices, ends];
      }
    }
    return corners;
  }

  dispose(): void {
    this.#cache.close();
    this.materials.dispose();
    for (const { states } of this.#shown.values()) states.texture.dispose();
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
    const { hiddenLayers, picked, hovered, isAlone } = marked;
    const { layers } = this.table;
    const hasChanged = objects.states.update((object) => {
      if (hiddenLayers.has(layers[object]!) || mask?.has(object)) return ObjectState.hidden;
      if (picked.has(object)) return ObjectState.picked;
      if (isAlone) return ObjectState.hidden;
      return object === hovered ? ObjectState.hovered : ObjectState.shown;
    });
    if (!hasChanged) return;
    objects.changes++;
    this.#tell();
  }

  #tell(): void {
    for (const listener of this.#listeners) listener();
  }
}
