import fc from 'fast-check';
import { expect, it } from 'vitest';
import { clustersOf, type CompareBox } from './clusters.ts';

const boxes = fc.array(
  fc
    .tuple(fc.integer({ min: 0, max: 300 }), fc.integer({ min: 0, max: 300 }), fc.nat(30), fc.nat(30))
    .map(([x, y, width, height]): CompareBox => ({ min: [x, y], max: [x + width, y + height] })),
  { maxLength: 60 },
);

it('puts together just those that a chain of near boxes joins, as trying all pairs does', () => {
  fc.assert(
    fc.property(boxes, fc.nat(25), (list, reach) => {
      const near = (a: CompareBox, b: CompareBox): boolean =>
        [0, 1].every((k) => a.min[k]! - reach <= b.max[k]! && b.min[k]! - reach <= a.max[k]!);
      const group = list.map((_, k) => k);
      for (let again = true; again;) {
        again = false;
        list.forEach((a, i) => {
          list.forEach((b, j) => {
            if (!near(a, b) || group[i] === group[j]) return;
            const least = Math.min(group[i]!, group[j]!);
            [group[i], group[j], again] = [least, least, true];
          });
        });
      }
      const clusters = clustersOf(list, reach);
      expect(clusters.flatMap(({ members }) => members).sort((a, b) => a - b)).toEqual(list.map((_, k) => k));
      for (const { members, box } of clusters) {
        expect(new Set(members.map((k) => group[k])).size).toBe(1);
        expect(members).toHaveLength(group.filter((own) => own === group[members[0]!]).length);
        for (const k of members)
          for (const axis of [0, 1]) {
            expect(box.min[axis]!).toBeLessThanOrEqual(list[k]!.min[axis]!);
            expect(box.max[axis]!).toBeGreaterThanOrEqual(list[k]!.max[axis]!);
          }
      }
    }),
  );
});
