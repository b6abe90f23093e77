/** Where panes have been: each window keeps its own trail and sees those of the others. */
import { afterAll, beforeAll, expect, it } from 'vitest';
import type { TrailDto } from '@gull-pane/protocol/trail';
import { TestServer, problemOf, smallPlan } from './running-server.ts';

let server: TestServer;
let address: string;
beforeAll(async () => {
  server = await TestServer.start();
  const { drawing } = await server.import(smallPlan);
  address = `/api/drawings/${drawing.id}/trail`;
});
afterAll(() => server.stop());

const trail = (...places: number[]): TrailDto => ({
  views: places.map((x, index) => ({
    x,
    y: 7208400000,
    z: 0,
    unitsPerPx: 1.5,
    qx: 0,
    qy: 0,
    qz: 0,
    qw: 1,
    kind: 'jump' as const,
    parent: index - 1,
    forward: index + 1 < places.length ? index + 1 : -1,
  })),
  current: places.length - 1,
});
const put = (body: unknown, window?: string): Promise<Response> =>
  server.fetch(window === undefined ? address : `${address}?window=${window}`, {
    method: 'PUT',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify(body),
  });
const get = (window: string): Promise<TrailDto> => server.json(`${address}?window=${window}`);
const [one, other, third] = [1, 2, 3].map((k) => `00000000-0000-4000-8000-00000000000${k}`) as [string, string, string];

it('is kept by window, and no window loses another’s', async () => {
  expect(await get(one)).toEqual({ views: [], current: 0 });
  const long = trail(1, 2, 3, 4, 5);
  expect((await put(long, one)).status).toBe(204);
  expect((await put(trail(9), other)).status).toBe(204);
  const mine = await get(one);
  expect(mine.views.slice(0, 5)).toEqual(long.views);
  expect(mine.current).toBe(4);
  expect(mine.views[5]).toMatchObject({ x: 9, isElsewhere: true, parent: 0 });
  const theirs = await get(other);
  expect(theirs.views.map(({ x }) => x)).toEqual([9, 1, 2, 3, 4, 5]);
  expect(theirs.current).toBe(0);
  // a new window goes on where the last one was, and has what it sees as its own
  const fresh = await get(third);
  expect(fresh.views.map(({ x }) => x)).toEqual([9, 1, 2, 3, 4, 5]);
  expect((await put(fresh, third)).status).toBe(204);
  expect((await get(one)).views).toHaveLength(6);
});

it('is forgotten of the windows that are longest gone, and of all on demand', async () => {
  for (let k = 10; k < 30; k++) await put(trail(1000 + k), `00000000-0000-4000-8000-0000000000${k}`);
  expect((await get(one)).views).toHaveLength(8);
  expect((await server.fetch(address, { method: 'DELETE' })).status).toBe(204);
  expect((await get(one)).views).toEqual([]);
});

it('is refused where its window or its views can’t be', async () => {
  expect((await problemOf(await put(trail(1), 'mine'))).detail).toContain('UUID');
  const broken = { ...trail(1, 2), current: 7 };
  expect((await put(broken, one)).status).toBe(400);
});
