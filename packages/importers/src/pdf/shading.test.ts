import { describe, expect, it } from 'vitest';
import { identityAffine } from '@gull-pane/core/geometry/affine';
import { pictureOfShading, shadingOf } from './shading.ts';

const stops = [
  [0, '#ff0000'],
  [1, '#0000ff'],
] as const;
const axial = shadingOf(['RadialAxial', 'axial', null, stops, [10, 0], [30, 0], null, null])!;

describe('a shading', () => {
  it('along a line has the colours of its ends beyond them', () => {
    expect(axial.at(10, 7)).toEqual([255, 0, 0, 255]);
    expect(axial.at(20, -3)).toEqual([128, 0, 128, 255]);
    expect(axial.at(30, 0)).toEqual([0, 0, 255, 255]);
    expect(axial.at(-100, 0)).toEqual([255, 0, 0, 255]);
    expect(axial.mean).toEqual([128, 0, 128, 255]);
  });

  it('ends with its stops where these say so, and with its box', () => {
    const open = [
      [0, 'transparent'],
      [0.001, '#ff0000'],
      [0.999, '#0000ff'],
      [1, 'transparent'],
    ] as const;
    const shading = shadingOf(['RadialAxial', 'axial', [0, 0, 100, 10], open, [10, 0], [30, 0], null, null])!;
    expect(shading.at(5, 5)).toEqual([0, 0, 0, 0]);
    expect(shading.at(40, 5)).toEqual([0, 0, 0, 0]);
    expect(shading.at(20, 5)![3]).toBe(255);
    expect(shading.at(20, 11)).toBeNull();
  });

  it('between circles takes the one farthest along', () => {
    const within = shadingOf(['RadialAxial', 'radial', null, stops, [0, 0], [0, 0], 0, 10])!;
    expect(within.at(0, 0)).toEqual([255, 0, 0, 255]);
    expect(within.at(3, 4)).toEqual([128, 0, 128, 255]);
    expect(within.at(0, 20)).toEqual([0, 0, 255, 255]);
    // a cone: nothing beside it
    const cone = shadingOf(['RadialAxial', 'radial', null, stops, [0, 0], [100, 0], 10, 10])!;
    expect(cone.at(50, 11)).toBeNull();
    expect(cone.at(60, 0)).not.toBeNull();
  });

  it('of another kind is null', () => {
    expect(shadingOf(['Mesh', 4])).toBeNull();
    expect(shadingOf(null)).toBeNull();
  });

  it('is a picture of what is painted, its first row on top', () => {
    const region = { minX: 10, minY: 0, maxX: 30, maxY: 10 };
    const { place, source } = pictureOfShading(axial, identityAffine, region, (_x, y) => y > 5)!;
    expect(place).toEqual({ a: 20, b: 0, c: 0, d: -10, e: 10, f: 10 });
    expect(source).toMatchObject({ kind: 'pixels', widthPx: 80, heightPx: 40, channels: 4 });
    expect([...source.bytes.subarray(0, 4)]).toEqual([253, 0, 2, 255]);
    expect([...source.bytes.subarray(4 * 79, 4 * 80)]).toEqual([2, 0, 253, 255]);
    expect([...source.bytes.subarray(-4)]).toEqual([0, 0, 0, 0]);
    expect(pictureOfShading(axial, { ...identityAffine, a: 0 }, region, () => true)).toBeNull();
  });
});
