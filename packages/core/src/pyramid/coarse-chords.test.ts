import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { COARSE_UP_TO_PX, arrangeBySize, chordsFor, type IndexRange, type TileLines } from './arrange.ts';

/** Polylines, each an object of its own, one after the other. */
function tileOf(polylines: readonly (readonly (readonly [number, number])[])[]): TileLines {
  const positions: number[] = [];
  const lines: number[] = [];
  const objects: number[] = [];
  polylines.forEach((points, object) => {
    objects.push(positions.length / 3, object);
    points.forEach(([x, y], i) => {
      if (i > 0) lines.push(positions.length / 3 - 1, positions.length / 3);
      positions.push(x, y, 0);
    });
  });
  return {
    positions: Float32Array.from(positions),
    lines: Uint32Array.from(lines),
    lineRuns: [{ style: 0, start: 0, count: lines.length }],
    objects: Uint32Array.from(objects),
  };
}

const circle = (radius: number, corners: number): [number, number][] =>
  Array.from({ length: corners + 1 }, (_, i): [number, number] => {
    const angle = (2 * Math.PI * (i % corners)) / corners;
    return [radius * Math.cos(angle), radius * Math.sin(angle)];
  });

/** How far a point is from the nearest of some segments. */
function distanceTo(x: number, y: number, ends: readonly (readonly [number, number, number, number])[]): number {
  let nearest = Infinity;
  for (const [x0, y0, x1, y1] of ends) {
    const [dx, dy] = [x1 - x0, y1 - y0];
    const length2 = dx * dx + dy * dy;
    const t = length2 > 0 ? Math.min(Math.max(((x - x0) * dx + (y - y0) * dy) / length2, 0), 1) : 0;
    nearest = Math.min(nearest, Math.hypot(x - x0 - t * dx, y - y0 - t * dy));
  }
  return nearest;
}

describe('chords as coarse as a size needs', () => {
  const endsIn = (
    tile: TileLines,
    lines: Uint32Array,
    { start, count }: IndexRange,
  ): [number, number, number, number][] =>
    Array.from({ length: count / 2 }, (_, i) => {
      const [a, b] = [3 * lines[start + 2 * i]!, 3 * lines[start + 2 * i + 1]!];
      const { positions: p } = tile;
      return [p[a]!, p[a + 1]!, p[b]!, p[b + 1]!];
    });

  it('draw a small circle with few segments, a large one with all', () => {
    const tile = tileOf([circle(50, 96)]);
    const { pieces } = arrangeBySize(tile);
    expect(pieces).toHaveLength(1);
    const counts = [1, 2, 8, 32, 33, 1000].map((px) => chordsFor(pieces[0]!, px).count / 2);
    expect(counts.at(-1)).toBe(96);
    expect(counts.at(-2)).toBe(96);
    expect(counts[0]).toBe(counts[1]);
    expect(counts[0]).toBeLessThanOrEqual(6);
    expect(counts[2]).toBeLessThanOrEqual(16);
    expect(counts[3]).toBeLessThanOrEqual(32);
    for (let i = 1; i < counts.length; i++) expect(counts[i]).toBeGreaterThanOrEqual(counts[i - 1]!);
  });

  it('cost nothing where there is nothing to leave out', () => {
    const tile = tileOf([
      [
        [0, 0],
        [70, 10],
      ],
      [
        [0, 40],
        [70, 50],
      ],
    ]);
    const { lines, pieces } = arrangeBySize(tile);
    expect(lines).toHaveLength(4);
    for (const piece of pieces) expect(chordsFor(piece, 1)).toEqual({ start: piece.start, count: piece.count });
  });

  it('are never farther from the finest than a third of a px', () => {
    const coordinate = fc.integer({ min: -1000, max: 1000 });
    const polyline = fc.array(fc.tuple(coordinate, coordinate), { minLength: 2, maxLength: 40 });
    fc.assert(
      fc.property(fc.array(polyline, { minLength: 1, maxLength: 20 }), (polylines) => {
        const tile = tileOf(polylines);
        const { lines, pieces } = arrangeBySize(tile);
        expect(pieces.reduce((sum, { count }) => sum + count, 0)).toBe(tile.lines.length);
        for (const piece of pieces)
          for (const px of COARSE_UP_TO_PX) {
            const coarse = endsIn(tile, lines, chordsFor(piece, px));
            expect(coarse.length).toBeLessThanOrEqual(piece.count / 2);
            const unitsPerPx = piece.sizeUpTo / px;
            for (const [x0, y0, x1, y1] of endsIn(tile, lines, piece))
              for (const [x, y] of [
                [x0, y0],
                [x1, y1],
                [(x0 + x1) / 2, (y0 + y1) / 2],
              ] as const)
                expect(distanceTo(x, y, coarse)).toBeLessThanOrEqual(0.3 * unitsPerPx * (1 + 1e-9) + 1e-9);
          }
      }),
      { numRuns: 100 },
    );
  });
});
