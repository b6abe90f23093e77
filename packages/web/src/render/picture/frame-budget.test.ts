import { expect, it } from 'vitest';
import { learn, startBudget } from './frame-budget';

/** A machine that draws so many segments a millisecond. */
const run = (perMs: number, frames: number, from = startBudget) => {
  let budget = from;
  for (let i = 0; i < frames; i++) budget = learn(budget, budget.weight, budget.weight / perMs);
  return budget;
};

it('settles where frames are neither slow nor idle, on slow machines and on fast ones', () => {
  for (const perMs of [2000, 5000, 20_000]) {
    const { weight } = run(perMs, 200);
    expect(weight / perMs).toBeGreaterThan(20);
    expect(weight / perMs).toBeLessThan(60);
  }
});

it('stays where it is once it has settled', () => {
  const settled = run(4000, 200);
  expect(run(4000, 50, settled).weight / settled.weight).toBeCloseTo(1, 1);
});

it('takes no confidence from frames that had little to draw', () => {
  expect(learn(startBudget, 500, 2).weight).toBe(startBudget.weight);
});

it('soon forgets a frame during which the page was hidden', () => {
  let budget = learn(startBudget, startBudget.weight, 3_600_000);
  for (let frame = 0; frame < 12; frame++) budget = learn(budget, budget.weight, 17);
  expect(budget.frameMs).toBeLessThan(30);
  expect(budget.weight).toBeGreaterThan(0.5 * startBudget.weight);
});
