import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { ContentPrint } from './content-print.ts';

type Thing = readonly [number[], string];
const things = fc.array(fc.tuple(fc.array(fc.double({ noNaN: true }), { maxLength: 8 }), fc.string({ maxLength: 8 })), {
  maxLength: 12,
});
function printOf(all: readonly Thing[]): string {
  const print = new ContentPrint();
  for (const [numbers, words] of all) print.add(numbers, words);
  return String(print);
}

describe('a print of content', () => {
  it('is the same in any order', () => {
    fc.assert(
      fc.property(things, fc.infiniteStream(fc.nat()), (all, order) => {
        const mixed = all.map((thing) => [order.next().value!, thing] as const).sort(([a], [b]) => a - b);
        expect(printOf(mixed.map(([, thing]) => thing))).toBe(printOf(all));
      }),
    );
  });

  it('is another one if the last bit of a coordinate is, or a letter, or if one thing is there twice', () => {
    fc.assert(
      fc.property(things, fc.double({ min: 1, max: 8e9, noNaN: true }), (all, x) => {
        const valve: Thing = [[x, 7208400250], 'KS-VA-0417'];
        const next = new Float64Array([x]);
        new BigInt64Array(next.buffer)[0]! += 1n;
        const print = printOf([...all, valve]);
        expect(printOf([...all, [[next[0]!, 7208400250], 'KS-VA-0417']])).not.toBe(print);
        expect(printOf([...all, [[x, 7208400250], 'KS-VA-0418']])).not.toBe(print);
        expect(printOf([...all, valve, valve])).not.toBe(print);
        expect(printOf(all)).not.toBe(print);
      }),
    );
  });
});
