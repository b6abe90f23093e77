/** Models through the whole import: what is served of them, and what is refused. */
import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { dirname, join } from 'node:path';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { ModelWriter } from '@gull-pane/demo/model-writer';
import { pumpHallModel } from '@gull-pane/demo/pump-hall';
import { box, cylinder } from '@gull-pane/demo/solid-shapes';
import sharp from 'sharp';
import { packGlb } from '@gull-pane/core/pyramid/glb';
import { ShapePack } from '@gull-pane/core/solid/packed-shape';
import { RUN, openSolidTile } from '@gull-pane/core/solid/solid-tile';
import type { DrawingDto, LayerDto } from '@gull-pane/protocol/drawings';
import type { ObjectDto } from '@gull-pane/protocol/objects';
import type { SolidTable } from '@gull-pane/protocol/solid-table';
import type { TextColumns } from '@gull-pane/protocol/texts';
import type { TileJson, TilesetJson } from '@gull-pane/protocol/tileset';
import { TestServer } from './running-server.ts';

let server: TestServer;
beforeAll(async () => {
  server = await TestServer.start();
});
afterAll(() => server.stop());

/** A tank on a slab at a place of the grid, and a valve of two materials. */
function yard(): Uint8Array<ArrayBuffer> {
  const model = new ModelWriter('Yard', [412_600, 7_208_400, 0]);
  const grey = model.material('Concrete', '#b9b5ab', 0, 0.9);
  const teal = model.material('Tank', '#1f8a86', 0.4, 0.3);
  const slabs = model.group('Slabs');
  model.object('Slab', slabs, 'slab', () => [[box(10, 8, 0.5), grey]], { at: [5, 4, -0.5] });
  const tanks = model.group('Tanks');
  model.object(
    'KS-TK-0007',
    tanks,
    'tank',
    () => [
      [cylinder(2, 6, 32), teal],
      [box(1, 1, 7), grey],
    ],
    {
      at: [5, 4, 0],
      facts: { volume: '75 m3' },
    },
  );
  return model.bytes();
}

const filesOf = ({ id, revision }: DrawingDto): string => `/api/drawings/${id}/tiles/r${revision}/`;

it('a model is served as a solid: extents, layers with hulls, table of objects, names to be found, exact coordinates', async () => {
  const { job, drawing } = await server.import(yard(), 'yard.glb');
  expect(job.state).toBe('done');
  expect(drawing).toMatchObject({
    kind: 'solid',
    unit: 'mm',
    counts: { objects: 2, layers: 2, triangles: 12 + 128 + 12 },
  });
  expect(drawing.extents).toEqual({
    min: { x: 412_600_000, y: 7_208_400_000, z: -500 },
    max: { x: 412_610_000, y: 7_208_408_000, z: 7000 },
  });
  expect(drawing.warnings[0]).toMatchObject({ code: 'frame' });
  const layers = await server.json<LayerDto[]>(`/api/drawings/${drawing.id}/layers`);
  expect(layers.map(({ name, objects }) => [name, objects])).toEqual([
    ['Slabs', 1],
    ['Tanks', 1],
  ]);
  expect(layers[0]!.support).toHaveLength(24);
  const table = await server.json<SolidTable>(`${filesOf(drawing)}solid.json`);
  expect(table.names).toEqual(['Slab', 'KS-TK-0007']);
  expect(table.boxes.slice(0, 6)).toEqual([412_600_000, 7_208_400_000, -500, 412_610_000, 7_208_408_000, 0]);
  expect(table.materials.map(({ name }) => name)).toEqual(['Concrete', 'Tank']);
  const texts = await server.json<TextColumns>(`${filesOf(drawing)}texts.json`);
  expect(texts.contents).toEqual(['Slab', 'KS-TK-0007', 'volume: 75 m3']);
  const tank = await server.json<ObjectDto>(`/api/drawings/${drawing.id}/objects/1`);
  expect(tank).toMatchObject({ kind: 'solid', layerId: 1, solid: { name: 'KS-TK-0007', facts: ['volume: 75 m3'] } });
  expect(tank.solid!.parts).toHaveLength(2);
  const heights = tank.solid!.parts[1]!.positions.filter((_, i) => i % 3 === 2);
  expect(Math.max(...heights)).toBe(7000);
  const picture = await server.fetch(`/api/drawings/${drawing.id}/picture.png`);
  expect(picture.headers.get('content-type')).toBe('image/png');
});

it('its exact tiles hold every object and triangle once, each within its box, behind coarse forms of them', async () => {
  const { drawing } = await server.import(pumpHallModel(), 'hall.glb');
  expect(drawing.counts.triangles).toBeGreaterThanOrEqual(400_000);
  expect(drawing.counts.layers).toBeGreaterThanOrEqual(12);
  expect(drawing.counts.objects).toBeGreaterThanOrEqual(3000);
  const tileset = await server.json<TilesetJson>(`/api/drawings/${drawing.id}/tiles/tileset.json`);
  const objects = new Set<number>();
  let triangles = 0;
  let outside = 0; // counted, since expecting something of each of a million corners takes half a minute
  const packs = new Map<string, ShapePack>();
  const fetchPack = async (name: string): Promise<ShapePack> => {
    const pack = await server.fetch(`${filesOf(drawing)}${name}`);
    expect(pack.status).toBe(200);
    return new ShapePack(new Uint8Array(await pack.arrayBuffer()));
  };
  /** @returns how many triangles and edges there are from a tile downwards */
  const visit = async (tile: TileJson, errorAbove: number): Promise<number> => {
    const isCoarse = tile.refine === 'REPLACE';
    if (isCoarse) expect(tile.geometricError).toBeLessThan(errorAbove);
    const errorBelow = isCoarse ? tile.geometricError : errorAbove;
    let below = 0;
    for (const child of tile.children ?? []) below += await visit(child, errorBelow);
    if (!tile.content) return below;
    const response = await server.fetch(`/api/drawings/${drawing.id}/tiles/${tile.content.uri}`);
    const opened = openSolidTile(new Uint8Array(await response.arrayBuffer()));
    for (const name of opened.packs) if (!packs.has(name)) packs.set(name, await fetchPack(name));
    const { positions, runs, triangles: corners } = opened.decode(packs);
    expect(corners.length / 3).toBe(tile.extras!.triangles);
    const weight = tile.extras!.triangles + tile.extras!.segments;
    const [x, y, z, hx, , , , hy, , , , hz] = tile.boundingVolume.box as number[];
    for (let i = 0; i < positions.length; i += 3) {
      const isInside =
        Math.abs(positions[i]! - x!) <= hx! + 0.01 &&
        Math.abs(positions[i + 1]! - y!) <= hy! + 0.01 &&
        Math.abs(positions[i + 2]! - z!) <= hz! + 0.01;
      if (!isInside) outside++;
    }
    if (!isCoarse) {
      for (let run = 0; run < runs.length; run += RUN) objects.add(runs[run]!);
      triangles += corners.length / 3;
      return below + weight;
    }
    expect(weight).toBeLessThanOrEqual(0.5 * below);
    return below;
  };
  const [top] = tileset.root.children!;
  expect(top).toMatchObject({ refine: 'REPLACE' });
  expect(top!.extras!.triangles).toBeLessThan(drawing.counts.triangles / 20);
  await visit(top!, Infinity);
  expect(outside).toBe(0);
  expect(objects.size).toBe(drawing.counts.objects);
  expect(triangles).toBe(drawing.counts.triangles);
});

it('triangles in words come in, too: STL, OBJ', async () => {
  const stl =
    'solid a\nfacet normal 0 0 1\nouter loop\nvertex 0 0 0\nvertex 90 0 0\nvertex 0 60 0\nendloop\nendfacet\nendsolid a\n';
  const { drawing } = await server.import(stl, 'plate.stl');
  expect(drawing).toMatchObject({ kind: 'solid', counts: { triangles: 1, segments: 3 } });
  expect(drawing.extents!.max).toEqual({ x: 90, y: 60, z: 0 });
  const obj = await server.import('o Plate\nv 0 0 0\nv 5 0 0\nv 0 4 0\nf 1 2 3\n', 'plate.obj');
  expect(obj.drawing).toMatchObject({ kind: 'solid', counts: { objects: 1, triangles: 1 } });
});

it('exact faces come in as STEP, with their own edges', async () => {
  const { resolve } = createRequire(import.meta.url);
  const folder = join(dirname(resolve('occt-import-js/package.json')), 'test', 'testfiles', 'cube-units');
  const { drawing } = await server.import(Uint8Array.from(readFileSync(join(folder, 'cube-m.step'))), 'cube.step');
  expect(drawing).toMatchObject({ kind: 'solid', counts: { objects: 1, triangles: 12, segments: 12 } });
  const { min, max } = drawing.extents!;
  for (const axis of ['x', 'y', 'z'] as const) expect(max[axis] - min[axis]).toBeCloseTo(1000, 6);
});

it.each([
  ['damaged-file', packGlb({ asset: { version: '2.0' }, nodes: [{ children: [0] }] }, new Uint8Array(4)), /hangs on/],
  ['nothing-to-draw', packGlb({ asset: { version: '2.0' } }, new Uint8Array(4)), /no surface/],
  ['damaged-file', yard().slice(0, 900), /cut off/],
] as const)('a bad model is refused as %s and leaves the server up', async (code, bytes, message) => {
  const { job, drawing } = await server.import(Uint8Array.from(bytes), 'bad.glb');
  expect(job.state).toBe('failed');
  expect(drawing.error).toMatchObject({ code });
  expect(drawing.error!.detail).toMatch(message);
  expect((await server.fetch('/api/health')).status).toBe(200);
});

it('a surface has the colours of the picture on it, PNG or JPEG, alone in its file or beside others', async () => {
  const picture = async (format: 'png' | 'jpeg'): Promise<Uint8Array> => {
    const halves = Buffer.alloc(3 * 16 * 8);
    // red at the left, blue at the right
    for (let px = 0; px < 128; px++) halves.set(px % 16 < 8 ? [204, 0, 0] : [0, 0, 204], 3 * px);
    const image = sharp(halves, { raw: { width: 16, height: 8, channels: 3 } });
    return new Uint8Array(
      await (format === 'png' ? image.png() : image.jpeg({ quality: 100, chromaSubsampling: '4:4:4' })).toBuffer(),
    );
  };
  for (const format of ['png', 'jpeg'] as const) {
    const image = await picture(format);
    const corners = [0, 0, 0, 1, 0, 0, 0, 0, 1, 5, 0, 0, 6, 0, 0, 5, 0, 1];
    const onPicture = [0, 0, 0.3, 0, 0, 0.9, 0.7, 0, 1, 0, 0.7, 0.9];
    const numbers = new Uint8Array(Float32Array.from(corners.concat(onPicture)).buffer);
    const bin = new Uint8Array(numbers.length + image.length);
    bin.set(numbers);
    bin.set(image, numbers.length);
    const glb = packGlb(
      {
        asset: { version: '2.0' },
        buffers: [{ byteLength: bin.length }],
        bufferViews: [
          { buffer: 0, byteLength: 72 },
          { buffer: 0, byteOffset: 72, byteLength: 48 },
          { buffer: 0, byteOffset: 120, byteLength: image.length },
        ],
        accessors: [
          { bufferView: 0, componentType: 5126, count: 6, type: 'VEC3' },
          { bufferView: 1, componentType: 5126, count: 6, type: 'VEC2' },
        ],
        images: [{ bufferView: 2, mimeType: `image/${format}` }],
        textures: [{ source: 0 }],
        materials: [{ pbrMetallicRoughness: { baseColorTexture: { index: 0 } } }],
        meshes: [{ primitives: [{ attributes: { POSITION: 0, TEXCOORD_0: 1 }, material: 0 }] }],
        nodes: [{ mesh: 0, name: 'Sign' }],
        scenes: [{ nodes: [0] }],
      },
      bin,
    );
    const { job, drawing } = await server.import(glb, `Sign ${format}.glb`);
    expect(job.error).toBeUndefined();
    expect(drawing.warnings.map(({ code }) => code)).toContain('gathered');
    const { materials } = await server.json<SolidTable>(
      `/api/drawings/${drawing.id}/tiles/r${drawing.revision}/solid.json`,
    );
    const told = materials.map(({ colour: [r, g, b] }) => [r, g, b]);
    // within a step of what colours are gathered by
    for (const wanted of [
      [204, 0, 0],
      [0, 0, 204],
    ])
      expect(told.some((own) => own.every((value, k) => Math.abs(value - wanted[k]!) <= 17))).toBe(true);
  }
});

/** Round columns of one mapped shape in a row, each turned by another angle. */
function columns(count: number, spacing: number): string {
  const lines = Array.from({ length: count }, (_, k) => {
    const [at, angle] = [100 + 10 * k, 0.3 * k];
    return `#${at}=IFCCARTESIANPOINT((${k * spacing}.,0.,0.));
#${at + 1}=IFCDIRECTION((${Math.cos(angle).toFixed(9)},${Math.sin(angle).toFixed(9)},0.));
#${at + 2}=IFCAXIS2PLACEMENT3D(#${at},$,#${at + 1});
#${at + 3}=IFCLOCALPLACEMENT(#37,#${at + 2});
#${at + 4}=IFCCOLUMN('0aaaaaaaaaaaaaaaaaaa${String(k).padStart(2, '0')}',$,'Column ${k}',$,$,#${at + 3},#94,$,$);`;
  });
  const all = lines.map((_, k) => `#${104 + 10 * k}`).join(',');
  return `ISO-10303-21;
HEADER;
FILE_DESCRIPTION(('ViewDefinition [ReferenceView]'),'2;1');
FILE_NAME('columns.ifc','2026-12-01T00:00:00',('Kelpie Sound'),('Kelpie Sound'),'','','');
FILE_SCHEMA(('IFC4'));
ENDSEC;
DATA;
#1=IFCPROJECT('0aaaaaaaaaaaaaaaaaaaa1',$,'Kelpie Sound',$,$,$,$,(#10),#20);
#10=IFCGEOMETRICREPRESENTATIONCONTEXT($,'Model',3,1.E-05,#11,$);
#11=IFCAXIS2PLACEMENT3D(#12,$,$);
#12=IFCCARTESIANPOINT((0.,0.,0.));
#20=IFCUNITASSIGNMENT((#21));
#21=IFCSIUNIT(*,.LENGTHUNIT.,.MILLI.,.METRE.);
#35=IFCCARTESIANPOINT((412600000.,7208400000.,0.));
#36=IFCAXIS2PLACEMENT3D(#35,$,$);
#37=IFCLOCALPLACEMENT($,#36);
#38=IFCBUILDINGSTOREY('0aaaaaaaaaaaaaaaaaaaa4',$,'Ground floor',$,$,#37,$,$,.ELEMENT.,0.);
#39=IFCRELAGGREGATES('0aaaaaaaaaaaaaaaaaaaa5',$,$,$,#1,(#38));
#40=IFCRELCONTAINEDINSPATIALSTRUCTURE('0aaaaaaaaaaaaaaaaaaaa9',$,$,$,(${all}),#38);
#53=IFCSHAPEREPRESENTATION(#10,'Body','SweptSolid',(#54));
#54=IFCEXTRUDEDAREASOLID(#55,#11,#58,3000.);
#55=IFCCIRCLEPROFILEDEF(.AREA.,$,#56,200.);
#56=IFCAXIS2PLACEMENT2D(#57,$);
#57=IFCCARTESIANPOINT((0.,0.));
#58=IFCDIRECTION((0.,0.,1.));
#90=IFCREPRESENTATIONMAP(#11,#53);
#91=IFCMAPPEDITEM(#90,#92);
#92=IFCCARTESIANTRANSFORMATIONOPERATOR3D($,$,#12,1.,$);
#93=IFCSHAPEREPRESENTATION(#10,'Body','MappedRepresentation',(#91));
#94=IFCPRODUCTDEFINITIONSHAPE($,$,(#93));
${lines.join('\n')}
ENDSEC;
END-ISO-10303-21;
`;
}

it('a shape that an IFC file maps to many places is sent once, and stands at all of them', async () => {
  const [count, spacing] = [12, 2500];
  const { drawing, job } = await server.import(columns(count, spacing), 'Columns.ifc');
  expect(job.state).toBe('done');
  expect(drawing.counts.objects).toBe(count);
  const tileset = await server.json<TilesetJson>(`/api/drawings/${drawing.id}/tiles/tileset.json`);
  const exact: TileJson[] = [];
  const look = (tile: TileJson): void => {
    if (tile.content && tile.refine !== 'REPLACE') exact.push(tile);
    tile.children?.forEach(look);
  };
  look(tileset.root);
  expect(exact).toHaveLength(1);
  const bytesOf = async (name: string): Promise<Uint8Array> =>
    new Uint8Array(await (await server.fetch(`/api/drawings/${drawing.id}/tiles/${name}`)).arrayBuffer());
  const opened = openSolidTile(await bytesOf(exact[0]!.content!.uri));
  expect(opened.packs).toEqual(['shapes0.bin']);
  const pack = new ShapePack(await bytesOf(`r${drawing.revision}/shapes0.bin`));
  const { positions, runs } = opened.decode(new Map([['shapes0.bin', pack]]));
  const middles = new Map<number, number>();
  for (let run = 0, from = 0; run < runs.length; from = runs[run + 2]!, run += RUN) {
    const xs = Array.from({ length: runs[run + 2]! - from }, (_, k) => positions[3 * (from + k)]!);
    middles.set(runs[run]!, (Math.min(...xs) + Math.max(...xs)) / 2);
  }
  const inRow = [...middles.values()].sort((a, b) => a - b);
  expect(inRow).toHaveLength(count);
  // a circle's polygon, turned, reaches less far by up to its sagitta
  inRow.forEach((x, k) => expect(Math.abs(x - inRow[0]! - k * spacing)).toBeLessThan(20));
});
