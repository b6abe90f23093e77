import fc from 'fast-check';
import { expect, it } from 'vitest';
import { colourFromHex, colourToHex, contrast, fillOnGround, inkOnGround, opaque } from './colour.ts';

const channel = fc.integer({ min: 0, max: 255 });
const colours = fc.tuple(channel, channel, channel).map(([r, g, b]) => opaque(r, g, b));

it('every ink can be told from its ground, and stays itself on paper where it could be already', () => {
  fc.assert(
    fc.property(colours, colours, (colour, ground) => {
      expect(contrast(inkOnGround(colour, ground), ground)).toBeGreaterThanOrEqual(1.98);
      const paper = opaque(247, 243, 234);
      if (contrast(colour, paper) >= 2) expect(inkOnGround(colour, paper)).toEqual(colour);
    }),
  );
});

it('a fill is turned over at night and comes back to itself when turned twice', () => {
  const night = opaque(15, 27, 38);
  expect(fillOnGround(opaque(255, 255, 255), night)).toEqual(opaque(0, 0, 0));
  fc.assert(
    fc.property(colours, (colour) => {
      expect(fillOnGround(fillOnGround(colour, night), night)).toEqual(colour);
    }),
  );
});

it('measures contrast as the standard does', () => {
  expect(contrast(opaque(0, 0, 0), opaque(255, 255, 255))).toBeCloseTo(21, 6);
  expect(contrast(opaque(119, 119, 119), opaque(255, 255, 255))).toBeCloseTo(4.48, 2);
});

it('hexadecimal and back is the same colour', () => {
  fc.assert(
    fc.property(colours, (colour) => {
      expect(colourFromHex(colourToHex(colour))).toEqual(colour);
    }),
  );
});
