import { afterEach, beforeEach, expect, it, vi } from 'vitest';
import { planCamera } from '@gull-pane/core/camera/camera';
import { boxAround, type Region } from '@gull-pane/core/pick/region';
import type { CardDto } from '@gull-pane/protocol/cards';
import type { TourDto } from '@gull-pane/protocol/tours';
import type { Answers } from '../picking/pick-questions';
import { cameraToDto } from '../wire/camera-dto';
import { planOf, type TourPlan } from '../store/tour-plan';
import { waysThatSee } from './raise-ways';

const viewport = { widthPx: 800, heightPx: 600 };

/** Two valves far apart, seen close; nothing lies between them. */
const valves = [
  { x: 0, y: 0 },
  { x: 0, y: 90_000 },
];
let questions: number;
let things: readonly { readonly x: number; readonly y: number }[];
const asked = {
  ask: (_: string, { region }: { readonly region: Region }) => {
    questions++;
    const { minX, minY, maxX, maxY } = boxAround(region);
    const isAnything = things.some(({ x, y }) => x > minX && x < maxX && y > minY && y < maxY);
    return Promise.resolve({ isAnything, nearest: null });
  },
} as unknown as Answers;

function planWith(loops = false): TourPlan {
  const cards = valves.map(({ x, y }, k): CardDto => ({
    id: `card ${k}`,
    drawingId: 'plan',
    name: `Valve ${k}`,
    group: '',
    position: k,
    picture: '',
    version: 1,
    camera: cameraToDto(planCamera({ x, y, z: 0 }, 1)),
    ...viewport,
    updatedAt: '',
    shows: { hiddenLayers: [], hiddenObjects: '', revision: 1, clips: [] },
  }));
  const tour: TourDto = {
    id: 'tour',
    drawingId: 'plan',
    name: 'Valves',
    position: 1,
    loops,
    version: 1,
    updatedAt: '',
    stops: cards.map(({ id }, k) => ({
      id: `stop ${k}`,
      cardId: id,
      caption: '',
      travelMs: 1000,
      stayMs: 0,
      easing: 'gentle',
      looksChange: 'midway',
      driftRadPerS: 0,
    })),
  };
  return planOf(tour, cards, viewport);
}

async function raisedFor(
  plan: TourPlan,
  raise = waysThatSee(asked, () => viewport),
): Promise<ReadonlyMap<string, number>> {
  const told = new Promise<ReadonlyMap<string, number>>((resolve) => raise(plan, resolve));
  await vi.advanceTimersByTimeAsync(1000);
  return told;
}

beforeEach(() => {
  vi.useFakeTimers();
  questions = 0;
  things = valves;
});
afterEach(() => {
  vi.useRealTimers();
});

it('lets a way rise that would see nothing on the way, just as high as it takes', async () => {
  const plan = planWith();
  const raised = await raisedFor(plan);
  expect([...raised]).toEqual([['stop 1', 1]]);
  // and the way that is made so sees one valve or the other at every moment
  const { timeline } = planOf(
    plan.tour,
    plan.stops.map(({ card }) => card),
    viewport,
    raised,
  );
  for (let timeMs = 0; timeMs <= timeline!.durationMs; timeMs += 20) {
    const { target, unitsPerPx } = timeline!.at(timeMs).camera;
    const isSeen = valves.some(({ y }) => Math.abs(y - target.y) < unitsPerPx * (viewport.heightPx / 2 + 1));
    expect(isSeen).toBe(true);
  }
});

it('leaves ways as they are that see something all along', async () => {
  things = Array.from({ length: 900 }, (_, k) => ({ x: 0, y: k * 100 }));
  expect([...(await raisedFor(planWith()))]).toEqual([]);
});

it('leaves ways as they are where there is nothing to be seen from anywhere', async () => {
  things = [];
  expect([...(await raisedFor(planWith()))]).toEqual([]);
});

it('looks at the way back to the first stop where the tour loops, and at each way once', async () => {
  const raise = waysThatSee(asked, () => viewport);
  const raised = await raisedFor(planWith(true), raise);
  expect(new Map(raised)).toEqual(
    new Map([
      ['stop 0', 1],
      ['stop 1', 1],
    ]),
  );
  const before = questions;
  await raisedFor(planWith(true), raise);
  expect(questions).toBe(before);
});
