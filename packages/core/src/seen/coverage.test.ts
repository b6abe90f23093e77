import fc from 'fast-check';
import { expect, it } from 'vitest';
import { ObjectIndex, objectKinds, type ObjectColumns } from '../pick/object-index.ts';
import type { Region } from '../pick/region.ts';
import { Coverage } from './coverage.ts';

const origin = { x: 412_600_000, y: 7_208_400_000 };
const readable = { textPx: 7, detailPx: 8 };
const all = (): boolean => true;
type Object4 = readonly [x: number, y: number, width: number, height: number, isText: boolean];

function indexOf(list: readonly Object4[]): ObjectIndex {
  // as in the files: objects that are near each other follow each other; numbers are those of the source
  const order = list.map((_, k) => k).sort((a, b) => list[a]![0] - list[b]![0]);
  const columns: ObjectColumns = {
    origin,
    boxes: Float32Array.from(
      order.flatMap((k) => [list[k]![0], list[k]![1], list[k]![0] + list[k]![2], list[k]![1] + list[k]![3]]),
    ),
    halfWidths: new Float32Array(list.length),
    objects: Uint32Array.from(order),
    layers: Uint16Array.from(order.map((k) => k % 3)),
    kinds: Uint8Array.from(order.map((k) => objectKinds.indexOf(list[k]![4] ? 'text' : 'line'))),
  };
  return new ObjectIndex(columns);
}

const objects = fc.array(
  fc.tuple(
    fc.nat(4000),
    fc.nat(4000),
    fc.integer({ min: 1, max: 300 }),
    fc.integer({ min: 1, max: 300 }),
    fc.boolean(),
  ),
  { minLength: 1, maxLength: 120 },
);
const views = fc.array(fc.tuple(fc.nat(4000), fc.nat(4000), fc.integer({ min: 20, max: 3000 }), fc.nat(6)), {
  maxLength: 8,
});
const regionOf = (x: number, y: number, half: number, turn: number): Region => ({
  middle: { x: origin.x + x, y: origin.y + y },
  right: { x: Math.cos(turn), y: Math.sin(turn) },
  halfWidth: half,
  halfHeight: half * 0.6,
});

it('has seen just what was readable in some view, as trying every object in every view tells', () => {
  fc.assert(
    fc.property(objects, views, (list, looks) => {
      const index = indexOf(list);
      const coverage = new Coverage(index);
      const expected = new Set<number>();
      for (const [x, y, half, turn] of looks) {
        const region = regionOf(x, y, half, turn);
        const unitsPerPx = half / 500;
        coverage.look(region, unitsPerPx, readable, all);
        list.forEach(([left, low, width, height, isText], k) => {
          const px = (isText ? Math.min(width, height) : Math.max(width, height)) / unitsPerPx;
          const corners = [
            [left, low],
            [left + width, low],
            [left, low + height],
            [left + width, low + height],
          ].map(([a, b]) => [a! - x, b! - y] as const);
          const isWithin = ([a, b]: readonly [number, number], slack: number): boolean => {
            const [right, up] = [a * region.right.x + b * region.right.y, b * region.right.x - a * region.right.y];
            return Math.abs(right) <= region.halfWidth + slack && Math.abs(up) <= region.halfHeight + slack;
          };
          const isLarger = width > 2 * region.halfWidth || height > 2 * region.halfHeight;
          const middle = [left + width / 2 - x, low + height / 2 - y] as const;
          // within rounding either is right
          const entry = index.columns.objects.indexOf(k);
          const isClear = (slack: number): boolean =>
            corners.every((corner) => isWithin(corner, slack)) || (isLarger && isWithin(middle, slack));
          const limit = isText ? readable.textPx : readable.detailPx;
          if (isClear(-1e-3) && px > limit * 1.001) expected.add(entry);
          else if ((isClear(1e-3) && px > limit * 0.999 && coverage.isSeen(entry)) || expected.has(entry))
            expected.add(entry);
        });
      }
      list.forEach((_, entry) => expect(coverage.isSeen(entry)).toBe(expected.has(entry)));
      expect(coverage.covered).toEqual({ seen: expected.size, total: list.length });
      const layers = [...coverage.byLayer().values()];
      expect(layers.reduce((sum, { seen }) => sum + seen, 0)).toBe(expected.size);
    }),
  );
});

it('is kept as bits, and comes back from them', () => {
  fc.assert(
    fc.property(objects, (list) => {
      const coverage = new Coverage(indexOf(list));
      coverage.look(regionOf(2000, 2000, 1500, 0), 1, readable, all);
      const other = new Coverage(indexOf(list));
      other.bits = coverage.bits;
      expect(other.covered).toEqual(coverage.covered);
      expect(other.bits).toEqual(coverage.bits);
    }),
  );
});

it('leads from unseen place to unseen place until all has been seen', () => {
  fc.assert(
    fc.property(objects, (list) => {
      const coverage = new Coverage(indexOf(list));
      for (let steps = 0; steps <= list.length; steps++) {
        const next = coverage.nearestUnseen({ x: origin.x, y: origin.y }, all);
        if (!next) break;
        const { box, entry } = next;
        const unitsPerPx = coverage.readableAt(entry, readable) / 1.5;
        const half = Math.max(box.maxX - box.minX, box.maxY - box.minY, 1) * 2;
        const region = regionOf((box.minX + box.maxX) / 2 - origin.x, (box.minY + box.maxY) / 2 - origin.y, half, 0);
        expect(coverage.look(region, unitsPerPx, readable, all)).toBeGreaterThan(0);
      }
      expect(coverage.nearestUnseen({ x: 0, y: 0 }, all)).toBeNull();
      expect(coverage.grid(16).unseen.every((share) => share <= 0)).toBe(true);
    }),
  );
});

it('of each sheet counts what has its middle there', () => {
  fc.assert(
    fc.property(objects, fc.integer({ min: 1, max: 4000 }), (list, x) => {
      const coverage = new Coverage(indexOf(list));
      coverage.bits = Uint8Array.from({ length: 16 }, (_, k) => 37 * k);
      const far = 1e5;
      const sheet = (minX: number, maxX: number) => ({
        minX: origin.x + minX,
        maxX: origin.x + maxX,
        minY: origin.y - far,
        maxY: origin.y + far,
      });
      const [left, right] = coverage.bySheet([sheet(-far, x + 0.25), sheet(x + 0.25, far)]);
      const middles = list.map(([minX, , width]) => minX + width / 2);
      expect([left!.total, right!.total]).toEqual([
        middles.filter((middle) => middle <= x + 0.25).length,
        middles.filter((middle) => middle > x + 0.25).length,
      ]);
      expect(left!.seen + right!.seen).toBe(coverage.covered.seen);
    }),
  );
});
