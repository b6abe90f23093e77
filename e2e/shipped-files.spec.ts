/** Files that packages ship, brought in by drop, against judges that aren't ours. */
import { readFileSync, readdirSync } from 'node:fs';
import { createRequire } from 'node:module';
import { basename, dirname, join } from 'node:path';
import type { Page } from '@playwright/test';
import type { DrawingDto } from '@gull-pane/protocol/drawings';
import type { TextColumns } from '@gull-pane/protocol/texts';
import { drop, expect, settled, test, type RunningApp } from './app.ts';

const require = createRequire(import.meta.url);
const filesOf = (folder: string, ending: string): string[] =>
  readdirSync(folder, { recursive: true })
    .map((name) => join(folder, String(name)))
    .filter((path) => path.endsWith(ending));
const titleOf = (path: string): string => basename(path).replace(/\.[a-z]+$/, '');

/** Drops files and waits until all of them are in or refused. */
async function dropAll(page: Page, app: RunningApp, paths: readonly string[]): Promise<Map<string, DrawingDto>> {
  await page.goto(app.url);
  await drop(
    page,
    paths.map((path) => ({ name: basename(path), content: readFileSync(path) })),
  );
  const listed = async (): Promise<DrawingDto[]> => {
    const all = (await (await fetch(`${app.url}api/drawings`)).json()) as DrawingDto[];
    return all.filter(({ name }) => paths.some((path) => titleOf(path) === name));
  };
  await expect
    .poll(async () => (await listed()).filter(({ status }) => status !== 'importing').length, { timeout: 500_000 })
    .toBe(paths.length);
  return new Map((await listed()).map((drawing) => [drawing.name, drawing]));
}

test('PDF: sheets and words are those that another parser finds; a broken one is refused', async ({ page, app }) => {
  interface Judgement {
    readonly numpages: number;
    readonly text: string;
  }
  const judge = require('pdf-parse/lib/pdf-parse.js') as (bytes: Buffer) => Promise<Judgement>;
  const paths = filesOf(join(dirname(require.resolve('pdf-parse/package.json')), 'test/data'), '.pdf');
  expect(paths.length).toBeGreaterThan(3);
  const drawings = await dropAll(page, app, paths);
  for (const path of paths) {
    const { id, status, error, sheets, revision } = drawings.get(titleOf(path))!;
    const judged = await judge(readFileSync(path)).catch(() => null);
    if (!judged) {
      expect(status, path).toBe('failed');
      expect(error?.code, path).toBe('malformed-pdf');
      continue;
    }
    expect(sheets, path).toHaveLength(judged.numpages);
    const files = `${app.url}api/drawings/${id}/tiles/r${revision}/`;
    const { contents } = (await (await fetch(`${files}texts.json`)).json()) as TextColumns;
    // letters alone: what parts words is each parser's own guess
    const letters = (text: string): string => text.normalize('NFKC').replace(/[^\p{L}\p{N}]/gu, '');
    const ours = letters(contents.join(' ')).length;
    const theirs = letters(judged.text).length;
    expect(Math.abs(ours - theirs), `${path}: ${ours} letters, ${theirs} by the judge`).toBeLessThanOrEqual(
      0.02 * theirs,
    );
  }
  await page.getByRole('link', { name: '04-valid' }).click();
  await settled(page);
  await page.keyboard.press('PageDown');
  await settled(page);
  await expect(page.getByRole('group', { name: 'Sheets' }).getByRole('status')).toHaveText('Sheet 1 of 5');
});

/** All places of a GeoJSON value, wherever they stand in it. */
function placesIn(value: unknown): [number, number][] {
  if (Array.isArray(value)) {
    const [x, y] = value as unknown[];
    return typeof x === 'number' && typeof y === 'number' ? [[x, y]] : value.flatMap(placesIn);
  }
  return value !== null && typeof value === 'object' ? Object.values(value).flatMap(placesIn) : [];
}

test('GeoJSON: every fixture comes in, as far north as it says', async ({ page, app }) => {
  const folder = join(dirname(require.resolve('geojson-fixtures/package.json')), 'data');
  // of files of one name only the first, so that they can be told apart
  const paths = filesOf(folder, '.geojson').filter(
    (path, index, all) => all.findIndex((other) => titleOf(other) === titleOf(path)) === index,
  );
  expect(paths.length).toBeGreaterThan(10);
  const drawings = await dropAll(page, app, paths);
  for (const path of paths) {
    const { status, extents, unit } = drawings.get(titleOf(path))!;
    expect(status, path).toBe('ready');
    expect(unit).toBe('mm');
    const latitudes = placesIn(JSON.parse(readFileSync(path, 'utf8'))).map(([, latitude]) => latitude);
    // a degree of latitude is 110.574 km at the equator, where the fixtures lie; points are crosses of 1 m
    const spanMm = (Math.max(...latitudes) - Math.min(...latitudes)) * 110_574_000;
    expect(Math.abs(extents!.max.y - extents!.min.y - spanMm), path).toBeLessThan(0.01 * spanMm + 1001);
  }
});
