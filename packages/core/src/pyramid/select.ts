import { cameraAxes, eyeDistance, eyeOf, type Camera, type Viewport } from '../camera/camera.ts';
import { dot3, sub3, type Vec3 } from '../geometry/vec.ts';

/** A tile as the selection sees it. Lengths in drawing units. */
export interface SelectableTile {
  /** Middle and half sizes of the box over the tile and all below it. */
  readonly centre: Vec3;
  readonly halfSize: Vec3;
  /** Size of the largest thing of the tile and all below it. */
  readonly largest: number;
  /** Segments and triangles that drawing the tile itself costs. */
  readonly weight: number;
  /** Indices of its children. */
  readonly children: readonly number[];
  /** It holds nothing itself: it only groups its children. */
  readonly isEmpty?: boolean;
  /** Of a coarse form of everything below that is replaced by it: how far it may be from that. Absent where children add to a tile. */
  readonly coarseness?: number;
}

export interface SelectionRules {
  /** Segments and triangles that may be drawn in all. */
  readonly budget: number;
  /** Things smaller than this aren't worth another tile, CSS px. */
  readonly smallestPx: number;
  /** How far coarse forms may be from what they stand for, CSS px. */
  readonly errorPx?: number;
  /** How far the coarse form of one tile may be off at most, CSS px, even where `errorPx` allows more. @param tile its index */
  readonly mostErrorPxOf?: (tile: number) => number;
  /** Whether nothing is to be seen of a tile and of all below it. @param tile its index */
  readonly isGone?: (tile: number) => boolean;
}

/**
 * Chooses the tiles of one pane, best first: those whose largest thing is seen largest, until the budget is spent.
 * A tile comes only after its parent, so that any prefix of the list is a complete coarse picture. Where a coarse form is good
 * enough, it is chosen for everything below it; where it isn't, it is left out.
 * @param tiles all tiles, the root at index 0
 * @returns indices of tiles in the order in which they should be fetched and drawn
 */
export function selectTiles(
  tiles: readonly SelectableTile[],
  camera: Camera,
  viewport: Viewport,
  rules: SelectionRules,
): number[] {
  const chosen: number[] = [];
  if (tiles.length === 0) return chosen;
  const isSeen = visibilityIn(camera, viewport);
  const sizePx = sizeSeenIn(camera, viewport);
  const isGoodEnough = coarseFormsIn(tiles, camera, viewport, rules);
  const queue = new FallingQueue();
  let left = rules.budget;
  if (!rules.isGone?.(0)) queue.push(0, Infinity);
  for (let index = queue.pop(); index !== undefined; index = queue.pop()) {
    const tile = tiles[index]!;
    if (tile.coarseness !== undefined && !isGoodEnough(index)) {
      for (const child of tile.children) if (!rules.isGone?.(child)) queue.push(child, sizePx(tiles[child]!));
      continue;
    }
    if (tile.weight > left && chosen.length > 0) break;
    left -= tile.weight;
    if (!tile.isEmpty) chosen.push(index);
    if (tile.coarseness !== undefined) continue;
    for (const child of tile.children) {
      const below = tiles[child]!;
      const px = sizePx(below);
      if (px >= rules.smallestPx && isSeen(below) && !rules.isGone?.(child)) queue.push(child, px);
    }
  }
  return chosen;
}

/** How large the largest thing of a tile may be seen, CSS px: in perspective where its box is nearest to the eye. */
export function sizeSeenIn(camera: Camera, viewport: Viewport): (tile: SelectableTile) => number {
  const seen = lengthSeenIn(camera, viewport);
  return (tile) => seen(tile, tile.largest);
}

/** Whether coarse forms of tiles, by their indices, are as good as rules want them. */
export function coarseFormsIn(
  tiles: readonly SelectableTile[],
  camera: Camera,
  viewport: Viewport,
  { errorPx = 0, mostErrorPxOf }: SelectionRules,
): (tile: number) => boolean {
  const seen = lengthSeenIn(camera, viewport);
  return (index) => {
    const tile = tiles[index]!;
    return seen(tile, tile.coarseness ?? 0) <= Math.min(errorPx, mostErrorPxOf?.(index) ?? Infinity);
  };
}

/** How long something of a length may be seen in a tile, CSS px: in perspective where the tile's box is nearest to the eye. */
function lengthSeenIn(camera: Camera, viewport: Viewport): (tile: SelectableTile, length: number) => number {
  if (camera.projection === 'parallel') return (_, length) => length / camera.unitsPerPx;
  const { back } = cameraAxes(camera);
  const distance = eyeDistance(camera, viewport);
  return ({ centre, halfSize }, length) => {
    const nearest = distance - dot3(sub3(centre, camera.target), back) - reachAlong(halfSize, back);
    // what stands at the eye fills the view
    return nearest > 0 ? (length * distance) / (nearest * camera.unitsPerPx) : Infinity;
  };
}

const reachAlong = (halfSize: Vec3, axis: Vec3): number =>
  halfSize.x * Math.abs(axis.x) + halfSize.y * Math.abs(axis.y) + halfSize.z * Math.abs(axis.z);

/** Whether a tile's box reaches into the view, by its shadow on the screen's two directions or the sides of the view. */
export function visibilityIn(camera: Camera, viewport: Viewport): (tile: SelectableTile) => boolean {
  if (camera.projection === 'perspective') return visibilityFromEye(camera, viewport);
  const { right, up } = cameraAxes(camera);
  const halfWidth = (viewport.widthPx / 2) * camera.unitsPerPx;
  const halfHeight = (viewport.heightPx / 2) * camera.unitsPerPx;
  const reaches = (tile: SelectableTile, axis: Vec3, half: number): boolean => {
    const { centre, halfSize } = tile;
    const { target } = camera;
    const away = (centre.x - target.x) * axis.x + (centre.y - target.y) * axis.y + (centre.z - target.z) * axis.z;
    return Math.abs(away) <= half + reachAlong(halfSize, axis);
  };
  return (tile) => reaches(tile, right, halfWidth) && reaches(tile, up, halfHeight);
}

/** The four sides of a perspective view are planes through the eye; what lies wholly outside of one isn't seen. */
function visibilityFromEye(camera: Camera, viewport: Viewport): (tile: SelectableTile) => boolean {
  const { right, up, back } = cameraAxes(camera);
  const eye = eyeOf(camera, viewport);
  const distance = eyeDistance(camera, viewport);
  const slopeX = ((viewport.widthPx / 2) * camera.unitsPerPx) / distance;
  const slopeY = ((viewport.heightPx / 2) * camera.unitsPerPx) / distance;
  const plane = (axis: Vec3, sign: number, slope: number): Vec3 => ({
    x: sign * axis.x + slope * back.x,
    y: sign * axis.y + slope * back.y,
    z: sign * axis.z + slope * back.z,
  });
  const outward = [
    plane(right, 1, slopeX),
    plane(right, -1, slopeX),
    plane(up, 1, slopeY),
    plane(up, -1, slopeY),
    back,
  ];
  return ({ centre, halfSize }) => {
    const offset = sub3(centre, eye);
    return outward.every((normal) => dot3(offset, normal) <= reachAlong(halfSize, normal));
  };
}

/** A binary heap that gives the largest value first. */
class FallingQueue {
  readonly #items: number[] = [];
  readonly #values: number[] = [];

  push(item: number, value: number): void {
    let at = this.#items.length;
    while (at > 0) {
      const parent = (at - 1) >> 1;
      if (this.#values[parent]! >= value) break;
      this.#items[at] = this.#items[parent]!;
      this.#values[at] = this.#values[parent]!;
      at = parent;
    }
    this.#items[at] = item;
    this.#values[at] = value;
  }

  pop(): number | undefined {
    const top = this.#items[0];
    const item = this.#items.pop();
    const value = this.#values.pop();
    const count = this.#items.length;
    if (count === 0 || item === undefined || value === undefined) return top;
    let at = 0;
    for (;;) {
      let child = 2 * at + 1;
      if (child >= count) break;
      if (child + 1 < count && this.#values[child + 1]! > this.#values[child]!) child++;
      if (this.#values[child]! <= value) break;
      this.#items[at] = this.#items[child]!;
      this.#values[at] = this.#values[child]!;
      at = child;
    }
    this.#items[at] = item;
    this.#values[at] = value;
    return top;
  }
}
