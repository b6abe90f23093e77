import fc from 'fast-check';
import { expect, it } from 'vitest';
import { SolidCoverage } from './solid-coverage.ts';

const model = fc.array(fc.tuple(fc.nat(900), fc.nat(900), fc.nat(900), fc.nat(3)), { minLength: 1, maxLength: 60 });
const tableOf = (list: readonly (readonly [number, number, number, number])[]) => ({
  layers: list.map(([, , , layer]) => layer),
  boxes: list.flatMap(([x, y, z]) => [x, y, z, x + 10, y + 20, z + 30]),
});

it('what was seen is counted once, by layer and in all, and comes back from its bits', () => {
  fc.assert(
    fc.property(model, fc.array(fc.nat(200), { maxLength: 90 }), (list, met) => {
      const coverage = new SolidCoverage(tableOf(list));
      const expected = new Set<number>();
      for (const number of met) {
        const object = number % list.length;
        expect(coverage.see(object)).toBe(!expected.has(object));
        expected.add(object);
      }
      expect(coverage.covered).toEqual({ seen: expected.size, total: list.length });
      for (const [layer, { seen, total }] of coverage.byLayer()) {
        const own = list.flatMap((one, k) => (one[3] === layer ? [k] : []));
        expect([seen, total]).toEqual([own.filter((k) => expected.has(k)).length, own.length]);
      }
      const other = new SolidCoverage(tableOf(list));
      other.bits = coverage.bits;
      expect(list.map((_, k) => other.isSeen(k))).toEqual(list.map((_, k) => expected.has(k)));
    }),
  );
});

it('unseen visible objects come nearest first until none is left', () => {
  fc.assert(
    fc.property(model, fc.nat(900), fc.nat(6), (list, x, hidden) => {
      const coverage = new SolidCoverage(tableOf(list));
      const isShown = (object: number): boolean => object % 7 !== hidden;
      const at = { x, y: 100, z: 100 };
      const far = (k: number): number =>
        Math.hypot(list[k]![0] + 5 - x, list[k]![1] + 10 - 100, list[k]![2] + 15 - 100);
      let before = 0;
      for (;;) {
        const next = coverage.nearestUnseen(at, isShown);
        if (next === null) break;
        expect(far(next)).toBeGreaterThanOrEqual(before);
        before = far(next);
        coverage.see(next);
      }
      expect(coverage.covered.seen).toBe(list.filter((_, k) => isShown(k)).length);
    }),
  );
});
