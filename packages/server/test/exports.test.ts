/** Drawings out and in again: what comes back is what went out. */
import { unzipSync } from 'fflate';
import { Document, GLB_BUFFER, NodeIO, type GLTF } from '@gltf-transform/core';
import { EXTMeshGPUInstancing, KHRMeshQuantization } from '@gltf-transform/extensions';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { unpackGlb } from '@gull-pane/core/pyramid/glb';
import { ModelWriter } from '@gull-pane/demo/model-writer';
import { box, cylinder } from '@gull-pane/demo/solid-shapes';
import type { DrawingDto, LayerDto } from '@gull-pane/protocol/drawings';
import type { SolidDto } from '@gull-pane/protocol/objects';
import type { TextColumns } from '@gull-pane/protocol/texts';
import type { TileJson, TilesetJson } from '@gull-pane/protocol/tileset';
import { TestServer, problemOf } from './running-server.ts';

let server: TestServer;
beforeAll(async () => {
  server = await TestServer.start();
});
afterAll(() => server.stop());

/** Far out on the grid: lines, every kind of curve, arcs turned and cut, areas with holes, dashes, texts turned. */
const chamber = `<svg xmlns="http://www.w3.org/2000/svg" viewBox="412600000 -7208400000 4000 3000" width="4000mm" height="3000mm">
<g id="Walls &amp; floors" fill="none" stroke="#345678" stroke-width="7">
<path d="M412600010.125 -7208399990.5h3900v2900h-3900z"/>
<path d="M412600100 -7208399000q200 -300 500 0t500 0c100 200 300 200 400 -100s300 -200 400 50" stroke-dasharray="40 20"/>
</g>
<g id="Pipes" stroke="#a03010" stroke-width="2" fill="#20808040">
<ellipse cx="412602000" cy="-7208399500" rx="400" ry="150" transform="rotate(33 412602000 -7208399500)"/>
<path d="M412603000 -7208399000a300 200 25 1 1 200 150" fill="none"/>
<circle cx="412601000" cy="-7208398000" r="250"/>
</g>
<g id="Gratings" fill="#888800" fill-rule="evenodd">
<path d="M412602000 -7208398500h900v700h-900zM412602200 -7208398300h500v300h-500zM412602300 -7208398200h100v50h-100z"/>
</g>
<g id="Tags" font-size="80">
<text x="412600500" y="-7208398000" fill="#102030">KS-VA-0417 &amp; more</text>
<text x="412603000" y="-7208397800" text-anchor="end" font-weight="bold" transform="rotate(-30 412603000 -7208397800)">Outfall</text>
</g>
<g id="Walls &amp; floors" fill="none" stroke="#345678" stroke-width="7"><path d="M412600020 -7208399980h50"/></g>
</svg>`;

const exported = (drawing: DrawingDto, format: string, part: object = {}): Promise<Response> =>
  server.fetch(`/api/drawings/${drawing.id}/export/${format}`, {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify(part),
  });
const layersOf = ({ id }: DrawingDto): Promise<LayerDto[]> => server.json(`/api/drawings/${id}/layers`);
const textsOf = ({ id, revision }: DrawingDto): Promise<TextColumns> =>
  server.json(`/api/drawings/${id}/tiles/r${revision}/texts.json`);

/** The largest difference of two drawings' extents, as a share of their size. */
function apart({ extents: a }: DrawingDto, { extents: b }: DrawingDto): number {
  const size = Math.max(a!.max.x - a!.min.x, a!.max.y - a!.min.y, a!.max.z - a!.min.z);
  const ends = (['x', 'y', 'z'] as const).flatMap((axis) => [a!.min[axis] - b!.min[axis], a!.max[axis] - b!.max[axis]]);
  return Math.max(...ends.map(Math.abs)) / size;
}

it('a map goes out as it came in: ids, properties, heights, degrees, rings in their order', async () => {
  const ring = (x: number, y: number, size: number): number[][] => [
    [x, y, 4.5],
    [x + size, y, 4.5],
    [x + size, y + size, 4.75],
    [x, y + size, 5],
    [x, y, 4.5],
  ];
  const holes = Array.from({ length: 450 }, (_, k) =>
    ring(-4.3999 + 1e-4 * (k % 30), 55.8 + 1e-4 * Math.floor(k / 30), 5e-5),
  );
  const features = [
    {
      type: 'Feature',
      id: 'KS-INTAKE',
      properties: { layer: 'Intake', depth: 12.5, notes: { by: 'Ailsa', seen: [1, 2] }, open: true, closed: null },
      geometry: {
        type: 'LineString',
        coordinates: [
          [-4.4001234567891, 55.8000000000001, -12.25],
          [-4.39, 55.81, -11],
        ],
      },
    },
    {
      type: 'Feature',
      id: 7,
      properties: {},
      geometry: { type: 'Polygon', coordinates: [ring(-4.4, 55.79, 0.02), ...holes] },
    },
    { type: 'Feature', properties: { tag: 'KS-MH-1' }, geometry: { type: 'Point', coordinates: [-4.395, 55.805, 3] } },
    {
      type: 'Feature',
      properties: { text: 'Outfall', textSize: 40 },
      geometry: { type: 'Point', coordinates: [-4.3953, 55.8051] },
    },
  ];
  const { job, drawing } = await server.import(
    JSON.stringify({ type: 'FeatureCollection', features }),
    'Coast.geojson',
  );
  expect(job.error).toBeUndefined();
  const out = JSON.parse(await (await exported(drawing, 'geojson')).text()) as { features: unknown[]; plane?: string };
  expect(out.features).toEqual(features);
  expect(out.plane).toBeUndefined();
  // an area under the even-odd rule: what is filled is the square without its 450 holes
  expect(drawing.counts.triangles).toBeGreaterThan(2 * 450);
  // and once more
  const again = await server.import(JSON.stringify(out), 'Coast again.geojson');
  expect(again.drawing.counts).toEqual(drawing.counts);
  expect(again.drawing.extents).toEqual(drawing.extents);
});

describe('a flat drawing', () => {
  let drawing: DrawingDto;
  beforeAll(async () => {
    ({ drawing } = await server.import(chamber, 'Valve chamber.svg'));
  });

  it.each([
    ['svg', 'svg'],
    ['geojson', 'geojson'],
  ])('comes back from %s: extents, unit, layers, objects, texts', async (format, extension) => {
    const response = await exported(drawing, format);
    expect(response.status).toBe(200);
    expect(response.headers.get('content-disposition')).toContain(`Valve%20chamber.${extension}`);
    const { job, drawing: back } = await server.import(await response.text(), `Back.${extension}`);
    expect(job.state).toBe('done');
    expect(apart(back, drawing)).toBeLessThan(1e-6);
    expect(back).toMatchObject({ unit: 'mm', counts: { objects: drawing.counts.objects, texts: 2, layers: 4 } });
    const [own, were] = [await layersOf(back), await layersOf(drawing)];
    const told = (layers: LayerDto[]) => layers.map(({ name, objects }) => [name, objects]).sort();
    expect(told(own)).toEqual(told(were));
    const [texts, before] = [await textsOf(back), await textsOf(drawing)];
    // properties of features can be looked for, too
    expect(texts.contents).toEqual(expect.arrayContaining([...before.contents]));
    expect(before.contents).toContain('KS-VA-0417 & more');
  });

  it('keeps curves, colours, widths, dashes and rules in SVG, which is sound XML', async () => {
    const svg = await (await exported(drawing, 'svg')).text();
    expect(svg).toContain('<title>Walls &amp; floors</title>');
    expect(svg.match(/<path [^>]*d="[^"]*A/g)).toHaveLength(3);
    expect(svg).toMatch(/d="M[^"]*Q[^"]*C/);
    expect(svg).toContain('stroke-dasharray="40 20"');
    expect(svg).toContain('fill="#888800" fill-rule="evenodd"');
    expect(svg).toContain('fill="#208080" fill-opacity="0.251"');
    expect(svg).toContain('text-anchor="end" font-weight="bold"');
    // to the last digit
    expect(svg).toContain('M412600010.125 -7208399990.5');
  });

  it('is GeoJSON by the standard: rings closed, outer ones anticlockwise, holes in their polygons', async () => {
    const json = JSON.parse(await (await exported(drawing, 'geojson')).text()) as {
      readonly type: string;
      readonly features: readonly {
        readonly type: string;
        readonly properties: { readonly layer: string };
        readonly geometry: { readonly type: string; readonly coordinates: number[][][][] };
      }[];
    };
    expect(json.type).toBe('FeatureCollection');
    const grating = json.features.find(({ properties }) => properties.layer === 'Gratings')!;
    expect(grating.geometry.type).toBe('MultiPolygon');
    expect(grating.geometry.coordinates.map((rings) => rings.length).sort()).toEqual([1, 2]);
    for (const [outer, ...holes] of grating.geometry.coordinates) {
      expect(turns(outer!)).toBeGreaterThan(0);
      for (const hole of holes) expect(turns(hole)).toBeLessThan(0);
      for (const ring of [outer!, ...holes]) expect(ring.at(-1)).toEqual(ring[0]);
    }
  });

  it('goes out in part: what a frame shows, without what is hidden', async () => {
    const layers = await layersOf(drawing);
    const gratings = layers.find(({ name }) => name === 'Gratings')!;
    const frame = { minX: 412_601_900, maxX: 412_603_100, minY: 7_208_397_700, maxY: 7_208_398_600 };
    const svg = await (await exported(drawing, 'svg', { box: frame })).text();
    expect(svg).toContain('Gratings');
    expect(svg).toContain('Outfall');
    expect(svg).not.toContain('KS-VA-0417');
    // cut at what the pane shows, twisted like it, without what it doesn't show
    const seen = { x: 412602450, y: 7208398150, width: 600, height: 400, bearingRad: Math.PI / 2 };
    const kindsOff = ['texts', 'weights', 'dashes', 'lineStyles', 'transparency'];
    const shown = await (await exported(drawing, 'svg', { box: frame, frame: seen, kindsOff })).text();
    expect(shown).toContain('width="600mm" height="400mm" viewBox="412602150 -7208398350 600 400"');
    expect(shown).toContain('<g transform="rotate(-90 412602450 -7208398150)">');
    expect(shown).not.toMatch(/<text|dasharray|opacity|#345678/);
    const less = await (await exported(drawing, 'svg', { box: frame, hiddenLayers: [gratings.id] })).text();
    expect(less).not.toContain('Gratings');
    const nothing = await exported(drawing, 'geojson', { box: { ...frame, minX: 1, maxX: 2 } });
    expect(nothing.status).toBe(422);
    expect((await problemOf(nothing)).title).toMatch(/Nothing/);
    const hidden = await exported(drawing, 'svg', { hiddenObjects: `0-${drawing.counts.objects - 1}` });
    expect(hidden.status).toBe(422);
  });

  it('is refused in formats that aren’t its own, with the reason', async () => {
    expect((await problemOf(await exported(drawing, 'glb'))).detail).toMatch(/for solid drawings/);
    expect((await exported(drawing, 'png')).status).toBe(404);
    expect((await exported(drawing, 'svg', { box: { minX: 'a' } })).status).toBe(400);
  });

  it('is a static folder of 3D Tiles in which every tile is there', async () => {
    const files = unzipSync(new Uint8Array(await (await exported(drawing, '3d-tiles')).arrayBuffer()));
    await checkTiles(files);
  });
});

/** Twice the area of a ring: more than 0 if it goes anticlockwise. */
const turns = (ring: number[][]): number =>
  ring.slice(1).reduce((sum, [x, y], k) => {
    const [px, py] = ring[k]! as [number, number];
    return sum + (px - ring[0]![0]!) * (y! - ring[0]![1]!) - (x! - ring[0]![0]!) * (py - ring[0]![1]!);
  }, 0);

/** Reads every tile that a tileset names by another reader. @returns how many packs of shapes they need: all that there are */
async function checkTiles(files: Record<string, Uint8Array>): Promise<number> {
  const tileset = JSON.parse(Buffer.from(files['tileset.json']!).toString()) as TilesetJson;
  expect(tileset.asset.version).toBe('1.1');
  const names: string[] = [];
  const walk = ({ content, children = [] }: TileJson): void => {
    if (content) names.push(content.uri);
    children.forEach(walk);
  };
  walk(tileset.root);
  expect(names.length).toBeGreaterThan(0);
  const reader = new NodeIO().registerExtensions([EXTMeshGPUInstancing, KHRMeshQuantization]);
  const packs = new Set<string>();
  for (const name of names) {
    expect(name).toMatch(/^\d+\.glb$/);
    const { json, bin } = unpackGlb(files[name]!) as { json: GLTF.IGLTF; bin: Uint8Array<ArrayBuffer> };
    const resources: Record<string, Uint8Array<ArrayBuffer>> = { [GLB_BUFFER]: bin };
    for (const { uri } of json.buffers!) {
      if (uri === undefined) continue;
      packs.add(uri);
      resources[uri] = files[uri] as Uint8Array<ArrayBuffer>;
    }
    expect(await reader.readJSON({ json, resources })).toBeInstanceOf(Document);
  }
  expect(Object.keys(files).sort()).toEqual(['tileset.json', ...names, ...packs].sort());
  return packs.size;
}

describe('a model', () => {
  function yard(): Uint8Array<ArrayBuffer> {
    const model = new ModelWriter('Yard', [412_600, 7_208_400, 0]);
    const grey = model.material('Concrete', '#b9b5ab', 0, 0.9);
    const teal = model.material('Tank', '#1f8a86', 0.4, 0.3);
    const slabs = model.group('Slabs');
    model.object('Slab', slabs, 'slab', () => [[box(10, 8, 0.5), grey]], { at: [5, 4, -0.5] });
    const tanks = model.group('Tanks');
    const parts = (): [ReturnType<typeof box>, number][] => [
      [cylinder(2, 6, 32), teal],
      [box(1, 1, 7), grey],
    ];
    model.object('KS-TK-0007', tanks, 'tank', parts, { at: [5, 4, 0], facts: { volume: '75 m3' } });
    return model.bytes();
  }

  it('comes back from GLB: extents, layers, objects, triangles, materials, properties', async () => {
    const { drawing } = await server.import(yard(), 'yard.glb');
    const response = await exported(drawing, 'glb');
    const bytes = new Uint8Array(await response.arrayBuffer());
    const { job, drawing: back } = await server.import(bytes, 'back.glb');
    expect(job.state).toBe('done');
    expect(apart(back, drawing)).toBeLessThan(1e-6);
    expect(back.counts).toMatchObject({ objects: 2, layers: 2, triangles: drawing.counts.triangles });
    expect((await layersOf(back)).map(({ name, colour }) => [name, colour])).toEqual(
      (await layersOf(drawing)).map(({ name, colour }) => [name, colour]),
    );
    const object = await server.json<{ readonly solid: { readonly name: string; readonly facts: string[] } }>(
      `/api/drawings/${back.id}/objects/1`,
    );
    expect(object.solid).toMatchObject({ name: 'KS-TK-0007' });
    expect(object.solid.facts).toContain('volume: 75 m3');
  });

  it('goes out without what is hidden, and keeps a layer that is alone', async () => {
    const { drawing } = await server.import(yard(), 'yard.glb');
    const slabs = (await layersOf(drawing)).find(({ name }) => name === 'Slabs')!;
    const part = await exported(drawing, 'glb', { hiddenLayers: [slabs.id] });
    const { drawing: back } = await server.import(new Uint8Array(await part.arrayBuffer()), 'part.glb');
    expect((await layersOf(back)).map(({ name }) => name)).toEqual(['Tanks']);
    expect(back.counts.objects).toBe(1);
  });

  it('is a static folder of 3D Tiles in which every tile is there', async () => {
    const { drawing } = await server.import(yard(), 'yard.glb');
    const files = unzipSync(new Uint8Array(await (await exported(drawing, '3d-tiles')).arrayBuffer()));
    expect(await checkTiles(files)).toBe(0);
  });

  it('with the same shape at many places has it once beside the tiles', async () => {
    const model = new ModelWriter('Tank farm', [412_600, 7_208_400, 0]);
    const teal = model.material('Tank', '#1f8a86', 0.4, 0.3);
    const tanks = model.group('Tanks');
    for (let k = 0; k < 12; k++)
      model.object(`KS-TK-${k}`, tanks, 'tank', () => [[cylinder(2, 6, 32), teal]], { at: [5 * k, 4, 0] });
    const { drawing } = await server.import(model.bytes(), 'tanks.glb');
    const files = unzipSync(new Uint8Array(await (await exported(drawing, '3d-tiles')).arrayBuffer()));
    expect(await checkTiles(files)).toBe(1);
    // one by one, and all when they go out, they have their triangles and their own places
    const [first, last] = await Promise.all(
      [0, 11].map((id) => server.json<{ readonly solid: SolidDto }>(`/api/drawings/${drawing.id}/objects/${id}`)),
    );
    expect(last!.solid.parts[0]!.triangles).toEqual(first!.solid.parts[0]!.triangles);
    expect(first!.solid.parts[0]!.triangles).toHaveLength(drawing.counts.triangles / 4);
    const shifted = first!.solid.parts[0]!.positions.map((value, i) => value + (i % 3 === 0 ? 55_000 : 0));
    last!.solid.parts[0]!.positions.forEach((value, i) => expect(value).toBeCloseTo(shifted[i]!, 5));
    const bytes = new Uint8Array(await (await exported(drawing, 'glb')).arrayBuffer());
    const { drawing: back } = await server.import(bytes, 'back.glb');
    expect(back.counts).toMatchObject({ objects: 12, triangles: drawing.counts.triangles });
    expect(apart(back, drawing)).toBeLessThan(1e-6);
  });
});
