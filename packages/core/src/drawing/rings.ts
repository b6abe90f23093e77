import { flattenPath, type Closeness } from './flatten.ts';
import type { Path } from './path.ts';

/**
 * The polylines of a path as rings: x, y pairs, without the first point repeated at the end. An open run counts as
 * closed, as it does for filling.
 */
export function ringsOf(path: Path, closeness?: Closeness): number[][] {
  const rings: number[][] = [];
  flattenPath(
    path,
    {
      move: (x, y) => {
        rings.push([x, y]);
      },
      line: (x, y) => {
        rings.at(-1)!.push(x, y);
      },
      close: () => {
        const [x, y] = rings.at(-1)!;
        rings.push([x!, y!]); // what follows a close without a move begins there
      },
    },
    closeness,
  );
  for (const ring of rings) {
    const n = ring.length;
    if (n >= 4 && ring[0] === ring[n - 2] && ring[1] === ring[n - 1]) ring.length = n - 2;
  }
  return rings;
}
