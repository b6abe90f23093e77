import { expect, it } from 'vitest';
import { Patience } from './patience';

it('time counts for one thing alone, and only while nothing else is done', () => {
  const [view, other] = [{}, {}];
  const patience = new Patience();
  expect(patience.hasWaited(view, 1500, 10_000)).toBe(false);
  expect(patience.hasWaited(view, 1500, 11_499)).toBe(false);
  expect(patience.hasWaited(view, 1500, 11_500)).toBe(true);
  // another view has its own time, and so has the first when its turn comes again
  expect(patience.hasWaited(other, 1500, 11_600)).toBe(false);
  expect(patience.hasWaited(view, 1500, 13_000)).toBe(false);
  // a hand that moves for a while: tiles weren't wanted meanwhile
  patience.begin();
  expect(patience.hasWaited(view, 1500, 20_000)).toBe(false);
  expect(patience.hasWaited(view, 1500, 21_500)).toBe(true);
});
