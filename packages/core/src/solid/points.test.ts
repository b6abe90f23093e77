import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { seededRandom } from '../geometry/random.ts';
import { MOST_POINTS, pointPieces } from './point-pieces.ts';
import { hitPoints } from './sight-hit.ts';
import { SolidItems } from './solid-items.ts';
import { encodeSolidTile } from './encode-solid-tile.ts';
import { decodeSolidTile, type DecodedSolidTile } from './solid-tile.ts';

const grey = { name: 'Points', colour: { r: 9, g: 8, b: 7, a: 255 }, metalness: 0, roughness: 1 };
const [EAST, NORTH] = [412_600_000, 7_216_000_000];

function tileOf(positions: Float64Array, colours: Uint8Array | null = null): DecodedSolidTile {
  const items = new SolidItems();
  items.add({ object: 3, material: 0, positions, triangles: new Uint32Array(0), points: { colours } });
  const all = Array.from({ length: items.length }, (_, i) => i);
  return decodeSolidTile(encodeSolidTile(items.tilePieces(all), { x: EAST, y: NORTH, z: 0 }, [grey]).bytes);
}

describe('pieces of a set of points', () => {
  const random = seededRandom(7);
  const many = Float64Array.from({ length: 300_000 }, () => 1000 * random());

  it('hold each point once', () => {
    const taken = pointPieces(many).flatMap(({ points }) => [...points]);
    expect(taken).toHaveLength(100_000);
    expect(new Set(taken).size).toBe(100_000);
    expect(pointPieces(new Float64Array(0))).toEqual([]);
  });

  it('begin with an even sample of all', () => {
    const [first, ...rest] = pointPieces(many);
    expect(first!.points).toHaveLength(MOST_POINTS);
    // of each eighth of the cube an eighth, within four standard deviations of chance
    const counts = new Uint32Array(8);
    for (const point of first!.points) {
      const octant = [0, 1, 2].reduce((sum, axis) => sum + (many[3 * point + axis]! > 500 ? 1 << axis : 0), 0);
      counts[octant]!++;
    }
    const spread = 4 * Math.sqrt(MOST_POINTS * (1 / 8) * (7 / 8));
    for (const count of counts) expect(Math.abs(count - MOST_POINTS / 8)).toBeLessThan(spread);
    expect(first!.gap).toBe(Infinity);
    for (const { gap } of rest) expect(gap).toBeLessThan(1000 / Math.sqrt(MOST_POINTS) + 1e-9);
  });
});

describe('points in a tile', () => {
  it('come back to the source’s doubles, with their colours', () => {
    const coordinate = fc.double({ min: -5e5, max: 5e5, noNaN: true });
    fc.assert(
      fc.property(fc.array(fc.tuple(coordinate, coordinate, coordinate), { minLength: 1, maxLength: 40 }), (places) => {
        const positions = Float64Array.from(places.flatMap(([x, y, z]) => [EAST + x, NORTH + y, z]));
        const tile = tileOf(positions);
        const order = pointPieces(positions)[0]!.points;
        order.forEach((point, i) => {
          const origin = [EAST, NORTH, 0];
          for (let axis = 0; axis < 3; axis++) {
            const value = tile.pointPositions[3 * i + axis]! + tile.pointRests[3 * i + axis]!;
            // 48 bits of half a million
            expect(Math.abs(origin[axis]! + value - positions[3 * point + axis]!)).toBeLessThanOrEqual(
              Math.max(2 ** -29, 2 ** -52 * origin[axis]!),
            );
          }
        });
        expect([...tile.pointColours.subarray(0, 4)]).toEqual([9, 8, 7, 255]);
      }),
    );
  });

  const row = Float64Array.from([0, 1, 2, 3, 4].flatMap((i) => [EAST + 100 * i, NORTH, -10 * i]));

  it('are met by a line of sight that passes closely, the nearest to the eye first', () => {
    const tile = tileOf(row);
    const down = { from: { x: 201, y: 2, z: 1000 }, along: { x: 0, y: 0, z: -1 } };
    const width = { atBeginning: 5, perUnit: 0 };
    expect(hitPoints(tile, down, width, Infinity, () => true, 0)).toMatchObject({
      object: 3,
      point: { x: 200, y: 0, z: -20 },
      distance: 1020,
      isPoint: true,
    });
    expect(hitPoints(tile, down, { atBeginning: 1, perUnit: 0 }, Infinity, () => true, 0)).toBeNull();
    expect(hitPoints(tile, down, width, 1000, () => true, 0)).toBeNull();
    expect(hitPoints(tile, down, width, Infinity, () => false, 0)).toBeNull();
    expect(
      hitPoints(
        tile,
        down,
        width,
        Infinity,
        () => true,
        0,
        () => false,
      ),
    ).toBeNull();
    const along = { from: { x: -1000, y: 0, z: 0 }, along: { x: 1, y: 0, z: 0 } };
    expect(hitPoints(tile, along, { atBeginning: 50, perUnit: 0 }, Infinity, () => true, 0)?.point.x).toBe(0);
  });

  it('are wider to a sight that spreads', () => {
    const down = { from: { x: 203, y: 0, z: 1000 }, along: { x: 0, y: 0, z: -1 } };
    expect(hitPoints(tileOf(row), down, { atBeginning: 0, perUnit: 0.004 }, Infinity, () => true, 0)).not.toBeNull();
    expect(hitPoints(tileOf(row), down, { atBeginning: 0, perUnit: 0.002 }, Infinity, () => true, 0)).toBeNull();
  });
});
