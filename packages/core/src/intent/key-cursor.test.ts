import fc from 'fast-check';
import { expect, it } from 'vitest';
import { edgePush } from './edge-push.ts';
import { moveKeyCursor, stepPx } from './key-cursor.ts';

const viewport = { widthPx: 800, heightPx: 500 };
const way = fc.record({ x: fc.integer({ min: -3000, max: 3000 }), y: fc.integer({ min: -3000, max: 3000 }) });
const inside = fc.record({ x: fc.integer({ min: 28, max: 772 }), y: fc.integer({ min: 28, max: 472 }) });

it('reaches the very place that it is led to, by moving itself and the drawing', () => {
  fc.assert(
    fc.property(inside, way, (from, by) => {
      const { at, pan } = moveKeyCursor(from, by, viewport);
      // a place of the drawing moves with it
      expect(at.x - pan.x).toBe(from.x + by.x);
      expect(at.y - pan.y).toBe(from.y + by.y);
    }),
  );
});

it('never rests where it would push the drawing on', () => {
  fc.assert(
    fc.property(inside, way, (from, by) => {
      expect(edgePush(moveKeyCursor(from, by, viewport).at, viewport)).toBeNull();
    }),
  );
});

it('steps on the screen or in the drawing', () => {
  expect(stepPx({ px: 16 }, 25)).toBe(16);
  expect(stepPx({ units: 500 }, 25)).toBe(20);
});
