import fc from 'fast-check';
import { expect, it } from 'vitest';
import { numbersOfRanges, rangesOf } from './ranges.ts';

it('numbers come back from their ranges, whatever they are', () => {
  fc.assert(
    fc.property(fc.uniqueArray(fc.nat(300)), (numbers) => {
      const given = new Set(numbers);
      const text = rangesOf(301, (number) => given.has(number));
      expect(numbersOfRanges(text, 301)).toEqual([...given].sort((a, b) => a - b));
    }),
  );
  expect(rangesOf(10, (number) => number > 2 && number !== 8)).toBe('3-7,9');
});

it('so many that ranges would be long come back from bits', () => {
  const count = 20_011;
  fc.assert(
    fc.property(fc.integer({ min: 2, max: 9 }), fc.integer(), fc.nat(count), (every, seed, from) => {
      const isIn = (number: number): boolean =>
        number < from ? number % every === 0 : Math.imul(number ^ seed, 2_654_435_761) >>> 28 < every;
      const text = rangesOf(count, isIn);
      const numbers = Array.from({ length: count }, (_, number) => number);
      expect(numbersOfRanges(text, count)).toEqual(numbers.filter(isIn));
      expect(numbersOfRanges(text, 100)).toEqual(numbers.slice(0, 100).filter(isIn));
    }),
    { numRuns: 30 },
  );
});

it('every second one of 100,000 takes a few hundred letters; any half of a million fits into a view', () => {
  expect(rangesOf(100_000, (number) => number % 2 === 0).length).toBeLessThan(600);
  const scattered = rangesOf(1_000_000, (number) => Math.imul(number, 2_654_435_761) >>> 31 === 1);
  expect(scattered.length).toBeLessThan(190_000);
});

it.each(['3-', 'x', '1,,2', 'b:***', 'b:fw=='])('“%s” is refused', (text) => {
  expect(() => numbersOfRanges(text, 1000)).toThrow(RangeError);
});
