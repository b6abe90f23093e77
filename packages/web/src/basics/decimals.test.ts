import fc from 'fast-check';
import { afterEach, describe, expect, it } from 'vitest';
import { readLength, readNumber, readScale } from '@gull-pane/core/typed/typed-number';
import { chooseDecimals, listSign, readDecimals, shownDecimals, writesComma } from './decimals';
import { bytesText, coordinateText, exactText } from './figures';

afterEach(() => chooseDecimals('point'));

describe('decimals', () => {
  it('are written as the language has them', () => {
    expect(writesComma(['en-GB'])).toBe(false);
    expect(writesComma(['de-CH', 'de'])).toBe(false);
    expect(writesComma(['de-DE', 'en'])).toBe(true);
    expect(writesComma(['fr'])).toBe(true);
    chooseDecimals('language', ['nl']);
    expect(exactText(63_595.25)).toBe('63\u202f595,25');
    expect(coordinateText(412_600.125, 0.01)).toBe('412\u202f600,13');
    expect(bytesText(1_250_000)).toBe('1,3 MB');
    expect(listSign()).toBe(';');
    chooseDecimals('point', ['nl']);
    expect(exactText(63_595.25)).toBe('63\u202f595.25');
    chooseDecimals('comma', ['en']);
    expect(shownDecimals('1:2.5')).toBe('1:2,5');
    expect(shownDecimals('as it is. 1.')).toBe('as it is. 1.');
  });

  it('come back as they were shown', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: -1e9, max: 1e9 }),
        fc.integer({ min: 0, max: 6 }),
        fc.boolean(),
        (n, k, isComma) => {
          chooseDecimals(isComma ? 'comma' : 'point');
          const value = n / 10 ** k;
          expect(readDecimals(exactText(value), readNumber)).toEqual({ value: value === 0 ? 0 : value });
        },
      ),
    );
  });

  it('with a decimal comma, points group digits, and ambiguous input is quoted as typed', () => {
    chooseDecimals('comma');
    expect(readDecimals('1.234,5', readNumber)).toEqual({ value: 1234.5 });
    expect(readDecimals('1,125 m', (text) => readLength(text, 'mm'))).toEqual({ value: 1125 });
    expect(readDecimals('1:1.250', readScale)).toEqual({ value: 1250 });
    expect(readDecimals('1.500', readNumber)).toEqual({
      trouble: '“1.500” can mean 1500 or 1,500: write one of these.',
    });
  });
});
