/** What all resources have in common: ETags, changes on a condition, lists by pages, tiles by parts, a page that explains them. */
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { DrawingDto } from '@gull-pane/protocol/drawings';
import type { TourDto } from '@gull-pane/protocol/tours';
import { TestServer, problemOf, smallPlan } from './running-server.ts';

let server: TestServer;
let drawing: DrawingDto;
beforeAll(async () => {
  server = await TestServer.start();
  ({ drawing } = await server.import(smallPlan));
});
afterAll(() => server.stop());

const send = (method: string, path: string, body: unknown, headers: Record<string, string> = {}): Promise<Response> =>
  server.fetch(path, {
    method,
    headers: { ...headers, ...(body === undefined ? {} : { 'content-type': 'application/json' }) },
    ...(body === undefined ? {} : { body: JSON.stringify(body) }),
  });
const keepTour = async (name: string, position = 1): Promise<{ tour: TourDto; etag: string }> => {
  const kept = await send('POST', `/api/drawings/${drawing.id}/tours`, { name, position, loops: false, stops: [] });
  return { tour: (await kept.json()) as TourDto, etag: kept.headers.get('etag')! };
};

describe('a resource with versions', () => {
  it('has its version as ETag, and isn’t sent again to who has it', async () => {
    const { tour, etag } = await keepTour('Round');
    expect(etag).toBe('"v1"');
    const again = await server.fetch(`/api/tours/${tour.id}`, { headers: { 'if-none-match': etag } });
    expect(again.status).toBe(304);
    expect(await again.text()).toBe('');
    expect((await server.fetch(`/api/tours/${tour.id}`)).headers.get('etag')).toBe(etag);
  });

  it('is changed and deleted only as the version that If-Match says', async () => {
    const { tour, etag } = await keepTour('Round');
    const path = `/api/tours/${tour.id}`;
    const changed = await send('PATCH', path, { name: 'Long round' }, { 'if-match': etag });
    expect(changed.status).toBe(200);
    expect(changed.headers.get('etag')).toBe('"v2"');
    for (const method of ['PATCH', 'DELETE']) {
      const refused = await send(method, path, method === 'PATCH' ? { name: 'Mine' } : undefined, { 'if-match': etag });
      expect(refused.status).toBe(412);
      const { code, current } = await problemOf(refused);
      expect(code).toBe('precondition-failed');
      expect(current).toMatchObject({ name: 'Long round', version: 2 });
    }
    const wrong = await send('PATCH', path, { name: 'Mine' }, { 'if-match': 'yesterday' });
    expect(wrong.status).toBe(400);
    // the version in the body does as before
    expect((await send('PATCH', path, { name: 'Mine', version: 1 })).status).toBe(409);
    expect((await send('DELETE', path, undefined, { 'if-match': '"v2"' })).status).toBe(204);
    expect((await send('DELETE', path, undefined, { 'if-match': '"v2"' })).status).toBe(404);
  });

  it('is the same for views, sets of sheets and arrangements', async () => {
    const fields = { project: '', title: 'Plan', number: '', revision: '', author: '', date: '' };
    const kept = await send('POST', `/api/drawings/${drawing.id}/sheet-sets`, {
      name: 'Set',
      position: 1,
      fields,
      sheets: [],
    });
    const { id } = (await kept.json()) as { id: string };
    expect((await server.fetch(`/api/sheet-sets/${id}`)).headers.get('etag')).toBe('"v1"');
    const none = '00000000-0000-4000-8000-000000000000';
    for (const path of ['cards', 'arrangements', 'sheet-sets', 'tours']) {
      expect((await server.fetch(`/api/${path}/${none}`)).status).toBe(404);
      expect((await send('DELETE', `/api/${path}/${none}`, undefined, { 'if-match': '"v1"' })).status).toBe(404);
    }
  });
});

it('any answer in JSON says whether it has changed', async () => {
  const first = await server.fetch(`/api/drawings/${drawing.id}`);
  const etag = first.headers.get('etag')!;
  expect(etag).toMatch(/^W\/"/);
  const same = (): Promise<Response> =>
    server.fetch(`/api/drawings/${drawing.id}`, { headers: { 'if-none-match': etag } });
  expect((await same()).status).toBe(304);
  await send('PATCH', `/api/drawings/${drawing.id}`, { name: 'Renamed' });
  expect((await same()).status).toBe(200);
});

describe('a list', () => {
  it('comes page by page where that is asked for, each item once', async () => {
    for (const tour of await server.json<TourDto[]>(`/api/drawings/${drawing.id}/tours`))
      await send('DELETE', `/api/tours/${tour.id}`, undefined);
    for (let k = 0; k < 7; k++) await keepTour(`Tour ${k}`, k);
    const names: string[][] = [];
    let path: string | undefined = `/api/drawings/${drawing.id}/tours?limit=3`;
    while (path !== undefined) {
      const answer: Response = await server.fetch(path);
      names.push(((await answer.json()) as TourDto[]).map(({ name }) => name));
      path = /^<([^>]+)>; rel="next"$/.exec(answer.headers.get('link') ?? '')?.[1];
    }
    expect(names).toEqual([['Tour 0', 'Tour 1', 'Tour 2'], ['Tour 3', 'Tour 4', 'Tour 5'], ['Tour 6']]);
    const whole = await server.fetch(`/api/drawings/${drawing.id}/tours`);
    expect(await whole.json()).toHaveLength(7);
    expect(whole.headers.get('link')).toBeNull();
  });

  it.each(['limit=0', 'limit=1001', 'limit=all', 'limit=2&after=nothing'])('%s is refused', async (query) => {
    const refused = await server.fetch(`/api/drawings/${drawing.id}/tours?${query}`);
    expect(refused.status).toBe(400);
    expect(await problemOf(refused)).toMatchObject({ code: 'bad-request' });
  });
});

describe('a tile', () => {
  const tile = (headers: Record<string, string> = {}): Promise<Response> =>
    server.fetch(`/api/drawings/${drawing.id}/tiles/r${drawing.revision}/0.glb`, { headers });

  it('has an ETag for good, of its own for each way to send it', async () => {
    const [packed, plain] = [await tile(), await tile({ 'accept-encoding': 'identity' })];
    const [one, other] = [packed.headers.get('etag')!, plain.headers.get('etag')!];
    expect(one).toMatch(/^"[^"]+-gz"$/);
    expect(other).not.toBe(one);
    expect(packed.headers.get('cache-control')).toContain('immutable');
    expect(Buffer.from(await packed.arrayBuffer()).equals(Buffer.from(await plain.arrayBuffer()))).toBe(true);
    expect((await tile({ 'if-none-match': `"else", ${one}` })).status).toBe(304);
    expect((await tile({ 'if-none-match': other, 'accept-encoding': 'identity' })).status).toBe(304);
  });

  it('of a picture comes in parts', async () => {
    const { PNG } = await import('pngjs');
    const photo = new PNG({ width: 64, height: 64 });
    photo.data.fill(200);
    const picture = await server.import(new Uint8Array(PNG.sync.write(photo)), 'Photo.png');
    const { id, revision } = picture.drawing;
    const path = `/api/drawings/${id}/tiles/r${revision}/pictures/0/0/0_0.png`;
    const whole = Buffer.from(await (await server.fetch(path)).arrayBuffer());
    const part = async (range: string, headers = {}): Promise<[number, string | null, Buffer]> => {
      const answer = await server.fetch(path, { headers: { range, ...headers } });
      return [answer.status, answer.headers.get('content-range'), Buffer.from(await answer.arrayBuffer())];
    };
    const { length } = whole;
    expect(await part('bytes=1-3')).toEqual([206, `bytes 1-3/${length}`, whole.subarray(1, 4)]);
    expect(await part(`bytes=${length - 2}-`)).toEqual([
      206,
      `bytes ${length - 2}-${length - 1}/${length}`,
      whole.subarray(-2),
    ]);
    expect(await part('bytes=-5')).toEqual([206, `bytes ${length - 5}-${length - 1}/${length}`, whole.subarray(-5)]);
    expect((await part(`bytes=${length}-`)).slice(0, 2)).toEqual([416, `bytes */${length}`]);
    expect((await part('bytes=5-2'))[0]).toBe(200);
    expect((await part('bytes=0-1', { 'if-range': '"another"' }))[0]).toBe(200);
  });
});

it('the interface is explained by a page that needs nothing from elsewhere', async () => {
  const page = await server.fetch('/api/docs');
  const html = await page.text();
  const addresses = [...html.matchAll(/(?:src|href)="([^"]+)"/g)].map(([, address]) => address!);
  expect(addresses.length).toBeGreaterThan(2);
  for (const address of addresses) {
    expect(address).toMatch(/^\/api\/docs\//);
    expect((await server.fetch(address)).status).toBe(200);
  }
  expect((await server.fetch('/api/docs/package.json')).status).toBe(404);
});
