/** Plans go to paper: sheets are laid out, kept, saved as PDF at their exact scale. */
import { readFile } from 'node:fs/promises';
import type { Page } from '@playwright/test';
import { readPdf } from '@gull-pane/importers/pdf/read-pdf';
import type { PathElement } from '@gull-pane/core/drawing/model';
import { visitExtremes } from '@gull-pane/core/drawing/extents';
import { expect, expectAccessible, openDrawing, tap, test, type RunningApp } from './app.ts';

/**
 * A room of 8 m × 5 m on the national grid, with a pipe on a layer of its own. It says no unit: in millimetres other tests would be
 * offered it as the plan of their model.
 */
const room = `<svg xmlns="http://www.w3.org/2000/svg" viewBox="412600000 -7208405000 8000 5000">
<g id="Walls" fill="none" stroke="#16324a" stroke-width="20"><path d="M412600000 -7208400000h8000v-5000h-8000z"/></g>
<g id="Pipes" fill="none" stroke="#1f7a8c" stroke-width="20"><path d="M412600000 -7208402000h8000"/></g></svg>`;

async function openSheets(page: Page, app: RunningApp): Promise<void> {
  await openDrawing(page, app, 'Room', room);
  await tap(page, 'Control+p');
  await expect(page.getByRole('heading', { name: 'Onto paper' })).toBeVisible();
}

const painted = (page: Page): Promise<void> =>
  expect.poll(() => page.locator('.sheet-frame canvas').first().getAttribute('data-state')).toBe('drawn');

/** What the saved file holds: width and height of each layer, mm on paper. */
async function savedPdf(
  page: Page,
): Promise<{ readonly pages: number; readonly sizes: Map<string, [number, number]> }> {
  const coming = page.waitForEvent('download');
  await page.getByRole('button', { name: 'Save as PDF' }).click();
  const download = await coming;
  const paths: PathElement[] = [];
  const { layers, sheets } = await readPdf(Uint8Array.from(await readFile(await download.path())), {
    path: (path) => paths.push(path),
    text: () => 0,
    picture: () => 0,
  });
  const sizes = new Map<string, [number, number]>();
  for (const [layer, { name }] of layers.entries()) {
    const own = paths.filter((path) => path.layer === layer);
    const [xs, ys]: [number[], number[]] = [[], []];
    for (const { path } of own) visitExtremes(path, (x, y) => void (xs.push(x), ys.push(y)));
    if (own.length > 0) sizes.set(name, [Math.max(...xs) - Math.min(...xs), Math.max(...ys) - Math.min(...ys)]);
  }
  return { pages: sheets!.length, sizes };
}

test('a sheet is begun, set to an exact scale, saved as PDF, and there after a reload', async ({ page, app }) => {
  await openSheets(page, app);
  await expectAccessible(page, 'the beginning of sheets');
  await page.getByRole('button', { name: 'All on one sheet' }).click();
  await painted(page);
  await expectAccessible(page, 'a sheet');
  // 8 m have room on A3 at 1:50, not at 1:20
  await expect(page.getByRole('spinbutton', { name: 'Scale' })).toHaveValue('1:50');
  const whole = await savedPdf(page);
  expect(whole.pages).toBe(1);
  expect(whole.sizes.get('Walls')![0]).toBeCloseTo(160, 2);
  expect(whole.sizes.get('Walls')![1]).toBeCloseTo(100, 2);

  await page.getByRole('button', { name: '1:100', exact: true }).click();
  await page.getByText('Layers on paper: 2 of 2').click();
  await page.getByRole('checkbox', { name: 'Pipes' }).uncheck();
  await page.getByRole('textbox', { name: 'Title' }).fill('Plant room');
  await page.getByRole('textbox', { name: 'Title' }).press('Enter');
  await expect(page.getByRole('button', { name: 'Undo: strip' })).toBeVisible();
  await painted(page);
  const half = await savedPdf(page);
  expect(half.sizes.get('Walls')![0]).toBeCloseTo(80, 2);
  expect(half.sizes.has('Pipes')).toBe(false);

  await expect(page.getByRole('status', { name: 'Saving' })).toHaveText('Saved');
  await page.reload();
  await painted(page);
  await expect(page.getByRole('spinbutton', { name: 'Scale' })).toHaveValue('1:100');
  await expect(page.getByRole('textbox', { name: 'Title' })).toHaveValue('Plant room');
});

test('a drawing is covered by sheets; they are moved, deleted and brought back', async ({ page, app }) => {
  await openSheets(page, app);
  await page.getByRole('spinbutton', { name: 'Scale of the parts' }).fill('1:20');
  await page.getByRole('spinbutton', { name: 'Scale of the parts' }).press('Enter');
  await expect(page.getByText('2 × 1 sheets that overlap by 10 mm')).toBeVisible();
  await page.getByRole('button', { name: 'Cover the drawing' }).click();
  const sheets = page.getByRole('list', { name: 'Sheets' }).getByRole('listitem');
  await expect(sheets).toHaveCount(2);
  const { pages } = await savedPdf(page);
  expect(pages).toBe(2);
  await page.getByRole('button', { name: 'Move Part A1 down' }).click();
  await expect(sheets.nth(1)).toContainText('Part A1');
  await page.getByRole('button', { name: 'Delete Part A1' }).click();
  await expect(sheets).toHaveCount(1);
  await page.getByRole('button', { name: 'Undo: sheet deleted' }).click();
  await expect(sheets).toHaveCount(2);
});

test('a view is moved and its frame sized, with the hand and with keys', async ({ page, app }) => {
  await openSheets(page, app);
  await page.getByRole('button', { name: 'All on one sheet' }).click();
  await painted(page);
  const view = page.getByRole('application', { name: /^View 1 of Room/ });
  await view.focus();
  await page.keyboard.press('ArrowRight');
  await expect(page.getByRole('button', { name: 'Undo: view moved' })).toBeVisible();
  const before = (await view.boundingBox())!;
  const grip = (await page
    .getByRole('button', { name: 'Size View 1 of Room at its lower right corner' })
    .boundingBox())!;
  await page.mouse.move(grip.x + grip.width / 2, grip.y + grip.height / 2);
  await page.mouse.down();
  await page.mouse.move(grip.x - 150, grip.y - 100, { steps: 4 });
  await page.mouse.up();
  await expect(page.getByRole('button', { name: 'Undo: frame sized' })).toBeVisible();
  const after = (await view.boundingBox())!;
  expect(after.width).toBeLessThan(before.width - 100);
  expect(after.height).toBeLessThan(before.height - 60);
  await page.getByRole('button', { name: 'Undo: frame sized' }).click();
  await expect.poll(async () => (await view.boundingBox())!.width).toBeCloseTo(before.width, 0);
});
