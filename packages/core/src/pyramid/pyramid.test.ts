import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { planCamera } from '../camera/camera.ts';
import { seededRandom } from '../geometry/random.ts';
import { unpackGlb } from './glb.ts';
import { ItemTable } from './items.ts';
import { tileOrigin } from './origin.ts';
import { placeItems, type PlacedTile } from './place.ts';
import { selectTiles, type SelectableTile } from './select.ts';
import { decodeTile } from './decode-tile.ts';
import { encodeTile, type EncodeOptions } from './encode-tile.ts';

const EAST = 412_600_000;
const NORTH = 7_208_400_000;

function sampleTable(count: number): ItemTable {
  const random = seededRandom(7);
  const table = new ItemTable();
  for (let i = 0; i < count; i++) {
    const x = EAST + random() * 600_000;
    const y = NORTH + random() * 400_000;
    const length = 10 ** (random() * 4 + 1);
    table.addLine([x, y, x + length, y, x + length, y + length / 3], i % 5, i);
  }
  return table;
}
const flatten = (tile: PlacedTile): PlacedTile[] => [tile, ...tile.children.flatMap(flatten)];

describe('placing', () => {
  const table = sampleTable(20_000);
  const root = placeItems(table, { tileWeight: 4000, random: seededRandom(1) });

  it('puts every item in exactly one tile', () => {
    const placed = flatten(root).flatMap(({ items }) => [...items]);
    expect(placed).toHaveLength(20_000);
    expect(new Set(placed).size).toBe(20_000);
  });

  it('keeps every tile within its weight and its box around all below', () => {
    for (const tile of flatten(root)) {
      expect(tile.items.reduce((sum, item) => sum + table.weight.at(item), 0)).toBeLessThanOrEqual(4000);
      for (const below of flatten(tile)) {
        expect(below.box[0]).toBeGreaterThanOrEqual(tile.box[0]!);
        expect(below.box[3]).toBeLessThanOrEqual(tile.box[3]!);
      }
    }
  });

  it('says how large the largest withheld thing is', () => {
    for (const tile of flatten(root)) {
      const below = tile.children.flatMap(flatten).flatMap(({ items }) => [...items]);
      const largest = Math.max(0.01, ...below.map((item) => table.sizeOf(item)));
      expect(tile.geometricError).toBe(largest);
    }
  });

  it('ends also for things that all lie on one spot', () => {
    const heap = new ItemTable();
    for (let i = 0; i < 5000; i++) heap.addLine([1, 1, 2, 2], 0, i);
    const tiles = flatten(placeItems(heap, { tileWeight: 100, random: seededRandom(1) }));
    expect(tiles.flatMap(({ items }) => [...items])).toHaveLength(5000);
  });
});

const plain = () => ({ colour: [0, 0, 0, 1] as const, isDashed: false, width: 1 });
const exactly: EncodeOptions = { origin: { x: EAST, y: NORTH }, styleOf: plain, tolerance: 0, step: 2 ** -20 };

describe('a tile', () => {
  it('comes back as it was written: places, styles, runs, objects, texts', () => {
    const table = new ItemTable();
    table.addLine([EAST, NORTH, EAST + 10, NORTH, EAST + 10, NORTH + 20], 3, 70);
    table.addLine([EAST + 1, NORTH, EAST + 4, NORTH + 4], 1, 71);
    table.addTriangles([EAST, NORTH, EAST + 5, NORTH, EAST, NORTH + 5], 2, 72);
    const mark = { text: 'Zulauf Ø600 “Süd” 潮', x: EAST + 2, y: NORTH + 3, size: 1250, angleRad: 0.5 };
    table.addText({ ...mark, anchor: 'middle', weight: 'bold' }, 4, 73);
    const tile = decodeTile(
      encodeTile(table, [0, 1, 2, 3], { ...exactly, styleOf: (style) => ({ ...plain(), isDashed: style === 3 }) })
        .bytes,
    );
    expect(tile.lineRuns).toEqual([
      { style: 1, start: 0, count: 2 },
      { style: 3, start: 2, count: 4 },
    ]);
    expect(tile.triangleRuns).toEqual([{ style: 2, start: 0, count: 3 }]);
    const ends = [...tile.lines].map((vertex) => [...tile.positions.subarray(3 * vertex, 3 * vertex + 2)]);
    expect(ends).toEqual([
      [1, 0],
      [4, 4],
      [0, 0],
      [10, 0],
      [10, 0],
      [10, 20],
    ]);
    expect([...tile.along.subarray(2, 5)]).toEqual([0, 10, 30]);
    expect([...tile.styles]).toEqual([1, 1, 3, 3, 3, 2, 2, 2]);
    expect([...tile.objects]).toEqual([0, 71, 2, 70, 5, 72]);
    expect(tile.texts).toEqual([{ ...mark, x: 2, y: 3, anchor: 'middle', weight: 'bold', style: 4, object: 73 }]);
  });

  it('puts vertices of lines on its grid, fills where they are, and says how far lines may be off', () => {
    const table = new ItemTable();
    table.addLine([EAST + 3.3, NORTH, EAST + 8.9, NORTH], 0, 1);
    table.addTriangles([EAST + 3.25, NORTH, EAST + 5, NORTH, EAST, NORTH + 5], 2, 72);
    const { bytes, lineError } = encodeTile(table, [0, 1], { ...exactly, step: 4 });
    const tile = decodeTile(bytes);
    expect([tile.positions[0], tile.positions[3], tile.positions[6]]).toEqual([4, 8, 3.25]);
    expect(lineError).toBeCloseTo(Math.hypot(2, 2), 9);
  });

  it('puts unbroken lines before dashed ones, thin before heavy', () => {
    const table = new ItemTable();
    for (const style of [0, 1, 2, 3]) table.addLine([EAST, NORTH, EAST + 1, NORTH], style, style);
    const looks = [
      { width: 5, isDashed: false },
      { width: 1, isDashed: true },
      { width: 2, isDashed: false },
      { width: 0.5, isDashed: true },
    ];
    const tile = decodeTile(
      encodeTile(table, [0, 1, 2, 3], { ...exactly, styleOf: (style) => ({ ...plain(), ...looks[style]! }) }).bytes,
    );
    expect(tile.lineRuns.map(({ style }) => style)).toEqual([2, 0, 3, 1]);
  });

  it('is a GLB with chunks on four bytes, its counts within its buffer', () => {
    const table = sampleTable(300);
    const all = Array.from({ length: 300 }, (_, i) => i);
    const { bytes } = encodeTile(table, all, exactly);
    expect(bytes.length % 4).toBe(0);
    const { json, bin } = unpackGlb(bytes);
    const gltf = json as { buffers: { byteLength: number }[]; accessors: { type: string; min?: number[] }[] };
    expect(gltf.buffers[0]!.byteLength).toBe(bin.length);
    for (const accessor of gltf.accessors) expect(accessor.type === 'VEC3').toBe(accessor.min !== undefined);
  });

  it('refuses what it did not write', () => {
    expect(() => decodeTile(new Uint8Array([1, 2, 3, 4]))).toThrow(RangeError);
    const table = sampleTable(3);
    const { bytes } = encodeTile(table, [0, 1], exactly);
    expect(() => decodeTile(bytes.subarray(0, bytes.length - 8))).toThrow(/total length/);
  });

  it('cuts a long line into pieces whose dashes go on', () => {
    const table = new ItemTable();
    table.addLine(
      Array.from({ length: 2 * 1001 }, (_, i) => (i % 2 ? 0 : i / 2)),
      0,
      9,
    );
    expect(table.length).toBe(4);
    expect([0, 1, 2, 3].map((item) => table.along.at(item))).toEqual([0, 256, 512, 768]);
    expect([0, 1, 2, 3].reduce((sum, item) => sum + table.weight.at(item), 0)).toBe(1000);
  });
});

it('origins of tiles differ by exact doubles', () => {
  const near = fc.tuple(fc.double({ min: 0, max: 6e5, noNaN: true }), fc.double({ min: 0, max: 6e5, noNaN: true }));
  fc.assert(
    fc.property(near, near, fc.double({ min: 1, max: 1e5, noNaN: true }), (a, b, size) => {
      const p = tileOrigin(EAST + a[0], NORTH + a[1], EAST + a[0] + size, NORTH + a[1] + size);
      const q = tileOrigin(EAST + b[0], NORTH + b[1], EAST + b[0] + size * 2, NORTH + b[1] + size * 2);
      expect(p.x + (q.x - p.x)).toBe(q.x);
      expect(p.y + (q.y - p.y)).toBe(q.y);
      expect(Math.abs(p.x - (EAST + a[0] + size / 2))).toBeLessThan(size);
    }),
  );
});

describe('selecting', () => {
  const tile = (x: number, largest: number, weight: number, children: number[] = []): SelectableTile => ({
    centre: { x, y: 0, z: 0 },
    halfSize: { x: 10, y: 10, z: 0 },
    largest,
    weight,
    children,
  });
  const view = { widthPx: 100, heightPx: 100 };
  const tiles = [tile(0, 90, 10, [1, 2]), tile(-20, 50, 10, [3]), tile(500, 40, 10), tile(-20, 5, 10)];

  it('goes down where the withheld is seen, and only within the view', () => {
    expect(selectTiles(tiles, planCamera({ x: 0, y: 0, z: 0 }, 1), view, { budget: 1e9, smallestPx: 1 })).toEqual([
      0, 1, 3,
    ]);
    expect(selectTiles(tiles, planCamera({ x: 0, y: 0, z: 0 }, 10), view, { budget: 1e9, smallestPx: 1 })).toEqual([
      0, 1, 2,
    ]);
  });

  it('stops at the budget, coarse before fine', () => {
    expect(selectTiles(tiles, planCamera({ x: 0, y: 0, z: 0 }, 1), view, { budget: 25, smallestPx: 1 })).toEqual([
      0, 1,
    ]);
  });

  it('always has the root, also when it is heavier than the budget', () => {
    expect(selectTiles(tiles, planCamera({ x: 0, y: 0, z: 0 }, 1), view, { budget: 1, smallestPx: 1 })).toEqual([0]);
  });
});
