/** Models go to paper with their hidden lines taken away; sheets go out in other formats; what lies on top of views. */
import { execFileSync, spawnSync } from 'node:child_process';
import { randomUUID } from 'node:crypto';
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { unzipSync } from 'fflate';
import { PNG } from 'pngjs';
import sharp from 'sharp';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { PathElement } from '@gull-pane/core/drawing/model';
import { visitExtremes } from '@gull-pane/core/drawing/extents';
import { projectionOf } from '@gull-pane/core/sheets/frame-camera';
import { paperSize } from '@gull-pane/core/sheets/paper';
import { placementOf, sheetOfView } from '@gull-pane/core/sheets/sheet';
import type { SheetPart } from '@gull-pane/core/sheets/sheet-part';
import { ModelWriter } from '@gull-pane/demo/model-writer';
import { box, moved } from '@gull-pane/demo/solid-shapes';
import { readPdf } from '@gull-pane/importers/pdf/read-pdf';
import type { DrawingDto, ImportAcceptedDto } from '@gull-pane/protocol/drawings';
import type {
  FrameShowsDto,
  PaperSheetDto,
  PrintDto,
  PrintProgressDto,
  SheetFrameDto,
} from '@gull-pane/protocol/sheet-sets';
import { TestServer, problemOf } from './running-server.ts';

const [EAST, NORTH] = [412_600_000, 7_208_400_000];
const fields = { project: 'Kelpie Sound', title: 'Hall', number: '', revision: '', author: '', date: '' };
const all: FrameShowsDto = { kindsOff: [], hiddenLayers: [], hiddenMarkLayers: [], hiddenObjects: '' };
/** Looks north: east to the right, up upwards. */
const fromSouth = { x: Math.SQRT1_2, y: 0, z: 0, w: Math.SQRT1_2 };
const view = {
  x: EAST,
  y: NORTH,
  bearingRad: 0,
  denominator: 100,
  solid: { z: 2000, orientation: fromSouth },
};

const sheetAt = (more: Partial<SheetFrameDto['view']> = {}, shows: Partial<FrameShowsDto> = {}): PaperSheetDto => {
  const sheet = sheetOfView('Elevation', paperSize('A4', false), { ...view, ...more });
  return {
    ...sheet,
    frames: sheet.frames.map((frame) => ({ ...frame, view: { ...view, ...more }, shows: { ...all, ...shows } })),
    matchLines: [],
    blocks: [],
  };
};

let server: TestServer;
let model: DrawingDto;
beforeAll(async () => {
  server = await TestServer.start();
  // a wall 8 m long and 4 m high; behind it, 1 m higher, a tank; before it a bollard; metres, on the national grid
  const hall = new ModelWriter('Hall', [EAST / 1000, NORTH / 1000, 0]);
  const [grey, blue] = [hall.material('Concrete', '#b9b5ab', 0, 0.9), hall.material('Steel', '#2f6fb2', 0.4, 0.4)];
  const add = (name: string, group: string, shape: ReturnType<typeof box>, material: number): void =>
    hall.object(name, hall.group(group), name, () => [[shape, material]], { at: [0, 0, 0] });
  add('Wall', 'Walls', moved(box(8, 0.4, 4), [0, 0, 0]), grey);
  add('Tank', 'Tanks', moved(box(2, 2, 5), [0, 4, 0]), blue);
  add('Bollard', 'Bollards', moved(box(0.2, 0.2, 1), [3, -2, 0]), blue);
  model = await bring(hall.bytes(), 'Hall.glb');
});
afterAll(() => server.stop());

async function bring(content: string | Uint8Array<ArrayBuffer>, name: string): Promise<DrawingDto> {
  const accepted = (await (await server.upload(content, name)).json()) as ImportAcceptedDto;
  await server.ended(accepted.jobId);
  return server.json<DrawingDto>(`/api/drawings/${accepted.drawingId}`);
}
const send = (method: string, path: string, body?: unknown): Promise<Response> =>
  server.fetch(path, { method, headers: { 'content-type': 'application/json' }, body: JSON.stringify(body) });
const print = (set: Partial<PrintDto>, id = model.id): Promise<Response> =>
  send('POST', `/api/drawings/${id}/print`, { fields, sheets: [sheetAt()], ...set });
const bytesOf = async (set: Partial<PrintDto>, id = model.id): Promise<Uint8Array<ArrayBuffer>> => {
  const answer = await print(set, id);
  expect(answer.status).toBe(200);
  return new Uint8Array(await answer.arrayBuffer());
};

interface Line {
  readonly layer: string;
  readonly isDashed: boolean;
  /** minX, minY, maxX, maxY; mm from the paper's upper left corner. */
  readonly box: readonly [number, number, number, number];
}

/** Lines of the model's layers on the first page of a PDF. */
async function linesOf(sheet: PaperSheetDto): Promise<Line[]> {
  const paths: PathElement[] = [];
  const { layers, styles } = await readPdf(await bytesOf({ sheets: [sheet] }), {
    path: (path) => paths.push(path),
    text: () => 0,
    picture: () => 0,
  });
  return paths.flatMap(({ path, lineStyle, layer }) => {
    const { name } = layers[layer]!;
    if (lineStyle < 0 || ['Sheet', 'Sheet edges', 'Match lines'].includes(name)) return [];
    const own = [Infinity, Infinity, -Infinity, -Infinity] as [number, number, number, number];
    visitExtremes(path, (x, y) => {
      const down = sheet.paper.heightMm - y;
      [own[0], own[1]] = [Math.min(own[0], x), Math.min(own[1], down)];
      [own[2], own[3]] = [Math.max(own[2], x), Math.max(own[3], down)];
    });
    return [{ layer: name, isDashed: styles[lineStyle]!.dashes.length > 0, box: own }];
  });
}
const boxOf = (lines: readonly Line[]): number[] =>
  lines.length === 0
    ? []
    : [0, 1, 2, 3].map((k) => {
        const values = lines.map((line) => line.box[k]!);
        return k < 2 ? Math.min(...values) : Math.max(...values);
      });
const onPaper = (sheet: PaperSheetDto, x: number, y: number, z: number): readonly [number, number] => {
  const [px, py] = projectionOf(sheet.frames[0]!, 'mm').toPaper({ x: EAST + x, y: NORTH + y, z });
  return [px, py];
};

describe('models on paper', () => {
  it('show their edges at the exact scale, and of what is hidden only what reaches past', async () => {
    const sheet = sheetAt();
    const lines = await linesOf(sheet);
    const of = (layer: string): Line[] => lines.filter((line) => line.layer === layer);
    const close = (actual: readonly number[], expected: readonly number[]): void => {
      expect(actual).toHaveLength(expected.length);
      actual.forEach((value, k) => expect(Math.abs(value - expected[k]!)).toBeLessThanOrEqual(0.02));
    };
    close(boxOf(of('Walls')), [...onPaper(sheet, -4000, -200, 4000), ...onPaper(sheet, 4000, -200, 0)]);
    // of the tank one metre stands over the wall
    close(boxOf(of('Tanks')), [...onPaper(sheet, -1000, 3000, 5000), ...onPaper(sheet, 1000, 3000, 4000)]);
    // the bollard stands before it
    close(boxOf(of('Bollards')), [...onPaper(sheet, 2900, -2100, 1000), ...onPaper(sheet, 3100, -2100, 0)]);
    expect(lines.some(({ isDashed }) => isDashed)).toBe(false);
  });

  it('show hidden edges dashed, all of them, or what is left when something is hidden or cut away', async () => {
    const dashed = (await linesOf(sheetAt({}, { look: 'hidden-dashed' }))).filter(({ isDashed }) => isDashed);
    const sheet = sheetAt();
    const tank = boxOf(dashed.filter(({ layer }) => layer === 'Tanks'));
    expect(tank[3]).toBeCloseTo(onPaper(sheet, 0, 3000, 0)[1], 1);
    const wires = await linesOf(sheetAt({}, { look: 'lines' }));
    expect(boxOf(wires.filter(({ layer }) => layer === 'Tanks'))[3]).toBeCloseTo(onPaper(sheet, 0, 3000, 0)[1], 1);
    const without = await linesOf(sheetAt({}, { hiddenLayers: ['Walls'] }));
    expect(without.some(({ layer }) => layer === 'Walls')).toBe(false);
    expect(boxOf(without.filter(({ layer }) => layer === 'Tanks'))[3]).toBeCloseTo(onPaper(sheet, 0, 3000, 0)[1], 1);
    // a level cut 2.5 m up keeps what is below
    const cut = { name: '', kind: 'plane', keeps: 'inside', isOn: true, qx: 0, qy: 0, qz: 0, qw: 1 } as const;
    const centre = { x: EAST, y: NORTH, z: 2500 };
    const clips = [{ ...cut, centre, half: { x: 1, y: 1, z: 1 } }];
    const low = await linesOf(sheetAt({}, { clips }));
    expect(boxOf(low)[1]).toBeCloseTo(onPaper(sheet, 0, 0, 2500)[1], 1);
    // of the tank only the line of its cut is left, which lies where the wall's does
    const [, top, , bottom] = boxOf(low.filter(({ layer }) => layer === 'Tanks'));
    expect(bottom! - top!).toBeLessThan(0.05);
  });

  it('in perspective show what is farther smaller, and nothing from behind the eye', async () => {
    const sheet = sheetAt({ solid: { ...view.solid, eyeDistance: 10_000 } });
    const lines = await linesOf(sheet);
    const wall = boxOf(lines.filter(({ layer }) => layer === 'Walls'));
    const [left] = onPaper(sheet, -4000, -200, 0);
    expect(wall[0]).toBeCloseTo(left, 1);
    expect(wall[2]! - wall[0]!).toBeGreaterThan(80); // 8 m, 200 mm before the plane that is at 1:100
    const within = sheetAt({ y: NORTH + 2000, solid: { ...view.solid, eyeDistance: 1500 } });
    const names = new Set((await linesOf(within)).map(({ layer }) => layer));
    expect([...names]).toEqual(['Tanks']);
  });

  it('shaded go out as pictures of their resolution, with the colours of their materials', async () => {
    const sheet = sheetAt({}, { look: 'shaded', dpi: 72 });
    const png = PNG.sync.read(Buffer.from(await bytesOf({ format: 'png', dpi: 127, sheets: [sheet] })));
    const at = ([x, y]: readonly [number, number]): number[] => {
      const index = 4 * (Math.floor(5 * y) * png.width + Math.floor(5 * x));
      return [...png.data.subarray(index, index + 3)];
    };
    const [wallRed, wallGreen, wallBlue] = at(onPaper(sheet, -2000, -200, 2000)) as [number, number, number];
    expect(Math.max(wallRed, wallGreen, wallBlue) - Math.min(wallRed, wallGreen, wallBlue)).toBeLessThan(30);
    expect(wallRed).toBeGreaterThan(90);
    const [red, , blue] = at(onPaper(sheet, 0, 3000, 4500));
    expect(blue).toBeGreaterThan(red! + 40);
    expect(at(onPaper(sheet, -3000, 3000, 4800))).toEqual([255, 255, 255]);
    // the picture in the PDF is of the asked resolution: 72 px an inch of the frame's width
    const pdf = Buffer.from(await bytesOf({ sheets: [sheet] })).toString('latin1');
    const { widthMm } = sheet.frames[0]!;
    expect(pdf).toContain(`/Width ${Math.round((widthMm / 25.4) * 72)}`);
  });

  it('need to know from where they are looked at', async () => {
    const { solid: _none, ...flat } = view;
    const sheet = sheetAt();
    const plan = { ...sheet, frames: [{ ...sheet.frames[0]!, view: flat }] };
    const refused = await print({ sheets: [plan] });
    expect(refused.status).toBe(400);
    expect((await problemOf(refused)).detail).toContain('view.solid');
  });
});

/** A room with a pipe and tags, on the national grid. */
const room = (
  pipeY: number,
): string => `<svg xmlns="http://www.w3.org/2000/svg" viewBox="${EAST} -${NORTH + 3000} 4000 3000" width="4000mm" height="3000mm">
<g id="Walls" fill="none" stroke="#16324a" stroke-width="25"><path d="M${EAST + 500} -${NORTH + 500}h3000v-2000h-3000z"/></g>
<g id="Pipes" fill="none" stroke="#1f7a8c" stroke-width="50"><path d="M${EAST + 500} -${NORTH + pipeY}H${EAST + 3500}"/></g>
<g id="Tags" font-size="150" fill="#16324a"><text x="${EAST + 1000}" y="-${NORTH + 1000}">KS-101</text><text x="${EAST + 2000}" y="-${NORTH + 1000}">Detail 1</text></g></svg>`;
const planFrame = (denominator: number, shows: Partial<FrameShowsDto> = {}): PaperSheetDto => {
  const own = { x: EAST + 2000, y: NORTH + 1500, bearingRad: 0, denominator };
  const sheet = sheetOfView(`1 to ${denominator}`, paperSize('A4', false), own);
  return { ...sheet, frames: [{ ...sheet.frames[0]!, view: own, shows: { ...all, ...shows } }], matchLines: [] };
};

describe('sheets of a plan', () => {
  let plan: DrawingDto;
  beforeAll(async () => {
    plan = await bring(room(1500), 'Room.svg');
    const answer = await server.upload(room(1700), 'Room.svg', `/api/drawings/${plan.id}/source`, 'PUT');
    await server.ended(((await answer.json()) as ImportAcceptedDto).jobId);
    plan = await server.json<DrawingDto>(`/api/drawings/${plan.id}`);
  });

  it('go out as SVG, PNG and TIFF: one file, or a ZIP file with one for each sheet', async () => {
    const sheets = [planFrame(20), { ...planFrame(50), name: 'Room: all' }];
    const svg = Buffer.from(await bytesOf({ format: 'svg', sheets: [sheets[0]!] }, plan.id)).toString();
    expect(svg).toMatch(/^<\?xml/);
    for (const text of ['KS-101', '<title>Pipes</title>', 'width="297mm"']) expect(svg).toContain(text);
    const zip = unzipSync(await bytesOf({ format: 'svg', sheets }, plan.id));
    expect(Object.keys(zip)).toEqual(['1 1 to 20.svg', '2 Room_ all.svg']);
    const pictures = unzipSync(await bytesOf({ format: 'png', dpi: 50, sheets }, plan.id));
    const { width, height } = PNG.sync.read(Buffer.from(pictures['1 1 to 20.png']!));
    expect([width, height]).toEqual([Math.round((297 / 25.4) * 50), Math.round((210 / 25.4) * 50)]);
    const tiff = await bytesOf({ format: 'tiff', dpi: 50, sheets }, plan.id);
    const told = await sharp(tiff).metadata();
    expect([told.format, told.pages, told.width, told.density]).toEqual(['tiff', 2, width, 50]);
    // the very same picture
    const page = await sharp(tiff, { page: 0 }).removeAlpha().raw().toBuffer();
    const png = await sharp(pictures['1 1 to 20.png']).removeAlpha().raw().toBuffer();
    expect(page.equals(png)).toBe(true);
  });

  it('show marks, what has changed and what nobody has seen yet, on layers of their own', async () => {
    const layersOf = async (shows: Partial<FrameShowsDto>): Promise<string[]> => {
      const { layers } = await readPdf(await bytesOf({ sheets: [planFrame(20, shows)] }, plan.id), {
        path: () => 0,
        text: () => 0,
        picture: () => 0,
      });
      return layers.map(({ name }) => name);
    };
    const mark = {
      id: randomUUID(),
      kind: 'line',
      layer: 'Check',
      colour: '#d9532c',
      line: 'solid',
      widthMm: 0.5,
      text: '',
      points: [
        { x: EAST + 500, y: NORTH + 700, z: 0 },
        { x: EAST + 900, y: NORTH + 700, z: 0 },
      ],
      x: { x: 1, y: 0, z: 0 },
      y: { x: 0, y: 1, z: 0 },
    };
    const kept = await send('PATCH', `/api/drawings/${plan.id}/marks`, { put: [mark], remove: [], by: randomUUID() });
    expect(kept.status).toBeLessThan(300);
    expect(await layersOf({})).toContain('Marks: Check');
    expect(await layersOf({ marksOff: true })).not.toContain('Marks: Check');
    expect(await layersOf({ hiddenMarkLayers: ['Check'] })).not.toContain('Marks: Check');
    expect(await layersOf({ changesSince: 1 })).toContain('Changes');
    expect(await layersOf({ unseenBy: 'Mara' })).toContain('Not seen yet');
    // she has seen all of it
    await send('PUT', `/api/drawings/${plan.id}/seen?person=Mara`, { bits: Buffer.from([255]).toString('base64') });
    expect(await layersOf({ unseenBy: 'Mara' })).not.toContain('Not seen yet');
    const missing = await print({ sheets: [planFrame(20, { changesSince: 9 })] }, plan.id);
    expect(missing.status).toBe(404);
  });

  it('tell the page the same that lies on top of a frame', async () => {
    const [frame] = planFrame(20, { changesSince: 1 }).frames;
    const answer = await send('POST', `/api/drawings/${plan.id}/frame-overlay`, frame);
    const parts = (await answer.json()) as SheetPart[];
    const changes = parts.flatMap((part) => (part.layer === 'Changes' && part.kind === 'line' ? [part] : []));
    const { toPaper } = placementOf(frame!, 'mm');
    // the pipe as it was, dashed, and 200 mm higher as it is
    const [was, is] = [
      changes.find(({ dashesMm }) => dashesMm.length > 0)!,
      changes.find(({ dashesMm }) => dashesMm.length === 0)!,
    ];
    expect(was.points[0]![1]).toBeCloseTo(toPaper(EAST, NORTH + 1500)[1], 3);
    expect(is.points[0]![1]).toBeCloseTo(toPaper(EAST, NORTH + 1700)[1], 3);
  });

  it('lead from a tag to the sheet that shows it largest, and from a sheet’s name to that sheet', async () => {
    const sheets = [planFrame(50), { ...planFrame(10), name: 'Detail 1' }, planFrame(100)];
    const pdf = Buffer.from(await bytesOf({ sheets }, plan.id)).toString('latin1');
    const links = [...pdf.matchAll(/\/S \/GoTo\s*\/D \((sheet-\d)\)/g)].map(([, to]) => to);
    // both tags of the first and of the third sheet lead to the second
    expect(links).toEqual(['sheet-2', 'sheet-2', 'sheet-2', 'sheet-2']);
  });

  it('tell how far they have come while they are written, and stop when nobody waits any more', async () => {
    const run = randomUUID();
    const many = Array.from({ length: 60 }, () => planFrame(20));
    const call = new AbortController();
    const answer = server.fetch(`/api/drawings/${plan.id}/print`, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify({ fields, sheets: many, format: 'png', dpi: 300, run }),
      signal: call.signal,
    });
    let told: PrintProgressDto | null = null;
    while (!told || told.sheet < 2) {
      const progress = await server.fetch(`/api/prints/${run}`);
      if (progress.ok) told = (await progress.json()) as PrintProgressDto;
      await new Promise((resolve) => setTimeout(resolve, 20));
    }
    expect(told.sheets).toBe(60);
    call.abort();
    await expect(answer.then((response) => response.arrayBuffer())).rejects.toThrow();
    // it is forgotten as soon as its thread has ended
    for (;;) {
      const { status } = await server.fetch(`/api/prints/${run}`);
      if (status === 404) break;
      await new Promise((resolve) => setTimeout(resolve, 50));
    }
  });

  const hasPoppler = spawnSync('pdftocairo', ['-v']).status === 0;
  it.skipIf(!hasPoppler)('look the same as PNG as another reader draws the PDF', async () => {
    const folder = mkdtempSync(join(tmpdir(), 'gull-pane-print-'));
    try {
      for (const [id, sheet] of [
        [plan.id, planFrame(20)],
        [model.id, sheetAt({}, { look: 'hidden-dashed' })],
      ] as const) {
        const file = join(folder, 'sheet.pdf');
        writeFileSync(file, await bytesOf({ sheets: [sheet] }, id));
        execFileSync('pdftocairo', ['-png', '-r', '127', '-singlefile', file, join(folder, 'sheet')]);
        const theirs = PNG.sync.read(readFileSync(join(folder, 'sheet.png')));
        const ours = PNG.sync.read(Buffer.from(await bytesOf({ format: 'png', dpi: 127, sheets: [sheet] }, id)));
        expect(Math.abs(ours.width - theirs.width)).toBeLessThanOrEqual(1);
        // a px of one is dark only if the other has ink within a px of it
        const both = [
          [ours, theirs],
          [theirs, ours],
        ] as const;
        for (const [a, b] of both) {
          let [dark, alone] = [0, 0];
          for (let y = 2; y < a.height - 3; y++)
            for (let x = 2; x < a.width - 3; x++) {
              if (lightOf(a, x, y) > 128) continue;
              dark++;
              if (darkestAround(b, x, y) > 200) alone++;
            }
          expect(dark).toBeGreaterThan(1000);
          expect(alone / dark).toBeLessThan(0.002);
        }
      }
    } finally {
      rmSync(folder, { recursive: true, force: true });
    }
  });
});

const lightOf = ({ data, width }: PNG, x: number, y: number): number => {
  const at = 4 * (y * width + x);
  return (data[at]! + data[at + 1]! + data[at + 2]!) / 3;
};
/** The darkest px around a place. */
const darkestAround = (png: PNG, x: number, y: number): number =>
  Math.min(...[-1, 0, 1].flatMap((dx) => [-1, 0, 1].map((dy) => lightOf(png, x + dx, y + dy))));
