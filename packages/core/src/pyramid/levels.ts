import type { Camera, Viewport } from '../camera/camera.ts';
import {
  coarseFormsIn,
  selectTiles,
  sizeSeenIn,
  visibilityIn,
  type SelectableTile,
  type SelectionRules,
} from './select.ts';

/** Errors are tried this much apart. */
const STEP = 1.5;
/** A coarse form that is off by more than this shows no more than a blot, CSS px. */
const MOST_ERROR_PX = 64;

/** When coarser forms will do. */
export interface LighterRules {
  /** Triangles and edges that are no burden. */
  readonly enough: number;
  /** So far coarse forms may be off at most, CSS px. */
  readonly mostErrorPx: number;
}

/** What a view shows at rest. */
export interface AtRest {
  /** Indices of tiles, best first. */
  readonly tiles: number[];
  /** How far coarse forms among them may be off, CSS px. */
  readonly errorPx: number;
}

/**
 * The tiles of a view at rest, as {@link selectTiles} chooses them; where they would weigh more than enough, with coarser forms, as
 * fine as that allows.
 * @param tiles all tiles, the root at index 0
 */
export function tilesAtRest(
  tiles: readonly SelectableTile[],
  camera: Camera,
  viewport: Viewport,
  rules: SelectionRules,
  { enough, mostErrorPx }: LighterRules,
): AtRest {
  for (let errorPx = rules.errorPx ?? 0; ; errorPx = Math.min(errorPx * STEP, mostErrorPx)) {
    const chosen = selectTiles(tiles, camera, viewport, { ...rules, errorPx });
    const weight = chosen.reduce((sum, tile) => sum + tiles[tile]!.weight, 0);
    if (weight <= enough || errorPx === 0 || errorPx >= mostErrorPx) return { tiles: chosen, errorPx };
  }
}

/** When large things will do. */
export interface LargerRules {
  /** Weight that is no burden. */
  readonly enough: number;
  /** Tiles with things of this size are chosen in any case, CSS px. */
  readonly mostPx: number;
}

/**
 * The tiles of a view at rest whose tiles add to each other, as {@link selectTiles} chooses them; where they would weigh more than
 * enough, without those that hold only small things: stand-ins in the tiles above show these.
 * @param tiles all tiles, the root at index 0
 */
export function tilesOfLargerThings(
  tiles: readonly SelectableTile[],
  camera: Camera,
  viewport: Viewport,
  rules: SelectionRules,
  { enough, mostPx }: LargerRules,
): number[] {
  for (let { smallestPx } = rules; ; smallestPx = Math.min(smallestPx * STEP, mostPx)) {
    const chosen = selectTiles(tiles, camera, viewport, { ...rules, smallestPx });
    const weight = chosen.reduce((sum, tile) => sum + tiles[tile]!.weight, 0);
    if (weight <= enough || smallestPx >= mostPx) return chosen;
  }
}

/**
 * What can be drawn at once of a tileset with coarse forms: of those tiles that are there, as good a picture of everything in sight
 * as a weight allows. Where what a coarse form stands for is still to come, the form is drawn; where nothing else is there,
 * so is whatever is.
 * @param tiles all tiles, the root at index 0
 * @param isThere whether a tile, by its index, can be drawn
 * @returns indices of tiles, none of which stands for another
 */
export function tilesAtHand(
  tiles: readonly SelectableTile[],
  camera: Camera,
  viewport: Viewport,
  { errorPx = 0, ...rules }: SelectionRules,
  isThere: (tile: number) => boolean,
): number[] {
  let found: number[] = [];
  for (let allowed = errorPx; ; allowed *= STEP) {
    found = cutAt(tiles, camera, viewport, { ...rules, errorPx: allowed }, isThere);
    const weight = found.reduce((sum, tile) => sum + tiles[tile]!.weight, 0);
    if (weight <= rules.budget || !(allowed > 0 && allowed < MOST_ERROR_PX)) break;
  }
  let weight = 0;
  const tooHeavy = found.findIndex((tile, place) => (weight += tiles[tile]!.weight) > rules.budget && place > 0);
  return tooHeavy < 0 ? found : found.slice(0, tooHeavy);
}

function cutAt(
  tiles: readonly SelectableTile[],
  camera: Camera,
  viewport: Viewport,
  rules: SelectionRules,
  isThere: (tile: number) => boolean,
): number[] {
  if (tiles.length === 0) return [];
  const isSeen = visibilityIn(camera, viewport);
  const sizePx = sizeSeenIn(camera, viewport);
  const isGoodEnough = coarseFormsIn(tiles, camera, viewport, rules);
  /** @returns whether the added tiles cover everything visible in this tile and below it */
  const add = (index: number, to: number[]): boolean => {
    if (rules.isGone?.(index)) return true;
    const { coarseness, children, isEmpty = false } = tiles[index]!;
    const isHere = isEmpty || isThere(index);
    if (coarseness === undefined) {
      let isWhole = isHere;
      if (isHere && !isEmpty) to.push(index);
      for (const child of children) {
        const below = tiles[child]!;
        if (sizePx(below) < rules.smallestPx || !isSeen(below)) continue;
        isWhole = add(child, to) && isWhole;
      }
      return isWhole;
    }
    if (isHere && isGoodEnough(index)) {
      to.push(index);
      return true;
    }
    const finer: number[] = [];
    const isWhole = children.map((child) => add(child, finer)).every(Boolean);
    to.push(...(isWhole || !isHere ? finer : [index]));
    return isWhole || isHere;
  };
  const found: number[] = [];
  add(0, found);
  return found.sort((a, b) => sizePx(tiles[b]!) - sizePx(tiles[a]!) || a - b);
}
