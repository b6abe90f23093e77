import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { RangeAllocator } from './range-allocator';

describe('stretches of a row of places', () => {
  it('are used again once they are given back, joined with free neighbours', () => {
    const places = new RangeAllocator(10);
    const [a, b, c] = [places.take(3)!, places.take(3)!, places.take(4)!];
    expect([a, b, c]).toEqual([0, 3, 6]);
    expect(places.take(1)).toBeNull();
    places.give(a, 3);
    places.give(c, 4);
    expect(places.take(5)).toBeNull();
    places.give(b, 3);
    expect(places.take(10)).toBe(0);
  });

  it('go on where the row did when it grows', () => {
    const places = new RangeAllocator(4);
    expect(places.take(3)).toBe(0);
    expect(places.take(4)).toBeNull();
    places.growTo(8);
    expect(places.take(5)).toBe(3);
    expect(places.capacity).toBe(8);
  });

  it('never overlap, and none is lost', () => {
    const step = fc.record({ length: fc.integer({ min: 1, max: 9 }), gives: fc.boolean(), which: fc.nat() });
    fc.assert(
      fc.property(fc.array(step, { maxLength: 200 }), (steps) => {
        const size = 64;
        const places = new RangeAllocator(size);
        const held: { start: number; length: number }[] = [];
        for (const { length, gives, which } of steps) {
          if (gives && held.length > 0) {
            const [one] = held.splice(which % held.length, 1);
            places.give(one!.start, one!.length);
            continue;
          }
          const start = places.take(length);
          if (start === null) continue;
          expect(start + length).toBeLessThanOrEqual(size);
          for (const other of held)
            expect(start + length <= other.start || other.start + other.length <= start).toBe(true);
          held.push({ start, length });
        }
        for (const { start, length } of held) places.give(start, length);
        expect(places.take(size)).toBe(0);
      }),
    );
  });
});
