/** Ends are joined if they round to the same place on this grid, picture's units. */
const GRID = 1e-3;
/** Keys of places stay whole numbers in a double. */
const SPAN = 2 ** 25;
/** Corners that are so near to a straight course aren't needed. */
const STRAIGHT = 1e-3;

/**
 * Lines joined to runs where the end of one is the beginning of another, without what stands twice.
 * @param lines x0, y0, x1, y1 each
 * @returns x, y of each run's corners
 */
export function chainLines(lines: ArrayLike<number>): number[][] {
  const key = (at: number): number =>
    (Math.round(lines[at]! / GRID) + SPAN / 2) * SPAN + Math.round(lines[at + 1]! / GRID) + SPAN / 2;
  const at = new Map<number, number[]>();
  const twice = new Map<number, Set<number>>();
  const isUsed = new Uint8Array(lines.length / 4);
  for (let line = 0; line < lines.length / 4; line++) {
    const [a, b] = [key(4 * line), key(4 * line + 2)];
    const [low, high] = a < b ? [a, b] : [b, a];
    const known = twice.get(low);
    if (a === b || known?.has(high)) {
      isUsed[line] = 1;
      continue;
    }
    if (known) known.add(high);
    else twice.set(low, new Set([high]));
    for (const end of [2 * line, 2 * line + 1]) {
      const place = end % 2 === 0 ? a : b;
      const ends = at.get(place);
      if (ends) ends.push(end);
      else at.set(place, [end]);
    }
  }
  const next = (end: number): number => {
    const ends = at.get(key(2 * end)) ?? [];
    // where more than two lines meet, runs end: none of them goes on with more right than another
    if (ends.length !== 2) return -1;
    const other = ends[0] === end ? ends[1]! : ends[0]!;
    return isUsed[other >> 1] ? -1 : other;
  };
  /** Follows lines from an end. */
  const follow = (from: number, onto: number[]): void => {
    for (let end = from; ;) {
      onto.push(lines[2 * end]!, lines[2 * end + 1]!);
      const begin = next(end);
      if (begin < 0) return;
      isUsed[begin >> 1] = 1;
      end = begin ^ 1;
    }
  };
  const runs: number[][] = [];
  for (let line = 0; line < lines.length / 4; line++) {
    if (isUsed[line]) continue;
    isUsed[line] = 1;
    const [before, after]: [number[], number[]] = [[], []];
    follow(2 * line + 1, after);
    follow(2 * line, before);
    const run: number[] = [];
    for (let i = before.length - 2; i >= 0; i -= 2) run.push(before[i]!, before[i + 1]!);
    runs.push(straightened([...run, ...after]));
  }
  return runs;
}

/** Without corners that lie between their neighbours. */
function straightened(run: readonly number[]): number[] {
  const kept = [run[0]!, run[1]!];
  for (let i = 2; i + 3 < run.length; i += 2) {
    const [x0, y0] = [kept.at(-2)!, kept.at(-1)!];
    const [x, y, x1, y1] = [run[i]!, run[i + 1]!, run[i + 2]!, run[i + 3]!];
    const [dx, dy] = [x1 - x0, y1 - y0];
    const length = Math.hypot(dx, dy);
    const isBetween = (x - x0) * dx + (y - y0) * dy > 0 && (x1 - x) * dx + (y1 - y) * dy > 0;
    if (isBetween && Math.abs((x - x0) * dy - (y - y0) * dx) <= STRAIGHT * length) continue;
    kept.push(x, y);
  }
  kept.push(run.at(-2)!, run.at(-1)!);
  return kept;
}
