import fc from 'fast-check';
import { Vector4 } from 'three';
import { describe, expect, it } from 'vitest';
import { isKept, type ClipVolume } from '@gull-pane/core/clip/clip-volume';
import { aboutAxis } from '@gull-pane/core/geometry/quaternion';
import { sub3 } from '@gull-pane/core/geometry/vec';
import { shaderClips } from './shader-clips';

const number = (min: number, max: number): fc.Arbitrary<number> => fc.double({ min, max, noNaN: true });
const point = fc.record({ x: number(-900, 900), y: number(-900, 900), z: number(-900, 900) });
const volume: fc.Arbitrary<ClipVolume> = fc
  .record({
    kind: fc.constantFrom('box' as const, 'plane' as const),
    keeps: fc.constantFrom('inside' as const, 'outside' as const),
    centre: point,
    angleRad: number(-3, 3),
    half: fc.record({ x: number(1, 900), y: number(1, 900), z: number(1, 900) }),
  })
  .map(({ angleRad, ...rest }) => ({
    ...rest,
    id: 1,
    name: '',
    isOn: true,
    orientation: aboutAxis({ x: 0.6, y: 0, z: 0.8 }, angleRad),
  }));
/** Heights over the planes are shares of half a side, 1 at least, made of lengths up to some 6,000. */
const NEAR = 1e-9;

describe('clips as the shaders have them', () => {
  it('keep before their planes what the volume keeps', () => {
    fc.assert(
      fc.property(volume, point, point, (own, origin, at) => {
        const [{ planes }] = shaderClips([own], origin) as [ReturnType<typeof shaderClips>[number]];
        if (own.kind === 'box' && own.keeps === 'outside') {
          expect(planes).toBeNull();
          return;
        }
        const { x, y, z } = sub3(at, origin);
        const heights = planes!.map((plane) => plane.dot(new Vector4(x, y, z, 1)));
        fc.pre(heights.every((height) => Math.abs(height) > NEAR));
        expect(heights.every((height) => height > 0)).toBe(isKept([own], at));
      }),
    );
  });
});
