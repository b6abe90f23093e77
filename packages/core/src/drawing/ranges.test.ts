import fc from 'fast-check';
import { expect, it } from 'vitest';
import { numbersOfRanges, rangesOf } from './ranges.ts';

it('numbers come back from their ranges, whatever they are', () => {
  fc.assert(
    fc.property(fc.uniqueArray(fc.nat(300)), (numbers) => {
      const given = new Set(numbers);
      const text = rangesOf(301, (number) => given.has(number));
      expect(numbersOfRanges(text, 301)).toEqual([...numbers].sort((a, b) => a - b));
    }),
  );
  expect(rangesOf(10, (number) => number > 2 && number !== 8)).toBe('3-7,9');
});

it('numbers beyond the end are left out, and what is no range is refused', () => {
  expect(numbersOfRanges('1,5-9', 7)).toEqual([1, 5, 6]);
  expect(() => numbersOfRanges('1,x', 7)).toThrow(RangeError);
});
