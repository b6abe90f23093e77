import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { PathBuilder, type Path } from '../drawing/path.ts';
import { shifted, type DetailItem } from '../pyramid/detail.ts';
import { SnapIndex } from './snap-index.ts';
import { piecesNear } from './snap-pieces.ts';
import { snapNear } from './snap.ts';

const [E, N] = [412_345_678.123456, 7_208_234_567.654321];
const item = (path: Path, style = 0): DetailItem => ({
  style,
  object: 0,
  fillRule: 'nonzero' as const,
  along: 0,
  path,
});
const all = (): boolean => true;
const line = (x0: number, y0: number, x1: number, y1: number): PathBuilder =>
  new PathBuilder().moveTo(x0, y0).lineTo(x1, y1);

describe('snaps', () => {
  it('give back the very doubles of the file, however far from the origin', () => {
    const origin = { x: 412_344_320, y: 7_208_232_960 }; // on a grid of powers of two, as tiles have it
    fc.assert(
      fc.property(
        fc.double({ min: 0, max: 4000, noNaN: true }),
        fc.double({ min: 0, max: 4000, noNaN: true }),
        (dx, dy) => {
          const [x, y] = [E + dx, N + dy];
          const index = new SnapIndex([item(shifted(line(E - 900, N - 700, x, y), origin))], origin);
          const snap = snapNear(index.near({ x: x + 0.3, y: y - 0.2 }, 1, all), { x: x + 0.3, y: y - 0.2 }, 1);
          expect(snap).toEqual({ kind: 'end', point: { x, y } });
        },
      ),
    );
  });

  it('find the middle of lines, and of arcs by their length', () => {
    const straight = piecesNear(line(0, 0, 100, 0), { x: 51, y: 1 }, 5);
    expect(snapNear(straight, { x: 51, y: 1 }, 5)).toEqual({ kind: 'middle', point: { x: 50, y: 0 } });
    const arc = new PathBuilder()
      .moveTo(100, 0)
      .arcTo({ cx: 0, cy: 0, ux: 100, uy: 0, vx: 0, vy: 100, startRad: 0, sweepRad: Math.PI }, -100, 0);
    const snap = snapNear(piecesNear(arc, { x: 1, y: 99 }, 5), { x: 1, y: 99 }, 5)!;
    expect(snap.kind).toBe('middle');
    expect(snap.point.x).toBeCloseTo(0, 4);
    expect(snap.point.y).toBeCloseTo(100, 4);
  });

  it('find where lines cross, also lines and curves', () => {
    const cross = [line(E, N, E + 100, N + 100), line(E, N + 100, E + 100, N)].flatMap((path) =>
      piecesNear(path, { x: E + 49, y: N + 49.5 }, 3),
    );
    const found = snapNear(cross, { x: E + 49.4, y: N + 50.5 }, 3)!;
    expect(found.point.x).toBeCloseTo(E + 50, 5);
    expect(found.point.y).toBeCloseTo(N + 50, 5);
    const circle = new PathBuilder()
      .moveTo(100, 0)
      .arcTo(
        { cx: 0, cy: 0, ux: 100, uy: 0, vx: 0, vy: 100, startRad: 0, sweepRad: 6 },
        96.01702866503661,
        -27.941549819892586,
      );
    const at = { x: 71, y: 70 };
    const snap = snapNear([...piecesNear(circle, at, 4), ...piecesNear(line(-10, -10, 200, 200), at, 4)], at, 4)!;
    expect(snap.kind).toBe('crossing');
    expect(Math.hypot(snap.point.x, snap.point.y)).toBeCloseTo(100, 3);
  });

  it('close a figure, and know no snap where nothing is near', () => {
    const square = new PathBuilder().moveTo(0, 0).lineTo(10, 0).lineTo(10, 10).lineTo(0, 10).close();
    expect(snapNear(piecesNear(square, { x: 0.1, y: 5 }, 1), { x: 0.1, y: 5 }, 1)).toEqual({
      kind: 'middle',
      point: { x: 0, y: 5 },
    });
    expect(snapNear(piecesNear(square, { x: 5, y: 5 }, 1), { x: 5, y: 5 }, 1)).toBeNull();
    expect(snapNear(piecesNear(square, { x: 2.5, y: 0 }, 1), { x: 2.5, y: 0 }, 1)).toBeNull();
  });

  it('leave out lines that are not shown', () => {
    const index = new SnapIndex([item(line(0, 0, 10, 0), 3)], { x: 0, y: 0 });
    expect(index.near({ x: 0, y: 0 }, 1, ({ style }) => style !== 3)).toEqual([]);
    expect(index.near({ x: 0, y: 0 }, 1, all)).toHaveLength(1);
  });

  it('prefer an end to a crossing that is hardly nearer', () => {
    const pieces = [
      ...piecesNear(line(0, 0, 10, 0), { x: 0, y: 0 }, 9),
      ...piecesNear(line(1, -5, 1, 5), { x: 0, y: 0 }, 9),
    ];
    expect(snapNear(pieces, { x: 0.52, y: 0 }, 9)!.kind).toBe('end');
    expect(snapNear(pieces, { x: 0.9, y: 0 }, 9)!.kind).toBe('crossing');
  });
});
