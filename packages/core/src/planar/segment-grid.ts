/** A segment whose box has no more cells than this is in all of them. */
const MOST_BOX_CELLS = 6;

/** Segments in the cells of a grid, so that what is near can be found without looking at all. */
export class SegmentGrid {
  readonly count: number;
  readonly #cell: number;
  readonly #minX: number;
  readonly #minY: number;
  readonly columns: number;
  readonly rows: number;
  /** Where each cell's segments begin in the list; one more at the end. */
  readonly #starts: Uint32Array;
  readonly #list: Uint32Array;
  /** The query that has looked at a segment last. */
  readonly #seen: Uint32Array;
  #query = 0;

  /** @param segments x0, y0, x1, y1 each */
  constructor(readonly segments: Float64Array) {
    this.count = segments.length / 4;
    let [minX, minY, maxX, maxY, lengths] = [Infinity, Infinity, -Infinity, -Infinity, 0];
    for (let i = 0; i < segments.length; i += 2) {
      const [x, y] = [segments[i]!, segments[i + 1]!];
      if (x < minX) minX = x;
      if (x > maxX) maxX = x;
      if (y < minY) minY = y;
      if (y > maxY) maxY = y;
    }
    for (let i = 0; i < segments.length; i += 4)
      lengths += Math.abs(segments[i + 2]! - segments[i]!) + Math.abs(segments[i + 3]! - segments[i + 1]!);
    const [width, height] = [Math.max(maxX - minX, 1e-9), Math.max(maxY - minY, 1e-9)];
    // about one cell a segment, or a segment's length where they are long
    const even = Math.sqrt((width * height) / Math.max(this.count, 1));
    this.#cell = Math.max(even, Math.min(lengths / Math.max(this.count, 1), 4 * even), Math.max(width, height) / 2000);
    this.#minX = this.count > 0 ? minX : 0;
    this.#minY = this.count > 0 ? minY : 0;
    this.columns = Math.floor(width / this.#cell) + 1;
    this.rows = Math.floor(height / this.#cell) + 1;
    this.#starts = new Uint32Array(this.columns * this.rows + 1);
    this.#seen = new Uint32Array(this.count);
    const { cells, owners } = this.#pairs();
    for (let i = 0; i < cells.length; i++) this.#starts[cells[i]! + 1]!++;
    for (let cell = 0; cell < this.columns * this.rows; cell++) this.#starts[cell + 1]! += this.#starts[cell]!;
    this.#list = new Uint32Array(cells.length);
    const next = this.#starts.slice();
    for (let i = 0; i < cells.length; i++) this.#list[next[cells[i]!]!++] = owners[i]!;
  }

  /** All segments with the cells that they may pass, segment by segment; of short ones those of their box. */
  #pairs(): { readonly cells: Uint32Array; readonly owners: Uint32Array } {
    const { segments: p, columns, rows, count } = this;
    const [cell, minX, minY] = [this.#cell, this.#minX, this.#minY];
    let cells = new Uint32Array(3 * count + 16);
    let owners = new Uint32Array(cells.length);
    let used = 0;
    const grow = (): void => {
      const [lessCells, lessOwners] = [cells, owners];
      cells = new Uint32Array(2 * lessCells.length);
      owners = new Uint32Array(cells.length);
      cells.set(lessCells);
      owners.set(lessOwners);
    };
    for (let s = 0; s < count; s++) {
      const at = 4 * s;
      const ax = p[at]! - minX;
      const ay = p[at + 1]! - minY;
      const bx = p[at + 2]! - minX;
      const by = p[at + 3]! - minY;
      // all lies within the grid, so that truncation is enough
      const left = ((ax < bx ? ax : bx) / cell) | 0;
      const right = Math.min(((ax < bx ? bx : ax) / cell) | 0, columns - 1);
      const low = ((ay < by ? ay : by) / cell) | 0;
      const high = Math.min(((ay < by ? by : ay) / cell) | 0, rows - 1);
      if ((right - left + 1) * (high - low + 1) > MOST_BOX_CELLS) {
        this.#cellsAlong(p[at]!, p[at + 1]!, p[at + 2]!, p[at + 3]!, 0, (one) => {
          if (used === cells.length) grow();
          cells[used] = one;
          owners[used++] = s;
          return false;
        });
        continue;
      }
      while (used + MOST_BOX_CELLS > cells.length) grow();
      for (let row = low; row <= high; row++)
        for (let column = left; column <= right; column++) {
          cells[used] = row * columns + column;
          owners[used++] = s;
        }
    }
    return { cells: cells.subarray(0, used), owners: owners.subarray(0, used) };
  }

  /**
   * Cells that a line passes, in order, and those that it comes nearer to than a distance. Row by row of the longer axis,
   * which is complete whatever rounding does.
   * @param visit returns true to end the walk
   */
  #cellsAlong(
    x0: number,
    y0: number,
    x1: number,
    y1: number,
    reach: number,
    visit: (cell: number, way: number) => boolean,
  ): void {
    const cell = this.#cell;
    const slack = reach + 1e-9 * cell;
    const isWide = Math.abs(x1 - x0) >= Math.abs(y1 - y0);
    const [a0, a1, b0, b1] = isWide
      ? [x0 - this.#minX, x1 - this.#minX, y0 - this.#minY, y1 - this.#minY]
      : [y0 - this.#minY, y1 - this.#minY, x0 - this.#minX, x1 - this.#minX];
    const [mostA, mostB] = isWide ? [this.columns - 1, this.rows - 1] : [this.rows - 1, this.columns - 1];
    const forwards = a1 >= a0;
    const [low, high] = forwards ? [a0 - slack, a1 + slack] : [a1 - slack, a0 + slack];
    const clamped = (value: number, most: number): number => Math.min(Math.max(Math.floor(value / cell), 0), most);
    if (high < 0 || low > (mostA + 1) * cell) return;
    const [first, last] = [clamped(low, mostA), clamped(high, mostA)];
    const slope = a1 === a0 ? 0 : (b1 - b0) / (a1 - a0);
    const bAt = (a: number): number =>
      a1 === a0 ? b0 : b0 + slope * (Math.min(Math.max(a, Math.min(a0, a1)), Math.max(a0, a1)) - a0);
    for (let k = 0; k <= last - first; k++) {
      const column = forwards ? first + k : last - k;
      const [p, q] = [bAt(column * cell - slack), bAt((column + 1) * cell + slack)];
      const [lowB, highB] = a1 === a0 ? [Math.min(b0, b1), Math.max(b0, b1)] : [Math.min(p, q), Math.max(p, q)];
      if (highB + slack < 0 || lowB - slack > (mostB + 1) * cell) continue;
      const to = clamped(highB + slack, mostB);
      for (let b = clamped(lowB - slack, mostB); b <= to; b++) {
        const at = isWide ? b * this.columns + column : column * this.columns + b;
        const way = forwards ? column * cell - a0 : a0 - (column + 1) * cell;
        if (visit(at, Math.abs(a1 - a0) < 1e-300 ? 0 : way / Math.abs(a1 - a0))) return;
      }
    }
  }

  /** Segments near a place, each once. */
  near(x: number, y: number, reach: number, visit: (segment: number) => void): void {
    const query = ++this.#query;
    this.#cellsAlong(x, y, x, y, reach, (cell) => {
      this.#visitCell(cell, query, visit);
      return false;
    });
  }

  /**
   * Segments near a line, each once, roughly in order along it.
   * @param enough told from which share of the line on all further segments lie; returns true to end
   */
  along(
    x0: number,
    y0: number,
    x1: number,
    y1: number,
    reach: number,
    visit: (segment: number) => void,
    enough: (share: number) => boolean,
  ): void {
    const query = ++this.#query;
    this.#cellsAlong(x0, y0, x1, y1, reach, (cell, share) => {
      if (enough(share)) return true;
      this.#visitCell(cell, query, visit);
      return false;
    });
  }

  #visitCell(cell: number, query: number, visit: (segment: number) => void): void {
    for (let i = this.#starts[cell]!; i < this.#starts[cell + 1]!; i++) {
      const segment = this.#list[i]!;
      if (this.#seen[segment] === query) continue;
      this.#seen[segment] = query;
      visit(segment);
    }
  }
}
