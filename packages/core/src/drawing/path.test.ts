import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { visitExtremes } from './extents.ts';
import { flattenPath } from './flatten.ts';
import { PathBuilder, countSegments, transformPath, type Path } from './path.ts';

const boxOf = (path: Path): number[] => {
  const box = [Infinity, Infinity, -Infinity, -Infinity];
  visitExtremes(path, (x, y) => {
    box[0] = Math.min(box[0]!, x);
    box[1] = Math.min(box[1]!, y);
    box[2] = Math.max(box[2]!, x);
    box[3] = Math.max(box[3]!, y);
  });
  return box;
};
const circle = (cx: number, cy: number, r: number): Path =>
  new PathBuilder()
    .moveTo(cx + r, cy)
    .arcTo({ cx, cy, ux: r, uy: 0, vx: 0, vy: r, startRad: 0, sweepRad: 2 * Math.PI }, cx + r, cy)
    .close();

describe('a path', () => {
  it('counts lines and curves of its definition', () => {
    expect(countSegments(circle(0, 0, 1))).toBe(1);
    expect(countSegments(new PathBuilder().moveTo(0, 0).lineTo(1, 0).lineTo(1, 1).lineTo(0, 1).close())).toBe(4);
    expect(countSegments(new PathBuilder().moveTo(0, 0).lineTo(1, 0).lineTo(0, 0).close())).toBe(2);
  });

  it('has tight extents: a circle far from the origin to the last digit', () => {
    const box = boxOf(circle(412_600_500, 7_208_400_250, 300));
    expect(box).toEqual([412_600_200, 7_208_399_950, 412_600_800, 7_208_400_550]);
  });

  it('has extents of a cubic by its turning points, not its controls', () => {
    // symmetric arch: highest at t = 1/2, y = 3/4 of the controls' height
    expect(boxOf(new PathBuilder().moveTo(0, 0).cubicTo(0, 4, 10, 4, 10, 0))).toEqual([0, 0, 10, 3]);
  });

  it('is flattened within its extents and near its curve', () => {
    const any = fc.double({ min: -1e4, max: 1e4, noNaN: true });
    fc.assert(
      fc.property(fc.array(any, { minLength: 8, maxLength: 8 }), (c) => {
        const path = new PathBuilder().moveTo(c[0]!, c[1]!).cubicTo(c[2]!, c[3]!, c[4]!, c[5]!, c[6]!, c[7]!);
        const [minX, minY, maxX, maxY] = boxOf(path) as [number, number, number, number];
        const size = Math.max(maxX - minX, maxY - minY, 1);
        const points: number[][] = [];
        const add = (x: number, y: number): void => void points.push([x, y]);
        flattenPath(path, { move: add, line: add, close: () => undefined });
        for (const [x, y] of points as [number, number][]) {
          expect(x).toBeGreaterThanOrEqual(minX - 1e-9 * size);
          expect(y).toBeLessThanOrEqual(maxY + 1e-9 * size);
        }
        // the polyline's own box misses the curve's by no more than the chord error
        expect(maxX - Math.max(...points.map((p) => p[0]!))).toBeLessThan(0.005 * (size + 4e4));
        expect(Math.min(...points.map((p) => p[1]!)) - minY).toBeLessThan(0.005 * (size + 4e4));
      }),
    );
  });

  it('keeps circles round within the chord error', () => {
    const path = circle(0, 0, 1000);
    let farthest = 0;
    let last = [1000, 0];
    flattenPath(path, {
      move: () => undefined,
      close: () => undefined,
      line: (x, y) => {
        farthest = Math.max(farthest, 1000 - Math.hypot((x + last[0]!) / 2, (y + last[1]!) / 2));
        last = [x, y];
      },
    });
    expect(farthest).toBeGreaterThan(0);
    expect(farthest).toBeLessThanOrEqual(4.0001);
  });

  it('keeps a mapped circle an ellipse with exact extents', () => {
    const mapped = transformPath(circle(0, 0, 2), { a: 3, b: 0, c: 0, d: -1, e: 10, f: 20 });
    expect(boxOf(mapped).map((value) => Math.round(value * 1e9) / 1e9)).toEqual([4, 18, 16, 22]);
  });
});
