import { expect, it } from 'vitest';
import type { Flooded } from '@gull-pane/core/planar/flood';
import { createAreasStore, type AreaAnswers, type AreaQuestion } from './areas-store';

const question = (x: number): AreaQuestion => ({
  at: { x, y: 0 },
  unitsPerPx: 1,
  tolerance: 0.01,
  others: [],
  withinMs: 1000,
  isBeyond: true,
  region: { middle: { x: 0, y: 0 }, right: { x: 1, y: 0 }, halfWidth: 10, halfHeight: 10 },
});
const closed: Flooded = { kind: 'closed', rings: [[0, 0, 1, 0, 1, 1]] };

/** Answers when the test says so; those that are given up fail. */
function makeAnswers() {
  const waiting: { x: number; resolve: (found: Flooded) => void; reject: (error: Error) => void }[] = [];
  let givenUp = 0;
  const answers: AreaAnswers = {
    ask: (_, { at }) => new Promise((resolve, reject) => waiting.push({ x: at.x, resolve, reject })),
    giveUp() {
      givenUp++;
      for (const { reject } of waiting.splice(0)) reject(new Error('given up'));
    },
  };
  return { answers, waiting, givenUp: () => givenUp };
}

it('tells what it is looking for until it has found it', async () => {
  const { answers, waiting } = makeAnswers();
  const areas = createAreasStore(answers);
  const found = areas.getState().find(question(3));
  expect(areas.getState().looking).toEqual({ x: 3, y: 0 });
  waiting[0]!.resolve(closed);
  expect(await found).toBe(closed);
  expect(areas.getState().looking).toBeNull();
});

it('gives a search up when it is called off: nothing is found, nothing fails', async () => {
  const { answers, waiting, givenUp } = makeAnswers();
  const areas = createAreasStore(answers);
  const found = areas.getState().find(question(3));
  areas.getState().cancel();
  expect(areas.getState().looking).toBeNull();
  expect(await found).toBeNull();
  expect(givenUp()).toBe(1);
  expect(waiting).toHaveLength(0);
});

it('replaces a search by the next one; a late answer is dropped', async () => {
  const late: ((found: Flooded) => void)[] = [];
  const areas = createAreasStore({
    ask: () => new Promise((resolve) => late.push(resolve)),
    giveUp: () => undefined, // the worker had the answer ready
  });
  const first = areas.getState().find(question(1));
  const second = areas.getState().find(question(2));
  late[0]!({ kind: 'open', gaps: [], rings: [] });
  late[1]!(closed);
  expect(await first).toBeNull();
  expect(await second).toBe(closed);
});

it('shows what a click would take', async () => {
  const { answers, waiting } = makeAnswers();
  const areas = createAreasStore(answers);
  areas.getState().show(question(5));
  expect(areas.getState().looking).toBeNull();
  waiting.shift()!.resolve(closed);
  await Promise.resolve();
  await Promise.resolve();
  expect(areas.getState().preview).toEqual({ at: { x: 5, y: 0 }, found: closed });
  areas.getState().forgetPreview();
  expect(areas.getState().preview).toBeNull();
});

it('shows the last of places that the cursor passes while an answer is awaited', async () => {
  const { answers, waiting, givenUp } = makeAnswers();
  const areas = createAreasStore(answers);
  for (const x of [1, 2, 3]) areas.getState().show(question(x));
  expect(waiting.map(({ x }) => x)).toEqual([1]);
  waiting[0]!.resolve(closed);
  await new Promise((resolve) => setTimeout(resolve, 0));
  expect(waiting.map(({ x }) => x)).toEqual([1, 3]);
  expect(givenUp()).toBe(0);
});

it('doesn’t let a preview replace what was clicked', async () => {
  const { answers, waiting } = makeAnswers();
  const areas = createAreasStore(answers);
  const found = areas.getState().find(question(1));
  areas.getState().show(question(2));
  expect(waiting.map(({ x }) => x)).toEqual([1]);
  waiting[0]!.resolve(closed);
  expect(await found).toBe(closed);
});

it('tells of an answer that can’t be had', async () => {
  const { answers, waiting } = makeAnswers();
  const areas = createAreasStore(answers);
  const found = areas.getState().find(question(1));
  waiting[0]!.reject(new Error('status 503'));
  await expect(found).rejects.toThrow('503');
  expect(areas.getState().looking).toBeNull();
});
