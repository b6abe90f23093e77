import { readFile } from 'node:fs/promises';
import type { Page } from '@playwright/test';
import { strFromU8, unzipSync } from 'fflate';
import { expect, inspectPane, openDrawing, settled, test } from './app.ts';

const slab = `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 20000 10000" width="20000mm" height="10000mm">
  <g id="Concrete"><path d="M0 0H20000V10000H0Z" fill="none" stroke="#345" stroke-width="60"/></g>
  <g id="Openings"><circle cx="15000" cy="5000" r="1500" fill="#8ac" stroke="#345" stroke-width="30"/></g>
</svg>`;

async function saved(page: Page, act: () => Promise<void>): Promise<{ readonly name: string; readonly bytes: Buffer }> {
  const coming = page.waitForEvent('download');
  await act();
  const download = await coming;
  return { name: download.suggestedFilename(), bytes: await readFile(await download.path()) };
}

test('views go out as BCF and come back, with what the format can’t tell said', async ({ page, app }) => {
  await page.emulateMedia({ reducedMotion: 'reduce' });
  await openDrawing(page, app, 'Slab', slab);
  await page.getByRole('tab', { name: 'Views' }).click();
  const list = page.getByRole('list', { name: 'Views' }).getByRole('listitem');
  await page.keyboard.press('+');
  const kept = await settled(page);
  await page.keyboard.press('Shift+J');
  await expect(list).toHaveCount(1);
  await expect(page.getByText('Saved', { exact: true })).toBeVisible();

  const { name, bytes } = await saved(page, async () => {
    await page.getByRole('button', { name: 'Views in and out' }).click();
    await page.getByRole('menuitem', { name: 'BCF 3.0' }).click();
  });
  expect(name).toBe('Slab, views.bcf');
  const files = Object.keys(unzipSync(bytes));
  expect(files).toContain('bcf.version');
  expect(files.some((file) => file.endsWith('/snapshot.png'))).toBe(true);
  const dialog = page.getByRole('dialog');
  await expect(dialog).toContainText('this format can’t tell everything');
  await dialog.getByRole('button', { name: 'OK' }).click();
  await expect(dialog).toBeHidden();

  // read in again it is known: it is brought up to date, or kept once more, as is chosen
  for (const [choice, count] of [
    ['Update them', 1],
    ['Keep copies', 2],
  ] as const) {
    await page.getByLabel('File of views').setInputFiles({ name, mimeType: 'application/zip', buffer: bytes });
    await expect(dialog).toContainText('This view is here already');
    await dialog.getByRole('button', { name: choice }).click();
    await expect(dialog.filter({ visible: true })).toContainText('1 view has come in');
    await dialog.getByRole('button', { name: 'OK' }).click();
    await expect(list).toHaveCount(count);
  }
  await page.keyboard.press('a');
  await settled(page);
  await list
    .last()
    .getByRole('button', { name: /^Go to/ })
    .click();
  const back = await settled(page);
  expect(back.camera.target.x).toBeCloseTo(kept.camera.target.x, 6);
  expect(back.camera.target.y).toBeCloseTo(kept.camera.target.y, 6);
  await page.getByRole('button', { name: 'Undo reading in' }).click();
  await expect(list).toHaveCount(1);

  // a file of something else is refused with the reason
  await page
    .getByLabel('File of views')
    .setInputFiles({ name: 'a.bcf', mimeType: '', buffer: Buffer.from('PK broken') });
  await expect(dialog.getByRole('alert')).toContainText('damaged');
});

test('the drawing goes out as SVG in part, as a package, and the package comes in again', async ({ page, app }) => {
  await page.emulateMedia({ reducedMotion: 'reduce' });
  await openDrawing(page, app, 'Slab of the tank', slab);
  const { rect } = await inspectPane(page);
  await page.mouse.move(rect.x + 10, rect.y + rect.height / 2);
  for (let k = 0; k < 4; k++) await page.mouse.wheel(0, -240); // the left edge alone is left in sight
  await settled(page);
  await page.keyboard.press('Shift+F7');
  const dialog = page.getByRole('dialog', { name: 'Share what the panes show' });
  const part = await saved(page, async () => {
    await dialog.getByRole('radio', { name: 'What the pane shows' }).click();
    await dialog.getByRole('button', { name: 'SVG' }).click();
  });
  expect(part.name).toBe('Slab of the tank.svg');
  expect(strFromU8(part.bytes)).toContain('<title>Concrete</title>');
  expect(strFromU8(part.bytes)).not.toContain('Openings');
  const packed = await saved(page, () => dialog.getByRole('button', { name: 'Package' }).click());
  expect(packed.name).toBe('Slab of the tank.gull-pane.zip');

  await page.goto(app.url);
  const send = (buffer: Buffer): Promise<void> =>
    page.getByLabel('Files to import').setInputFiles({ name: packed.name, mimeType: 'application/zip', buffer });
  const question = page.getByRole('dialog', { name: /^Package/ });
  await send(packed.bytes.subarray(0, 900));
  await expect(question.getByRole('alert')).toContainText('The package is damaged');
  await question.getByRole('button', { name: 'Close', exact: true }).first().click();
  await expect(question).toBeHidden();
  await send(packed.bytes);
  await expect(question).toContainText('It is here already, as Slab of the tank');
  await question.getByRole('radio', { name: 'Make a second drawing of it' }).click();
  await question.getByRole('button', { name: 'Take it as a new drawing' }).click();
  await expect(page.getByRole('link', { name: 'Slab of the tank' })).toHaveCount(2);
});
