/** Points as a kind of their own: what is served of a list and of a cloud, and how they go out again. */
import { afterAll, beforeAll, expect, it } from 'vitest';
import { seededRandom } from '@gull-pane/core/geometry/random';
import { RUN, decodeSolidTile } from '@gull-pane/core/solid/solid-tile';
import type { ObjectDto } from '@gull-pane/protocol/objects';
import type { SolidTable } from '@gull-pane/protocol/solid-table';
import type { TileJson, TilesetJson } from '@gull-pane/protocol/tileset';
import { TestServer } from './running-server.ts';

let server: TestServer;
beforeAll(async () => {
  server = await TestServer.start();
});
afterAll(() => server.stop());

const pegs =
  'id,easting,northing,height,r,g,b,code\n' +
  'KS-PEG-01,412600.123,7208400.25,3.5,200,10,10,PEG\n' +
  'KS-PEG-02,412610.5,7208400.25,3.75,10,200,10,PEG\n' +
  'KS-MH-07,412605,7208410.125,2,10,10,200,MANHOLE\n';

it('a list of named points is a model of points: objects, layers, exact places, and out again', async () => {
  const { job, drawing } = await server.import(pegs, 'Pegs.csv');
  expect(job.state).toBe('done');
  expect(drawing).toMatchObject({
    kind: 'solid',
    counts: { objects: 3, points: 3, triangles: 0, layers: 2 },
    extents: { min: { x: 412_600_123, y: 7_208_400_250, z: 2000 } },
  });
  const object = await server.json<ObjectDto>(`/api/drawings/${drawing.id}/objects/1`);
  expect(object.solid).toMatchObject({
    name: 'KS-PEG-02',
    parts: [
      {
        positions: [412_610_500, 7_208_400_250, 3750],
        triangles: [],
        points: { count: 1, colours: [(10 << 16) | (200 << 8) | 10] },
      },
    ],
  });
  const out = await server.fetch(`/api/drawings/${drawing.id}/export/glb`, {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: '{}',
  });
  const { drawing: back } = await server.import(new Uint8Array(await out.arrayBuffer()), 'back.glb');
  expect(back.counts).toMatchObject({ objects: 3, points: 3, layers: 2 });
  const again = await server.json<ObjectDto>(`/api/drawings/${back.id}/objects/1`);
  expect(again.solid!.parts[0]!.points!.colours).toEqual([(10 << 16) | (200 << 8) | 10]);
  // its node keeps the place in full; doubles of metres and of millimetres differ by a rounding
  for (const [axis, value] of [412_610_500, 7_208_400_250, 3750].entries())
    expect(Math.abs(again.solid!.parts[0]!.positions[axis]! - value)).toBeLessThanOrEqual(2 ** -51 * 7_208_400_250);
});

it('the tiles of a large cloud hold each point once; the API does not list them one by one', async () => {
  const random = seededRandom(3);
  const count = 150_000;
  const lines = Array.from({ length: count }, () => [100, 80, 9].map((size) => (size * random()).toFixed(4)).join(' '));
  const { drawing } = await server.import(lines.join('\n'), 'Basin 7.xyz');
  expect(drawing.counts).toMatchObject({ objects: 1, points: count });
  const { solid } = await server.json<ObjectDto>(`/api/drawings/${drawing.id}/objects/0`);
  expect(solid!.parts).toEqual([
    { material: 0, positions: [], triangles: [], edges: [], points: { count, colours: [] } },
  ]);
  const files = `/api/drawings/${drawing.id}/tiles/`;
  const table = await server.json<SolidTable>(`${files}r${drawing.revision}/solid.json`);
  expect(table.points).toEqual([count]);
  const tileset = await server.json<TilesetJson>(`${files}tileset.json`);
  const seen = new Set<string>();
  let told = 0;
  const visit = async (tile: TileJson, parent: readonly number[]): Promise<void> => {
    const origin = parent.map((value, axis) => value + (tile.transform?.[12 + axis] ?? 0));
    const response = await server.fetch(files + tile.content!.uri);
    const {
      pointPositions: p,
      pointRests: rests,
      runs,
    } = decodeSolidTile(new Uint8Array(await response.arrayBuffer()));
    expect(runs[runs.length - RUN + 5]).toBe(p.length / 3);
    told += tile.extras!.points!;
    for (let i = 0; i < p.length; i += 3)
      seen.add([0, 1, 2].map((k) => ((origin[k]! + p[i + k]! + rests[i + k]!) / 1000).toFixed(4)).join(' '));
    for (const child of tile.children ?? []) await visit(child, origin);
  };
  await visit(tileset.root.children![0]!, [0, 0, 0]);
  expect(told).toBe(count);
  expect(seen).toEqual(new Set(lines));
});
