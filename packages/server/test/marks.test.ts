/** Marks on top of drawings, and drawings that are begun here. */
import { randomUUID } from 'node:crypto';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { BeginDrawingDto, DrawingDto, ImportAcceptedDto, LayerDto } from '@gull-pane/protocol/drawings';
import type { MarkDto } from '@gull-pane/protocol/marks';
import type { ObjectDto } from '@gull-pane/protocol/objects';
import type { PackageTakenDto, ReceivedPackageDto } from '@gull-pane/protocol/packages';
import type { SolidTable } from '@gull-pane/protocol/solid-table';
import type { TilesetJson } from '@gull-pane/protocol/tileset';
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

const send = (method: string, path: string, body: unknown): Promise<Response> =>
  server.fetch(path, { method, headers: { 'content-type': 'application/json' }, body: JSON.stringify(body) });
const [E, N] = [412_345_678.123456, 7_208_234_567.654321];
const mark = (change: Partial<MarkDto> = {}): MarkDto => ({
  id: randomUUID(),
  kind: 'line',
  layer: 'Checks',
  colour: '#c2410c',
  line: 'dashed',
  widthMm: 0.5,
  text: '',
  points: [
    { x: E, y: N, z: 0 },
    { x: E + 100, y: N + 50, z: 0 },
  ],
  x: { x: 1, y: 0, z: 0 },
  y: { x: 0, y: 1, z: 0 },
  ...change,
});
const change = (put: readonly MarkDto[], remove: readonly string[] = [], id = drawingId): Promise<Response> =>
  send('PATCH', `/api/drawings/${id}/marks`, { put, remove, by: randomUUID() });
const list = (id = drawingId): Promise<MarkDto[]> => server.json<MarkDto[]>(`/api/drawings/${id}/marks`);
const clear = async (): Promise<void> => {
  await change(
    [],
    (await list()).map(({ id }) => id),
  );
};

describe('marks', () => {
  it('are kept to the last digit in the order in which they were drawn, changed in their place, and survive a restart', async () => {
    const rings = [{ places: [0, 0, 10.125, 0, 10.125, 0.1 + 0.2] }];
    const [a, b, c] = [mark(), mark({ kind: 'note', text: 'Check\nthe flange' }), mark({ kind: 'hatch', rings })];
    expect((await change([a, b])).status).toBe(204);
    expect((await change([c])).status).toBe(204);
    const moved = { ...a, points: [{ x: E + 1e-6, y: N, z: -3 }, a.points[1]!] };
    expect((await change([moved])).status).toBe(204);
    await server.restart();
    expect(await list()).toEqual([moved, b, c]);
    expect((await change([], [b.id])).status).toBe(204);
    expect((await list()).map(({ id }) => id)).toEqual([a.id, c.id]);
    // undo brings it back to its place
    expect((await change([b])).status).toBe(204);
    expect((await list()).map(({ id }) => id)).toEqual([a.id, b.id, c.id]);
    // what is gone already may go once more: the answer was lost
    expect((await change([], [b.id])).status).toBe(204);
    expect((await change([], [b.id])).status).toBe(204);
    await clear();
  });

  it('are changed all together or not at all', async () => {
    const { drawingId: other } = (await (await server.upload(smallPlan, 'Other.svg')).json()) as ImportAcceptedDto;
    const theirs = mark();
    await change([theirs], [], other);
    const refused = await change([mark(), theirs]);
    expect(refused.status).toBe(400);
    expect((await problemOf(refused)).detail).toContain(theirs.id);
    expect(await list()).toEqual([]);
    expect(await list(other)).toEqual([theirs]);
  });

  it.each([
    ['of a kind that there isn’t', { kind: 'star' as never }, /kind/],
    ['without a place', { points: [] }, /points/],
    ['nowhere', { points: [{ x: null as never, y: 0, z: 0 }] }, /points\.0\.x|x must/],
    ['without a layer', { layer: ' ' }, /layer/],
    ['in a colour that is none', { colour: 'red' }, /colour/],
    ['as wide as a road', { widthMm: 4000 }, /widthMm/],
    ['with half a ring', { rings: [{ places: ['a' as never] }] }, /places/],
  ])('%s are refused with the reason', async (_, wrong, told) => {
    const response = await change([mark(wrong)]);
    expect(response.status).toBe(400);
    expect((await problemOf(response)).detail).toMatch(told);
    expect(await list()).toEqual([]);
  });

  it('of a drawing that isn’t there are not found', async () => {
    expect((await change([mark()], [], randomUUID())).status).toBe(404);
    expect((await server.fetch(`/api/drawings/${randomUUID()}/marks`)).status).toBe(404);
  });

  it('go out as layers of SVG and GeoJSON, and come back as drawn', async () => {
    const circle = mark({ kind: 'circle', layer: 'Clashes', line: 'solid' });
    await change([
      mark(),
      circle,
      mark({ kind: 'note', text: 'Check & see' }),
      mark({ kind: 'hatch', rings: [{ places: [0, 0, 400, 0, 400, 300, 0, 300] }] }),
    ]);
    for (const format of ['svg', 'geojson']) {
      const response = await send('POST', `/api/drawings/${drawingId}/export/${format}`, {});
      const { drawing } = await server.import(await response.text(), `Marked.${format}`);
      const layers = await server.json<LayerDto[]>(`/api/drawings/${drawing.id}/layers`);
      expect(layers.map(({ name }) => name)).toEqual(expect.arrayContaining(['Marks: Checks', 'Marks: Clashes']));
      expect(drawing.extents!.max.x).toBeGreaterThan(E + 99);
      if (format === 'geojson') continue;
      const clashes = layers.find(({ name }) => name === 'Marks: Clashes')!;
      const objects = await Promise.all(
        Array.from({ length: drawing.counts.objects }, (_, k) =>
          server.json<ObjectDto>(`/api/drawings/${drawing.id}/objects/${k}`),
        ),
      );
      const own = objects.find(({ layerId }) => layerId === clashes.id)!;
      expect(own.segments!.some(({ kind }) => kind === 'arc')).toBe(true);
      expect(own.style).toMatchObject({ colour: '#c2410c', dashes: [] });
      expect(objects.some(({ text }) => text?.text === 'Check & see')).toBe(true);
    }
    const part = await send('POST', `/api/drawings/${drawingId}/export/svg`, { hiddenMarkLayers: ['Clashes'] });
    const told = await part.text();
    expect(told).toContain('Marks: Checks');
    expect(told).not.toContain('Clashes');
    await clear();
  });

  it('go along in a package', async () => {
    const own = [mark(), mark({ kind: 'measure', measure: 'distance' })];
    await change(own);
    const file = await send('POST', `/api/drawings/${drawingId}/package`, { pickSets: [] });
    const form = new FormData();
    form.append('file', new File([await file.arrayBuffer()], 'Chamber.zip'));
    const received = (await (
      await server.fetch('/api/packages', { method: 'POST', body: form })
    ).json()) as ReceivedPackageDto;
    const taken = (await (
      await send('POST', `/api/packages/${received.id}/take`, { how: 'new' })
    ).json()) as PackageTakenDto;
    const copies = await list(taken.drawingId);
    expect(copies.map((copy) => ({ ...copy, id: '' }))).toEqual(own.map((one) => ({ ...one, id: '' })));
    expect(copies[0]!.id).not.toBe(own[0]!.id);
    await clear();
  });
});

describe('a drawing that is begun here', () => {
  const begin = async (wanted: Partial<BeginDrawingDto>): Promise<DrawingDto> => {
    const usual = { name: 'Sketch of the outfall', kind: 'flat', unit: 'm', tolerance: 0.001, gridStep: 0.5 };
    const response = await send('POST', '/api/drawings/begin', { ...usual, ...wanted });
    expect(response.status).toBe(202);
    const accepted = (await response.json()) as ImportAcceptedDto;
    expect((await server.ended(accepted.jobId)).state).toBe('done');
    return server.json<DrawingDto>(`/api/drawings/${accepted.drawingId}`);
  };

  it.each(['flat', 'solid'] as const)('%s is empty, and has what a viewer needs', async (kind) => {
    const drawing = await begin({ kind, unit: 'ft' });
    expect(drawing).toMatchObject({ kind, unit: 'ft', status: 'ready', extents: null, sheets: [], warnings: [] });
    expect(drawing.begun).toEqual({ tolerance: 0.001, gridStep: 0.5 });
    expect(drawing.counts.objects).toBe(0);
    const tileset = await server.json<TilesetJson>(`/api/drawings/${drawing.id}/tiles/tileset.json`);
    const [top] = tileset.root.children!;
    expect((await server.fetch(`/api/drawings/${drawing.id}/tiles/${top!.content!.uri}`)).status).toBe(200);
    const files = `/api/drawings/${drawing.id}/tiles/r${drawing.revision}`;
    expect((await server.fetch(`${files}/texts.json`)).status).toBe(200);
    if (kind === 'solid') expect((await server.json<SolidTable>(`${files}/solid.json`)).names).toEqual([]);
    else expect((await server.fetch(`${files}/objects.index`)).status).toBe(200);
    expect(await server.json(`/api/drawings/${drawing.id}/layers`)).toEqual([]);
    expect((await server.fetch(`/api/drawings/${drawing.id}/picture.png`)).status).toBe(200);
  });

  it('goes out with its marks alone, in its own unit', async () => {
    const drawing = await begin({ unit: 'm' });
    const nothing = await send('POST', `/api/drawings/${drawing.id}/export/svg`, {});
    expect((await problemOf(nothing)).type).toContain('nothing-to-export');
    const points = [
      { x: 2, y: 3, z: 0 },
      { x: 14.5, y: 3, z: 0 },
    ];
    await change([mark({ points })], [], drawing.id);
    const file = await (await send('POST', `/api/drawings/${drawing.id}/export/svg`, {})).text();
    const { drawing: back } = await server.import(file, 'Out.svg');
    expect(back.unit).toBe('mm');
    expect(back.extents!.max.x - back.extents!.min.x).toBeCloseTo(12_500, 6);
  });

  it('is refused where its unit or its name says nothing, or a file of one is damaged', async () => {
    const wrong = await send('POST', '/api/drawings/begin', {
      name: ' ',
      kind: 'flat',
      unit: 'px',
      tolerance: -1,
      gridStep: 1,
    });
    expect(wrong.status).toBe(400);
    expect((await problemOf(wrong)).detail).toMatch(/name.*unit|unit.*name/s);
    const { job } = await server.import('{ "gullPaneDrawing": 9 }', 'Newer.json');
    expect(job.state).toBe('failed');
    expect(job.error!.detail).toContain('version 9');
  });
});
