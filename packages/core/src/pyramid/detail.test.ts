import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { PathBuilder } from '../drawing/path.ts';
import { decodeDetail, encodeDetail, refine } from './detail.ts';
import { ItemTable } from './items.ts';
import { simplify } from './simplify.ts';
import { decodeTile } from './decode-tile.ts';
import { encodeTile } from './encode-tile.ts';

const EAST = 412_600_000;
const NORTH = 7_208_400_000;
const origin = { x: EAST, y: NORTH };
const RADIUS = 5000;

/** A table with one circle about the origin, a straight line and a wavy polyline. */
function sample(): ItemTable {
  const table = new ItemTable();
  const arc = { cx: EAST, cy: NORTH, ux: RADIUS, uy: 0, vx: 0, vy: RADIUS, startRad: 0, sweepRad: 2 * Math.PI };
  table.addPath(
    new PathBuilder()
      .moveTo(EAST + RADIUS, NORTH)
      .arcTo(arc, EAST + RADIUS, NORTH)
      .close(),
    0,
    11,
  );
  table.addPath(new PathBuilder().moveTo(EAST, NORTH).lineTo(EAST + 9000, NORTH), 1, 12);
  const wave = new PathBuilder().moveTo(EAST, NORTH);
  for (let i = 1; i <= 100; i++) wave.lineTo(EAST + 100 * i, NORTH + (i % 2));
  table.addPath(wave, 1, 13);
  return table;
}

const options = {
  origin,
  styleOf: () => ({ colour: [0, 0, 0, 1] as const, isDashed: false, width: 1 }),
  tolerance: 60,
  step: 1,
};

describe('a coarse tile', () => {
  it('has as few chords as will do, and says how far they may be off', () => {
    const { bytes, lineError, segments } = encodeTile(sample(), [0, 1, 2], options);
    const tile = decodeTile(bytes);
    expect(lineError).toBe(60);
    expect(segments).toBe(tile.lines.length / 2);
    expect(segments).toBeLessThan(35);
  });

  it('leaves the circle by no more than its tolerance', () => {
    const tile = decodeTile(encodeTile(sample(), [0], options).bytes);
    for (let i = 0; i < tile.lines.length; i += 2) {
      const [a, b] = [tile.lines[i]!, tile.lines[i + 1]!];
      const middle = [0, 1].map((c) => (tile.positions[3 * a + c]! + tile.positions[3 * b + c]!) / 2);
      expect(RADIUS - Math.hypot(...middle)).toBeLessThanOrEqual(60);
    }
  });
});

describe('a detail', () => {
  it('comes back as it was written, refuses what it is not', () => {
    const bytes = encodeDetail(sample(), [0, 2], origin);
    const items = decodeDetail(bytes);
    expect(items.map(({ object, style }) => [object, style])).toEqual([
      [11, 0],
      [13, 1],
    ]);
    expect(Array.from(items[0]!.path.coords)).toEqual([
      RADIUS,
      0,
      0,
      0,
      RADIUS,
      0,
      0,
      RADIUS,
      0,
      2 * Math.PI,
      RADIUS,
      0,
    ]);
    expect(() => decodeDetail(bytes.subarray(0, bytes.length - 8))).toThrow(/expected/);
    expect(() => decodeDetail(Uint8Array.of(1, 2, 3))).toThrow(RangeError);
  });

  it('becomes lines as close to the curve as asked, at any scale', () => {
    const items = decodeDetail(encodeDetail(sample(), [0], origin));
    fc.assert(
      fc.property(fc.double({ min: -3, max: 2, noNaN: true }), (power) => {
        const chordError = 10 ** power;
        const { positions, low, lines } = refine(items, chordError);
        let worst = 0;
        for (let i = 0; i < lines.length; i += 2) {
          const [a, b] = [lines[i]!, lines[i + 1]!];
          const middle = [0, 1].map(
            (c) => (positions[3 * a + c]! + low[2 * a + c]! + positions[3 * b + c]! + low[2 * b + c]!) / 2,
          );
          worst = Math.max(worst, RADIUS - Math.hypot(...middle));
        }
        expect(worst).toBeLessThanOrEqual(chordError * 1.0001);
        expect(worst).toBeGreaterThan(chordError / 10); // and no closer than it must
      }),
    );
  });

  it('is fine near the view and cheap away from it', () => {
    const items = decodeDetail(encodeDetail(sample(), [0], origin));
    const region = { minX: RADIUS - 1, minY: -1, maxX: RADIUS + 1, maxY: 1 };
    const all = refine(items, 1e-4);
    const near = refine(items, 1e-4, region);
    expect(near.lines.length).toBeLessThan(all.lines.length / 50);
    for (let i = 0; i < near.lines.length; i += 2) {
      const [a, b] = [near.lines[i]!, near.lines[i + 1]!];
      const [x, y] = [0, 1].map(
        (c) =>
          (near.positions[3 * a + c]! + near.low[2 * a + c]! + near.positions[3 * b + c]! + near.low[2 * b + c]!) / 2,
      ) as [number, number];
      if (Math.abs(y) < 1 && x > 0) expect(RADIUS - Math.hypot(x, y)).toBeLessThanOrEqual(1.0001e-4);
    }
  });
});

it('simplifying keeps every point within the tolerance of what stays', () => {
  const coordinate = fc.double({ min: 0, max: 1000, noNaN: true });
  fc.assert(
    fc.property(
      fc.array(coordinate, { minLength: 4, maxLength: 120 }),
      fc.double({ min: 0, max: 300, noNaN: true }),
      (list, tolerance) => {
        const xy = list.slice(0, list.length & ~1);
        const count = xy.length / 2;
        const kept = simplify(xy, 0, count, tolerance);
        expect(kept[0]).toBe(0);
        expect(kept.at(-1)).toBe(count - 1);
        for (let i = 0; i < count; i++) {
          const next = kept.findIndex((index) => index >= i);
          const [a, b] = [kept[Math.max(next - 1, 0)]!, kept[next]!];
          const [dx, dy] = [xy[2 * b]! - xy[2 * a]!, xy[2 * b + 1]! - xy[2 * a + 1]!];
          const [px, py] = [xy[2 * i]! - xy[2 * a]!, xy[2 * i + 1]! - xy[2 * a + 1]!];
          const length2 = dx * dx + dy * dy;
          const t = length2 > 0 ? Math.min(Math.max((px * dx + py * dy) / length2, 0), 1) : 0;
          expect(Math.hypot(px - dx * t, py - dy * t)).toBeLessThanOrEqual(tolerance + 1e-9);
        }
      },
    ),
  );
  expect(simplify([0, 0, 1, 0, 1, 1, 0, 0], 0, 4, 50)).toEqual([0, 2, 3]); // a small ring still leaves ink
});
