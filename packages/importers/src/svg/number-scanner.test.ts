import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { NumberScanner } from './number-scanner.ts';

const digits = (most: number): fc.Arbitrary<string> =>
  fc.string({ unit: fc.constantFrom(...'0123456789'), minLength: 0, maxLength: most });

describe('a number in an attribute', () => {
  it('is the double that the language reads, however many digits it has', () => {
    fc.assert(
      fc.property(
        fc.constantFrom('', '-', '+'),
        digits(20),
        fc.option(digits(20), { nil: undefined }),
        fc.option(fc.integer({ min: -320, max: 308 }), { nil: undefined }),
        (sign, whole, decimals, power) => {
          fc.pre(whole + (decimals ?? '') !== '');
          const text =
            sign + whole + (decimals === undefined ? '' : `.${decimals}`) + (power === undefined ? '' : `e${power}`);
          const scan = new NumberScanner(text);
          expect(Object.is(scan.number(), Number(text))).toBe(true);
          expect(scan.isAtEnd).toBe(true);
        },
      ),
      { numRuns: 3000 },
    );
  });

  it('ends where the next one begins', () => {
    expect(new NumberScanner('1.5.25-3+4e1,7').all()).toEqual([1.5, 0.25, -3, 40, 7]);
    expect(new NumberScanner('412600000.125 -7208400000.0625').all()).toEqual([412_600_000.125, -7_208_400_000.0625]);
  });

  it('is none where no digit stands', () => {
    for (const text of ['', '-', '.', 'x', '-.e4']) {
      const scan = new NumberScanner(text);
      expect(scan.number()).toBeNaN();
      expect(scan.at).toBe(0);
    }
  });
});
