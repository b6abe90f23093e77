import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { Repeats } from './repeats.ts';

const number = fc.double({ min: -500, max: 500, noNaN: true });
const mesh = fc.array(fc.tuple(number, number, number), { minLength: 4, maxLength: 30 });
const corners = Uint32Array.of(0, 1, 2, 1, 3, 2);

/** Turns about the vertical, then about x, and moves; coordinates in single precision, as they come. */
function image(
  places: readonly (readonly number[])[],
  turn: number,
  tilt: number,
  by: readonly number[],
): Float64Array {
  const [c, s, k, n] = [Math.cos(turn), Math.sin(turn), Math.cos(tilt), Math.sin(tilt)];
  return Float64Array.from(
    places.flatMap(([x, y, z]) => {
      const [u, v] = [c * x! - s * y!, s * x! + c * y!];
      return [u + by[0]!, k * v - n * z! + by[1]!, n * v + k * z! + by[2]!];
    }),
    Math.fround,
  );
}

describe('meshes that stand several times', () => {
  it('are found however they are moved and turned, with the turn that carries one into the other', () => {
    const angle = fc.double({ min: -3, max: 3, noNaN: true });
    fc.assert(
      fc.property(mesh, angle, angle, fc.tuple(number, number, number), (places, turn, tilt, by) => {
        const repeats = new Repeats();
        const first = image(places, 0, 0, [0, 0, 0]);
        const second = image(places, turn, tilt, by);
        const spread = Math.max(
          ...[0, 1, 2].map(
            (axis) => Math.max(...places.map((p) => p[axis]!)) - Math.min(...places.map((p) => p[axis]!)),
          ),
        );
        fc.pre(spread > 10);
        const one = repeats.find(first, corners);
        const other = repeats.find(second, corners);
        expect(one.turn).toEqual([1, 0, 0, 0, 1, 0, 0, 0, 1]);
        if (other.key !== one.key) return; // needles are too thin to tell a turn by
        const t = other.turn;
        for (let at = 0; at < first.length; at += 3)
          for (let row = 0; row < 3; row++) {
            const own = [0, 1, 2].reduce(
              (sum, k) => sum + t[3 * row + k]! * (first[at + k]! - first[k]!),
              second[row]!,
            );
            // eight times the rounding of the largest coordinate
            expect(Math.abs(own - second[at + row]!)).toBeLessThan(8 * 4e-7 * 2000);
          }
      }),
    );
  });

  const block = [
    [0, 0, 0],
    [10, 0, 0],
    [0, 20, 0],
    [0, 0, 30],
  ];

  it('are those that differ in nothing else', () => {
    const repeats = new Repeats();
    const first = repeats.find(image(block, 0, 0, [0, 0, 0]), corners);
    expect(repeats.find(image(block, 1, 0.5, [900, -40, 7]), corners).key).toBe(first.key);
    const longer = block.map(([x, y, z]) => [x!, y!, z! * 1.001]);
    expect(repeats.find(image(longer, 0, 0, [0, 0, 0]), corners).key).not.toBe(first.key);
    const mirrored = block.map(([x, y, z]) => [-x!, y!, z!]);
    expect(repeats.find(image(mirrored, 0, 0, [0, 0, 0]), corners).key).not.toBe(first.key);
    expect(repeats.find(image(block, 0, 0, [0, 0, 0]), Uint32Array.of(0, 1, 2, 1, 2, 3)).key).not.toBe(first.key);
  });

  it('aren’t made of lines and points', () => {
    const repeats = new Repeats();
    const line = Float64Array.of(0, 0, 0, 1, 0, 0, 2, 0, 0);
    expect(repeats.find(line, corners).key).not.toBe(repeats.find(line, corners).key);
  });
});
