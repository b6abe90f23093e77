/** What is served for looking things up: where every object lies, its exact shape, what stands in the drawing. */
import { mkdtemp, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, expect, it } from 'vitest';
import type { ImportAcceptedDto, LayerDto, DrawingDto } from '@gull-pane/protocol/drawings';
import type { ObjectDto } from '@gull-pane/protocol/objects';
import type { TextColumns } from '@gull-pane/protocol/texts';
import { ShapeChunk } from '@gull-pane/core/pick/object-chunk';
import { decodeObjectColumns, objectKinds } from '@gull-pane/core/pick/object-index';
import { sheetSet } from '@gull-pane/demo/sheet-set';
import { configFromEnvironment } from '../src/config.ts';
import { readHere } from '../src/jobs/read-here.ts';
import { TestServer, problemOf, smallPlan } from './running-server.ts';

let server: TestServer;
beforeAll(async () => {
  server = await TestServer.start();
});
afterAll(() => server.stop());

const filesOf = ({ id, revision }: DrawingDto): string => `/api/drawings/${id}/tiles/r${revision}/`;
const bytesOf = async (path: string): Promise<Uint8Array> =>
  new Uint8Array(await (await server.fetch(path)).arrayBuffer());

it('the index holds every object in its box, the shapes are its doubles', async () => {
  const { drawing } = await server.import(smallPlan);
  const { objects, kinds, layers, boxes, origin, halfWidths } = decodeObjectColumns(
    await bytesOf(`${filesOf(drawing)}objects.index`),
  );
  expect([...objects].sort()).toEqual([0, 1, 2]);
  const shapes = new ShapeChunk(await bytesOf(`${filesOf(drawing)}0.objects`));
  expect(shapes).toHaveLength(3);
  const named = await server.json<LayerDto[]>(`/api/drawings/${drawing.id}/layers`);
  for (const [entry, object] of objects.entries()) {
    const told = await server.json<ObjectDto>(`/api/drawings/${drawing.id}/objects/${object}`);
    expect(layers[entry]).toBe(told.layerId);
    expect(named[layers[entry]!]).toBeDefined();
    const { coords } = shapes.at(entry)!.path;
    if (told.segments) expect([coords[0], coords[1]]).toEqual(told.segments[0]!.from);
    if (told.kind === 'text') {
      // the frame of the letters begins at the anchor and lies round the baseline
      expect(coords[0]).toBe(told.text!.x);
      expect(coords[1]).toBeLessThan(told.text!.y);
    }
    const [minX, minY, maxX, maxY] = boxes.subarray(4 * entry, 4 * entry + 4) as unknown as number[];
    if (told.kind === 'path') {
      expect(coords[0]! - origin.x).toBeGreaterThanOrEqual(minX!);
      expect(coords[0]! - origin.x).toBeLessThanOrEqual(maxX!);
      expect(coords[1]! - origin.y).toBeGreaterThanOrEqual(minY!);
      expect(coords[1]! - origin.y).toBeLessThanOrEqual(maxY!);
      expect(halfWidths[entry]).toBeGreaterThan(0);
    }
  }
  expect(Array.from(kinds, (kind) => objectKinds[kind]).sort()).toEqual(['circle', 'outline', 'text']);
  const texts = await server.json<TextColumns>(`${filesOf(drawing)}texts.json`);
  expect(texts).toMatchObject({ contents: ['KS-VA-0417'], objects: [2], sizes: [25], x: [412600510], y: [7208400260] });
  const missing = await server.fetch(`${filesOf(drawing)}9.objects`);
  expect(missing.status).toBe(404);
  expect((await problemOf(missing)).code).toBe('not-found');
});

it('its files are those of one revision and kept for good', async () => {
  const { drawing } = await server.import(smallPlan);
  const response = await server.fetch(`${filesOf(drawing)}objects.index`);
  expect(response.headers.get('cache-control')).toContain('immutable');
});

const features = (count: number): string =>
  JSON.stringify({
    type: 'FeatureCollection',
    features: Array.from({ length: count }, (_, i) => ({
      type: 'Feature',
      properties: { layer: i % 2 ? 'Outfall' : 'Intake', tag: `KS-DR-${String(i).padStart(4, '0')}` },
      geometry: {
        type: 'LineString',
        coordinates: [
          [10 + i / 1000, 56],
          [10 + i / 1000, 56.001],
        ],
      },
    })),
  });

it('GeoJSON comes in like any other drawing, whatever its name, with properties to look for', async () => {
  const { drawing } = await server.import(features(20), 'Outfall.svg');
  expect(drawing).toMatchObject({ unit: 'mm', status: 'ready' });
  expect(drawing.counts).toMatchObject({ objects: 20, segments: 20, layers: 2 });
  expect(drawing.warnings[0]!.message).toContain('transverse Mercator');
  const { min, max } = drawing.extents!;
  expect((max.y - min.y) / 1000).toBeCloseTo(111.5, 1); // a thousandth of a degree, and what the meridians run together
  const texts = await server.json<TextColumns>(`${filesOf(drawing)}texts.json`);
  expect(texts.contents).toContain('tag: KS-DR-0007');
});

it.each([
  ['broken', features(2).slice(0, 200), 'malformed-json', 'Line 1'],
  ['no GeoJSON', '{"works":"Kelpie Sound"}', 'not-geojson', '“type”'],
])('%s is refused with what and where; nothing is left', async (_name, text, code, told) => {
  const response = await server.upload(text, 'Plan.geojson');
  const { drawingId, jobId } = (await response.json()) as ImportAcceptedDto;
  const job = await server.ended(jobId);
  expect(job.state).toBe('failed');
  expect(job.error).toMatchObject({ code });
  expect(job.error!.detail).toContain(told);
  expect((await server.json<DrawingDto>(`/api/drawings/${drawingId}`)).status).toBe('failed');
});

it('the progress of reading a PDF is in whole bytes, as the job’s column needs', async () => {
  const folder = await mkdtemp(join(tmpdir(), 'gull-pane-api-'));
  const path = join(folder, 'pumps.pdf');
  const bytes = sheetSet();
  await writeFile(path, bytes);
  const none = (): void => undefined;
  const told: number[] = [];
  const sink = { path: none, text: none, picture: none };
  await readHere(path, configFromEnvironment({}).importLimits, sink, (read) => told.push(read));
  await rm(folder, { recursive: true });
  expect(told).toHaveLength(5);
  expect(told.every(Number.isInteger)).toBe(true);
  expect(told.at(-1)).toBe(bytes.length);
});

it('a PDF comes in like any other drawing: sheets, layers with those that are off, texts; broken ones refused', async () => {
  const bytes = sheetSet();
  const { drawing, job } = await server.import(bytes, 'pumps.bin');
  expect(job.state).toBe('done');
  expect(drawing).toMatchObject({ unit: 'mm', status: 'ready', warnings: [] });
  expect(drawing.sheets.map(({ name }) => name)).toEqual([1, 2, 3, 4, 5].map((n) => `Sheet ${n}`));
  expect(drawing.sheets[0]!.maxX).toBeCloseTo(420, 1); // A3 across
  const layers = await server.json<LayerDto[]>(`/api/drawings/${drawing.id}/layers`);
  expect(layers.filter(({ isOff }) => isOff).map(({ name }) => name)).toEqual(['Remarks']);
  expect(layers.map(({ name }) => name)).toContain('Border and title');
  const texts = await server.json<TextColumns>(`${filesOf(drawing)}texts.json`);
  expect(texts.contents).toContain('KS-VA-0417');

  for (const [file, code] of [
    [bytes.slice(0, 300), 'malformed-pdf'],
    ['%PDF-1.7 and nothing else', 'malformed-pdf'],
  ] as const) {
    const refused = await server.import(file, 'pumps.pdf');
    expect(refused.job).toMatchObject({ state: 'failed', error: { code } });
    expect(refused.drawing.status).toBe('failed');
  }
});
