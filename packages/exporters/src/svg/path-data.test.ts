import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { PathBuilder, type Path } from '@gull-pane/core/drawing/path';
import { visitExtremes } from '@gull-pane/core/drawing/extents';
import { parsePathData } from '@gull-pane/importers/svg/path-data';
import { arcPieces, principalAxes } from '../arc-pieces.ts';
import { pathData } from './path-data.ts';

const number = (most: number): fc.Arbitrary<number> => fc.double({ min: -most, max: most, noNaN: true });

/** Ellipses by conjugate half-axes that aren't next to nothing. */
const arc = fc
  .record({
    cx: number(1e5),
    cy: number(1e5),
    ux: number(900),
    uy: number(900),
    vx: number(900),
    vy: number(900),
    startRad: number(Math.PI),
    sweepRad: fc.double({ min: 0.05, max: 2 * Math.PI, noNaN: true }),
    isBack: fc.boolean(),
  })
  .filter(({ ux, uy, vx, vy }) => Math.abs(ux * vy - uy * vx) > 1000)
  .map(({ isBack, sweepRad, ...rest }) => ({ ...rest, sweepRad: isBack ? -sweepRad : sweepRad }));

describe('the principal axes of an ellipse', () => {
  it('hold every point of it', () => {
    fc.assert(
      fc.property(arc, number(Math.PI), (own, t) => {
        const { rx, ry, turnRad } = principalAxes(own);
        const [x, y] = [own.ux * Math.cos(t) + own.vx * Math.sin(t), own.uy * Math.cos(t) + own.vy * Math.sin(t)];
        const [cos, sin] = [Math.cos(turnRad), Math.sin(turnRad)];
        const [a, b] = [(x * cos + y * sin) / rx, (y * cos - x * sin) / ry];
        expect(a * a + b * b).toBeCloseTo(1, 6);
        expect(rx).toBeGreaterThanOrEqual(ry);
      }),
    );
  });
});

describe('the pieces of an arc', () => {
  it('lie on it, none sweeps more than 120°, the last ends where the arc does', () => {
    fc.assert(
      fc.property(arc, (own) => {
        const end = own.startRad + own.sweepRad;
        const endX = own.cx + own.ux * Math.cos(end) + own.vx * Math.sin(end);
        const endY = own.cy + own.uy * Math.cos(end) + own.vy * Math.sin(end);
        const pieces = arcPieces(own, endX, endY);
        expect(pieces.at(-1)).toEqual({ x: endX, y: endY });
        expect(Math.abs(own.sweepRad) / pieces.length).toBeLessThanOrEqual((2 * Math.PI) / 3 + 1e-9);
        const { rx, ry, turnRad } = principalAxes(own);
        for (const { x, y } of pieces) {
          const [dx, dy] = [x - own.cx, y - own.cy];
          const [cos, sin] = [Math.cos(turnRad), Math.sin(turnRad)];
          const [a, b] = [(dx * cos + dy * sin) / rx, (dy * cos - dx * sin) / ry];
          expect(a * a + b * b).toBeCloseTo(1, 5);
        }
      }),
    );
  });
});

function boxOf(path: Path, up: 1 | -1): number[] {
  const [xs, ys]: [number[], number[]] = [[], []];
  visitExtremes(path, (x, y) => {
    xs.push(x);
    ys.push(up * y);
  });
  return [Math.min(...xs), Math.min(...ys), Math.max(...xs), Math.max(...ys)];
}

describe('path data', () => {
  it('of any arc is read back as one that covers the same', () => {
    fc.assert(
      fc.property(arc, (own) => {
        const at = (t: number): [number, number] => [
          own.cx + own.ux * Math.cos(t) + own.vx * Math.sin(t),
          own.cy + own.uy * Math.cos(t) + own.vy * Math.sin(t),
        ];
        const path = new PathBuilder().moveTo(...at(own.startRad)).arcTo(own, ...at(own.startRad + own.sweepRad));
        const back = parsePathData(pathData(path)).path;
        const [a, b] = [boxOf(path, 1), boxOf(back, -1)];
        const size = Math.max(a[2]! - a[0]!, a[3]! - a[1]!);
        for (const [k, value] of a.entries()) expect(Math.abs(value - b[k]!)).toBeLessThan(1e-6 * size);
      }),
      { numRuns: 500 },
    );
  });

  it('tells every kind of step, with y downwards and every digit', () => {
    const path = new PathBuilder()
      .moveTo(412600010.125, 7208399990.5)
      .lineTo(1, 2)
      .quadraticTo(3, 4, 5, 6)
      .cubicTo(7, 8, 9, 10, 11, 12)
      .close();
    expect(pathData(path)).toBe('M412600010.125 -7208399990.5L1 -2Q3 -4 5 -6C7 -8 9 -10 11 -12Z');
    expect(pathData(new PathBuilder().moveTo(0, 0).lineTo(-0, -0))).toBe('M0 0L0 0');
  });

  it('turns a circle’s way over with its y', () => {
    const circle = (sweepRad: number): string =>
      pathData(
        new PathBuilder()
          .moveTo(10, 0)
          .arcTo({ cx: 0, cy: 0, ux: 10, uy: 0, vx: 0, vy: 10, startRad: 0, sweepRad }, 0, sweepRad > 0 ? 10 : -10),
      );
    expect(circle(Math.PI / 2)).toMatch(/^M10 0A10 10 -?0 0 0 0 -10$/);
    expect(circle(-Math.PI / 2)).toMatch(/^M10 0A10 10 -?0 0 1 0 10$/);
  });

  it('makes a line of an arc without height', () => {
    const flat = { cx: 0, cy: 0, ux: 10, uy: 0, vx: 0, vy: 0, startRad: 0, sweepRad: 1 };
    expect(pathData(new PathBuilder().moveTo(10, 0).arcTo(flat, 5, 0))).toBe('M10 0L5 0');
  });
});
