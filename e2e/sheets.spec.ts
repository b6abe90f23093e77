/** A set of sheets from a PDF: brought in by drop, walked through, its layers as the file has them. */
import { SHEET_SET_NAME, sheetSet } from '@gull-pane/demo/sheet-set';
import { drop, expect, inspect, inspectPane, settled, test } from './app.ts';

test('a PDF that is dropped becomes a set of sheets to walk through', async ({ page, app }) => {
  await page.goto(app.url);
  await drop(page, [{ name: `${SHEET_SET_NAME}.pdf`, content: sheetSet() }]);
  const card = page.getByRole('listitem').filter({ hasText: SHEET_SET_NAME });
  await expect(card).toContainText('5 sheets');
  await page.getByRole('link', { name: SHEET_SET_NAME }).click();
  await settled(page);
  const sheets = page.getByRole('group', { name: 'Sheets' });
  await expect(sheets.getByRole('status')).toHaveText('5 sheets');
  // what the file has switched off is hidden, and can be shown
  const { layers } = (await inspect(page)).drawing!;
  expect(layers.filter(({ visible }) => !visible).map(({ name }) => name)).toEqual(['Remarks']);

  await page.keyboard.press('PageDown');
  await settled(page);
  await expect(sheets.getByRole('status')).toHaveText('Sheet 1 of 5');
  await sheets.getByRole('button', { name: 'Next sheet' }).click();
  const second = (await settled(page)).camera;
  await expect(sheets.getByRole('status')).toHaveText('Sheet 2 of 5');
  expect(second.widthWorld!).toBeGreaterThan(420); // A3 across, with a margin
  expect(second.widthWorld!).toBeLessThan(700);
  await page.keyboard.press('PageUp');
  await settled(page);
  await expect(sheets.getByRole('status')).toHaveText('Sheet 1 of 5');
  await expect(sheets.getByRole('button', { name: 'Previous sheet' })).toHaveAttribute('aria-disabled', 'true');

  // a tag of the schedule is found on its sheet; from a detail of it, its sheet fills the pane
  await page.keyboard.press('g');
  await page.keyboard.type('ksva0417');
  await expect(page.getByRole('option').first()).toContainText('KS-VA-0417');
  await page.keyboard.press('Enter');
  await settled(page);
  await expect(sheets.getByRole('status')).toHaveText('Sheet 2 of 5');
  await page.keyboard.press('Escape');
  await page.keyboard.press('s');
  const fitted = await settled(page);
  expect(fitted.camera.target.x).toBeCloseTo(second.target.x, 6);
  expect(fitted.camera.widthWorld).toBeCloseTo(second.widthWorld!, 6);
  await page.keyboard.press('g');
  await page.keyboard.type('sheet 5');
  await page.keyboard.press('Enter');
  await settled(page);
  await expect(sheets.getByRole('status')).toHaveText('Sheet 5 of 5');
  await expect.poll(async () => (await inspectPane(page)).settled).toBe(true);
});
