import fc from 'fast-check';
import { expect, it } from 'vitest';
import { planCamera } from '@gull-pane/core/camera/camera';
import { readViewAddress, writeViewAddress } from './view-address';

it('brings back the very doubles and the hidden layers', () => {
  const coordinate = fc.double({ min: -1e10, max: 1e10, noNaN: true });
  const scale = fc.double({ min: 1e-9, max: 1e6, noNaN: true });
  const layers = fc.uniqueArray(fc.nat(500));
  fc.assert(
    fc.property(coordinate, coordinate, scale, layers, (x, y, s, hidden) => {
      const camera = planCamera({ x: x + 0, y: y + 0, z: 0 }, s);
      const address = new URLSearchParams(writeViewAddress(camera, new Set(hidden)).toString());
      const read = readViewAddress(address);
      expect(read.camera).toEqual(camera);
      expect([...(read.hidden ?? [])].sort()).toEqual([...hidden].sort());
    }),
  );
});

it.each(['', '?x=1&y=2', '?x=1&y=2&s=0', '?x=1&y=2&s=-4', '?x=a&y=2&s=1', '?x=1&y=Infinity&s=1'])(
  'takes %j for no view',
  (search) => {
    expect(readViewAddress(new URLSearchParams(search)).camera).toBeNull();
  },
);

it('passes over layers that are no numbers', () => {
  expect(readViewAddress(new URLSearchParams('?hide=1,x,-2,3')).hidden).toEqual([1, 3]);
});

it('says nothing of layers that are as they were at first, and says so where all are shown', () => {
  const camera = planCamera({ x: 1, y: 2, z: 0 }, 3);
  const hiddenAfter = (hidden: number[], first: number[]) =>
    readViewAddress(writeViewAddress(camera, new Set(hidden), new Set(first))).hidden;
  expect(hiddenAfter([4, 2], [2, 4])).toBeNull();
  expect(hiddenAfter([], [2, 4])).toEqual([]);
  expect(hiddenAfter([2], [2, 4])).toEqual([2]);
  expect(hiddenAfter([], [])).toBeNull();
});
