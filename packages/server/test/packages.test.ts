/** Packages: out of one installation, into another; whole or not at all. */
import { randomUUID } from 'node:crypto';
import { readdirSync } from 'node:fs';
import { join } from 'node:path';
import { strFromU8, strToU8, unzipSync, zipSync } from 'fflate';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { CardDto, KeepCardDto } from '@gull-pane/protocol/cards';
import type { DrawingDto } from '@gull-pane/protocol/drawings';
import {
  PACKAGE_VERSION,
  type PackageManifestDto,
  type PackageTakenDto,
  type ReceivedPackageDto,
} from '@gull-pane/protocol/packages';
import type { KeepSheetSetDto, SheetSetDto } from '@gull-pane/protocol/sheet-sets';
import type { TourDto } from '@gull-pane/protocol/tours';
import { TestServer, problemOf, smallPlan } from './running-server.ts';

let home: TestServer;
let other: TestServer;
let drawing: DrawingDto;
let bytes: Uint8Array<ArrayBuffer>;

const post = (server: TestServer, path: string, body: unknown): Promise<Response> =>
  server.fetch(path, {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify(body),
  });
const view = (name: string, position: number): KeepCardDto => ({
  id: randomUUID(),
  name,
  group: 'Checks',
  position,
  widthPx: 900,
  heightPx: 600,
  picture: '',
  camera: { x: 412600500.123456789, y: 7208400250, z: 0, unitsPerPx: 0.5, qx: 0, qy: 0, qz: 0, qw: 1 },
  shows: { hiddenLayers: ['Tags'], hiddenObjects: '1', revision: 1, clips: [] },
  comments: [{ author: 'Checker', date: '2026-11-25T10:00:00Z', text: 'Is this the right valve?' }],
});
const cards = [view('Valve', 1), view('Pump', 2)];

async function written(server: TestServer, id: string): Promise<Uint8Array<ArrayBuffer>> {
  const response = await post(server, `/api/drawings/${id}/package`, {
    pickSets: [{ name: 'Valves', objects: '0-1' }],
  });
  expect(response.status).toBe(200);
  return new Uint8Array(await response.arrayBuffer());
}
const send = (server: TestServer, content: Uint8Array<ArrayBuffer>): Promise<Response> =>
  server.upload(content, 'Chamber.gull-pane.zip', '/api/packages');
async function take(server: TestServer, content: Uint8Array<ArrayBuffer>, how: string): Promise<PackageTakenDto> {
  const { id } = (await (await send(server, content)).json()) as ReceivedPackageDto;
  const response = await post(server, `/api/packages/${id}/take`, { how });
  expect(response.status).toBe(200);
  const taken = (await response.json()) as PackageTakenDto;
  if (taken.jobId !== undefined) expect((await server.ended(taken.jobId)).state).toBe('done');
  return taken;
}
const sheetSet: Omit<KeepSheetSetDto, 'id'> = {
  name: 'Issue A',
  position: 1,
  fields: { project: 'Kelpie Sound', title: 'Chamber', number: '', revision: 'A', author: '', date: '' },
  sheets: [{ name: 'Plan', paper: { widthMm: 420, heightMm: 297 }, frames: [], matchLines: [] }],
};
const setsOf = (server: TestServer, id: string): Promise<SheetSetDto[]> =>
  server.json(`/api/drawings/${id}/sheet-sets`);
const cardsOf = (server: TestServer, id: string): Promise<CardDto[]> => server.json(`/api/drawings/${id}/cards`);
const toursOf = (server: TestServer, id: string): Promise<TourDto[]> => server.json(`/api/drawings/${id}/tours`);

beforeAll(async () => {
  home = await TestServer.start();
  other = await TestServer.start();
  ({ drawing } = await home.import(smallPlan, 'Chamber.svg'));
  for (const card of cards) expect((await post(home, `/api/drawings/${drawing.id}/cards`, card)).status).toBe(201);
  const stops = cards.map(({ id }) => ({
    id: randomUUID(),
    cardId: id,
    caption: '',
    travelMs: 1000,
    stayMs: 500,
    easing: 'gentle',
    looksChange: 'midway',
    driftRadPerS: 0,
  }));
  await post(home, `/api/drawings/${drawing.id}/tours`, { name: 'Round', position: 1, loops: true, stops });
  const pane = (drawingId: string) => ({
    pane: '1',
    drawingId,
    camera: cards[0]!.camera,
    widthPx: 900,
    heightPx: 600,
    shows: cards[0]!.shows,
    isLocked: false,
    drifts: false,
    turnsAlone: false,
    orbitMode: 'level',
    trail: { views: [], current: 0 },
  });
  await post(home, '/api/arrangements', {
    name: 'One pane',
    position: 1,
    picture: '',
    arranged: { tiling: { pane: '1' }, panes: [pane(drawing.id)], ties: [], active: '1' },
  });
  await post(home, `/api/drawings/${drawing.id}/sheet-sets`, sheetSet);
  bytes = await written(home, drawing.id);
});
afterAll(async () => {
  await home.stop();
  await other.stop();
});

describe('a package', () => {
  it('holds the source as it was sent, and says in its manifest what it holds', () => {
    const files = unzipSync(bytes);
    expect(Object.keys(files).sort()).toEqual(
      [
        'source',
        'cards.json',
        'tours.json',
        'arrangements.json',
        'marks.json',
        'sheets.json',
        'picked-sets.json',
        'manifest.json',
      ].sort(),
    );
    expect(strFromU8(files.source!)).toBe(smallPlan);
    const manifest = JSON.parse(strFromU8(files['manifest.json']!)) as PackageManifestDto;
    expect(manifest).toMatchObject({
      format: 'gull-pane-package',
      version: 3,
      drawing: { id: drawing.id, name: 'Chamber' },
    });
    expect(manifest.files.map(({ path, bytes: size }) => [path, size])).toEqual(
      manifest.files.map(({ path }) => [path, files[path]!.length]),
    );
  });

  it('tells before anything is done what it would do, then becomes the same drawing in another installation', async () => {
    const told = (await (await send(other, bytes)).json()) as ReceivedPackageDto;
    expect(told).toMatchObject({
      drawing: { id: drawing.id, name: 'Chamber' },
      holds: { cards: 2, tours: 1, arrangements: 1, pickSets: 1 },
      known: { cards: 0, tours: 0, arrangements: 0 },
    });
    expect(told.nameHere).toBeUndefined();
    expect(await other.json('/api/drawings')).toEqual([]);

    const taken = await take(other, bytes, 'new');
    expect(taken).toMatchObject({ drawingId: drawing.id, added: { cards: 2, tours: 1, arrangements: 1 } });
    expect(taken.pickSets).toEqual([{ name: 'Valves', objects: '0-1' }]);
    const there = await other.json<DrawingDto>(`/api/drawings/${drawing.id}`);
    expect(there).toMatchObject({ name: 'Chamber', status: 'ready', extents: drawing.extents, counts: drawing.counts });
    const plain = (list: CardDto[]) => list.map((card) => ({ ...card, updatedAt: '' }));
    expect(plain(await cardsOf(other, drawing.id))).toEqual(plain(await cardsOf(home, drawing.id)));
    expect((await toursOf(other, drawing.id))[0]!.stops).toEqual((await toursOf(home, drawing.id))[0]!.stops);
    expect(await setsOf(other, drawing.id)).toMatchObject([sheetSet]);
  });

  it('beside the drawing that is here becomes one of its own, whose tours go through its own views', async () => {
    const { drawingId } = await take(home, bytes, 'new');
    expect(drawingId).not.toBe(drawing.id);
    const own = await cardsOf(home, drawingId);
    expect(own.map(({ name }) => name)).toEqual(['Valve', 'Pump']);
    expect(own.some(({ id }) => cards.some((card) => card.id === id))).toBe(false);
    const [tour] = await toursOf(home, drawingId);
    expect(tour!.stops.map(({ cardId }) => cardId)).toEqual(own.map(({ id }) => id));
    expect(await cardsOf(home, drawing.id)).toHaveLength(2);
  });

  it('merged into what is here adds what is missing and changes nothing else', async () => {
    const [first] = await cardsOf(home, drawing.id);
    await home.fetch(`/api/cards/${first!.id}`, { method: 'DELETE' });
    const told = (await (await send(home, bytes)).json()) as ReceivedPackageDto;
    expect(told).toMatchObject({ nameHere: 'Chamber', known: { cards: 1, tours: 1, arrangements: 1 } });
    const taken = await take(home, bytes, 'merge');
    expect(taken).toMatchObject({ drawingId: drawing.id, added: { cards: 1, tours: 0, arrangements: 0 } });
    expect(taken.jobId).toBeUndefined();
    const back = await cardsOf(home, drawing.id);
    expect(back).toHaveLength(2);
    expect(back[0]!.shows.revision).toBe(1); // the same file: hidden objects are the same
  });

  it('replaces what is here: content, views and tours', async () => {
    await post(home, `/api/drawings/${drawing.id}/cards`, view('Only here', 9));
    const before = await home.json<DrawingDto>(`/api/drawings/${drawing.id}`);
    await take(home, bytes, 'replace');
    const after = await home.json<DrawingDto>(`/api/drawings/${drawing.id}`);
    expect(after.revision).toBe(before.revision + 1);
    const own = await cardsOf(home, drawing.id);
    expect(own.map(({ name }) => name)).toEqual(['Valve', 'Pump']);
    expect(own[0]!.shows.revision).toBe(after.revision);
  });
});

describe('a package that isn’t whole', () => {
  const files = (): Record<string, Uint8Array> => unzipSync(bytes);
  const changed = (change: (own: Record<string, Uint8Array>) => void): Uint8Array<ArrayBuffer> => {
    const own = files();
    change(own);
    return zipSync(own);
  };
  const cases: readonly (readonly [string, () => Uint8Array<ArrayBuffer>, RegExp])[] = [
    ['cut off', () => bytes.slice(0, bytes.length / 2), /breaks off|missing|unpacked/],
    ['of another kind', () => strToU8('<svg/>'), /no .zip/],
    ['with a byte changed', () => changed((own) => (own.source![40]! ^= 1)), /source isn’t what the manifest tells/],
    ['without its views', () => changed((own) => delete own['cards.json']), /cards.json is missing/],
    ['without a manifest', () => changed((own) => delete own['manifest.json']), /no manifest/],
    [
      'with a file that would lie elsewhere',
      () => changed((own) => (own['../elsewhere'] = strToU8('a'))),
      /has no place/,
    ],
    [
      'with a manifest of something else',
      () => changed((own) => (own['manifest.json'] = strToU8('{}'))),
      /something else/,
    ],
  ];

  it.each(cases)('%s is refused whole, with the reason', async (_, make, told) => {
    const before = await other.json<DrawingDto[]>('/api/drawings');
    const kept = readdirSync(join(other.dataFolder, 'packages'));
    const response = await send(other, make());
    expect(response.status).toBe(422);
    const { detail, title } = await problemOf(response);
    expect(title).toBe('The package is damaged');
    expect(detail).toMatch(told);
    expect(await other.json('/api/drawings')).toEqual(before);
    expect(readdirSync(join(other.dataFolder, 'packages'))).toEqual(kept);
  });

  it('of a newer kind is refused with a clear line', async () => {
    const newer = changed((own) => {
      const manifest = JSON.parse(strFromU8(own['manifest.json']!)) as object;
      own['manifest.json'] = strToU8(JSON.stringify({ ...manifest, version: PACKAGE_VERSION + 1 }));
    });
    const response = await send(other, newer);
    expect((await problemOf(response)).title).toMatch(/newer Gull Pane/);
  });

  it('can’t be taken twice, nor into a drawing that isn’t here', async () => {
    const { id } = (await (await send(other, bytes)).json()) as ReceivedPackageDto;
    await other.fetch(`/api/drawings/${drawing.id}`, { method: 'DELETE' });
    expect((await post(other, `/api/packages/${id}/take`, { how: 'merge' })).status).toBe(404);
    expect((await post(other, `/api/packages/${id}/take`, { how: 'new' })).status).toBe(200);
    expect((await post(other, `/api/packages/${id}/take`, { how: 'new' })).status).toBe(404);
  });
});
