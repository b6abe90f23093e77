/** Raster pictures in drawings and as drawings: where they lie, what is served of them, how they go out again. */
import sharp from 'sharp';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { writePdf } from '@gull-pane/demo/write-pdf';
import { tiffOf } from '@gull-pane/importers/picture/test-pictures';
import type { DrawingDto } from '@gull-pane/protocol/drawings';
import type { TilesetJson, TilesetPicture } from '@gull-pane/protocol/tileset';
import { TestServer } from './running-server.ts';

let server: TestServer;
beforeAll(async () => {
  server = await TestServer.start();
});
afterAll(() => server.stop());

/** Every px has a colour of its own: red by column, green by row. */
function chequered(width: number, height: number): Buffer {
  const px = Buffer.alloc(3 * width * height);
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) px.set([x & 255, y & 255, ((x >> 8) << 4) | (y >> 8)], 3 * (y * width + x));
  return px;
}
const pngOf = (width: number, height: number): Promise<Buffer> =>
  sharp(chequered(width, height), { raw: { width, height, channels: 3 } })
    .png()
    .toBuffer();

async function picturesOf({ id }: DrawingDto): Promise<readonly (TilesetPicture & { readonly base: string })[]> {
  const { extras } = await server.json<TilesetJson>(`/api/drawings/${id}/tiles/tileset.json`);
  const base = `/api/drawings/${id}/tiles/${extras.picturesUri ?? ''}`;
  return (extras.pictures ?? []).map((picture) => ({ ...picture, base }));
}

async function tileOf(address: string): Promise<{ data: Buffer; width: number; height: number }> {
  const response = await server.fetch(address);
  expect(response.headers.get('content-type')).toBe('image/png');
  const { data, info } = await sharp(Buffer.from(await response.arrayBuffer()))
    .removeAlpha()
    .raw()
    .toBuffer({ resolveWithObject: true });
  return { data, width: info.width, height: info.height };
}

const svgWith = (image: string): string =>
  `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 1000 1000" width="1000mm" height="1000mm">${image}</svg>`;

it('a picture in a plan is a pyramid that loses nothing, and an object at its place', async () => {
  const png = await pngOf(1200, 700);
  const { job, drawing } = await server.import(
    svgWith(
      `<g id="Aerial"><image x="100" y="200" width="600" height="350" opacity="0.5" href="data:image/png;base64,${png.toString('base64')}"/></g>` +
        '<path d="M0 0H50" stroke="black"/>',
    ),
    'Aerial.svg',
  );
  expect(job.state).toBe('done');
  expect(drawing).toMatchObject({ counts: { objects: 2, segments: 1 } });
  expect(drawing.extents).toEqual({ min: { x: 0, y: -550, z: 0 }, max: { x: 700, y: 0, z: 0 } });
  const [picture] = await picturesOf(drawing);
  expect(picture).toMatchObject({ widthPx: 1200, heightPx: 700, levels: 3, opacity: 0.5 });
  expect(picture!.place).toEqual([600, 0, 0, -350, 100, -200]);
  const own = chequered(1200, 700);
  const at = (x: number, y: number): number[] => [...own.subarray(3 * (y * 1200 + x), 3 * (y * 1200 + x) + 3)];
  for (const [column, row] of [
    [0, 0],
    [2, 1],
  ] as const) {
    const { data, width, height } = await tileOf(`${picture!.base}0/2/${column}_${row}.png`);
    const [left, top] = [column * 510 - (column > 0 ? 1 : 0), row * 510 - (row > 0 ? 1 : 0)];
    expect([width, height]).toEqual([column === 0 ? 511 : 181, row === 0 ? 511 : 191]);
    for (const [x, y] of [
      [0, 0],
      [width - 1, height - 1],
      [37, 91],
    ] as const)
      expect([...data.subarray(3 * (y * width + x), 3 * (y * width + x) + 3)]).toEqual(at(left + x, top + y));
  }
  expect(await tileOf(`${picture!.base}0/0/0_0.png`)).toMatchObject({ width: 300, height: 175 });
  for (const wrong of ['0/9/0_0.png', '7/0/0_0.png', '..%2f0/0/0_0.png', '0/0/source'])
    expect((await server.fetch(`${picture!.base}${wrong}`)).status).toBe(404);
  const small = await server.fetch(`/api/drawings/${drawing.id}/picture.png`);
  const { data } = await sharp(Buffer.from(await small.arrayBuffer()))
    .raw()
    .toBuffer({ resolveWithObject: true });
  // as faint as it is, in the middle of the picture of the drawing
  expect(data[4 * (160 * 480 + 260) + 3]).toBe(128);

  const exported = await server.fetch(`/api/drawings/${drawing.id}/export/svg`, {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: '{}',
  });
  const { drawing: back } = await server.import(await exported.text(), 'back.svg');
  const [again] = await picturesOf(back);
  expect(again).toMatchObject({ widthPx: 1200, heightPx: 700, opacity: 0.5, place: picture!.place });
  expect(back.counts).toMatchObject({ objects: 2, segments: 1 });
});

it('the same picture is kept once, however often it is used', async () => {
  const png = (await pngOf(20, 10)).toString('base64');
  const { drawing } = await server.import(
    svgWith(
      `<defs><image id="i" width="20" height="10" href="data:image/png;base64,${png}"/></defs>` +
        '<use href="#i"/><use href="#i" x="100"/><use href="#i" x="200"/>',
    ),
    'Three.svg',
  );
  expect(drawing.counts.objects).toBe(3);
  expect((await picturesOf(drawing)).map(({ source, place }) => [source, place[4]])).toEqual([
    [0, 0],
    [0, 100],
    [0, 200],
  ]);
});

it('a photo is a drawing at the size of its paper, upright as it was taken', async () => {
  const photo = await sharp(chequered(40, 20), { raw: { width: 40, height: 20, channels: 3 } })
    .withMetadata({ density: 254, orientation: 6 })
    .jpeg()
    .toBuffer();
  const { drawing } = await server.import(photo, 'Weir.jpg');
  expect(drawing).toMatchObject({ kind: 'flat', unit: 'mm', name: 'Weir', counts: { objects: 1 } });
  const [picture] = await picturesOf(drawing);
  // 254 px an inch are ten a millimetre; it lies on its side
  expect(picture).toMatchObject({ widthPx: 20, heightPx: 40 });
  expect(drawing.extents!.max.x).toBeCloseTo(2, 9);
  expect(drawing.extents!.max.y).toBeCloseTo(4, 9);
});

it('a GeoTIFF lies on its grid', async () => {
  const px = await sharp(chequered(60, 40), { raw: { width: 60, height: 40, channels: 3 } })
    .tiff({ compression: 'none' })
    .toBuffer();
  // the tags of its place are put into a directory of all, at the end of the file
  const { drawing } = await server.import(withTags(px), 'Ortho.tif');
  expect(drawing.warnings[0]!.message).toContain('millimetres of its grid');
  expect(drawing.extents).toEqual({
    min: { x: 412_600_500, y: 7_208_380_250, z: 0 },
    max: { x: 412_630_500, y: 7_208_400_250, z: 0 },
  });
});

/** A TIFF with the tags of a scale and a point beside its own. */
function withTags(file: Buffer): Uint8Array<ArrayBuffer> {
  const own = tiffOf({ 33_550: [0.5, 0.5, 0.25], 33_922: [0, 0, 0, 412_600.5, 7_208_400.25, 0.5] });
  const first = file.readUInt32LE(4);
  const count = file.readUInt16LE(first);
  const base = (file.length + 1) & ~1;
  const whole = Buffer.alloc(base + 2 + 12 * (count + 2) + 4 + own.length);
  file.copy(whole);
  whole.writeUInt32LE(base, 4);
  whole.writeUInt16LE(count + 2, base);
  file.copy(whole, base + 2, first + 2, first + 2 + 12 * count);
  const added = base + 2 + 12 * count;
  const values = added + 28;
  for (let i = 0; i < 24; i++) whole[added + i] = own[10 + i]!;
  for (const i of [0, 1])
    whole.writeUInt32LE(values + Buffer.from(own).readUInt32LE(10 + 12 * i + 8), added + 12 * i + 8);
  whole.set(own, values);
  return Uint8Array.from(whole);
}

it('pictures of a PDF lie on its sheet', async () => {
  const content = 'q 72 0 0 36 100 200 cm BI /W 2 /H 1 /CS /RGB /BPC 8 ID \xff\x00\x00\x00\x00\xff EI Q';
  const { drawing, job } = await server.import(writePdf({ pages: [{ content, size: [595, 842] }] }), 'Sheet.pdf');
  expect(job.state).toBe('done');
  expect(drawing.warnings).toEqual([]);
  const [picture] = await picturesOf(drawing);
  expect(picture!.place[0]).toBeCloseTo(25.4, 6);
  expect(picture!.place[3]).toBeCloseTo(-12.7, 6);
  const { data } = await tileOf(`${picture!.base}0/0/0_0.png`);
  expect([...data]).toEqual([255, 0, 0, 0, 0, 255]);
});

it('what only begins like a picture is refused with a reason', async () => {
  const png = await pngOf(600, 600);
  const { job } = await server.import(Uint8Array.from(png.subarray(0, 400)), 'Cut.png');
  expect(job).toMatchObject({ state: 'failed', error: { code: 'damaged-file' } });
});
