import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { Growable, type Memory } from './growable.ts';

describe.each<Memory>(['own', 'shared'])('a growing column in %s memory', (memory) => {
  it('holds what came, in its order', () => {
    const bits = fc.array(fc.oneof(fc.double(), fc.array(fc.double(), { maxLength: 200 })), { maxLength: 50 });
    fc.assert(
      fc.property(bits, (given) => {
        const column = new Growable(Float64Array, memory);
        const wanted: number[] = [];
        for (const bit of given) {
          if (typeof bit === 'number') column.push(bit);
          else column.append(bit);
          wanted.push(...(typeof bit === 'number' ? [bit] : bit));
        }
        expect(column).toHaveLength(wanted.length);
        expect(Array.from(column.view())).toEqual(wanted);
        for (const [at, value] of wanted.entries()) expect(column.at(at)).toBe(value);
      }),
    );
  });
});

describe('shared memory', () => {
  it('stays where it is while it grows, so that a view taken before is good', () => {
    const column = new Growable(Uint32Array, 'shared');
    column.push(7);
    const before = column.view();
    for (let i = 0; i < 3_000_000; i++) column.push(i); // past where it grows by doubling
    const after = column.view();
    expect(after.buffer).toBe(before.buffer);
    expect([before[0], after[0], after[3_000_000]]).toEqual([7, 7, 2_999_999]);
  });

  it('is the same in a column that is made of a view', () => {
    const column = new Growable(Float64Array, 'shared');
    column.append([1, 2, 3]);
    const other = Growable.of(column.view());
    expect(Array.from(other.view())).toEqual([1, 2, 3]);
    column.view()[1] = 5;
    expect(other.at(1)).toBe(5);
  });
});
