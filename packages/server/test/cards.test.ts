import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { CardDto, KeepCardDto } from '@gull-pane/protocol/cards';
import type { ImportAcceptedDto } from '@gull-pane/protocol/drawings';
import { TestServer, problemOf, smallPlan } from './running-server.ts';

let server: TestServer;
let drawing: string;
beforeAll(async () => {
  server = await TestServer.start();
  const accepted = (await (await server.upload(smallPlan, 'Chamber.svg')).json()) as ImportAcceptedDto;
  await server.ended(accepted.jobId);
  drawing = accepted.drawingId;
});
afterAll(() => server.stop());

const view = (name: string, position: number): KeepCardDto => ({
  name,
  group: '',
  position,
  widthPx: 966,
  heightPx: 620,
  picture: '',
  camera: { x: 412600500.123456789, y: 7208400250, z: 0, unitsPerPx: 2.5, qx: 0, qy: 0, qz: 0, qw: 1 },
  shows: { hiddenLayers: ['Gratings'], hiddenObjects: '0-2', revision: 1, clips: [] },
});
const send = (method: string, path: string, body?: unknown): Promise<Response> =>
  server.fetch(path, {
    method,
    ...(body === undefined ? {} : { headers: { 'content-type': 'application/json' }, body: JSON.stringify(body) }),
  });
const keep = async (card: KeepCardDto): Promise<CardDto> => {
  const response = await send('POST', `/api/drawings/${drawing}/cards`, card);
  expect(response.status).toBe(201);
  return (await response.json()) as CardDto;
};
const list = (): Promise<CardDto[]> => server.json<CardDto[]>(`/api/drawings/${drawing}/cards`);

describe('view cards', () => {
  it('are kept to the last digit, stand in their order, and survive a restart', async () => {
    const second = await keep(view('Second', 2));
    const first = await keep(view('First', 1));
    expect(first).toMatchObject({ ...view('First', 1), drawingId: drawing, version: 1 });
    expect((await list()).map(({ name }) => name)).toEqual(['First', 'Second']);
    await server.restart();
    expect(await list()).toEqual([first, second]);
  });

  it('are changed from the version that was seen; another change in the meantime is a conflict', async () => {
    const card = await keep(view('Valve', 3));
    const renamed = await send('PATCH', `/api/cards/${card.id}`, { version: 1, name: 'Valve KS-VA-0417' });
    expect(await renamed.json()).toMatchObject({ name: 'Valve KS-VA-0417', version: 2, camera: card.camera });
    const late = await send('PATCH', `/api/cards/${card.id}`, { version: 1, group: 'Valves' });
    expect(late.status).toBe(409);
    const problem = await problemOf(late);
    expect(problem.detail).toContain('at version 2');
    // what there is now comes with the refusal, so that there is a choice
    expect(problem.current).toEqual((await list()).find(({ id }) => id === card.id));
    expect((await list()).find(({ id }) => id === card.id)).toMatchObject({ name: 'Valve KS-VA-0417', group: '' });
    const moved = await send('PATCH', `/api/cards/${card.id}`, { version: 2, position: 0.5 });
    expect(await moved.json()).toMatchObject({ version: 3, position: 0.5 });
    expect((await list())[0]!.id).toBe(card.id);
  });

  it('of two changes at the same time one is made and one refused', async () => {
    const card = await keep(view('Raced', 4));
    const both = await Promise.all(
      ['a', 'b'].map((name) => send('PATCH', `/api/cards/${card.id}`, { version: 1, name })),
    );
    expect(both.map(({ status }) => status).sort()).toEqual([200, 409]);
  });

  it('that are deleted come back under their own id', async () => {
    const card = await keep(view('Gone', 5));
    expect((await send('DELETE', `/api/cards/${card.id}`)).status).toBe(204);
    expect((await send('DELETE', `/api/cards/${card.id}`)).status).toBe(404);
    const back = await keep({ ...view('Gone', 5), id: card.id });
    expect(back.id).toBe(card.id);
    expect((await send('POST', `/api/drawings/${drawing}/cards`, { ...view('Twice', 6), id: card.id })).status).toBe(
      409,
    );
  });

  it('that make no sense are refused with what is wrong, and nothing is lost', async () => {
    const before = await list();
    const refuse = async (change: object, about: RegExp): Promise<void> => {
      const response = await send('POST', `/api/drawings/${drawing}/cards`, { ...view('Bad', 7), ...change });
      expect(response.status).toBe(400);
      expect((await problemOf(response)).detail).toMatch(about);
    };
    await refuse({ name: '   ' }, /name/);
    await refuse({ picture: 'javascript:alert(1)' }, /picture/);
    await refuse({ camera: { ...view('', 0).camera, unitsPerPx: -1 } }, /unitsPerPx/);
    await refuse({ shows: { ...view('', 0).shows, hiddenObjects: '1-' } }, /hiddenObjects/);
    expect((await send('PATCH', '/api/cards/none', { version: 1 })).status).toBe(404);
    expect((await send('PATCH', `/api/cards/${before[0]!.id}`, { name: 'No version' })).status).toBe(400);
    expect(await list()).toEqual(before);
  });

  it('have their pictures at an address of their own, another one with each version', async () => {
    const webp = `data:image/webp;base64,${Buffer.from('a picture').toString('base64')}`;
    const card = await keep({ ...view('Pictured', 8), picture: webp });
    expect(card.picture).toBe(`/api/cards/${card.id}/picture?v=1`);
    const answer = await server.fetch(card.picture);
    expect(answer.headers.get('content-type')).toContain('image/webp');
    expect(answer.headers.get('cache-control')).toContain('immutable');
    expect(await answer.text()).toBe('a picture');
    const renamed = (await (
      await send('PATCH', `/api/cards/${card.id}`, { version: 1, name: 'Still' })
    ).json()) as CardDto;
    expect(await (await server.fetch(renamed.picture)).text()).toBe('a picture');
    const bare = await keep(view('Bare', 9));
    expect(bare.picture).toBe('');
    expect((await server.fetch(`/api/cards/${bare.id}/picture`)).status).toBe(404);
  });

  it('go with their drawing', async () => {
    const { drawingId, jobId } = (await (await server.upload(smallPlan, 'Other.svg')).json()) as ImportAcceptedDto;
    await server.ended(jobId);
    const kept = await send('POST', `/api/drawings/${drawingId}/cards`, view('Short-lived', 1));
    const { id } = (await kept.json()) as CardDto;
    expect((await send('DELETE', `/api/drawings/${drawingId}`)).status).toBe(204);
    expect((await send('PATCH', `/api/cards/${id}`, { version: 1, name: 'x' })).status).toBe(404);
  });
});
