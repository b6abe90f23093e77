/** What has been on the screen at a readable size, and what hasn't. */
import { SHEET_SET_NAME, sheetSet } from '@gull-pane/demo/sheet-set';
import { expect, expectAccessible, inspectPane, openDrawing, settled, test, revise, openFile } from './app.ts';
import { ModelWriter } from '../packages/demo/src/model-writer.ts';
import { box, cylinder } from '../packages/demo/src/solid-shapes.ts';
import { press } from './yard.ts';

/** Sixteen tagged pits, far apart from each other: only four fit a readable view. */
const pits = `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 40000 40000" width="40000mm" height="40000mm">${Array.from(
  { length: 16 },
  (_, k) => {
    const [x, y] = [2000 + 10_000 * (k % 4), 2000 + 10_000 * Math.floor(k / 4)];
    const outline = `<path fill="none" stroke="#345678" stroke-width="8" d="M${x} ${y}h600v600h-600z"/>`;
    return `<g id="Row ${Math.floor(k / 4)}">${outline}<text x="${x}" y="${y + 1000}" font-size="60">KS-MH-${600 + k}</text></g>`;
  },
).join('')}</svg>`;

test('what is unseen is gone to until all has been seen, and the record is there after a reload', async ({
  page,
  app,
}) => {
  await openDrawing(page, app, 'Pits', pits);
  await page.getByRole('tab', { name: 'Seen' }).click();
  await expect(page.getByText('Nothing is recorded yet')).toBeVisible();
  await page.getByLabel('Your name').fill('Ailsa');
  await page.getByRole('switch', { name: 'Record what is seen' }).click();
  const told = page.getByRole('status', { name: 'Seen' });
  // from afar the outlines are seen, their tags aren’t
  await expect(told).toHaveText(/50 % seen: 16 of 32 objects/);
  // with smaller limits more of it is readable from here
  await page.getByText('What counts as seen').click();
  await page.getByRole('spinbutton', { name: 'At rest for' }).fill('0.2');
  await page.keyboard.press('Enter');
  await page.getByRole('switch', { name: 'Hatch what is unseen' }).click();
  await expectAccessible(page, 'seen');
  // the overview shades what is unseen, too
  await press(page, '8');
  await expect(page.locator('.overview-unseen')).toHaveAttribute('d', /^M.*Z$/);
  await press(page, '8');

  const before = await inspectPane(page);
  for (let count = 17; count <= 32; count++) {
    await press(page, 'Shift+Digit8');
    await expect(told).toContainText(`${count} of 32 objects`);
  }
  expect((await settled(page)).camera.widthWorld!).toBeLessThan(before.camera.widthWorld! / 4);
  await expect(told).toContainText('100 % seen');
  await press(page, 'Shift+Digit8');
  await expect(page.getByRole('status', { name: 'Notes' })).toContainText('Everything that is shown has been seen');
  const list = page.getByRole('list', { name: 'Seen by layer' });
  await expect(list.getByRole('listitem')).toHaveText([/100 %/, /100 %/, /100 %/, /100 %/]);

  // it is kept on the server, for that person
  await expect
    .poll(async () => {
      const id = new URL(page.url()).pathname.split('/').at(-1)!;
      return ((await (await fetch(`${app.url}api/drawings/${id}/seen?person=Ailsa`)).json()) as { bits: string }).bits;
    })
    .toBe('/////w==');
  await page.reload();
  await settled(page);
  await page.getByRole('switch', { name: 'Record what is seen' }).click();
  await expect(told).toContainText('100 % seen');

  // of the next revision only what has changed is unseen
  await revise(page, app, pits.replace('KS-MH-607', 'KS-MH-607A'), 'Pits, issue B.svg');
  await page.getByRole('switch', { name: 'Record what is seen' }).click();
  await expect(told).toContainText('31 of 32 objects');
  await page.getByRole('button', { name: 'Begin anew' }).click();
  await expect(told).toContainText(/^[^1]/);
});

/** A tank on a slab, with an agitator inside it. */
function closedTank(): Uint8Array<ArrayBuffer> {
  const model = new ModelWriter('Tank', [412_600, 7_208_400, 0]);
  const grey = model.material('Concrete', '#b9b5ab', 0, 0.9);
  const teal = model.material('Tank', '#1f8a86', 0.4, 0.3);
  model.object('Slab', model.group('Slabs'), 'slab', () => [[box(20, 12, 0.5), grey]], { at: [10, 6, -0.5] });
  model.object('KS-TK-0007', model.group('Tanks'), 'tank', () => [[cylinder(2.5, 5, 96), teal]], { at: [5, 6, 0] });
  model.object('KS-AG-0001', model.group('Agitators'), 'shaft', () => [[cylinder(0.5, 3, 48), grey]], {
    at: [5, 6, 1],
  });
  return model.bytes();
}

test('in a model, an enclosed object counts as seen only after its enclosure is hidden', async ({ page, app }) => {
  await openDrawing(page, app, 'Tank', closedTank());
  await page.getByRole('tab', { name: 'Seen' }).click();
  await page.getByRole('switch', { name: 'Record what is seen' }).click();
  const told = page.getByRole('status', { name: 'Seen' });
  await expect(told).toContainText('2 of 3 objects');
  await expect(page.getByRole('switch', { name: 'Hatch what is unseen' })).toHaveCount(0);
  // from all around it stays unseen
  await press(page, 'Shift+Digit8');
  await press(page, 'Backspace');
  await expect(told).toContainText('2 of 3 objects');
  await page.getByRole('tab', { name: 'Layers' }).click();
  await page.getByRole('checkbox', { name: /^Tanks/ }).uncheck();
  await page.getByRole('tab', { name: 'Seen' }).click();
  await expect(told).toContainText('3 of 3 objects');
  await expect(told).toContainText('100 % seen');
});

test('for a set of sheets, coverage is listed by sheet', async ({ page, app }) => {
  await openFile(page, app, `${SHEET_SET_NAME}.pdf`, sheetSet());
  await page.getByRole('tab', { name: 'Seen' }).click();
  await page.getByRole('switch', { name: 'Record what is seen' }).click();
  await page.getByText('By sheet').click();
  await expect(page.getByRole('list', { name: 'Seen by sheet' }).getByRole('listitem').first()).toContainText('%');
});
