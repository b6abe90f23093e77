import { expect, it } from 'vitest';
import { cacheShare } from './budgets';

it('a device with little memory keeps fewer tiles; one that doesn’t say keeps them all', () => {
  expect([undefined, 8, 32].map(cacheShare)).toEqual([1, 1, 1]);
  expect([4, 2, 1].map(cacheShare)).toEqual([0.5, 0.25, 0.125]);
  expect([0.5, 0.25].map(cacheShare)).toEqual([0.125, 0.125]);
});
