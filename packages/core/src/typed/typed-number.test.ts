import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { formatScale } from '../camera/scale.ts';
import { formatBearing } from '../camera/twist.ts';
import { readBearing, readDegrees, readLength, readNumber, readScale, type Reading } from './typed-number.ts';

const value = <T>(reading: Reading<T>): T | string => ('value' in reading ? reading.value : reading.trouble);

describe('a typed number', () => {
  it.each([
    ['12', 12],
    ['-12.5', -12.5],
    ['−12,5', -12.5],
    ['+.5', 0.5],
    ['0,125', 0.125],
    ['412600500,5', 412_600_500.5],
    ['412 600 500.25', 412_600_500.25],
    ['412\u202f600\u202f500,25', 412_600_500.25],
    ['1,250,000', 1_250_000],
    ['1.250.000', 1_250_000],
    ['1,250.5', 1250.5],
    ['1.250,5', 1250.5],
    ['1.250', 1.25],
  ])('%s is understood', (text, wanted) => {
    expect(value(readNumber(text))).toBe(wanted);
  });

  it('that can mean two numbers says both', () => {
    expect(value(readNumber('1,250'))).toBe('“1,250” can mean 1250 or 1.250: write one of these.');
    expect(value(readNumber('1,250', true))).toBe(1250);
  });

  it.each(['', 'V-204', '1.2.3', '1,25,000', '12 5', '1,250,00', '.', '--1', '1.250,5.3', '1e5'])(
    '“%s” is refused',
    (text) => {
      expect(readNumber(text)).toHaveProperty('trouble');
    },
  );

  it('comes back from how it is written, with blanks between its groups or without', () => {
    fc.assert(
      fc.property(fc.integer({ min: -1e12, max: 1e12 }), fc.integer({ min: 0, max: 6 }), (n, decimals) => {
        const number = n / 10 ** decimals;
        for (const text of [
          number.toFixed(decimals),
          number.toLocaleString('en', { maximumFractionDigits: decimals }).replaceAll(',', '\u202f'),
          number
            .toFixed(decimals)
            .replace('.', ',')
            .replace(/^(-?[1-9]\d{0,2},\d{3})$/, '$10'),
        ])
          expect(readNumber(text)).toEqual({ value: number });
      }),
    );
  });
});

describe('a typed length', () => {
  it.each([
    ['2 m', 2000],
    ['12,5 m', 12_500],
    ['-5', -5],
    ['3 cm', 30],
    ['10 in', 254],
    ['6"', 152.4],
    ["2'", 609.6],
  ])('%s is so many mm', (text, wanted) => {
    expect(value(readLength(text, 'mm'))).toBeCloseTo(wanted, 9);
  });
  it('is refused where its unit is none', () => {
    expect(readLength('2 yards', 'mm')).toHaveProperty('trouble');
  });
});

describe('a typed bearing', () => {
  it.each([
    ['30', 30],
    ['-30,5', -30.5],
    ['12,5', 12.5],
    ['N45E', 45],
    ['N 45° W', 315],
    ['S 30 E', 150],
    ['s10,5w', 190.5],
    ['N45°30′E', 45.5],
    ['NE', 45],
    ['w', 270],
    ['12° 30′ 36″', 12.51],
  ])('%s is so many degrees', (text, wanted) => {
    expect(value(readBearing(text))).toBeCloseTo(wanted, 12);
  });
  it('is refused beyond its quadrant, or with more minutes than there are', () => {
    expect(value(readBearing('N100E'))).toBe('“N100E” turns by more than 90° from north.');
    expect(readDegrees('3° 75′')).toHaveProperty('trouble');
    expect(readBearing('north')).toHaveProperty('trouble');
  });
  it('comes back from how it is written', () => {
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 3599 }), (tenths) => {
        const text = formatBearing((tenths * Math.PI) / 1800);
        expect(value(readBearing(text))).toBeCloseTo(tenths / 10, 9);
      }),
    );
  });
});

describe('a typed scale', () => {
  it.each([
    ['1:200', 200],
    ['1:1,250', 1250],
    ['1:1 250', 1250],
    ['1:2,5', 2.5],
    ['1 / 2.5', 2.5],
    ['1 to 500', 500],
    ['20:1', 0.05],
    ['75', 75],
  ])('%s', (text, wanted) => {
    expect(value(readScale(text))).toBeCloseTo(wanted, 12);
  });
  it.each(['1:0', '0', '1:-5', 'one to two', '1:2:3', '1:1e12'])('“%s” is refused in words', (text) => {
    expect(readScale(text)).toEqual({ trouble: expect.stringContaining('is no scale') as string });
  });
  it('comes back from how it is written, to the three digits that count', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 999_999 }), (n) => {
        const read = value(readScale(formatScale(n))) as number;
        expect(Math.abs(read / n - 1)).toBeLessThanOrEqual(n >= 100 ? 1e-12 : 0.005);
      }),
    );
  });
});
