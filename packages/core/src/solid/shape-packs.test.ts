import { describe, expect, it } from 'vitest';
import fc from 'fast-check';
import { aboutAxis, rotate } from '../geometry/quaternion.ts';
import { unit3, type Vec3 } from '../geometry/vec.ts';
import { encodeSolidTile } from './encode-solid-tile.ts';
import { ShapePack } from './packed-shape.ts';
import { ShapePacks } from './shape-packs.ts';
import { SolidItems } from './solid-items.ts';
import { RUN, decodeSolidTile, openSolidTile, type DecodedSolidTile } from './solid-tile.ts';
import { tube } from './test-shapes.ts';

const grey = { name: 'Grey', colour: { r: 128, g: 128, b: 128, a: 255 }, metalness: 0, roughness: 1 };
const origin = { x: 412_600_000, y: 7_208_400_000, z: 0 };
const shape = tube(600, 900, 24);

/** Where a shape stands: an axis it is turned about by an angle, its size, and where its own zero is. */
interface Place {
  readonly axis: Vec3;
  readonly angleRad: number;
  readonly size: number;
  readonly at: Vec3;
}

const number = (min: number, max: number): fc.Arbitrary<number> => fc.double({ min, max, noNaN: true });
const place: fc.Arbitrary<Place> = fc.record({
  axis: fc.record({ x: number(-1, 1), y: number(-1, 1), z: number(1.5, 2) }).map(unit3),
  angleRad: number(-3, 3),
  size: number(0.2, 5),
  at: fc.record({ x: number(-20_000, 20_000), y: number(-20_000, 20_000), z: number(0, 8000) }),
});

/** @param askew how much wider than high the shape stands there: it isn't quite the same then */
function add(items: SolidItems, object: number, { axis, angleRad, size, at }: Place, askew = 1): void {
  const turn = aboutAxis(axis, angleRad);
  const columns = [
    { x: 1, y: 0, z: 0 },
    { x: 0, y: 1, z: 0 },
    { x: 0, y: 0, z: 1 },
  ].map((own) => rotate(turn, own));
  const positions = Float64Array.from(shape.positions);
  for (let i = 0; i < positions.length; i += 3) {
    const own = { x: askew * positions[i]!, y: positions[i + 1]!, z: positions[i + 2]! };
    const { x, y, z } = rotate(turn, own);
    positions.set([origin.x + at.x + size * x, origin.y + at.y + size * y, at.z + size * z], i);
  }
  const rows = [...columns.map((c) => c.x), ...columns.map((c) => c.y), ...columns.map((c) => c.z)];
  items.add({ object, material: 0, positions, triangles: shape.triangles, shape: { key: shape, turn: rows } });
}

const packsOf = (packs: ShapePacks): Map<string, ShapePack> =>
  new Map(packs.finish().map(({ name, bytes }) => [name, new ShapePack(bytes)]));

/** What is drawn of each object, one after the other: runs come in another order where some lie in packs. */
function byObject(tile: DecodedSolidTile): Map<number, number[]> {
  const all = new Map<number, number[]>();
  let [corner, end] = [0, 0];
  for (let run = 0; run < tile.runs.length; run += RUN) {
    const [object, , , lastCorner, lastEnd] = tile.runs.subarray(run, run + RUN) as unknown as number[];
    const numbers: number[] = [];
    for (; corner < lastCorner!; corner++)
      numbers.push(...tile.positions.subarray(3 * tile.triangles[corner]!, 3 * tile.triangles[corner]! + 3));
    for (; end < lastEnd!; end++) numbers.push(...tile.edgePositions.subarray(3 * end, 3 * end + 3));
    all.set(object!, numbers);
  }
  return all;
}

describe('shapes in packs', () => {
  it('stand in a tile where they would if it held them itself, to single precision, and are kept once', () => {
    fc.assert(
      fc.property(fc.array(place, { minLength: 4, maxLength: 9 }), (places) => {
        const items = new SolidItems();
        places.forEach((one, object) => add(items, object, one));
        const pieces = items.tilePieces(places.map((_, object) => object));
        const packs = new ShapePacks();
        const shared = encodeSolidTile(pieces, origin, [grey], packs);
        const alone = encodeSolidTile(pieces, origin, [grey]);
        expect([shared.triangles, shared.edges]).toEqual([alone.triangles, alone.edges]);
        const [one, other] = [decodeSolidTile(shared.bytes, packsOf(packs)), decodeSolidTile(alone.bytes)];
        const [mine, theirs] = [byObject(one), byObject(other)];
        expect(mine.size).toBe(places.length);
        for (const [object, numbers] of theirs) {
          // 24 bits of the farthest coordinate, some 25 m, and a few roundings on the way
          const apart = mine.get(object)!.reduce((most, value, i) => Math.max(most, Math.abs(value - numbers[i]!)), 0);
          expect(mine.get(object)).toHaveLength(numbers.length);
          expect(apart).toBeLessThan(25_000 * 2 ** -20);
        }
        const step = (mine: Int8Array, theirs: Int8Array): number =>
          mine.reduce((most, value, i) => Math.max(most, Math.abs(value - theirs[i]!)), 0);
        expect(step(one.normals, other.normals)).toBeLessThanOrEqual(1);
        expect(step(one.edgeNormals, other.edgeNormals)).toBeLessThanOrEqual(1);
      }),
      { numRuns: 30 },
    );
  });

  const row = (count: number): SolidItems => {
    const items = new SolidItems();
    const upright = { axis: { x: 0, y: 0, z: 1 }, angleRad: 0, size: 1 };
    for (let k = 0; k < count; k++) add(items, k, { ...upright, at: { x: 3000 * k, y: 0, z: 0 } });
    return items;
  };
  const encoded = (items: SolidItems, packs = new ShapePacks()) => {
    const chosen = Array.from({ length: items.length }, (_, item) => item);
    const { bytes } = encodeSolidTile(items.tilePieces(chosen), origin, [grey], packs);
    return { bytes, opened: openSolidTile(bytes), packs: packsOf(packs) };
  };

  it('are written once, however often and in how many tiles they stand', () => {
    const [few, many] = [encoded(row(4)), encoded(row(40))];
    expect([...few.packs].map(([name, { byteLength }]) => [name, byteLength])).toEqual(
      [...many.packs].map(([name, { byteLength }]) => [name, byteLength]),
    );
    // another place takes what says where it is, in doubles and as others read it, and whose it is
    expect((many.bytes.length - few.bytes.length) / 36).toBeLessThan(160);
    const packs = new ShapePacks();
    const items = row(8);
    for (const chosen of [
      [0, 1, 2, 3],
      [4, 5],
      [6, 7],
    ])
      encodeSolidTile(items.tilePieces(chosen), origin, [grey], packs);
    expect(packsOf(packs).get('shapes0.bin')!.byteLength).toBe(few.packs.get('shapes0.bin')!.byteLength);
  });

  it('are left to the tile where they stand seldom, or not quite alike', () => {
    expect(encoded(row(3)).opened.packs).toEqual([]);
    const items = row(5);
    add(items, 5, { axis: { x: 0, y: 0, z: 1 }, angleRad: 0, size: 1, at: { x: 0, y: 9000, z: 0 } }, 1.001);
    const { opened, packs } = encoded(items);
    const tile = opened.decode(packs);
    // the own one comes first
    expect(tile.runs.filter((_, i) => i % RUN === 0)).toEqual(Uint32Array.of(5, 0, 1, 2, 3, 4));
    const own = Math.max(...tile.positions.subarray(0, 3 * tile.runs[2]!).filter((_, i) => i % 3 === 0));
    expect(own).toBeGreaterThan(600.3);
  });

  it('say which pack is missing or cut off', () => {
    const { opened, packs } = encoded(row(4));
    expect(() => opened.decode(new Map())).toThrow(/shapes0\.bin/);
    const whole = new ShapePacks();
    encodeSolidTile(row(4).tilePieces([0, 1, 2, 3]), origin, [grey], whole);
    const { bytes } = whole.finish()[0]!;
    const half = new Map([['shapes0.bin', new ShapePack(bytes.subarray(0, bytes.length / 2))]]);
    expect(() => opened.decode(half)).toThrow(/cut off/);
    expect(opened.decode(packs).triangles.length).toBe(4 * shape.triangles.length);
  });

  it('of 100,000 bytes and more are in packs that are handed over as they become full', () => {
    const packs = new ShapePacks();
    const items = new SolidItems();
    const shapes = Array.from({ length: 12 }, (_, k) => tube(100 + k, 400, 200));
    shapes.forEach((one, k) => {
      for (let times = 0; times < 4; times++)
        items.add({
          object: k,
          material: 0,
          positions: one.positions.map((value, i) => value + (i % 3 === 0 ? origin.x + 900 * times : 0)),
          triangles: one.triangles,
          shape: { key: one, turn: [1, 0, 0, 0, 1, 0, 0, 0, 1] },
        });
    });
    const all = Array.from({ length: items.length }, (_, item) => item);
    const { bytes } = encodeSolidTile(items.tilePieces(all), { ...origin, y: 0 }, [grey], packs);
    const full = packs.takeFull();
    expect(full.length).toBeGreaterThan(0);
    expect(packs.takeFull()).toEqual([]);
    const names = [...full, ...packs.finish()].map(({ name }) => name);
    expect(openSolidTile(bytes).packs).toEqual(names);
    expect(names).toEqual(names.map((_, k) => `shapes${k}.bin`));
  });
});
