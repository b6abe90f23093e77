import { describe, expect, it } from 'vitest';
import { measureSolid } from './measure.ts';
import { cube, torus, tube } from './test-shapes.ts';

describe('area and volume', () => {
  it('of a cube are exact, wherever it stands', () => {
    const { area, volume } = measureSolid([cube(100, [4.1e8, 7.2e9, 40])]);
    expect(area).toBeCloseTo(60_000, 6);
    expect(volume).toBeCloseTo(1_000_000, 3);
  });

  it('of a torus come to those of its formula', () => {
    const { area, volume } = measureSolid([torus(200, 60, 256, 128)]);
    expect(area / (4 * Math.PI ** 2 * 200 * 60)).toBeCloseTo(1, 3);
    expect(volume! / (2 * Math.PI ** 2 * 200 * 60 ** 2)).toBeCloseTo(1, 2);
  });

  it('of an open shell is an area alone', () => {
    const { area, volume } = measureSolid([tube(50, 200, 96)]);
    expect(area / (2 * Math.PI * 50 * 200)).toBeCloseTo(1, 3);
    expect(volume).toBeNull();
    expect(measureSolid([])).toEqual({ area: 0, volume: null });
  });

  it('of a solid in parts of several materials count its parts together', () => {
    const { positions, triangles } = cube(10);
    const parts = [
      { positions, triangles: triangles.slice(0, 18) },
      { positions, triangles: triangles.slice(18) },
    ];
    expect(measureSolid(parts).volume).toBeCloseTo(1000, 9);
  });
});
