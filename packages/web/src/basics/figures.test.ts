import { expect, it } from 'vitest';
import { bytesText, coordinateText, grouped } from './figures';

it('groups digits by three', () => {
  expect(grouped(63595)).toBe('63\u202f595');
  expect(grouped(999)).toBe('999');
});

it('writes file sizes in the unit that fits', () => {
  expect([0, 999, 2_500_509, 734_000_000, 5e12].map(bytesText)).toEqual([
    '0 B',
    '999 B',
    '2.5 MB',
    '734 MB',
    '5000 GB',
  ]);
});

it('writes coordinates with as many decimals as a px can tell apart', () => {
  expect(coordinateText(412_600_500.125, 130)).toBe('412\u202f600\u202f500');
  expect(coordinateText(412_600_500.125, 0.05)).toBe('412\u202f600\u202f500.13');
  expect(coordinateText(-7.5, 0.5)).toBe('−7.5');
  expect(coordinateText(-0.004, 1)).toBe('0'); // never less than nothing
});
