import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { PathBuilder } from '../drawing/path.ts';
import { ringsOf } from '../drawing/rings.ts';
import { triangulate } from '../drawing/triangulate.ts';
import { decodeDetail, encodeDetail, type DetailItem } from './detail.ts';
import { ItemTable, MAX_TRIANGLES_PER_ITEM } from './items.ts';
import { refineFills, type RefinedFills } from './refine-fills.ts';
import { encodeTile } from './encode-tile.ts';

const [EAST, NORTH, RADIUS] = [412_600_000, 7_208_400_000, 5000];
const origin = { x: EAST, y: NORTH };
const styleOf = () => ({ colour: [0, 0, 0, 1] as const, isDashed: false, width: 1 });
const circle = (radius: number) => ({
  cx: EAST,
  cy: NORTH,
  ux: radius,
  uy: 0,
  vx: 0,
  vy: radius,
  startRad: 0,
  sweepRad: 2 * Math.PI,
});

/** A ring with a round hole, and its table. */
function ring(): ItemTable {
  const path = new PathBuilder()
    .moveTo(EAST + RADIUS, NORTH)
    .arcTo(circle(RADIUS), EAST + RADIUS, NORTH)
    .close()
    .moveTo(EAST + RADIUS / 2, NORTH)
    .arcTo(circle(RADIUS / 2), EAST + RADIUS / 2, NORTH)
    .close();
  const table = new ItemTable();
  table.addFill(path, 'evenodd', triangulate(ringsOf(path), 'evenodd')!, 3, 21);
  return table;
}
const areaOf = ({ positions, low, triangles }: RefinedFills): number => {
  let area = 0;
  const at = (vertex: number, axis: 0 | 1): number => positions[3 * vertex + axis]! + low[2 * vertex + axis]!;
  for (let i = 0; i < triangles.length; i += 3) {
    const [a, b, c] = [triangles[i]!, triangles[i + 1]!, triangles[i + 2]!];
    const [ux, uy, vx, vy] = [at(b, 0) - at(a, 0), at(b, 1) - at(a, 1), at(c, 0) - at(a, 0), at(c, 1) - at(a, 1)];
    area += Math.abs(ux * vy - uy * vx) / 2;
  }
  return area;
};
const detail = (table: ItemTable): DetailItem[] =>
  decodeDetail(
    encodeDetail(
      table,
      Array.from({ length: table.length }, (_, i) => i),
      origin,
    ),
  );

describe('the exact form of areas', () => {
  it('keeps to its curves and its holes at any scale', () => {
    const items = detail(ring());
    expect(items[0]).toMatchObject({ fillRule: 'evenodd', style: 3, object: 21 });
    const exact = (Math.PI * RADIUS * RADIUS * 3) / 4;
    fc.assert(
      fc.property(fc.double({ min: -2, max: 2, noNaN: true }), (power) => {
        const chordError = 10 ** power;
        const fine = refineFills(items, chordError);
        // chords take at most their error times the way round, and the hole gives as much back
        expect(Math.abs(areaOf(fine) - exact)).toBeLessThanOrEqual(2 * Math.PI * RADIUS * 1.5 * chordError);
        expect([...fine.objects]).toEqual([0, 21]);
        expect(fine.triangleRuns).toEqual([{ style: 3, start: 0, count: fine.triangles.length }]);
      }),
      { numRuns: 30 },
    );
  });

  it('is made only where the view is, exactly as large there', () => {
    const items = detail(ring());
    const region = { minX: RADIUS - 1, minY: -1, maxX: RADIUS + 1, maxY: 1 };
    const fine = refineFills(items, 1e-4, region);
    expect(areaOf(fine)).toBeCloseTo(2 - 1 / (3 * RADIUS), 3); // a half of 2 × 2, less the arc's rise over the chord
    for (let i = 0; i < fine.positions.length; i += 3)
      expect(Math.abs(fine.positions[i]! - RADIUS)).toBeLessThanOrEqual(1 + 1e-3);
    expect(refineFills(items, 1e-4, { minX: -1, minY: -1, maxX: 1, maxY: 1 }).triangles).toHaveLength(0); // the hole
    expect(areaOf(refineFills(items, 1, { minX: 3000, minY: -10, maxX: 3020, maxY: 10 }))).toBeCloseTo(400, 6);
  });

  it('says how far the coarse form may be off', () => {
    const { fillError } = encodeTile(ring(), [0], { origin, styleOf, tolerance: 60, step: 1 });
    expect(fillError).toBeGreaterThan(RADIUS * 0.004);
    expect(fillError).toBeLessThan(RADIUS * 0.01);
    const straight = new ItemTable();
    straight.addTriangles([EAST, NORTH, EAST + 5, NORTH, EAST, NORTH + 5], 2, 72);
    const error = encodeTile(straight, [0], { origin, styleOf, tolerance: 60, step: 1 }).fillError;
    expect(error).toBeGreaterThan(0);
    expect(error).toBeLessThan(1e-6);
  });

  it('of an area in pieces is its triangles', () => {
    const table = new ItemTable();
    const xy: number[] = [];
    for (let i = 0; i <= MAX_TRIANGLES_PER_ITEM; i++)
      xy.push(EAST + i, NORTH, EAST + i + 1, NORTH, EAST + i, NORTH + 2);
    table.addFill(new PathBuilder().moveTo(EAST, NORTH), 'nonzero', xy, 0, 1);
    expect(table.length).toBeGreaterThan(1);
    expect(areaOf(refineFills(detail(table), 1))).toBeCloseTo(MAX_TRIANGLES_PER_ITEM + 1, 6);
  });
});
