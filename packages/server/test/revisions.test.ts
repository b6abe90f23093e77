import { existsSync } from 'node:fs';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { ModelWriter } from '@gull-pane/demo/model-writer';
import { revisedPlan } from '@gull-pane/demo/revised-plan';
import { writeSitePlan } from '@gull-pane/demo/site-plan';
import { box } from '@gull-pane/demo/solid-shapes';
import type { ChangeDto, ComparisonDto } from '@gull-pane/protocol/comparison';
import type { DrawingDto, ImportAcceptedDto, LayerDto } from '@gull-pane/protocol/drawings';
import type { ReviewDto, RevisionDto, SeenDto } from '@gull-pane/protocol/revisions';
import { TestServer, problemOf, smallPlan } from './running-server.ts';

let server: TestServer;
beforeAll(async () => {
  server = await TestServer.start({ GULL_PANE_KEPT_REVISIONS: '3' });
});
afterAll(() => server.stop());

/** Imports a file as the drawing's next revision. */
async function revise(id: string, content: string | Uint8Array<ArrayBuffer>, name: string): Promise<void> {
  const answer = await server.upload(content, name, `/api/drawings/${id}/source`, 'PUT');
  const { jobId } = (await answer.json()) as ImportAcceptedDto;
  expect((await server.ended(jobId)).state).toBe('done');
}
const json = (method: string, body: unknown): RequestInit => ({
  method,
  headers: { 'content-type': 'application/json' },
  body: JSON.stringify(body),
});
const ofWay = ({ changes }: ComparisonDto, way: string): readonly ChangeDto[] =>
  changes.filter(({ ways }) => ways.includes(way as ChangeDto['ways'][number]));

it('every change of a revised site plan is told, and none is invented', async () => {
  const parts: string[] = [];
  writeSitePlan((text) => void parts.push(text));
  const { svg, edits } = revisedPlan(parts.join(''));
  const { drawing } = await server.import(parts.join(''), 'Issue A.svg');
  await revise(drawing.id, svg, 'Issue B.svg');
  const told = await server.json<ComparisonDto>(`/api/drawings/${drawing.id}/comparison`);
  expect(told).toMatchObject({ from: 1, to: 2, axes: 2 });
  expect({
    added: ofWay(told, 'added').length,
    gone: ofWay(told, 'gone').length,
    moved: ofWay(told, 'moved').length,
    restyled: ofWay(told, 'restyled').length,
    renamed: ofWay(told, 'label').length,
  }).toEqual(edits);
  const { added, gone, moved, restyled, renamed: others } = edits;
  expect(told.total).toBe(added + gone + moved + restyled + others);
  expect(told.total).toBeGreaterThan(150);
  for (const { by } of ofWay(told, 'moved')) {
    expect(by![0]).toBeCloseTo(350, 6);
    expect(by![1]).toBe(0);
  }
  const [renamed] = ofWay(told, 'label');
  expect(renamed).toMatchObject({ kind: 'text', layer: 'Valves', label: `${renamed!.was.label!}B` });
  // neighbours are one cluster; each change is in one
  expect(told.clusters.length).toBeLessThan(told.total);
  expect(told.clusters.flatMap(({ changes }) => changes).sort((a, b) => a - b)).toEqual(told.changes.map((_, k) => k));
  // the other way round: what was added is gone
  const back = await server.json<ComparisonDto>(`/api/drawings/${drawing.id}/comparison?from=2&to=1`);
  expect([ofWay(back, 'added').length, ofWay(back, 'gone').length]).toEqual([edits.gone, edits.added]);
});

it('features of a map are known by their ids, wherever they lie now and whatever they look like', async () => {
  const feature = (id: string | number, coordinates: number[][]): object => ({
    type: 'Feature',
    id,
    properties: { layer: 'Intake' },
    geometry: { type: 'LineString', coordinates },
  });
  const map = (...features: object[]): string =>
    JSON.stringify({ type: 'FeatureCollection', plane: 'metres', features });
  const far = Array.from({ length: 9 }, (_, k) => [9000 + 7 * k, 500 * (k % 2)]);
  const before = map(
    feature('KS-1', [
      [0, 0],
      [10, 0],
    ]),
    feature('KS-2', [
      [0, 5],
      [10, 5],
    ]),
    feature(3, [
      [0, 9],
      [10, 9],
    ]),
  );
  const after = map(
    feature('KS-2', [
      [0, 5],
      [10, 5],
    ]),
    feature('KS-1', far),
    feature(
      3,
      far.map(([x, y]) => [x!, y! + 5000]),
    ),
  );
  const { drawing } = await server.import(before, 'Coast.geojson');
  await revise(drawing.id, after, 'Coast, issue B.geojson');
  const told = await server.json<ComparisonDto>(`/api/drawings/${drawing.id}/comparison`);
  // under its id another shape in another place is the same object; under a number alone it isn't
  expect(ofWay(told, 'reshaped').map(({ layer }) => layer)).toEqual(['Intake']);
  expect([ofWay(told, 'added').length, ofWay(told, 'gone').length]).toEqual([1, 1]);
});

describe('the revisions of a drawing', () => {
  const withLines = (count: number): string =>
    smallPlan.replace(
      '<circle',
      `${Array.from({ length: count }, (_, k) => `<path d="M412600000 ${-7208400000 - 10 * k}h9"/>`).join('')}<circle`,
    );

  it('are listed with file, size and date, named, and removed by hand or by the setting', async () => {
    const { drawing } = await server.import(smallPlan, 'Chamber.svg');
    const address = `/api/drawings/${drawing.id}/revisions`;
    for (const count of [1, 2, 3]) await revise(drawing.id, withLines(count), `Chamber ${count}.svg`);
    const listed = await server.json<RevisionDto[]>(address);
    expect(listed.map(({ number, fileName, isCurrent }) => [number, fileName, isCurrent])).toEqual([
      [4, 'Chamber 3', true],
      [3, 'Chamber 2', false],
      [2, 'Chamber 1', false],
    ]);
    expect(existsSync(join(server.dataFolder, 'drawings', drawing.id, 'r1'))).toBe(false);
    expect((await server.fetch(`/api/drawings/${drawing.id}/tiles/r3/0.glb`)).status).toBe(200);
    const named = await server.fetch(`${address}/3`, json('PATCH', { name: 'For approval' }));
    expect((await named.json()) as RevisionDto).toMatchObject({ number: 3, name: 'For approval' });
    expect((await problemOf(await server.fetch(`${address}/4`, { method: 'DELETE' }))).code).toBe('revision-in-use');
    expect((await server.fetch(`${address}/3`, { method: 'DELETE' })).status).toBe(204);
    expect((await problemOf(await server.fetch(`${address}/3`, { method: 'DELETE' }))).code).toBe('revision-not-found');
    // compared with the one before that is still kept
    const told = await server.json<ComparisonDto>(`/api/drawings/${drawing.id}/comparison`);
    expect([told.from, told.to, ofWay(told, 'added').length]).toEqual([2, 4, 2]);
  });

  it('keep what each person says of a change, until it is taken back', async () => {
    const { drawing } = await server.import(smallPlan, 'Weir.svg');
    await revise(drawing.id, withLines(1), 'Weir B.svg');
    const address = `/api/drawings/${drawing.id}/comparison`;
    const [change] = (await server.json<ComparisonDto>(address)).changes;
    const say = (state: string, note: string, person = 'Ailsa'): Promise<Response> =>
      server.fetch(`${address}/reviews`, json('PUT', { change: change!.key, person, state, note }));
    expect((await say('questioned', 'Why here?')).status).toBe(204);
    expect((await say('accepted', '', 'Ewan')).status).toBe(204);
    expect((await say('accepted', 'Agreed on site')).status).toBe(204);
    const reviews = await server.json<ReviewDto[]>(`${address}/reviews`);
    expect(reviews.map(({ person, state, note }) => [person, state, note]).sort()).toEqual([
      ['Ailsa', 'accepted', 'Agreed on site'],
      ['Ewan', 'accepted', ''],
    ]);
    expect((await say('open', '')).status).toBe(204);
    expect(await server.json<ReviewDto[]>(`${address}/reviews`)).toHaveLength(1);
    expect((await problemOf(await say('perhaps', ''))).code).toBe('bad-request');
  });

  it('are served under an address of their own, and can’t be changed', async () => {
    const { drawing } = await server.import(withLines(1), 'Culvert.svg');
    await revise(drawing.id, withLines(3), 'Culvert B.svg');
    const former = `/api/drawings/${drawing.id}~1`;
    const told = await server.json<DrawingDto>(former);
    expect(told).toMatchObject({ id: `${drawing.id}~1`, revision: 1, name: 'Culvert, Culvert' });
    const present = await server.json<DrawingDto>(`/api/drawings/${drawing.id}`);
    expect(present.counts.objects - told.counts.objects).toBe(2);
    // the present one by its number is the drawing itself
    expect((await server.json<DrawingDto>(`/api/drawings/${drawing.id}~2`)).id).toBe(drawing.id);
    const layers = await server.json<LayerDto[]>(`${former}/layers`);
    expect(layers.reduce((sum, { objects }) => sum + objects, 0)).toBe(told.counts.objects);
    const tileset = await server.fetch(`${former}/tiles/tileset.json`);
    expect(await tileset.text()).toContain('r1/');
    expect((await server.fetch(`${former}/objects/${told.counts.objects}`)).status).toBe(404);
    expect((await server.fetch(`/api/drawings/${drawing.id}/objects/${told.counts.objects}`)).status).toBe(200);
    // what is kept with a drawing belongs to all of its revisions
    expect(await server.json<unknown[]>(`${former}/cards`)).toEqual([]);
    const renamed = await server.fetch(former, json('PATCH', { name: 'Another' }));
    expect((await problemOf(renamed)).code).toBe('drawing-not-found');
    expect((await server.fetch(former, { method: 'DELETE' })).status).toBe(404);
    expect((await problemOf(await server.fetch(`/api/drawings/${drawing.id}~7`))).code).toBe('revision-not-found');
    expect((await server.fetch(`/api/drawings/${drawing.id}~1x`)).status).toBe(404);
  });

  it('carry over what a person has seen, but for what has changed', async () => {
    const { drawing } = await server.import(withLines(2), 'Spillway.svg');
    const address = `/api/drawings/${drawing.id}/seen?person=Ailsa`;
    const all = drawing.counts.objects;
    const full = Buffer.alloc((all + 7) >> 3, 255).toString('base64');
    expect((await server.fetch(address, json('PUT', { bits: full }))).status).toBe(204);
    await revise(drawing.id, withLines(5), 'Spillway B.svg');
    const { bits } = await server.json<SeenDto>(address);
    const seen = [...Buffer.from(bits, 'base64')].reduce((sum, byte) => {
      let count = 0;
      for (let bit = 0; bit < 8; bit++) count += (byte >> bit) & 1;
      return sum + count;
    }, 0);
    // three lines are new, all else is as it was
    expect(seen).toBe(all);
    expect((await server.json<SeenDto>(`/api/drawings/${drawing.id}/seen?person=Ewan`)).bits).toBe('');
    // what is seen from now on is of this revision
    expect((await server.fetch(address, json('PUT', { bits: '' }))).status).toBe(204);
    expect((await server.json<SeenDto>(address)).bits).toBe('');
    expect((await server.json<SeenDto>(`/api/drawings/${drawing.id}~1/seen?person=Ailsa`)).bits).toBe(full);
  });

  it('of which there is only one can’t be compared', async () => {
    const { drawing } = await server.import(smallPlan, 'Sluice.svg');
    expect((await problemOf(await server.fetch(`/api/drawings/${drawing.id}/comparison`))).code).toBe(
      'revision-not-found',
    );
  });
});

it('objects of a model are known by their names, wherever they have gone', async () => {
  const model = (pump: number, height: number, withTank: boolean): Uint8Array<ArrayBuffer> => {
    const writer = new ModelWriter('Hall', [412_600, 7_208_400, 0]);
    const grey = writer.material('Concrete', '#b9b5ab', 0, 0.9);
    const group = writer.group('Pumps');
    writer.object('KS-PU-201', group, 'pump', () => [[box(2, 1, 1), grey]], { at: [pump, 0, 0] });
    writer.object('KS-PU-202', group, `casing ${height}`, () => [[box(2, 1, height), grey]], { at: [5, 5, 0] });
    if (withTank) writer.object('KS-TK-0007', group, 'tank', () => [[box(3, 3, 3), grey]], { at: [20, 20, 0] });
    return writer.bytes();
  };
  const { drawing } = await server.import(model(0, 1, false), 'Hall.glb');
  await revise(drawing.id, model(4, 2, true), 'Hall B.glb');
  const told = await server.json<ComparisonDto>(`/api/drawings/${drawing.id}/comparison?tolerance=0.01`);
  expect(told.axes).toBe(3);
  const short = told.changes.map(({ label, ways, by }) => [label, ways.join(), by?.map(Math.round)]);
  expect(short.sort()).toEqual([
    ['KS-PU-201', 'moved', [4000, 0, 0]],
    ['KS-PU-202', 'reshaped', undefined],
    ['KS-TK-0007', 'added', undefined],
  ]);
  // each form has its edges
  for (const { linesBefore, linesAfter, before } of told.changes) {
    expect(linesAfter).toHaveLength(12);
    expect(linesBefore).toHaveLength(before === null ? 0 : 12);
  }
});

it('what each person has seen of a revision is kept; of the next one only what has changed is unseen', async () => {
  const { drawing } = await server.import(smallPlan, 'Culvert.svg');
  const address = `/api/drawings/${drawing.id}/seen`;
  expect(await server.json(`${address}?person=Ailsa`)).toEqual({ bits: '' });
  const keep = (bits: string, person: string): Promise<Response> =>
    server.fetch(`${address}?person=${person}`, json('PUT', { bits }));
  expect((await keep('BQ==', 'Ailsa')).status).toBe(204);
  expect((await keep('Bw==', 'Ailsa')).status).toBe(204);
  expect((await keep('AQ==', 'Ewan')).status).toBe(204);
  expect(await server.json(`${address}?person=Ailsa`)).toEqual({ bits: 'Bw==' });
  expect(await server.json(`${address}?person=Ewan`)).toEqual({ bits: 'AQ==' });
  expect((await problemOf(await keep(7 as unknown as string, 'Ewan'))).code).toBe('bad-request');
  await revise(drawing.id, smallPlan.replace('r="40"', 'r="45"'), 'Culvert B.svg');
  // three objects were seen; the one in the middle is another now
  expect(await server.json(`${address}?person=Ailsa`)).toEqual({ bits: 'BQ==' });
});
