import type { Box2 } from '../geometry/clip.ts';
import type { Vec2 } from '../geometry/vec.ts';
import { objectKinds, type ObjectIndex } from '../pick/object-index.ts';
import { boxAround, sideOf, type Region } from '../pick/region.ts';

/** From what size on the screen something counts as readable. */
export interface Readable {
  /** Height of a text, CSS px. */
  readonly textPx: number;
  /** The longer side of anything else, CSS px. */
  readonly detailPx: number;
}

export interface Covered {
  readonly seen: number;
  readonly total: number;
}

/** How much of the content of some cells hasn't been seen. */
export interface CoverageGrid {
  readonly box: Box2;
  readonly columns: number;
  readonly rows: number;
  /** Row by row from the lower left: the unseen share of a cell's objects, −1 where it has none. */
  readonly unseen: Float32Array<ArrayBuffer>;
}

const TEXT = objectKinds.indexOf('text');

/**
 * Which objects of a flat drawing have been on the screen at a readable size. Counted are objects, not paper: an empty
 * sheet has nothing to be seen.
 */
export class Coverage {
  readonly #seen: Uint8Array<ArrayBuffer>;
  #count = 0;

  constructor(private readonly index: ObjectIndex) {
    const { objects } = index.columns;
    const most = objects.reduce((a, b) => Math.max(a, b), -1);
    this.#seen = new Uint8Array((most >> 3) + 1);
  }

  /** A bit an object, by its number. */
  get bits(): Uint8Array<ArrayBuffer> {
    return this.#seen.slice();
  }

  /** Takes what was seen before; bits beyond the drawing's objects are left out. */
  set bits(bits: Uint8Array) {
    this.#seen.fill(0);
    this.#count = 0;
    for (const object of this.index.columns.objects)
      if (((bits[object >> 3] ?? 0) >> (object & 7)) & 1) this.#mark(object);
  }

  get covered(): Covered {
    return { seen: this.#count, total: this.index.length };
  }

  isSeen(entry: number): boolean {
    const object = this.index.columns.objects[entry]!;
    return ((this.#seen[object >> 3]! >> (object & 7)) & 1) === 1;
  }

  /**
   * What a view shows for long enough has been seen, as far as it is readable: what lies wholly in sight, and of what is
   * larger than the view all that has its middle there.
   * @param unitsPerPx drawing units per CSS px
   * @param isShown whether an entry isn't hidden
   * @returns how many objects hadn't been seen before
   */
  look(region: Region, unitsPerPx: number, readable: Readable, isShown: (entry: number) => boolean): number {
    const { origin, boxes, objects } = this.index.columns;
    let news = 0;
    this.index.search(boxAround(region), (entry) => {
      if (this.isSeen(entry) || !isShown(entry) || this.readableAt(entry, readable) < unitsPerPx) return false;
      const [minX, minY] = [boxes[4 * entry]! + origin.x, boxes[4 * entry + 1]! + origin.y];
      const [maxX, maxY] = [boxes[4 * entry + 2]! + origin.x, boxes[4 * entry + 3]! + origin.y];
      const [x, y] = [(minX + maxX) / 2, (minY + maxY) / 2];
      const isLarger = maxX - minX > 2 * region.halfWidth || maxY - minY > 2 * region.halfHeight;
      const isIn =
        sideOf(region, minX, minY, maxX, maxY) === 'inside' || (isLarger && sideOf(region, x, y, x, y) === 'inside');
      if (!isIn) return false;
      this.#mark(objects[entry]!);
      news++;
      return false;
    });
    return news;
  }

  /** The largest number of drawing units per CSS px at which an object is still readable. */
  readableAt(entry: number, { textPx, detailPx }: Readable): number {
    const { boxes, kinds } = this.index.columns;
    const [width, height] = [boxes[4 * entry + 2]! - boxes[4 * entry]!, boxes[4 * entry + 3]! - boxes[4 * entry + 1]!];
    // a text's frame is at least as high as its letters
    return kinds[entry] === TEXT ? Math.min(width, height) / textPx : Math.max(width, height) / detailPx;
  }

  /** The unseen object that is nearest to a place, with its box; null if all has been seen. */
  nearestUnseen(at: Vec2, isShown: (entry: number) => boolean): { readonly entry: number; readonly box: Box2 } | null {
    const { origin, boxes } = this.index.columns;
    for (const { entry } of this.index.outwardsFrom(at))
      if (!this.isSeen(entry) && isShown(entry))
        return {
          entry,
          box: {
            minX: boxes[4 * entry]! + origin.x,
            minY: boxes[4 * entry + 1]! + origin.y,
            maxX: boxes[4 * entry + 2]! + origin.x,
            maxY: boxes[4 * entry + 3]! + origin.y,
          },
        };
    return null;
  }

  /** Seen and all objects of each layer, by its number. */
  byLayer(): Map<number, Covered> {
    const layers = new Map<number, { seen: number; total: number }>();
    this.index.columns.layers.forEach((layer, entry) => {
      let own = layers.get(layer);
      if (!own) layers.set(layer, (own = { seen: 0, total: 0 }));
      own.total++;
      if (this.isSeen(entry)) own.seen++;
    });
    return layers;
  }

  /** Seen and all objects of each sheet of a set: those that have their middle there. */
  bySheet(sheets: readonly Box2[]): Covered[] {
    const { origin, boxes } = this.index.columns;
    return sheets.map((sheet) => {
      let [seen, total] = [0, 0];
      this.index.search(sheet, (entry) => {
        const x = (boxes[4 * entry]! + boxes[4 * entry + 2]!) / 2 + origin.x;
        const y = (boxes[4 * entry + 1]! + boxes[4 * entry + 3]!) / 2 + origin.y;
        if (x < sheet.minX || x > sheet.maxX || y < sheet.minY || y > sheet.maxY) return false;
        total++;
        if (this.isSeen(entry)) seen++;
        return false;
      });
      return { seen, total };
    });
  }

  /** @param most cells along the longer side */
  grid(most: number): CoverageGrid {
    const { origin, boxes } = this.index.columns;
    const box = { minX: Infinity, minY: Infinity, maxX: -Infinity, maxY: -Infinity };
    for (let i = 0; i < boxes.length; i += 4) {
      box.minX = Math.min(box.minX, boxes[i]!);
      box.minY = Math.min(box.minY, boxes[i + 1]!);
      box.maxX = Math.max(box.maxX, boxes[i + 2]!);
      box.maxY = Math.max(box.maxY, boxes[i + 3]!);
    }
    const [width, height] = [Math.max(box.maxX - box.minX, 1e-9), Math.max(box.maxY - box.minY, 1e-9)];
    const cell = Math.max(width, height) / most;
    const [columns, rows] = [Math.max(Math.ceil(width / cell), 1), Math.max(Math.ceil(height / cell), 1)];
    const all = new Uint32Array(columns * rows);
    const unseen = new Float32Array(columns * rows);
    for (let entry = 0; entry < this.index.length; entry++) {
      const x = (boxes[4 * entry]! + boxes[4 * entry + 2]!) / 2 - box.minX;
      const y = (boxes[4 * entry + 1]! + boxes[4 * entry + 3]!) / 2 - box.minY;
      const at = Math.min(Math.floor(y / cell), rows - 1) * columns + Math.min(Math.floor(x / cell), columns - 1);
      all[at]!++;
      if (!this.isSeen(entry)) unseen[at]!++;
    }
    for (let at = 0; at < all.length; at++) unseen[at] = all[at] === 0 ? -1 : unseen[at]! / all[at]!;
    return {
      columns,
      rows,
      unseen,
      box: {
        minX: box.minX + origin.x,
        minY: box.minY + origin.y,
        maxX: box.minX + origin.x + columns * cell,
        maxY: box.minY + origin.y + rows * cell,
      },
    };
  }

  #mark(object: number): void {
    this.#seen[object >> 3]! |= 1 << (object & 7);
    this.#count++;
  }
}
