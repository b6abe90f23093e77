import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { CompareSide, TextTable, type ComparedObject } from './compare-side.ts';
import { matchObjects, type Matched } from './match-objects.ts';

type Plain = ComparedObject & { readonly coords: readonly number[] };

const sideOf = (table: TextTable, objects: readonly Plain[], stride: 2 | 3 = 2): CompareSide => {
  const side = new CompareSide(stride, table);
  for (const object of objects) side.add(object);
  return side;
};
type Told = Omit<Matched, 'same'>;
const matched = (before: readonly Plain[], after: readonly Plain[], stride: 2 | 3 = 2): Matched => {
  const table = new TextTable();
  return matchObjects(sideOf(table, before, stride), sideOf(table, after, stride));
};
/** The differences. Checks that every object of the later revision is either among them or mapped to an unchanged one. */
const compared = (before: readonly Plain[], after: readonly Plain[], stride: 2 | 3 = 2): Told => {
  const { same, ...told } = matched(before, after, stride);
  const unchanged = [...same.keys()].filter((object) => same[object]! >= 0);
  expect(new Set(unchanged.map((object) => same[object]!)).size).toBe(unchanged.length);
  const others = [...told.added, ...told.changed.map((pair) => pair.after)];
  expect([...unchanged, ...others].sort((a, b) => a - b)).toEqual([...after.keys()]);
  return told;
};

const E = 412_600_000;
const N = 7_208_400_000;
const line = (x: number, y: number, dx: number, dy: number, more: Partial<Plain> = {}): Plain => ({
  kind: 0,
  layer: 'Pipes',
  style: 'blue',
  label: null,
  key: null,
  make: [0, 1],
  coords: [E + x, N + y, E + x + dx, N + y + dy],
  ...more,
});
const text = (x: number, y: number, label: string, more: Partial<Plain> = {}): Plain => ({
  kind: 1,
  layer: 'Tags',
  style: 'ink',
  label,
  key: null,
  make: [],
  coords: [E + x, N + y],
  ...more,
});
const nothing: Told = { gone: [], added: [], changed: [] };

describe('two revisions of a drawing', () => {
  const drawing = [line(0, 0, 500, 0), line(0, 100, 500, 0), line(900, 40, 0, 800), text(20, 20, 'KS-VA-0405')];

  it('are the same whatever the order, the numbering and the last digits', () => {
    const other = [...drawing].reverse().map((object) => ({
      ...object,
      coords: object.coords.map((value, k) => value + (k % 2 === 0 ? 1e-6 : -1e-6)),
    }));
    expect(compared(drawing, other)).toEqual(nothing);
  });

  it('tell what is new and what is gone', () => {
    expect(compared(drawing, [...drawing, line(5000, 5000, 10, 10)])).toEqual({ ...nothing, added: [4] });
    expect(compared(drawing, drawing.slice(1))).toEqual({ ...nothing, gone: [0] });
  });

  it('tell how far something was moved, to the last digit', () => {
    const moved = drawing.map((object, k) => (k === 2 ? line(900 + 2500, 40 - 12.5, 0, 800) : object));
    expect(compared(drawing, moved).changed).toEqual([{ before: 2, after: 2, ways: ['moved'], by: [2500, -12.5] }]);
  });

  it('tell other words, styles, layers and shapes', () => {
    const change = (k: number, by: Partial<Plain>): Told =>
      compared(
        drawing,
        drawing.map((object, i) => (i === k ? { ...object, ...by } : object)),
      );
    expect(change(3, { label: 'KS-VA-0406' }).changed).toEqual([{ before: 3, after: 3, ways: ['label'] }]);
    expect(change(0, { style: 'red' }).changed).toEqual([{ before: 0, after: 0, ways: ['restyled'] }]);
    expect(change(0, { layer: 'Drains' }).changed).toEqual([{ before: 0, after: 0, ways: ['layer'] }]);
    const longer = { coords: line(0, 0, 600, 0).coords };
    expect(change(0, longer).changed).toEqual([{ before: 0, after: 0, ways: ['reshaped'] }]);
  });

  it('of which everything was moved tell so, and nothing else', () => {
    const many = Array.from({ length: 500 }, (_, k) =>
      line((k % 25) * 400, Math.floor(k / 25) * 300, k < 250 ? 90 + k : 90, 40),
    );
    const { gone, added, changed } = compared(
      many,
      many.map((object) => ({ ...object, coords: object.coords.map((value) => value + 64) })),
    );
    expect([gone, added]).toEqual([[], []]);
    expect(changed).toHaveLength(500);
    for (const { before, after, ways, by } of changed)
      expect({ after, ways, by }).toEqual({ after: before, ways: ['moved'], by: [64, 64] });
  });

  it('know an object by its name wherever it has gone and whatever it looks like', () => {
    const valve = (x: number, coords: number[]): Plain => ({
      kind: 2,
      layer: 'Valves',
      style: '',
      label: 'KS-VA-0405',
      key: 'KS-VA-0405',
      make: [12],
      coords: coords.map((value, k) => value + (k % 3 === 0 ? x : 0)),
    });
    const before = [valve(0, [0, 0, 0, 1, 1, 1]), valve(50, [0, 0, 0, 2, 2, 2])].map((one, k) => ({
      ...one,
      key: `KS-VA-040${k}`,
    }));
    const after = [{ ...before[1]! }, { ...before[0]!, coords: [9000, 0, 0, 9000, 5, 5] }];
    expect(compared(before, after, 3).changed).toEqual([{ before: 0, after: 1, ways: ['reshaped'] }]);
  });
});

it('finds random edits exactly and invents none', () => {
  const drawing = Array.from({ length: 400 }, (_, k) =>
    k % 7 === 0
      ? text((k % 20) * 1000, Math.floor(k / 20) * 1000, `KS-${k}`)
      : line((k % 20) * 1000, Math.floor(k / 20) * 1000, 200 + k, 100 + 3 * k),
  );
  type Edit = 'drop' | 'move' | 'style' | 'layer' | 'label' | 'stretch';
  const edits = fc.uniqueArray(
    fc.record({ at: fc.nat(399), edit: fc.constantFrom<Edit>('drop', 'move', 'style', 'layer', 'label', 'stretch') }),
    { selector: ({ at }) => at, maxLength: 40 },
  );
  fc.assert(
    fc.property(edits, fc.nat(10), fc.integer({ min: 1, max: 399 }), (list, news, shift) => {
      const wanted = new Map(list.map(({ at, edit }) => [at, edit]));
      const edited = drawing.flatMap((object, k): { from: number; object: Plain }[] => {
        const isText = object.kind === 1;
        const edit = wanted.get(k);
        // what a text can't suffer, a line does, and the other way round
        const done = edit === 'label' && !isText ? 'style' : edit === 'stretch' && isText ? 'label' : edit;
        if (done === 'drop') return [];
        const changes: Record<string, Partial<Plain>> = {
          move: { coords: object.coords.map((value) => value + 37) },
          style: { style: 'red' },
          layer: { layer: 'Other' },
          label: { label: `${object.label ?? ''}-B` },
          stretch: { coords: object.coords.map((value, i) => (i === 2 ? value + 31 : value)) },
        };
        return [{ from: k, object: { ...object, ...(done === undefined ? {} : changes[done]) } }];
      });
      const added = Array.from({ length: news }, (_, k) => line(1e6 + 1000 * k, 1e6, 777.5 + k, 3));
      const turned = [...edited.slice(shift), ...edited.slice(0, shift)];
      const after = [...added, ...turned.map(({ object }) => object)];
      const told = compared(drawing, after);
      const dropped = [...wanted].filter(([, edit]) => edit === 'drop').map(([at]) => at);
      expect(told.gone).toEqual(dropped.sort((a, b) => a - b));
      expect(told.added).toEqual(added.map((_, k) => k));
      const changed = told.changed.map(({ before, after: place }) => [before, turned[place - news]!.from]);
      for (const [before, from] of changed) expect(before).toBe(from);
      const expected = [...wanted].filter(([, edit]) => edit !== 'drop').map(([at]) => at);
      expect(changed.map(([before]) => before!).sort((a, b) => a - b)).toEqual(expected.sort((a, b) => a - b));
    }),
  );
});
