import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { seededRandom } from '../geometry/random.ts';
import { arrangeBySize, standInLines } from './arrange.ts';
import { inDrawingOrder } from './drawing-order.ts';
import { ItemTable } from './items.ts';
import { StandInSampler, decodeStandIns, encodeStandIns, inkOfLine, standInsFor, type StandIns } from './stand-ins.ts';
import { decodeTile } from './decode-tile.ts';
import { encodeTile } from './encode-tile.ts';

const EAST = 412_600_000;
const NORTH = 7_208_400_000;
const origin = { x: EAST, y: NORTH };
const styleOf = () => ({ colour: [0, 0, 0, 1] as const, isDashed: false, width: 1 });

const inkOf = ({ ends }: StandIns): number => {
  let sum = 0;
  for (let i = 0; i < ends.length; i += 4) sum += inkOfLine(ends[i]!, ends[i + 1]!, ends[i + 2]!, ends[i + 3]!);
  return sum;
};
const coordinate = fc.double({ min: -1000, max: 1000, noNaN: true });
const line = fc.tuple(coordinate, coordinate, coordinate, coordinate, fc.integer({ min: 0, max: 3 }));

describe('the sampler', () => {
  it('keeps the ink to within half a line', () => {
    fc.assert(
      fc.property(fc.array(line), fc.double({ min: 1, max: 500, noNaN: true }), (lines, length) => {
        const sampler = new StandInSampler(length);
        let ink = 0;
        for (const [x0, y0, x1, y1, style] of lines) {
          sampler.add(x0, y0, x1, y1, style, 7);
          ink += inkOfLine(x0, y0, x1, y1);
        }
        const standIns = sampler.build();
        expect(Math.abs(inkOf(standIns) - ink)).toBeLessThanOrEqual(length / 2 + 1e-6 * (1 + ink));
        expect(4 * standIns.runs.reduce((sum, { count }) => sum + count, 0)).toBe(standIns.ends.length);
      }),
    );
  });

  it('lays each on a line that it stands for, in its direction', () => {
    const sampler = new StandInSampler(10);
    for (let i = 0; i < 100; i++) sampler.add(i, i / 2, i + 1, (i + 1) / 2, 0, i);
    const { ends } = sampler.build();
    expect(ends).toHaveLength(40);
    for (let i = 0; i < ends.length; i += 4) {
      expect((ends[i + 3]! - ends[i + 1]!) / (ends[i + 2]! - ends[i]!)).toBeCloseTo(0.5, 9);
      expect(ends[i + 1]!).toBeCloseTo(ends[i]! / 2, 6);
    }
  });

  it('lies along a row of lines that leaves no room in their own direction', () => {
    const sampler = new StandInSampler(10);
    for (let i = 0; i < 100; i++) sampler.add(i, 3, i + 1, 3.5, 0, i);
    const standIns = sampler.build();
    expect(standIns.ends).toHaveLength(40);
    expect(Math.abs(inkOf(standIns) - 100)).toBeLessThanOrEqual(5);
    for (let i = 1; i < standIns.ends.length; i += 2) {
      expect(standIns.ends[i]).toBeGreaterThanOrEqual(3);
      expect(standIns.ends[i]).toBeLessThanOrEqual(3.5);
    }
  });

  it('never leaves the box of what it stands for', () => {
    const place = fc.double({ min: -1000, max: 1000, noNaN: true });
    const step = fc.double({ min: -20, max: 20, noNaN: true });
    fc.assert(
      fc.property(
        fc.tuple(place, place),
        fc.array(fc.tuple(step, step), { minLength: 1, maxLength: 200 }),
        (from, steps) => {
          const length = 80; // lines are at most a quarter as long, as in tiles
          const sampler = new StandInSampler(length);
          let [x, y] = from;
          const [box, ends] = [[Infinity, Infinity, -Infinity, -Infinity], [] as number[]];
          for (const [dx, dy] of steps) {
            sampler.add(x, y, x + dx, y + dy, 0, 0);
            for (const [px, py] of [
              [x, y],
              [x + dx, y + dy],
            ] as const) {
              [box[0], box[1]] = [Math.min(box[0]!, px), Math.min(box[1]!, py)];
              [box[2], box[3]] = [Math.max(box[2]!, px), Math.max(box[3]!, py)];
            }
            [x, y] = [x + dx, y + dy];
          }
          ends.push(...sampler.build().ends);
          const slack = 1e-6;
          for (let i = 0; i < ends.length; i += 2) {
            expect(ends[i]).toBeGreaterThanOrEqual(box[0]! - slack);
            expect(ends[i]).toBeLessThanOrEqual(box[2]! + slack);
            expect(ends[i + 1]).toBeGreaterThanOrEqual(box[1]! - slack);
            expect(ends[i + 1]).toBeLessThanOrEqual(box[3]! + slack);
          }
        },
      ),
    );
  });

  it('lies evenly: no part of a plan gets more than its share', () => {
    const sampler = new StandInSampler(50);
    for (let i = 0; i < 10_000; i++) sampler.add(i, 0, i + 0.9, 0.2, 0, i);
    const { ends } = sampler.build();
    const quarters = [0, 0, 0, 0];
    for (let i = 0; i < ends.length; i += 4) quarters[Math.floor((ends[i]! + ends[i + 2]!) / 2 / 2500)]!++;
    for (const count of quarters) expect(Math.abs(count - 45)).toBeLessThanOrEqual(1);
  });

  it('has nothing to say of lines without length', () => {
    const sampler = new StandInSampler(1);
    sampler.add(3, 4, 3, 4, 0, 0);
    expect(sampler.build()).toEqual({ ends: new Float64Array(0), runs: [] });
  });
});

function sampleTable(count: number, largest = 400): ItemTable {
  const random = seededRandom(7);
  const table = new ItemTable();
  for (let i = 0; i < count; i++) {
    const [x, y] = [EAST + random() * 6000, NORTH + random() * 4000];
    const size = largest * 0.01 ** random();
    table.addLine([x, y, x + size, y, x + size, y + size / 3], i % 3, i);
  }
  return table;
}
const all = (table: ItemTable): number[] => Array.from({ length: table.length }, (_, item) => item);
const tableInk = (table: ItemTable): number => all(table).reduce((sum, item) => sum + table.sizeOf(item) * (4 / 3), 0);

describe('stand-ins of a tile', () => {
  it('have the ink of the tile and of what its children’s stand for', () => {
    const [table, lower] = [sampleTable(2000), sampleTable(5000, 40)];
    const below = standInsFor(lower, inDrawingOrder(lower, all(lower), styleOf), [], 40);
    const here = standInsFor(table, inDrawingOrder(table, all(table), styleOf), [below], 400);
    const ink = tableInk(table) + tableInk(lower);
    expect(Math.abs(inkOf(here.standIns) - ink)).toBeLessThan(2 * 1600);
    // some boxes have room for shorter ones only
    expect(here.standIns.ends.length / 4).toBeLessThan((2 * ink) / 1600 + 2);
    expect(here.standIns.runs.map(({ style }) => style)).toEqual([0, 1, 2]);
  });

  it('have the area of areas that no outline shows, where the largest thing is a px high', () => {
    const side = (count: number, size: number, isOutlined: boolean): ItemTable => {
      const table = new ItemTable();
      for (let i = 0; i < count; i++) {
        const [x, y] = [EAST + 30 * (i % 20), NORTH + 30 * Math.floor(i / 20)];
        const square = [x, y, x + size, y, x + size, y + size, x, y, x + size, y + size, x, y + size];
        table.addTriangles(square, 5, i);
        if (isOutlined) table.addLine([x, y, x + size, y], 1, i);
      }
      return table;
    };
    for (const count of [3, 400]) {
      const { standIns, fills } = standInsFor(side(count, 8, false), all(side(count, 8, false)), [], 8);
      expect(inkOf(standIns)).toBeCloseTo(count * 8, -1); // 64 of area, 8 high: 8 long
      expect(fills.reduce((sum, { area }) => sum + area, 0)).toBeCloseTo(count * 64, -2);
      // the tile above is left out where 16 are a px: half as long
      const above = standInsFor(
        new ItemTable(),
        [],
        [{ standIns: { ends: new Float64Array(0), runs: [] }, fills }],
        16,
      );
      expect(inkOf(above.standIns)).toBeCloseTo(count * 4, -1);
    }
    const table = side(3, 8, true);
    expect(standInsFor(table, inDrawingOrder(table, all(table), styleOf), [], 8).fills).toEqual([]);
  });

  it('come back from a tile’s file on its grid', () => {
    const table = sampleTable(300);
    const below = [standInsFor(table, inDrawingOrder(table, all(table), styleOf), [], 400).standIns];
    const options = { origin, styleOf, tolerance: 0, step: 2 ** -20, standIns: below, longer: 6000 };
    const [back] = decodeTile(encodeTile(table, [0, 1, 2], options).bytes).standIns;
    expect(back!.runs).toEqual(below[0]!.runs);
    back!.ends.forEach((value, index) => {
      const exact = below[0]!.ends[index]! - (index % 2 ? NORTH : EAST);
      expect(Math.abs(value - exact)).toBeLessThanOrEqual(6000 / 2 ** 15);
    });
  });

  it('stay on the grid though they reach far out of the tile', () => {
    const far: StandIns = { ends: Float64Array.of(-1e9, 0, 1e9, 5), runs: [{ style: 0, object: 0, count: 1 }] };
    const { json, ends } = encodeStandIns([far], { x: 0, y: 0 }, 100);
    const [back] = decodeStandIns(json, ends);
    expect(back!.ends[0]).toBeCloseTo(-200, 6);
    expect(back!.ends[2]).toBeCloseTo(200, 1);
  });
});

describe('arranging by size', () => {
  const table = sampleTable(3000);
  const tile = decodeTile(encodeTile(table, all(table), { origin, styleOf, tolerance: 0, step: 2 ** -20 }).bytes);
  const { lines, pieces } = arrangeBySize(tile);
  const endsAt = (indices: Uint32Array, at: number): string => `${indices[at]} ${indices[at + 1]}`;

  it('keeps every line, in pieces that follow one another, largest first', () => {
    const pairs = (indices: Uint32Array): string[] =>
      Array.from({ length: indices.length / 2 }, (_, i) => endsAt(indices, 2 * i)).sort();
    expect(pairs(lines)).toEqual(pairs(tile.lines));
    let next = 0;
    let last = Infinity;
    for (const { start, count, sizeUpTo } of pieces) {
      expect(start).toBe(next);
      expect(sizeUpTo).toBeLessThanOrEqual(last);
      [next, last] = [start + count, sizeUpTo];
    }
    expect(next).toBe(lines.length);
  });

  it('has in each piece one style, things of one class of size, and a box around them', () => {
    for (const { start, count, style, sizeUpTo, minX, maxY } of pieces) {
      expect(count).toBeLessThanOrEqual(256);
      for (let i = start; i < start + count; i++) {
        const vertex = lines[i]!;
        expect(tile.styles[vertex]).toBe(style);
        expect(tile.positions[3 * vertex]).toBeGreaterThanOrEqual(minX);
        expect(tile.positions[3 * vertex + 1]).toBeLessThanOrEqual(maxY);
      }
      // the first line of an item is its longer side
      const [a, b] = [lines[start]!, lines[start + 1]!];
      const size = tile.positions[3 * b]! - tile.positions[3 * a]!;
      expect(size).toBeLessThanOrEqual(sizeUpTo * 1.0001);
      expect(size).toBeGreaterThan((sizeUpTo / Math.SQRT2) * 0.9999);
    }
  });

  it('makes stand-ins for each class and each child with the ink of theirs', () => {
    const { ends, runs } = standInsFor(table, all(table), [], 400).standIns;
    const children = [{ ends: ends.map((value, index) => value - (index % 2 ? NORTH : EAST)), runs }];
    const { positions, pieces: standIns, styles, objects } = standInLines(tile, children);
    const ink = (chosen: typeof standIns): number => {
      let sum = 0;
      for (const { start, count } of chosen)
        for (let v = start; v < start + count; v += 2)
          sum += inkOfLine(positions[3 * v]!, positions[3 * v + 1]!, positions[3 * v + 3]!, positions[3 * v + 4]!);
      return sum;
    };
    const own = standIns.filter(({ child }) => child < 0);
    expect(Math.abs(ink(own) / tableInk(table) - 1)).toBeLessThan(0.03);
    expect(ink(standIns.filter(({ child }) => child === 0))).toBeCloseTo(inkOf(children[0]!), -2);
    expect(styles).toHaveLength(positions.length / 3);
    expect(objects).toHaveLength(styles.length);
    for (const sizeUpTo of new Set(own.map((piece) => piece.sizeUpTo)))
      expect(pieces.some((piece) => piece.sizeUpTo === sizeUpTo)).toBe(true);
  });
});
