import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { besideAt, parkedAt } from './park';

const pane = { widthPx: 800, heightPx: 500 };
const card = { width: 160, height: 60 };

describe('a card', () => {
  it('stands in the margin that is nearest to its last point', () => {
    expect(parkedAt(pane, card, [{ x: 700, y: 250 }], []).left).toBe(800 - 160 - 8);
    expect(parkedAt(pane, card, [{ x: 90, y: 250 }], []).left).toBe(8);
    expect(parkedAt(pane, card, [{ x: 400, y: 480 }], []).top).toBe(500 - 60 - 8);
  });

  it('is wholly within the pane and covers nothing that is taken, wherever its points are', () => {
    const number = fc.integer({ min: -2000, max: 2000 });
    const dial = { left: 540, top: 300, width: 260, height: 200 };
    fc.assert(
      fc.property(fc.array(fc.record({ x: number, y: number }), { minLength: 1, maxLength: 5 }), (points) => {
        const { left, top } = parkedAt(pane, card, points, [dial]);
        expect(left).toBeGreaterThanOrEqual(0);
        expect(top).toBeGreaterThanOrEqual(0);
        expect(left + card.width).toBeLessThanOrEqual(pane.widthPx);
        expect(top + card.height).toBeLessThanOrEqual(pane.heightPx);
        expect(left + card.width <= dial.left || top + card.height <= dial.top).toBe(true);
      }),
    );
  });

  it('takes the size from what a browser tells', () => {
    // the parts of a DOMRect aren’t its own properties
    const rect = Object.create({ width: 160, height: 60 }) as typeof card;
    const { left, top } = parkedAt(pane, rect, [{ x: 700, y: 250 }], []);
    expect(left > 700 || left + 160 < 700 || top > 250 || top + 60 < 250).toBe(true);
  });

  it('doesn’t cover what it tells of while there is another place', () => {
    const { left, top } = parkedAt(pane, card, [{ x: 60, y: 30 }], []);
    expect(left > 60 || top > 30).toBe(true);
  });

  it('beside the cursor is wholly within the pane and clear of the cursor, wherever that is in it', () => {
    const sizes = fc.record({ width: fc.integer({ min: 10, max: 380 }), height: fc.integer({ min: 10, max: 230 }) });
    const places = fc.record({ x: fc.nat(pane.widthPx), y: fc.nat(pane.heightPx) });
    fc.assert(
      fc.property(sizes, places, (size, at) => {
        const { left, top } = besideAt(pane, size, at, 18);
        expect(Math.min(left, top)).toBeGreaterThanOrEqual(0);
        expect(left + size.width).toBeLessThanOrEqual(pane.widthPx);
        expect(top + size.height).toBeLessThanOrEqual(pane.heightPx);
        const covers = left < at.x && at.x < left + size.width && top < at.y && at.y < top + size.height;
        expect(covers).toBe(false);
      }),
    );
  });
});
