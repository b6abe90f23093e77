/** Sheets are kept with versions, and go to paper as PDF that comes in again. */
import { execFileSync, spawnSync } from 'node:child_process';
import { randomUUID } from 'node:crypto';
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { PNG } from 'pngjs';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { paperSize } from '@gull-pane/core/sheets/paper';
import { placementOf, sheetOfView } from '@gull-pane/core/sheets/sheet';
import type { DrawingDto, ImportAcceptedDto, LayerDto } from '@gull-pane/protocol/drawings';
import type {
  FrameShowsDto,
  KeepSheetSetDto,
  PaperSheetDto,
  PrintDto,
  SheetSetDto,
} from '@gull-pane/protocol/sheet-sets';
import type { TextColumns } from '@gull-pane/protocol/texts';
import { TestServer, problemOf } from './running-server.ts';

/** A wall, a pipe that can be hidden, a tag; mm on the national grid. */
const chamber = `<svg xmlns="http://www.w3.org/2000/svg" viewBox="412600000 -7208403000 4000 3000" width="4000mm" height="3000mm">
<g id="Walls" fill="none" stroke="#16324a" stroke-width="25"><path d="M412600500 -7208400500h3000v-2000h-3000z"/></g>
<g id="Pipes" fill="none" stroke="#1f7a8c" stroke-width="50"><path d="M412600500 -7208401500H412603500"/></g>
<g id="Tags" font-size="150"><text x="412601000" y="-7208401000" fill="#16324a">KS-101</text></g></svg>`;
const view = { x: 412_602_000, y: 7_208_401_500, bearingRad: 0, denominator: 20 };
const all: FrameShowsDto = { kindsOff: [], hiddenLayers: [], hiddenMarkLayers: [], hiddenObjects: '' };
const fields = { project: 'Kelpie Sound', title: 'Chamber', number: 'KS-101', revision: '', author: '', date: '' };

const sheetAt = (more: Partial<typeof view> = {}, shows: Partial<FrameShowsDto> = {}): PaperSheetDto => {
  const sheet = sheetOfView('Plan', paperSize('A4', false), { ...view, ...more });
  return {
    ...sheet,
    frames: sheet.frames.map((frame) => ({ ...frame, shows: { ...all, ...shows } })),
    matchLines: [],
  };
};

let server: TestServer;
let drawingId: string;
beforeAll(async () => {
  server = await TestServer.start();
  drawingId = (await bring(chamber, 'Chamber.svg')).id;
});
afterAll(() => server.stop());

async function bring(content: string | Uint8Array<ArrayBuffer>, name: string): Promise<DrawingDto> {
  const accepted = (await (await server.upload(content, name)).json()) as ImportAcceptedDto;
  await server.ended(accepted.jobId);
  return server.json<DrawingDto>(`/api/drawings/${accepted.drawingId}`);
}
const send = (method: string, path: string, body?: unknown): Promise<Response> =>
  server.fetch(path, {
    method,
    ...(body === undefined ? {} : { headers: { 'content-type': 'application/json' }, body: JSON.stringify(body) }),
  });
const print = (set: Partial<PrintDto>, id = drawingId): Promise<Response> =>
  send('POST', `/api/drawings/${id}/print`, { fields, sheets: [sheetAt()], ...set });
const printed = async (sheet: PaperSheetDto): Promise<Uint8Array<ArrayBuffer>> => {
  const answer = await print({ sheets: [sheet] });
  expect(answer.status).toBe(200);
  expect(answer.headers.get('content-type')).toBe('application/pdf');
  return new Uint8Array(await answer.arrayBuffer());
};

describe('sets of sheets', () => {
  const set = (name: string, position: number): KeepSheetSetDto => ({ name, position, fields, sheets: [sheetAt()] });
  const keep = (own: unknown): Promise<Response> => send('POST', `/api/drawings/${drawingId}/sheet-sets`, own);

  it('are kept in their order with all their frames, and survive a restart', async () => {
    const second = (await (await keep(set('Second', 2))).json()) as SheetSetDto;
    const first = (await (await keep(set('First', 1))).json()) as SheetSetDto;
    await server.restart();
    expect(await server.json(`/api/drawings/${drawingId}/sheet-sets`)).toEqual([first, second]);
    expect(first.sheets).toEqual([sheetAt()]);
  });

  it('are changed only from the latest version; otherwise the answer is a conflict with the current one', async () => {
    const kept = (await (await keep(set('Raced', 3))).json()) as SheetSetDto;
    const changed = await send('PATCH', `/api/sheet-sets/${kept.id}`, { version: 1, name: 'Won' });
    expect(await changed.json()).toMatchObject({ version: 2, name: 'Won', fields });
    const late = await send('PATCH', `/api/sheet-sets/${kept.id}`, { version: 1, sheets: [] });
    expect(late.status).toBe(409);
    expect((await problemOf(late)).current).toMatchObject({ version: 2, name: 'Won' });
    expect((await send('DELETE', `/api/sheet-sets/${kept.id}`)).status).toBe(204);
    expect((await send('DELETE', `/api/sheet-sets/${kept.id}`)).status).toBe(404);
  });

  it('sent twice are kept once; invalid ones are refused with the reason', async () => {
    const own = { ...set('Twice', 4), id: randomUUID() };
    expect((await keep(own)).status).toBe(201);
    expect((await keep(own)).status).toBe(409);
    const wrong = await keep({ ...set('Tiny', 5), sheets: [{ ...sheetAt(), paper: { widthMm: 1, heightMm: 1 } }] });
    expect(wrong.status).toBe(400);
    expect((await problemOf(wrong)).detail).toContain('paper');
  });
});

describe('sheets on paper', () => {
  it('come in again: places within a hundredth of a millimetre, layers and texts the same', async () => {
    const sheet = sheetAt({ bearingRad: 0.4 });
    const back = await bring(await printed(sheet), 'Printed.pdf');
    const layers = await server.json<LayerDto[]>(`/api/drawings/${back.id}/layers`);
    for (const name of ['Walls', 'Pipes', 'Tags', 'Sheet']) expect(layers.map((layer) => layer.name)).toContain(name);
    const walls = layers.find(({ name }) => name === 'Walls')!;
    const { toPaper } = placementOf(sheet.frames[0]!, 'mm');
    const corners = [
      [412_600_500, 7_208_400_500],
      [412_603_500, 7_208_400_500],
      [412_603_500, 7_208_402_500],
      [412_600_500, 7_208_402_500],
    ].map(([x, y]) => toPaper(x!, y!));
    // the hull of a layer is exact, whatever its order; pages come in with y up
    expect(walls.support).toHaveLength(12);
    for (const [x, y] of corners) {
      const away = [0, 3, 6, 9].map((at) =>
        Math.hypot(walls.support[at]! - x, walls.support[at + 1]! - (sheet.paper.heightMm - y)),
      );
      expect(Math.min(...away)).toBeLessThanOrEqual(0.01);
    }
    const { contents } = await server.json<TextColumns>(`/api/drawings/${back.id}/tiles/r${back.revision}/texts.json`);
    expect(contents).toContain('KS-101');
  });

  it('leave out what is hidden', async () => {
    const back = await bring(await printed(sheetAt({}, { hiddenLayers: ['Pipes'], kindsOff: ['texts'] })), 'Part.pdf');
    const names = (await server.json<LayerDto[]>(`/api/drawings/${back.id}/layers`)).map(({ name }) => name);
    expect(names).toContain('Walls');
    expect(names).not.toContain('Pipes');
    expect(names).not.toContain('Tags');
  });

  it('show wide lines that reach in from beside the frame', async () => {
    // the pipe is 50 mm wide and lies 20 mm above this frame, of 1:20
    const { frames } = sheetAt();
    const half = (frames[0]!.heightMm * 20) / 2;
    const namesAt = async (y: number): Promise<string[]> => {
      const back = await bring(await printed(sheetAt({ y })), 'Below.pdf');
      return (await server.json<LayerDto[]>(`/api/drawings/${back.id}/layers`)).map(({ name }) => name);
    };
    expect(await namesAt(7_208_401_500 - half - 20)).toContain('Pipes');
    expect(await namesAt(7_208_401_500 - half - 500)).not.toContain('Pipes');
  });

  const hasPoppler = spawnSync('pdftocairo', ['-v']).status === 0;
  it.skipIf(!hasPoppler)('are drawn by another reader as they are meant, with embedded fonts', async () => {
    const folder = mkdtempSync(join(tmpdir(), 'gull-pane-print-'));
    try {
      const sheet = sheetAt();
      const file = join(folder, 'sheet.pdf');
      writeFileSync(file, await printed(sheet));
      const info = execFileSync('pdfinfo', ['-box', file], { encoding: 'utf8' });
      expect(info).toMatch(/Title: +Chamber/);
      const [, width, height] = /MediaBox: +0\.00 +0\.00 +([\d.]+) +([\d.]+)/.exec(info)!;
      expect(Number(width)).toBeCloseTo((297 * 72) / 25.4, 1);
      expect(Number(height)).toBeCloseTo((210 * 72) / 25.4, 1);
      const fonts = execFileSync('pdffonts', [file], { encoding: 'utf8' }).trim().split('\n').slice(2);
      expect(fonts.length).toBeGreaterThan(0);
      for (const line of fonts) expect(line).toMatch(/yes +yes +yes/);
      execFileSync('pdftocairo', ['-png', '-r', '127', '-singlefile', file, join(folder, 'sheet')]);
      const png = PNG.sync.read(readFileSync(join(folder, 'sheet.png')));
      const inkAt = (xMm: number, yMm: number): number[] => {
        const at = 4 * (Math.round(5 * yMm) * png.width + Math.round(5 * xMm));
        return [...png.data.subarray(at, at + 3)];
      };
      const { toPaper } = placementOf(sheet.frames[0]!, 'mm');
      // in the middle of the pipe, which is 2.5 mm wide on paper, and beside it
      expect(inkAt(...toPaper(412_602_000, 7_208_401_500))).toEqual([0x1f, 0x7a, 0x8c]);
      expect(inkAt(...toPaper(412_602_000, 7_208_401_500 + 60))).toEqual([255, 255, 255]);
      const [x, y] = toPaper(412_603_500, 7_208_402_000);
      expect(inkAt(x, y)).toEqual([0x16, 0x32, 0x4a]);
    } finally {
      rmSync(folder, { recursive: true, force: true });
    }
  });

  it('without sheets are refused', async () => {
    expect((await print({ sheets: [] })).status).toBe(400);
    expect((await print({}, randomUUID())).status).toBe(404);
    expect((await print({ format: 'png', dpi: 5000 })).status).toBe(400);
  });
});
