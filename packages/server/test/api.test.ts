import { Agent, request } from 'node:http';
import { existsSync } from 'node:fs';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { DrawingDto, ImportAcceptedDto, LayerDto } from '@gull-pane/protocol/drawings';
import type { JobDto } from '@gull-pane/protocol/jobs';
import type { ObjectDto } from '@gull-pane/protocol/objects';
import type { TilesetJson } from '@gull-pane/protocol/tileset';
import { decodeTile } from '@gull-pane/core/pyramid/decode-tile';
import { writeLargeDrawing } from '@gull-pane/demo/large-drawing';
import { TestServer, problemOf, smallPlan } from './running-server.ts';

let server: TestServer;
beforeAll(async () => {
  server = await TestServer.start();
});
afterAll(() => server.stop());

const nowhere = '00000000-0000-4000-8000-000000000000';
const largePlan = (segments: number): string => {
  const parts: string[] = [];
  writeLargeDrawing(segments, 7, (text) => parts.push(text));
  return parts.join('');
};

describe('a home view', () => {
  const home = { x: 412600500, y: 7208400250, z: 12, unitsPerPx: 8, qx: 0, qy: 0.1, qz: 0.2, qw: 0.9746794 };

  it('is kept with its drawing to the last digit, and goes with it into the list', async () => {
    const { drawingId } = (await (await server.upload(smallPlan, 'Home.svg')).json()) as ImportAcceptedDto;
    const address = `/api/drawings/${drawingId}`;
    expect((await server.json<DrawingDto>(address)).home).toBeNull();
    const put = (body: unknown): Promise<Response> =>
      server.fetch(`${address}/home`, {
        method: 'PUT',
        headers: { 'content-type': 'application/json' },
        body: JSON.stringify(body),
      });
    expect((await put(home)).status).toBe(204);
    expect((await server.json<DrawingDto>(address)).home).toEqual(home);
    const other = { ...home, fovRad: 0.7, z: -3 };
    expect((await put(other)).status).toBe(204);
    const listed = (await server.json<DrawingDto[]>('/api/drawings')).find(({ id }) => id === drawingId);
    expect(listed?.home).toEqual(other);
    const refused = await put({ ...home, unitsPerPx: 0, x: 'far' });
    expect(refused.status).toBe(400);
    expect((await problemOf(refused)).detail).toMatch(/unitsPerPx[\s\S]*|x must be/);
    expect((await server.json<DrawingDto>(address)).home).toEqual(other);
    expect((await server.fetch(`/api/drawings/${nowhere}/home`, { method: 'PUT' })).status).toBe(404);
  });
});

describe('an import', () => {
  it('is accepted as a job and becomes a drawing with tight extents, counts, unit', async () => {
    const response = await server.upload(smallPlan, 'Valve chamber.svg');
    expect(response.status).toBe(202);
    const { drawingId, jobId } = (await response.json()) as ImportAcceptedDto;
    const job = await server.ended(jobId);
    expect(job).toMatchObject({ id: jobId, drawingId, state: 'done' });
    expect(job.progress.bytesRead).toBe(job.progress.bytesTotal);
    const drawing = await server.json<DrawingDto>(`/api/drawings/${drawingId}`);
    expect(drawing).toMatchObject({ name: 'Valve chamber', unit: 'mm', status: 'ready', warnings: [] });
    expect(drawing.counts).toEqual({ objects: 3, segments: 4, triangles: 0, texts: 1, layers: 2 });
    expect(drawing.extents).toEqual({
      min: { x: 412600460, y: 7208400250.5, z: 0 },
      max: { x: 412600600.125, y: 7208400540, z: 0 },
    });
    expect((await server.json<DrawingDto[]>('/api/drawings')).map(({ id }) => id)).toContain(drawingId);
  });

  it('keeps the exact doubles of every object', async () => {
    const { drawing } = await server.import(smallPlan);
    const object = (id: number): Promise<ObjectDto> => server.json(`/api/drawings/${drawing.id}/objects/${id}`);
    expect((await object(0)).segments).toEqual([
      { kind: 'line', from: [412600500.125, 7208400250.5], to: [412600600.125, 7208400250.5] },
      { kind: 'line', from: [412600600.125, 7208400250.5], to: [412600600.125, 7208400300.5] },
      { kind: 'line', from: [412600600.125, 7208400300.5], to: [412600500.125, 7208400250.5] },
    ]);
    const [circle] = (await object(1)).segments!;
    expect(circle).toMatchObject({
      kind: 'arc',
      centre: [412600500, 7208400500],
      halfAxes: [
        [40, 0],
        [0, -40],
      ],
    });
    expect((await object(2)).text).toMatchObject({ text: 'KS-VA-0417', x: 412600510, y: 7208400260, size: 25 });
    const beyond = await server.fetch(`/api/drawings/${drawing.id}/objects/3`);
    expect(beyond.status).toBe(404);
    expect((await problemOf(beyond)).code).toBe('object-not-found');
  });

  it('makes layers of named groups, with their colour and support points', async () => {
    const { drawing } = await server.import(smallPlan);
    const layers = await server.json<LayerDto[]>(`/api/drawings/${drawing.id}/layers`);
    expect(layers.map(({ name, colour, objects, segments }) => ({ name, colour, objects, segments }))).toEqual([
      { name: 'Pipes', colour: '#0e6f86', objects: 2, segments: 4 },
      { name: 'Tags', colour: '#000000', objects: 1, segments: 0 },
    ]);
    const norths = layers[0]!.support.filter((_, index) => index % 3 === 1);
    expect(Math.max(...norths)).toBe(7208400540);
  });

  it('tells progress as events until it is done', async () => {
    const accepted = (await (await server.upload(largePlan(150_000))).json()) as ImportAcceptedDto;
    const response = await server.fetch(`/api/jobs/${accepted.jobId}/events`);
    expect(response.headers.get('content-type')).toBe('text/event-stream');
    const events = (await response.text())
      .split('\n\n')
      .filter((event) => event.startsWith('event: job'))
      .map((event) => JSON.parse(event.split('\ndata: ')[1]!) as JobDto);
    expect(events.at(-1)!.state).toBe('done');
    const read = events.map(({ progress }) => progress.bytesRead);
    expect(read.every((bytes, index) => index === 0 || bytes >= read[index - 1]!)).toBe(true);
    const stages = events.map(({ progress }) => progress.stage);
    expect([...new Set(stages)]).toEqual(['reading', 'arranging', 'tiles', 'saving']);
    const last = events.findLast(({ progress }) => progress.stage === 'tiles')!.progress;
    expect(last.tilesTotal).toBeGreaterThan(1);
    expect(last.tiles).toBeLessThanOrEqual(last.tilesTotal);
  });

  it('is cancelled at any moment and leaves nothing behind', async () => {
    const accepted = (await (await server.upload(largePlan(150_000))).json()) as ImportAcceptedDto;
    const cancelled = await server.fetch(`/api/jobs/${accepted.jobId}/cancel`, { method: 'POST' });
    expect(((await cancelled.json()) as JobDto).state).toBe('cancelled');
    const drawing = await server.json<DrawingDto>(`/api/drawings/${accepted.drawingId}`);
    expect(drawing).toMatchObject({ status: 'failed', revision: 0 });
    expect(existsSync(join(server.dataFolder, 'sources', `${accepted.jobId}.source`))).toBe(false);
    expect(existsSync(join(server.dataFolder, 'drawings', accepted.drawingId, 'r1'))).toBe(false);
    const again = await server.fetch(`/api/jobs/${accepted.jobId}/cancel`, { method: 'POST' });
    expect((await problemOf(again)).code).toBe('job-ended');
  });

  it.each([
    ['something that only begins like XML', '<Kelpie Sound, sheet 3', 'not-svg', 'Line 1'],
    ['another XML file', '<?xml version="1.0"?><plan/>', 'not-svg', '<plan>'],
    ['a tag that is never closed', smallPlan.replace('</g>\n<g', '<g'), 'malformed-xml', 'Line 6'],
    ['a file cut off', smallPlan.slice(0, 300), 'malformed-xml', 'Line'],
    [
      'nothing visible',
      '<svg xmlns="http://www.w3.org/2000/svg"><defs><path d="M0 0h9"/></defs></svg>',
      'nothing-to-draw',
      '',
    ],
  ])('says of %s what is wrong, where and what to do', async (_what, content, code, place) => {
    const { job, drawing } = await server.import(content);
    expect(job).toMatchObject({ state: 'failed', error: { code } });
    expect(job.error!.detail).toContain(place);
    expect(job.error!.hint).not.toBe('');
    expect(drawing).toMatchObject({ status: 'failed', error: { code } });
  });

  it('refuses no file, no form and an empty file at once', async () => {
    const empty = await server.upload('');
    expect(empty.status).toBe(422);
    expect(empty.headers.get('content-type')).toMatch('application/problem+json');
    expect((await problemOf(empty)).code).toBe('empty-file');
    expect((await problemOf(await server.fetch('/api/drawings', { method: 'POST', body: new FormData() }))).code).toBe(
      'file-missing',
    );
    expect((await problemOf(await server.fetch('/api/drawings', { method: 'POST' }))).code).toBe('file-missing');
  });
});

describe('a drawing', () => {
  it('takes a newer file, and keeps what it has when that fails', async () => {
    const { drawing } = await server.import(smallPlan);
    const path = `/api/drawings/${drawing.id}/source`;
    const broken = (await (
      await server.upload(smallPlan.slice(0, 300), 'B.svg', path, 'PUT')
    ).json()) as ImportAcceptedDto;
    expect((await server.ended(broken.jobId)).state).toBe('failed');
    expect(await server.json<DrawingDto>(`/api/drawings/${drawing.id}`)).toMatchObject({
      status: 'ready',
      revision: 1,
      counts: { objects: 3 },
      error: { code: 'malformed-xml' },
    });
    const newer = smallPlan.replace('<circle', '<path d="M412600000 -7208400000h9"/><circle');
    const accepted = (await (await server.upload(newer, 'B.svg', path, 'PUT')).json()) as ImportAcceptedDto;
    expect((await server.ended(accepted.jobId)).state).toBe('done');
    expect(await server.json<DrawingDto>(`/api/drawings/${drawing.id}`)).toMatchObject({
      status: 'ready',
      revision: 2,
      counts: { objects: 4 },
      error: null,
    });
    // the former content is kept, to be compared with
    expect(existsSync(join(server.dataFolder, 'drawings', drawing.id, 'r1'))).toBe(true);
  });

  it('is renamed, but not to nothing', async () => {
    const { drawing } = await server.import(smallPlan);
    const rename = (body: unknown): Promise<Response> =>
      server.fetch(`/api/drawings/${drawing.id}`, {
        method: 'PATCH',
        headers: { 'content-type': 'application/json' },
        body: JSON.stringify(body),
      });
    expect(await (await rename({ name: ' Chamber 4 ' })).json()).toMatchObject({ name: 'Chamber 4' });
    for (const body of [{ name: '  ' }, {}, [], { name: 4 }]) {
      const response = await rename(body);
      expect(response.status).toBe(400);
      expect((await problemOf(response)).code).toBe('bad-request');
    }
  });

  it('is deleted with all that belongs to it', async () => {
    const { drawing } = await server.import(smallPlan);
    expect((await server.fetch(`/api/drawings/${drawing.id}`, { method: 'DELETE' })).status).toBe(204);
    expect((await server.fetch(`/api/drawings/${drawing.id}`)).status).toBe(404);
    expect(existsSync(join(server.dataFolder, 'drawings', drawing.id))).toBe(false);
  });

  it('is served as 3D Tiles that hold everything once', async () => {
    const { drawing } = await server.import(largePlan(30_000));
    const address = `/api/drawings/${drawing.id}/tiles/tileset.json`;
    const tileset = await server.json<TilesetJson>(address);
    expect(tileset).toMatchObject({ asset: { version: '1.1' }, root: { refine: 'ADD' } });
    const uris: string[] = [];
    const walk = (tile: TilesetJson['root']): void => {
      if (tile.content) uris.push(tile.content.uri);
      tile.children?.forEach(walk);
    };
    walk(tileset.root);
    expect(uris.length).toBeGreaterThan(3);
    const objects = new Set<number>();
    for (const uri of uris) {
      const response = await server.fetch(new URL(uri, new URL(address, server.running.url)).pathname);
      expect(response.headers.get('cache-control')).toContain('immutable');
      const tile = decodeTile(new Uint8Array(await response.arrayBuffer()));
      for (let i = 1; i < tile.objects.length; i += 2) objects.add(tile.objects[i]!);
      for (const { object } of tile.texts) objects.add(object);
    }
    expect(objects.size).toBe(drawing.counts.objects);
  });

  it('has a tileset and a picture that are not sent twice', async () => {
    const { drawing } = await server.import(smallPlan);
    const first = await server.fetch(`/api/drawings/${drawing.id}/tiles/tileset.json`);
    const etag = first.headers.get('etag')!;
    const second = await server.fetch(`/api/drawings/${drawing.id}/tiles/tileset.json`, {
      headers: { 'if-none-match': etag },
    });
    expect(second.status).toBe(304);
    const picture = await server.fetch(`/api/drawings/${drawing.id}/picture.png`);
    expect(picture.headers.get('content-type')).toBe('image/png');
    expect(new Uint8Array(await picture.arrayBuffer()).slice(1, 4)).toEqual(new TextEncoder().encode('PNG'));
  });
});

describe('the server', () => {
  it('answers about its health', async () => {
    expect(await server.json('/api/health')).toEqual({ status: 'ok' });
  });

  it.each([
    [`/api/drawings/${nowhere}`, 'drawing-not-found'],
    ['/api/drawings/not-an-id', 'drawing-not-found'],
    [`/api/jobs/${nowhere}`, 'job-not-found'],
    [`/api/drawings/${nowhere}/tiles/tileset.json`, 'drawing-not-found'],
    [`/api/drawings/${nowhere}/tiles/r1/..%2F..%2Fobjects.bin`, 'not-found'],
    ['/api/no/such/thing', 'not-found'],
  ])('explains what isn’t there: %s', async (path, code) => {
    const response = await server.fetch(path);
    expect(response.status).toBe(404);
    expect(response.headers.get('content-type')).toMatch('application/problem+json');
    expect(await problemOf(response)).toMatchObject({ code, type: `urn:gull-pane:problem:${code}`, status: 404 });
  });
});

it('a large file that is refused at its first bytes leaves the connection free for the next request', async () => {
  const agent = new Agent({ keepAlive: true, maxSockets: 1 });
  const send = (path: string, body: Buffer | null, type = ''): Promise<number> =>
    new Promise((resolve, reject) => {
      const sent = request(
        new URL(path, server.running.url),
        { agent, method: body ? 'POST' : 'GET', headers: body ? { 'content-type': type } : {} },
        (answer) => {
          answer.resume();
          answer.on('end', () => resolve(answer.statusCode!));
        },
      );
      sent.on('error', reject);
      sent.end(body ?? undefined);
    });
  const boundary = 'kelpie';
  const head = `--${boundary}\r\nContent-Disposition: form-data; name="file"; filename="Noise.svg"\r\n\r\n`;
  const body = Buffer.concat([Buffer.from(head), Buffer.alloc(5_000_000, 7), Buffer.from(`\r\n--${boundary}--\r\n`)]);
  expect(await send('/api/drawings', body, `multipart/form-data; boundary=${boundary}`)).toBe(422);
  expect(await send('/api/health', null)).toBe(200);
  agent.destroy();
});
