import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { ArrangementDto, ArrangementHeadDto, KeepArrangementDto } from '@gull-pane/protocol/arrangements';
import type { CardDto } from '@gull-pane/protocol/cards';
import type { ImportAcceptedDto } from '@gull-pane/protocol/drawings';
import type { ChangeEvent } from '@gull-pane/protocol/events';
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

const camera = { x: 412600500.123456789, y: 7208400250, z: 0, unitsPerPx: 2.5, qx: 0, qy: 0, qz: 0, qw: 1 };
const paneOf = (pane: string): KeepArrangementDto['arranged']['panes'][number] => ({
  pane,
  drawingId,
  camera,
  widthPx: 480,
  heightPx: 620,
  shows: { hiddenLayers: ['Gratings'], hiddenObjects: '', revision: 1, clips: [], kindsOff: ['texts'] },
  isLocked: true,
  drifts: false,
  turnsAlone: false,
  orbitMode: 'level',
  trail: { views: [{ ...camera, kind: 'open', parent: -1, forward: -1 }], current: 0 },
});
const two = (name: string, position: number): KeepArrangementDto => ({
  name,
  position,
  picture: '',
  arranged: {
    tiling: { along: 'row', parts: [{ pane: '1' }, { pane: '2' }], shares: [0.25, 0.75] },
    panes: [paneOf('1'), paneOf('2')],
    active: '2',
    ties: [{ one: '1', other: '2', place: true, scale: false, direction: 'opposite' }],
  },
});
const send = (method: string, path: string, body?: unknown): Promise<Response> =>
  server.fetch(path, {
    method,
    ...(body === undefined ? {} : { headers: { 'content-type': 'application/json' }, body: JSON.stringify(body) }),
  });
async function keep(arrangement: KeepArrangementDto): Promise<ArrangementDto> {
  const response = await send('POST', '/api/arrangements', arrangement);
  expect(response.status).toBe(201);
  return (await response.json()) as ArrangementDto;
}
const list = (): Promise<ArrangementHeadDto[]> => server.json<ArrangementHeadDto[]>('/api/arrangements');

describe('arrangements', () => {
  it('are kept with all their panes to the last digit, and survive a restart', async () => {
    const kept = await keep(two('Checking the valves', 1));
    expect(kept).toMatchObject({ name: 'Checking the valves', version: 1, panes: 2, picture: '' });
    await server.restart();
    const found = await server.json<ArrangementDto>(`/api/arrangements/${kept.id}`);
    expect(found).toEqual(kept);
    expect(found.arranged).toEqual(two('', 0).arranged);
    const { arranged, ...head } = kept;
    expect(arranged.panes).toHaveLength(2);
    expect(await list()).toEqual([head]);
  });

  it('are changed only from the latest version; otherwise the answer is a conflict with the current one', async () => {
    const kept = await keep(two('Raced', 2));
    const renamed = await send('PATCH', `/api/arrangements/${kept.id}`, { version: 1, name: 'Won' });
    expect(await renamed.json()).toMatchObject({ name: 'Won', version: 2, arranged: kept.arranged });
    const late = await send('PATCH', `/api/arrangements/${kept.id}`, { version: 1, name: 'Lost' });
    expect(late.status).toBe(409);
    expect((await problemOf(late)).current).toMatchObject({ name: 'Won', version: 2 });
  });

  it('that are sent twice are kept once', async () => {
    const id = '0a3c5b1e-7d54-4f0e-9d0b-4b8f5d9b1c11';
    await keep({ ...two('Once', 3), id });
    const again = await send('POST', '/api/arrangements', { ...two('Once', 3), id });
    expect(again.status).toBe(409);
    expect((await list()).filter((one) => one.id === id)).toHaveLength(1);
    expect((await send('DELETE', `/api/arrangements/${id}`)).status).toBe(204);
    expect((await send('DELETE', `/api/arrangements/${id}`)).status).toBe(404);
  });

  it('that make no sense are refused with what is wrong', async () => {
    const before = await list();
    const refuse = async (arranged: object, about: RegExp): Promise<void> => {
      const body = { ...two('Bad', 4), arranged: { ...two('', 0).arranged, ...arranged } };
      const response = await send('POST', '/api/arrangements', body);
      expect(response.status).toBe(400);
      expect((await problemOf(response)).detail).toMatch(about);
    };
    await refuse({ tiling: { along: 'row', parts: [{ pane: '1' }], shares: [1] } }, /tiling/);
    await refuse({ tiling: { pane: '1' } }, /same panes/);
    await refuse({ active: '7' }, /same panes/);
    await refuse({ ties: [{ one: '1', other: '9', place: true, scale: true, direction: 'free' }] }, /same panes/);
    await refuse({ panes: [{ ...paneOf('1'), camera: { ...camera, unitsPerPx: 0 } }, paneOf('2')] }, /unitsPerPx/);
    await refuse({ panes: [{ ...paneOf('1'), orbitMode: 'sideways' }, paneOf('2')] }, /orbitMode/);
    expect((await send('GET', '/api/arrangements/none')).status).toBe(404);
    expect(await list()).toEqual(before);
  });
});

describe('events', () => {
  it('tell every window what any of them changes, in order', async () => {
    const { events, stop } = await listen();
    const card = (await (
      await send('POST', `/api/drawings/${drawingId}/cards`, {
        name: 'Seen',
        group: '',
        position: 1,
        camera,
        widthPx: 10,
        heightPx: 10,
        picture: '',
        shows: { hiddenLayers: [], hiddenObjects: '', revision: 1, clips: [] },
      })
    ).json()) as CardDto;
    await send('PATCH', `/api/cards/${card.id}`, { version: 1, name: 'Seen again' });
    await send('DELETE', `/api/cards/${card.id}`);
    const arrangement = await keep(two('Told', 9));
    await send('DELETE', `/api/arrangements/${arrangement.id}`);
    await send('PUT', `/api/drawings/${drawingId}/home`, camera);
    const told = await events(6);
    expect(told.map(({ kind }) => kind)).toEqual([
      'card',
      'card',
      'card-gone',
      'arrangement',
      'arrangement-gone',
      'drawing',
    ]);
    expect(told[1]).toMatchObject({ card: { id: card.id, name: 'Seen again', version: 2 } });
    expect(told[2]).toEqual({ kind: 'card-gone', id: card.id, drawingId });
    expect(told[5]).toMatchObject({ drawing: { id: drawingId, home: camera } });
    await stop();
  });
});

/** A window that listens. */
async function listen(): Promise<{ events: (count: number) => Promise<ChangeEvent[]>; stop: () => Promise<void> }> {
  const response = await server.fetch('/api/events');
  expect(response.headers.get('content-type')).toContain('text/event-stream');
  const reader = response.body!.pipeThrough(new TextDecoderStream()).getReader();
  let text = '';
  const changes = (): ChangeEvent[] =>
    [...text.matchAll(/event: change\ndata: (.*)\n\n/g)].map(([, data]) => JSON.parse(data!) as ChangeEvent);
  while (!text.includes('event: begin')) text += (await reader.read()).value ?? '';
  return {
    async events(count) {
      while (changes().length < count) text += (await reader.read()).value ?? '';
      return changes();
    },
    stop: () => reader.cancel(),
  };
}
