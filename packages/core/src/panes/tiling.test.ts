import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { readyTilings } from './ready-tilings.ts';
import {
  GAP_PX,
  LEAST_PANE,
  MOST_PANES,
  areasOf,
  closePane,
  dividersOf,
  evenOut,
  isLeaf,
  isTiling,
  moveDivider,
  paneBeside,
  panesOf,
  splitPane,
  swapPanes,
  type Area,
  type Tiling,
} from './tiling.ts';

/** Tilings as hands make them: by splitting again and again. */
const tilings: fc.Arbitrary<Tiling> = fc
  .array(fc.tuple(fc.nat(), fc.constantFrom('row' as const, 'column' as const)), { maxLength: MOST_PANES - 1 })
  .map((splits) => {
    let tiling: Tiling = { pane: 'p0' };
    splits.forEach(([which, along], k) => {
      const panes = panesOf(tiling);
      tiling = splitPane(tiling, panes[which % panes.length]!, along, `p${k + 1}`);
    });
    return tiling;
  });
const wholeAreas = fc.record({
  x: fc.integer({ min: 0, max: 300 }),
  y: fc.integer({ min: 0, max: 100 }),
  width: fc.integer({ min: 2100, max: 5000 }),
  height: fc.integer({ min: 1400, max: 3000 }),
});
const smallAreas = wholeAreas.map((area) => ({ ...area, width: area.width >> 3, height: area.height >> 3 }));

const meet = (a: Area, b: Area): boolean =>
  a.x < b.x + b.width && b.x < a.x + a.width && a.y < b.y + b.height && b.y < a.y + a.height;
const size = ({ width, height }: Area): number => width * height;

/** Px of the gaps of a branch and all below it. */
const gapsIn = (tiling: Tiling, area: Area): number =>
  dividersOf(tiling, area).reduce((sum, divider) => sum + size(divider.area), 0);

describe('areasOf', () => {
  it('fills any area exactly, with whole px and without overlaps', () => {
    fc.assert(
      fc.property(tilings, fc.oneof(wholeAreas, smallAreas), (tiling, area) => {
        const areas = [...areasOf(tiling, area).values()];
        const gaps = dividersOf(tiling, area).map((divider) => divider.area);
        const all = [...areas, ...gaps];
        expect(all.every(({ x, y, width, height }) => [x, y, width, height].every(Number.isInteger))).toBe(true);
        expect(all.reduce((sum, one) => sum + size(one), 0)).toBe(size(area));
        for (const [k, one] of all.entries())
          for (const other of all.slice(k + 1)) expect(meet(one, other)).toBe(false);
        for (const one of all) {
          expect(one.x >= area.x && one.x + one.width <= area.x + area.width).toBe(true);
          expect(one.y >= area.y && one.y + one.height <= area.y + area.height).toBe(true);
        }
      }),
    );
  });

  it('makes no pane too small while there is room for all', () => {
    fc.assert(
      fc.property(
        tilings,
        wholeAreas,
        fc.array(fc.tuple(fc.nat(), fc.double({ min: -4000, max: 9000, noNaN: true }))),
        (start, area, moves) => {
          let tiling = start;
          for (const [which, to] of moves) {
            const dividers = dividersOf(tiling, area);
            if (dividers.length > 0) tiling = moveDivider(tiling, area, dividers[which % dividers.length]!, to);
          }
          for (const { width, height } of areasOf(tiling, area).values()) {
            expect(width).toBeGreaterThanOrEqual(LEAST_PANE.width - 1);
            expect(height).toBeGreaterThanOrEqual(LEAST_PANE.height - 1);
          }
        },
      ),
    );
  });
});

describe('dividers', () => {
  it('lie where they were taken, and nothing else moves', () => {
    fc.assert(
      fc.property(
        tilings,
        wholeAreas,
        fc.nat(),
        fc.double({ min: 0, max: 1, noNaN: true }),
        (tiling, area, which, share) => {
          const dividers = dividersOf(tiling, area);
          fc.pre(dividers.length > 0);
          const divider = dividers[which % dividers.length]!;
          const to = Math.round(divider.least + share * (divider.most - divider.least));
          const moved = moveDivider(tiling, area, divider, to);
          const same = dividersOf(moved, area).find(
            ({ path, index }) => index === divider.index && path.join() === divider.path.join(),
          )!;
          expect(Math.abs((divider.along === 'row' ? same.area.x : same.area.y) - to)).toBeLessThanOrEqual(1);
          expect(panesOf(moved)).toEqual(panesOf(tiling));
          const [before, after] = [areasOf(tiling, area), areasOf(moved, area)];
          const nextTo = (pane: string): boolean => {
            const own = before.get(pane)!;
            const { x, y, width, height } = divider.area;
            return meet(
              { x: own.x - GAP_PX, y: own.y - GAP_PX, width: own.width + 2 * GAP_PX, height: own.height + 2 * GAP_PX },
              { x, y, width, height },
            );
          };
          // what doesn't reach the divider's two parts stays
          const [first, second] = partsAt(tiling, divider.path, divider.index);
          const touched = new Set([...panesOf(first), ...panesOf(second)]);
          for (const pane of panesOf(tiling))
            if (!touched.has(pane) && !nextTo(pane)) expect(after.get(pane)).toEqual(before.get(pane));
        },
      ),
    );
  });

  it('even out the two parts at them', () => {
    const tiling: Tiling = {
      along: 'row',
      parts: [{ pane: 'a' }, { pane: 'b' }, { pane: 'c' }],
      shares: [0.6, 0.2, 0.2],
    };
    const area = { x: 0, y: 0, width: 1804, height: 600 };
    const areas = areasOf(evenOut(tiling, { path: [], index: 0 }), area);
    expect([...areas.values()].map(({ width }) => width)).toEqual([720, 720, 360]);
  });
});

function partsAt(tiling: Tiling, path: readonly number[], index: number): [Tiling, Tiling] {
  let part = tiling;
  for (const step of path) if (!isLeaf(part)) part = part.parts[step]!;
  if (isLeaf(part)) throw new Error('no branch');
  return [part.parts[index]!, part.parts[index + 1]!];
}

describe('splitting and closing', () => {
  it('are each other’s inverse', () => {
    fc.assert(
      fc.property(
        tilings,
        fc.nat(),
        fc.constantFrom('row' as const, 'column' as const),
        wholeAreas,
        (tiling, which, along, area) => {
          const panes = panesOf(tiling);
          const split = splitPane(tiling, panes[which % panes.length]!, along, 'new');
          expect(panesOf(split)).toHaveLength(panes.length + 1);
          const closed = closePane(split, 'new')!;
          expect(panesOf(closed)).toEqual(panes);
          expect(areasOf(closed, area)).toEqual(areasOf(tiling, area));
        },
      ),
    );
  });

  it('leave one pane less each, down to none, and always fill', () => {
    fc.assert(
      fc.property(tilings, wholeAreas, fc.infiniteStream(fc.nat()), (start, area, picks) => {
        let tiling: Tiling | null = start;
        while (tiling) {
          const panes = panesOf(tiling);
          const areas = areasOf(tiling, area);
          expect([...areas.values()].reduce((sum, one) => sum + size(one), gapsIn(tiling, area))).toBe(size(area));
          expect(isTiling(JSON.parse(JSON.stringify(tiling)))).toBe(true);
          tiling = closePane(tiling, panes[picks.next().value! % panes.length]!);
          expect(tiling ? panesOf(tiling).length : 0).toBe(panes.length - 1);
        }
      }),
    );
  });

  it('refuse a pane that isn’t there', () => {
    expect(() => splitPane({ pane: 'a' }, 'b', 'row', 'c')).toThrow(RangeError);
  });
});

describe('swapPanes', () => {
  it('changes the places of two and of nobody else; done twice it is undone', () => {
    fc.assert(
      fc.property(tilings, fc.nat(), fc.nat(), wholeAreas, (tiling, a, b, area) => {
        const panes = panesOf(tiling);
        const [one, other] = [panes[a % panes.length]!, panes[b % panes.length]!];
        const swapped = swapPanes(tiling, one, other);
        expect(areasOf(swapped, area).get(one)).toEqual(areasOf(tiling, area).get(other));
        expect(swapPanes(swapped, other, one)).toEqual(tiling);
      }),
    );
  });
});

describe('a tiling that comes from elsewhere', () => {
  it('is the same after writing and reading', () => {
    fc.assert(
      fc.property(tilings, (tiling) => {
        const read: unknown = JSON.parse(JSON.stringify(tiling));
        expect(isTiling(read)).toBe(true);
        expect(read).toEqual(tiling);
      }),
    );
  });

  it.each([
    ['nothing', null],
    ['a branch with one part', { along: 'row', parts: [{ pane: 'a' }], shares: [1] }],
    ['shares that don’t make a whole', { along: 'row', parts: [{ pane: 'a' }, { pane: 'b' }], shares: [0.5, 0.1] }],
    ['a share below nothing', { along: 'row', parts: [{ pane: 'a' }, { pane: 'b' }], shares: [1.5, -0.5] }],
    ['one pane twice', { along: 'row', parts: [{ pane: 'a' }, { pane: 'a' }], shares: [0.5, 0.5] }],
    ['another direction', { along: 'ring', parts: [{ pane: 'a' }, { pane: 'b' }], shares: [0.5, 0.5] }],
  ])('is refused if it is %s', (_, value) => {
    expect(isTiling(value)).toBe(false);
  });
});

describe('paneBeside', () => {
  it('finds the neighbour that lies straight ahead', () => {
    const { tiling } = readyTilings.find(({ name }) => name === 'Four')!;
    const areas = areasOf(tiling, { x: 0, y: 0, width: 1000, height: 800 });
    expect(paneBeside(areas, '0', 'right')).toBe('1');
    expect(paneBeside(areas, '0', 'below')).toBe('2');
    expect(paneBeside(areas, '3', 'left')).toBe('2');
    expect(paneBeside(areas, '3', 'above')).toBe('1');
    expect(paneBeside(areas, '0', 'left')).toBeNull();
    expect(paneBeside(areas, 'nowhere', 'left')).toBeNull();
  });
});

describe('ready tilings', () => {
  it('are tilings with from one to nine panes, named once each', () => {
    expect(readyTilings.every(({ tiling }) => isTiling(tiling))).toBe(true);
    const counts = readyTilings.map(({ tiling }) => panesOf(tiling).length);
    expect([Math.min(...counts), Math.max(...counts)]).toEqual([1, MOST_PANES]);
    expect(new Set(readyTilings.map(({ name }) => name)).size).toBe(readyTilings.length);
  });
});
