import { expect, it } from 'vitest';
import { groupRuns, indicesIn } from './run-groups';

const runs = [0, 1, 2, 3].map((style) => ({ style, start: 10 * style, count: 10 }));

it('draws everything at once when nothing is hidden', () => {
  expect(groupRuns(runs, () => 0)).toEqual([{ start: 0, count: 40, materialIndex: 0 }]);
});

it('leaves hidden styles out and changes material where it must', () => {
  const groups = groupRuns(runs, (style) => (style === 1 ? -1 : style === 3 ? 1 : 0));
  expect(groups).toEqual([
    { start: 0, count: 10, materialIndex: 0 },
    { start: 20, count: 10, materialIndex: 0 },
    { start: 30, count: 10, materialIndex: 1 },
  ]);
  expect(indicesIn(groups)).toBe(30);
});
