import { type Branch, type Tiling } from './tiling.ts';

/** An arrangement that is ready to be taken. */
export interface ReadyTiling {
  readonly name: string;
  /** Its panes are called 0, 1, 2 and so on. */
  readonly tiling: Tiling;
}

type Sketch = number | { readonly along: Branch['along']; readonly parts: readonly (readonly [Sketch, number])[] };

const row = (...parts: readonly (readonly [Sketch, number])[]): Sketch => ({ along: 'row', parts });
const column = (...parts: readonly (readonly [Sketch, number])[]): Sketch => ({ along: 'column', parts });
const even = (...sketches: readonly Sketch[]): readonly (readonly [Sketch, number])[] =>
  sketches.map((sketch) => [sketch, 1] as const);

function drawn(sketch: Sketch): Tiling {
  if (typeof sketch === 'number') return { pane: String(sketch) };
  const sum = sketch.parts.reduce((total, [, weight]) => total + weight, 0);
  return {
    along: sketch.along,
    parts: sketch.parts.map(([part]) => drawn(part)),
    shares: sketch.parts.map(([, weight]) => weight / sum),
  };
}

const threeBy = (from: number): Sketch => row(...even(from, from + 1, from + 2));

/** What can be laid at once, from one pane to nine. */
export const readyTilings: readonly ReadyTiling[] = (
  [
    ['One', 0],
    ['Two side by side', row(...even(0, 1))],
    ['Two, one above the other', column(...even(0, 1))],
    ['Three side by side', row(...even(0, 1, 2))],
    ['One large, two at its right', row([0, 2], [column(...even(1, 2)), 1])],
    ['One wide, two below', column([0, 3], [row(...even(1, 2)), 2])],
    ['Four', column(...even(row(...even(0, 1)), row(...even(2, 3))))],
    ['One large, three at its right', row([0, 2], [column(...even(1, 2, 3)), 1])],
    ['Five: two above, three below', column([row(...even(0, 1)), 3], [threeBy(2), 2])],
    ['Six', column(...even(threeBy(0), threeBy(3)))],
    ['Nine', column(...even(threeBy(0), threeBy(3), threeBy(6)))],
  ] as const
).map(([name, sketch]) => ({ name, tiling: drawn(sketch) }));
