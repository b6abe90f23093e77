import { randomUUID } from 'node:crypto';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { ImportAcceptedDto } from '@gull-pane/protocol/drawings';
import type { KeepTourDto, StopDto, TourDto } from '@gull-pane/protocol/tours';
import { TestServer, problemOf, smallPlan } from './running-server.ts';

let server: TestServer;
let drawingId: string;
beforeAll(async () => {
  server = await TestServer.start();
  const accepted = (await (await server.upload(smallPlan, 'Chamber.svg')).json()) as ImportAcceptedDto;
  await server.ended(accepted.jobId);
  ({ drawingId } = accepted);
});
afterAll(() => server.stop());

const stop = (change: Partial<StopDto> = {}): StopDto => ({
  id: randomUUID(),
  cardId: randomUUID(),
  caption: 'Valve chamber',
  travelMs: 2500,
  stayMs: 1000,
  easing: 'even',
  looksChange: 'leaving',
  driftRadPerS: 0.123456789012345,
  ...change,
});
const send = (method: string, path: string, body?: unknown): Promise<Response> =>
  server.fetch(path, {
    method,
    ...(body === undefined ? {} : { headers: { 'content-type': 'application/json' }, body: JSON.stringify(body) }),
  });
const keep = (tour: unknown): Promise<Response> => send('POST', `/api/drawings/${drawingId}/tours`, tour);
const tour = (name: string, position: number): KeepTourDto => ({
  name,
  position,
  loops: true,
  stops: [stop(), stop()],
});
const list = (): Promise<TourDto[]> => server.json<TourDto[]>(`/api/drawings/${drawingId}/tours`);

describe('tours', () => {
  it('are kept in their order with all their stops, and survive a restart', async () => {
    const second = (await (await keep(tour('Second', 2))).json()) as TourDto;
    const first = (await (await keep(tour('First', 1))).json()) as TourDto;
    await server.restart();
    expect(await list()).toEqual([first, second]);
    expect(first).toMatchObject({ name: 'First', loops: true, version: 1, drawingId });
    expect(first.stops[0]!.driftRadPerS).toBe(0.123456789012345);
  });

  it('are changed only from the latest version; otherwise the answer is a conflict with the current one', async () => {
    const kept = (await (await keep(tour('Raced', 3))).json()) as TourDto;
    const longer = [...kept.stops, stop({ caption: '' })];
    const changed = await send('PATCH', `/api/tours/${kept.id}`, { version: 1, stops: longer });
    expect(await changed.json()).toMatchObject({ version: 2, stops: longer, name: 'Raced', loops: true });
    const late = await send('PATCH', `/api/tours/${kept.id}`, { version: 1, loops: false });
    expect(late.status).toBe(409);
    expect((await problemOf(late)).current).toMatchObject({ version: 2, loops: true });
    expect((await send('DELETE', `/api/tours/${kept.id}`)).status).toBe(204);
    expect((await send('DELETE', `/api/tours/${kept.id}`)).status).toBe(404);
    expect((await send('PATCH', `/api/tours/${kept.id}`, { version: 2, loops: false })).status).toBe(404);
  });

  it('sent twice are kept once', async () => {
    const own = { ...tour('Twice', 4), id: randomUUID() };
    expect((await keep(own)).status).toBe(201);
    const again = await keep(own);
    expect(again.status).toBe(409);
    expect((await problemOf(again)).current).toMatchObject({ id: own.id, version: 1 });
  });

  it.each([
    ['a way backwards in time', { stops: [stop({ travelMs: -1 })] }, /travelMs/],
    ['a stay of half a millisecond', { stops: [stop({ stayMs: 0.5 })] }, /stayMs/],
    ['an easing that there isn’t', { stops: [stop({ easing: 'bouncing' as never })] }, /easing/],
    ['a drift that makes one dizzy', { stops: [stop({ driftRadPerS: 99 })] }, /driftRadPerS/],
    ['too many stops', { stops: Array.from({ length: 201 }, () => stop()) }, /stops/],
    ['no name', { name: ' ' }, /name/],
  ])('with %s are refused with the reason', async (_, change, told) => {
    const response = await keep({ ...tour('Bad', 5), ...change });
    expect(response.status).toBe(400);
    expect((await problemOf(response)).detail).toMatch(told);
  });

  it('of a drawing that there isn’t can’t be had', async () => {
    expect((await server.fetch(`/api/drawings/${randomUUID()}/tours`)).status).toBe(404);
  });
});
