import type { Vec3 } from '../geometry/vec.ts';
import { isFramed, squareAt, type Drill } from './drill.ts';

/** Where along the line the squares lie, shares of its length. */
const SHARES = [0.12, 0.5, 0.88] as const;
/** Side of a square, as a share of the line's length, and of the drawing's longer side at least: it must be hit. */
const SIDE = 0.12;
const LEAST_SIDE = 0.03;

export const followLine: Drill = {
  id: 'follow-line',
  name: 'Follow a pipe',
  kind: 'flat',
  fewest: 3,
  tip: 'Frame the next square from where you are: Frame corners works in any view; an arrow key moves on by half a pane.',
  begin({ whole, line, extents: { min, max } }) {
    if (!line) return null;
    const side = Math.max(SIDE * lengthOf(line), LEAST_SIDE * Math.max(max.x - min.x, max.y - min.y));
    const marked = SHARES.map((share) => squareAt(pointAlong(line, share * lengthOf(line)), side));
    return {
      goal: 'Follow the marked pipe from one end to the other: frame its squares 1, 2, 3.',
      camera: whole,
      marked,
      way: line,
      steps: marked.length,
      reached: (state, reached) => (isFramed(marked[reached]!, state) ? reached + 1 : reached),
    };
  },
};

const distance = (a: Vec3, b: Vec3): number => Math.hypot(b.x - a.x, b.y - a.y, b.z - a.z);

const lengthOf = (line: readonly Vec3[]): number =>
  line.reduce((sum, point, k) => (k === 0 ? 0 : sum + distance(line[k - 1]!, point)), 0);

function pointAlong(line: readonly Vec3[], far: number): Vec3 {
  let left = far;
  for (let k = 0; k + 1 < line.length; k++) {
    const [a, b] = [line[k]!, line[k + 1]!];
    const length = distance(a, b);
    if (left <= length && length > 0) {
      const share = left / length;
      return { x: a.x + (b.x - a.x) * share, y: a.y + (b.y - a.y) * share, z: a.z + (b.z - a.z) * share };
    }
    left -= length;
  }
  return line.at(-1)!;
}
