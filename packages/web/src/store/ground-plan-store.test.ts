import { describe, expect, it } from 'vitest';
import { plansUnder } from './ground-plan-store';

const drawing = (name: string, from: readonly [number, number], to: readonly [number, number], unit = 'mm') => ({
  name,
  unit: unit as 'mm',
  extents: { min: { x: from[0], y: from[1], z: 0 }, max: { x: to[0], y: to[1], z: 0 } },
});

describe('plans under a model', () => {
  const hall = drawing('hall', [100, 100], [200, 200]);
  const names = (...plans: ReturnType<typeof drawing>[]): string[] => plansUnder(hall, plans).map(({ name }) => name);

  it('begin with the one that covers most of its ground', () => {
    const detail = drawing('detail', [110, 110], [120, 120]);
    const site = drawing('site', [0, 0], [1000, 1000]);
    const half = drawing('half', [150, 0], [1000, 1000]);
    expect(names(detail, half, site)).toEqual(['site', 'half', 'detail']);
  });

  it('keep their order where they cover the same', () => {
    expect(names(drawing('new', [0, 0], [500, 500]), drawing('old', [0, 0], [900, 900]))).toEqual(['new', 'old']);
  });

  it('leave out what lies elsewhere, has another unit or no extents', () => {
    expect(names(drawing('far', [300, 300], [400, 400]), drawing('metres', [0, 0], [500, 500], 'm'))).toEqual([]);
    expect(plansUnder(hall, [{ unit: 'mm' as const, extents: null }])).toEqual([]);
  });

  it('count a model without width as covered where they meet', () => {
    const wall = drawing('wall', [150, 100], [150, 200]);
    const plan = drawing('plan', [0, 0], [500, 150]);
    expect(plansUnder(wall, [plan])).toEqual([plan]);
  });
});
