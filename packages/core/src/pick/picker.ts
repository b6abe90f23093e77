import type { Vec2 } from '../geometry/vec.ts';
import { convexHull } from '../geometry/hull.ts';
import { flattenPath } from '../drawing/flatten.ts';
import { nearnessOf } from '../drawing/nearness.ts';
import { visitExtremes } from '../drawing/extents.ts';
import type { Path } from '../drawing/path.ts';
import type { Box2 } from '../geometry/clip.ts';
import { shifted } from '../pyramid/detail.ts';
import type { ObjectShape } from './object-chunk.ts';
import { OBJECTS_PER_CHUNK, Painted, objectKinds, type ObjectIndex } from './object-index.ts';
import { boxAround, ownBox, sideOf, toOwnAxes, type Region } from './region.ts';
import { contains, distanceFrom, liesInside, nearestPoint, touches } from './shape-tests.ts';

/** Gives the shapes of one chunk of the index, in its order. */
export type ShapesOf = (chunk: number) => Promise<{ at(index: number): ObjectShape | undefined }>;
/** Whether an entry of the index takes part: it isn't hidden. */
export type IsShown = (entry: number) => boolean;

/** Something under the cursor; entries are places in the index. */
export interface Hit {
  readonly entry: number;
  /** Drawing units; 0 within an area or a text. */
  readonly distance: number;
}

/** Entries in a box: those that lie wholly inside, and all that it touches (the former among them). */
export interface BoxPicks {
  readonly inside: number[];
  readonly touching: number[];
}

/** The exact answers to where, what and which: candidates by the index, the truth by the shapes' own doubles. */
export class Picker {
  constructor(
    readonly index: ObjectIndex,
    private readonly shapesOf: ShapesOf,
  ) {}

  /**
   * What lies at a place, the likeliest first: lines by their distance, then texts and areas, the last drawn first.
   * @param radius how far from its line something may be pointed at, drawing units
   */
  async at(place: Vec2, radius: number, isShown: IsShown): Promise<Hit[]> {
    const lines: Hit[] = [];
    const areas: Hit[] = [];
    const origin = { x: 0, y: 0 };
    await this.#each(this.#around(place, radius, isShown), (entry, { painted, path }) => {
      const isLine = (painted & Painted.line) !== 0 && nearnessOf(path, place, radius) <= radius;
      const isFilled = (painted & Painted.fill) !== 0;
      if (!isLine && !isFilled) return;
      const near = { painted, path: shifted(path, place) };
      const distance = isLine ? distanceFrom(near, origin, radius) : Infinity;
      if (distance <= radius) lines.push({ entry, distance });
      else if (isFilled && contains(near.path, origin, (painted & Painted.evenOdd) !== 0))
        areas.push({ entry, distance: 0 });
    });
    const { objects } = this.index.columns;
    const later = (a: Hit, b: Hit): number => objects[b.entry]! - objects[a.entry]!;
    return [...lines.sort((a, b) => a.distance - b.distance || later(a, b)), ...areas.sort(later)];
  }

  /** What lies in a region of the screen. */
  async within(region: Region, isShown: IsShown): Promise<BoxPicks> {
    const inside: number[] = [];
    const unsure: number[] = [];
    this.#search(region, isShown, inside, unsure);
    const touching = inside.slice();
    const box = ownBox(region);
    await this.#each(unsure, (entry, shape) => {
      const own = toOwnAxes(region, shape);
      if (liesInside(own, box)) inside.push(entry);
      else if (!touches(own, box)) return;
      touching.push(entry);
    });
    return { inside, touching };
  }

  /** Whether anything can be seen in a region, the width of lines counted in. */
  async isAnythingIn(region: Region, isShown: IsShown): Promise<boolean> {
    const { halfWidths } = this.index.columns;
    const inside: number[] = [];
    const unsure: number[] = [];
    this.#search(region, isShown, inside, unsure, this.widest, true);
    if (inside.length > 0) return true;
    for (const [chunk, entries] of byChunk(unsure)) {
      const shapes = await this.shapesOf(chunk);
      for (const entry of entries) {
        const own = toOwnAxes(region, shapes.at(entry - chunk * OBJECTS_PER_CHUNK)!);
        if (touches(own, ownBox(region, halfWidths[entry]))) return true;
      }
    }
    return false;
  }

  /** The nearest point of anything shown, from a place; null if nothing is shown. */
  async nearest(place: Vec2, isShown: IsShown): Promise<{ readonly point: Vec2; readonly distance: number } | null> {
    let best: { point: Vec2; distance: number } | null = null;
    for (const { entry, distance } of this.index.outwardsFrom(place)) {
      if (best && distance >= best.distance) break;
      if (!isShown(entry)) continue;
      const shape = await this.#shape(entry);
      const found = nearestPoint(shifted(shape.path, place), { x: 0, y: 0 }, closely);
      if (!found || (best && found.distance >= best.distance)) continue;
      best = { point: { x: place.x + found.x, y: place.y + found.y }, distance: found.distance };
    }
    return best;
  }

  /** The lines of what comes nearest to a place, the outlines of areas among them; texts aren't. */
  async pathsNear(at: Vec2, radius: number, isShown: IsShown, most: number): Promise<Path[]> {
    const candidates = this.#around(at, radius, (entry) => isShown(entry) && !this.#isText(entry));
    const near: { readonly path: Path; readonly distance: number }[] = [];
    await this.#each(candidates, (_entry, { path }) => {
      const distance = nearnessOf(path, at, radius);
      if (distance <= radius) near.push({ path, distance });
    });
    if (near.length > most) near.sort((a, b) => a.distance - b.distance);
    return near.slice(0, most).map(({ path }) => path);
  }

  /** What has its box about a place; where that is very much, what has it nearest. */
  #around(at: Vec2, radius: number, isShown: IsShown): number[] {
    const box = { minX: at.x - radius, minY: at.y - radius, maxX: at.x + radius, maxY: at.y + radius };
    const found: number[] = [];
    this.index.search(box, (entry) => {
      if (isShown(entry)) found.push(entry);
      return found.length > MOST_AROUND;
    });
    if (found.length <= MOST_AROUND) return found;
    const nearest: number[] = [];
    for (const { entry, distance } of this.index.outwardsFrom(at)) {
      if (distance > radius || nearest.length === MOST_AROUND) break;
      if (isShown(entry)) nearest.push(entry);
    }
    return nearest;
  }

  /** The lines of all that comes into a box. @returns null if that is more than so many objects */
  async pathsIn(box: Box2, isShown: IsShown, most: number): Promise<Path[] | null> {
    const found: number[] = [];
    this.index.search(box, (entry) => {
      if (isShown(entry) && !this.#isText(entry)) found.push(entry);
      return found.length > most;
    });
    return found.length > most ? null : this.#pathsOf(found);
  }

  #isText(entry: number): boolean {
    return objectKinds[this.index.columns.kinds[entry]!] === 'text';
  }

  async #pathsOf(entries: readonly number[]): Promise<Path[]> {
    const paths: Path[] = [];
    await this.#each(entries, (_entry, { path }) => void paths.push(path));
    return paths;
  }

  /**
   * The corners of the convex hull of some objects, x, y, z triples for a fit in any direction. Only what can still reach
   * beyond the hull so far has its shape looked at.
   */
  async supportOf(entries: readonly number[]): Promise<number[]> {
    const { boxes, origin } = this.index.columns;
    let hull = new Float64Array(0);
    const reach = (entry: number): number => {
      const middle = (k: number): number => (boxes[4 * entry + k]! + boxes[4 * entry + k + 2]!) / 2;
      return Math.abs(middle(0) - centre.x) + Math.abs(middle(1) - centre.y);
    };
    const centre = this.#middleOf(entries);
    // from the outside in: the first few make almost the whole hull
    const order = [...entries].sort((a, b) => reach(b) - reach(a));
    for (let from = 0; from < order.length; from += HULL_STEP) {
      const open = order.slice(from, from + HULL_STEP).filter((entry) => {
        const [minX, minY, maxX, maxY] = boxes.subarray(4 * entry, 4 * entry + 4) as unknown as [
          number,
          number,
          number,
          number,
        ];
        return [minX, maxX].some((x) => [minY, maxY].some((y) => !isWithin(hull, x, y)));
      });
      const points: number[] = [...hull];
      await this.#each(open, (_entry, { path }) => {
        const add = (x: number, y: number): void => void points.push(x, y);
        const own = shifted(path, origin);
        visitExtremes(own, add);
        flattenPath(own, { move: add, line: add, close: () => undefined });
      });
      hull = new Float64Array(convexHull(points));
    }
    const support: number[] = [];
    for (let i = 0; i < hull.length; i += 2) support.push(hull[i]! + origin.x, hull[i + 1]! + origin.y, 0);
    return support;
  }

  /** The shapes of some entries, in order of chunks. */
  async shapes(entries: readonly number[], take: (entry: number, shape: ObjectShape) => void): Promise<void> {
    await this.#each(entries, take);
  }

  /** Half the width of the widest line, drawing units. */
  get widest(): number {
    return (this.#widest ??= this.index.columns.halfWidths.reduce((most, width) => Math.max(most, width), 0));
  }
  #widest: number | undefined;

  #middleOf(entries: readonly number[]): Vec2 {
    const { boxes } = this.index.columns;
    let [minX, minY, maxX, maxY] = [Infinity, Infinity, -Infinity, -Infinity];
    for (const entry of entries) {
      minX = Math.min(minX, boxes[4 * entry]!);
      minY = Math.min(minY, boxes[4 * entry + 1]!);
      maxX = Math.max(maxX, boxes[4 * entry + 2]!);
      maxY = Math.max(maxY, boxes[4 * entry + 3]!);
    }
    return { x: (minX + maxX) / 2, y: (minY + maxY) / 2 };
  }

  /** @param isOneEnough whether to stop at the first that lies inside */
  #search(region: Region, isShown: IsShown, inside: number[], unsure: number[], wider = 0, isOneEnough = false): void {
    const { boxes, origin } = this.index.columns;
    const own: Region = { ...region, middle: { x: region.middle.x - origin.x, y: region.middle.y - origin.y } };
    this.index.search(boxAround(region, wider), (entry) => {
      if (!isShown(entry)) return false;
      const at = 4 * entry;
      const side = sideOf(own, boxes[at]!, boxes[at + 1]!, boxes[at + 2]!, boxes[at + 3]!);
      (side === 'inside' ? inside : unsure).push(entry);
      return isOneEnough && side === 'inside';
    });
  }

  async #shape(entry: number): Promise<ObjectShape> {
    const chunk = Math.floor(entry / OBJECTS_PER_CHUNK);
    return (await this.shapesOf(chunk)).at(entry - chunk * OBJECTS_PER_CHUNK)!;
  }

  async #each(entries: readonly number[], take: (entry: number, shape: ObjectShape) => void): Promise<void> {
    await Promise.all(
      [...byChunk(entries)].map(async ([chunk, own]) => {
        const shapes = await this.shapesOf(chunk);
        for (const entry of own) take(entry, shapes.at(entry - chunk * OBJECTS_PER_CHUNK)!);
      }),
    );
  }
}

/** Boxes about a place whose shapes are looked at; what is farther than the farthest of them is farther than its hits. */
const MOST_AROUND = 4096;
/** Chords of a curve keep to it within this share of its size. */
const closely = { chordError: (size: number): number => 1e-6 * size };
/** How many objects are looked at before the hull is drawn tighter. */
const HULL_STEP = 256;

function byChunk(entries: readonly number[]): Map<number, number[]> {
  const chunks = new Map<number, number[]>();
  for (const entry of entries) {
    const chunk = Math.floor(entry / OBJECTS_PER_CHUNK);
    const own = chunks.get(chunk);
    if (own) own.push(entry);
    else chunks.set(chunk, [entry]);
  }
  return chunks;
}

/** Whether a place lies in a convex ring, anticlockwise x, y pairs. */
function isWithin(ring: Float64Array, x: number, y: number): boolean {
  if (ring.length < 6) return false;
  for (let i = 0; i < ring.length; i += 2) {
    const j = (i + 2) % ring.length;
    const side = (ring[j]! - ring[i]!) * (y - ring[i + 1]!) - (ring[j + 1]! - ring[i + 1]!) * (x - ring[i]!);
    if (side < 0) return false;
  }
  return true;
}
