/** Working while looking: snaps, measurements, marks, work planes, drawings that are begun here. */
import type { Page } from '@playwright/test';
import {
  USUAL_VIEWPORT,
  expect,
  expectAccessible,
  inspect,
  inspectPane,
  openDrawing,
  openSitePlan,
  settled,
  test,
  worldAt,
  type RunningApp,
  tap,
} from './app.ts';
import { activeOf, panesSettled, pressKey } from './many-panes.ts';
import { E, N, openYard, press, seenAt } from './yard.ts';

/** A square with a gap of 40 in its east side, a closed one within it, a circle; a page of 2 × 1.5 m. */
const parts = `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 2000 1500" width="2000mm" height="1500mm">
<g id="Basins" fill="none" stroke="#345678" stroke-width="8">
<path d="M1000 600v-300h-800v900h800v-560"/><path d="M300 400h300v300h-300z"/><circle cx="1500" cy="800" r="200" stroke="#a02020"/>
</g></svg>`;

/** Where a place of the page is on the screen: the file's y runs down. */
async function at(page: Page, x: number, y: number): Promise<{ x: number; y: number }> {
  const pane = await inspectPane(page);
  const { min, max } = (await inspect(page)).drawing!.extents!;
  const { x: left, y: top } = { x: min.x - 200, y: max.y + 300 };
  const zero = worldAt(pane, pane.rect.x, pane.rect.y);
  const perPx = pane.camera.widthWorld! / pane.rect.width;
  return { x: pane.rect.x + (left + x - zero.x) / perPx, y: pane.rect.y + (zero.y - (top - y)) / perPx };
}
async function clickAt(page: Page, x: number, y: number): Promise<void> {
  const place = await at(page, x, y);
  await page.mouse.move(place.x, place.y);
  await page.mouse.click(place.x, place.y);
}
async function take(page: Page, key: string, name: string): Promise<void> {
  await page.locator('.pane[data-active="true"] .pane-surface').focus();
  await tap(page, key);
  await page.getByRole('menuitem', { name, exact: true }).click();
}
const prompt = (page: Page) => page.getByRole('status', { name: 'Prompt' });
const type = async (page: Page, text: string): Promise<void> => {
  const field = page.getByRole('textbox', { name: 'Place, way or length' });
  await field.fill(text);
  await field.press('Enter');
};
async function openParts(page: Page, app: RunningApp): Promise<void> {
  await page.emulateMedia({ reducedMotion: 'reduce' });
  await openDrawing(page, app, 'Basins', parts);
  await page.getByRole('tab', { name: 'Marks' }).click();
}
const rows = (page: Page) => page.getByRole('list', { name: 'Marks', exact: true }).locator('.mark-row');

test('a measurement begun in one pane ends in another, with an orbit, a trail step, a view and an arrangement between', async ({
  page,
  app,
}) => {
  await page.setViewportSize(USUAL_VIEWPORT); // in small panes the corners above one another are one
  await openYard(page, app);
  for (const key of ['a', '-', '-', 'Shift+J']) await press(page, key); // a view to come back to
  await press(page, '+');
  await press(page, '-');
  const panes = await pressKey(page, 'F2', 2);
  const first = panes[activeOf(panes)]!;
  await pressKey(page, 'd', 2);
  // the slab's upper corners: 20 m and 12 m apart
  const corner = { x: E, y: N, z: 0 };
  const from = seenAt(first, corner);
  await page.mouse.move(from.x + 3, from.y - 2);
  await expect(page.locator('.snap-word').filter({ visible: true }).first()).toContainText('corner');
  await page.mouse.click(from.x + 3, from.y - 2);
  await expect(prompt(page)).toContainText('click the next point (1 placed)');

  // an orbit, a step of the trail, a view, another arrangement
  await page.keyboard.down('Shift');
  await page.mouse.move(from.x + 60, from.y - 60);
  await page.mouse.down({ button: 'middle' });
  await page.mouse.move(from.x + 120, from.y - 20, { steps: 4 });
  await page.mouse.up({ button: 'middle' });
  await page.keyboard.up('Shift');
  await panesSettled(page, 2);
  await pressKey(page, 'F8', 2); // one pane fills the area, and back
  await pressKey(page, 'F8', 2);
  await pressKey(page, 'Backspace', 2);
  await page.getByRole('tab', { name: 'Views' }).click();
  await page
    .getByRole('button', { name: /^Go to / })
    .first()
    .click();
  await panesSettled(page, 2);
  await expect(prompt(page)).toContainText('click the next point (1 placed)');

  const now = await panesSettled(page, 2);
  const other = now[1 - activeOf(now)]!;
  const to = seenAt(other, { x: E + 20_000, y: N + 12_000, z: 0 });
  // above the corner: its lower end lies a few pixels below
  await page.mouse.move(to.x + 2, to.y - 2);
  await expect(page.locator('.snap-word').filter({ visible: true }).first()).toContainText('corner');
  await page.mouse.click(to.x + 2, to.y - 2);
  await page.keyboard.press('Enter');
  const told = page.getByRole('status', { name: 'Distance' }).filter({ visible: true });
  await expect(told).toContainText(`23\u202f323.807579\u00a0mm`); // √(20² + 12²) m
  await expect(told).toContainText(`E 20\u202f000\u00a0mm · N 12\u202f000\u00a0mm`);
  await expect(prompt(page)).toContainText('Distance 23\u202f323.807579');
});

test('marks are drawn by clicks and typing, chosen, moved, undone and done again, kept, and seen in another window', async ({
  page,
  app,
  context,
}) => {
  await openParts(page, app);
  await take(page, ';', 'Rectangle');
  await expect(prompt(page)).toContainText('Rectangle: click a corner, or type');
  await clickAt(page, 1002, 1198); // the end of the open side draws it
  await expect(prompt(page)).toContainText('(1 placed)');
  await type(page, 'by 300, 200');
  await expect(rows(page)).toHaveText(['rectangle']);
  await take(page, ';', 'Circle by its centre');
  await clickAt(page, 1500, 800); // the centre of the circle
  await expect(prompt(page)).toContainText('(1 placed)');
  await type(page, '250');
  await take(page, ';', 'Note');
  await clickAt(page, 600, 400);
  await clickAt(page, 850, 450);
  await page.getByRole('textbox', { name: 'Text of the note' }).fill('Check the weir');
  await page.keyboard.press('Enter');
  await expect(rows(page)).toHaveText(['rectangle', 'circle', 'note: Check the weir']);
  await expectAccessible(page, 'marks');
  await page.keyboard.press('Escape');

  // choose by a click, give another look, move by its grip, delete; all of it back by name
  await clickAt(page, 1300, 1150);
  await expect(prompt(page)).toContainText('A mark is chosen');
  await page.getByTitle('dotted').click();
  const grip = page.getByRole('button', { name: 'Point 2 of the rectangle' });
  await grip.focus();
  await page.keyboard.press('ArrowRight');
  // the mouse draws a grip, and draws nothing else: no box of picks begins
  const { x, y, width, height } = (await grip.boundingBox())!;
  const [fromX, fromY] = [x + width / 2, y + height / 2];
  await page.mouse.move(fromX, fromY);
  await page.mouse.down();
  await page.mouse.move(fromX + 60, fromY + 40, { steps: 4 });
  await expect(page.locator('.pick-box')).toHaveCount(0);
  await page.mouse.up();
  const boxOf = async (): Promise<number> => Math.round((await grip.boundingBox())!.x + width / 2 - fromX);
  await expect.poll(async () => Math.abs((await boxOf()) - 60)).toBeLessThan(12); // a snap may take it a little farther
  expect((await inspectPane(page)).picked).toBe(0);
  await page.locator('.pane-surface').focus();
  await page.keyboard.press('Delete');
  await expect(rows(page)).toHaveCount(2);
  for (const name of [
    'Undo delete a mark',
    'Undo move a point',
    'Undo move a point',
    'Undo change a mark',
    'Undo note',
  ])
    await page.getByRole('button', { name }).click();
  await expect(rows(page)).toHaveText(['rectangle', 'circle']);
  await page.locator('.pane-surface').focus();
  await page.keyboard.press('Control+Shift+Z');
  await expect(rows(page)).toHaveText(['rectangle', 'circle', 'note: Check the weir']);
  await expect(page.getByText('Saved')).toBeVisible();

  const second = await context.newPage();
  await second.goto(page.url());
  await settled(second);
  await expect.poll(async () => (await inspectPane(second)).marks).toBe(3);
  await second.locator('.pane-surface').focus();
  await page.keyboard.press('Control+z');
  await expect.poll(async () => (await inspectPane(second)).marks).toBe(2);
  await page.getByRole('checkbox', { name: /^Marks/ }).uncheck();
  await page.reload();
  await settled(page);
  await expect(rows(page)).toHaveText(['rectangle', 'circle']);
});

test('an area is hatched where it is closed; where it is open the gap is told; a look is taken over', async ({
  page,
  app,
}) => {
  await openParts(page, app);
  await take(page, ';', 'Hatch');
  // what a click would hatch is shown under the cursor
  const inside = await at(page, 450, 550);
  await page.mouse.move(inside.x, inside.y);
  await expect(page.getByRole('img', { name: 'Area' })).toBeVisible();
  await clickAt(page, 450, 550);
  await expect(rows(page)).toHaveText(['hatch']);
  await clickAt(page, 800, 1000);
  await expect(prompt(page)).toContainText('The area is open: the gap is 40\u00a0mm wide');
  await page.getByRole('button', { name: 'Hatch as if it were closed' }).click();
  await expect(rows(page)).toHaveText(['hatch', 'hatch']);
  await page.keyboard.down('Shift');
  await clickAt(page, 1700, 800);
  await page.keyboard.up('Shift');
  await expect(page.getByRole('button', { name: 'Colour, #a02020' })).toBeVisible();
  await expect(page.getByRole('textbox', { name: 'Layer of marks' })).toHaveValue('Basins');
  await expect(rows(page)).toHaveCount(2);
});

test('a search for an area says so, and ends at once when it is called off', async ({ page, app }) => {
  await openSitePlan(page, app);
  await take(page, ';', 'Hatch');
  // beyond the site, where nothing closed lies around
  const { rect } = await settled(page);
  const beyond = { x: rect.x + rect.width - 20, y: rect.y + 60 };
  await page.mouse.click(beyond.x, beyond.y);
  const looking = page.getByText(/^Looking for the area/);
  await expect(looking).toBeVisible();
  await page.keyboard.press('Escape');
  await expect(looking).toBeHidden();
  await expect(prompt(page)).toContainText('Hatch:');
  await page.keyboard.press('Escape');
  await expect.poll(async () => (await inspectPane(page)).tool).toBeNull();
  expect((await inspectPane(page)).marks).toBe(0);
});

test('snaps are a set of kinds, cycled by a key; figures have a unit and a precision; a measurement is kept', async ({
  page,
  app,
}) => {
  await openParts(page, app);
  await take(page, 't', 'Radius');
  const rim = await at(page, 1500 + 200 * Math.SQRT1_2, 800 - 200 * Math.SQRT1_2);
  await page.mouse.move(rim.x, rim.y);
  const word = page.locator('.snap-word');
  await expect(word).toContainText('centre');
  await page.mouse.click(rim.x, rim.y);
  await expect(page.getByRole('status', { name: 'Radius' })).toContainText('200\u00a0mm');
  await page.getByRole('button', { name: /^Figures in/ }).click();
  await page.getByLabel('Unit of lengths').selectOption('m');
  await page.getByTitle('2', { exact: true }).click();
  await expect(page.getByRole('status', { name: 'Radius' })).toContainText('0.20\u00a0m');
  await page.keyboard.press('Escape');
  await page.getByRole('button', { name: 'Keep as a mark' }).click();
  await expect(rows(page)).toHaveText(['radius: 0.20\u00a0m']);

  await page.getByRole('button', { name: /^Snaps/ }).click();
  await page.getByRole('button', { name: 'None' }).click();
  await page.getByRole('checkbox', { name: 'nearest' }).check();
  await page.getByRole('checkbox', { name: 'middle' }).check();
  await page.locator('.pane-surface').focus();
  const side = await at(page, 455, 402);
  await page.mouse.move(side.x, side.y);
  await expect(word).toContainText('middle +1');
  await page.keyboard.press('.');
  await expect(word).toContainText('nearest +1');

  // what is hidden draws nothing
  await page.getByRole('tab', { name: 'Layers' }).click();
  await page.getByRole('button', { name: 'All off' }).click();
  await page.mouse.move(side.x + 1, side.y);
  await expect(word).toHaveCount(0);
});

test('a work plane lies on a face, is looked at straight, kept, restored with a view, and the world is a key away', async ({
  page,
  app,
}) => {
  await openYard(page, app);
  const pane = await press(page, 'a');
  await page.getByRole('tab', { name: 'Marks' }).click();
  await take(page, '`', 'Plane by a face');
  // the tower's side to the south-east viewer
  const side = seenAt(pane, { x: E + 15_000, y: N + 5000, z: 4500 });
  await page.mouse.click(side.x, side.y);
  await expect(page.getByRole('img', { name: 'Work plane' })).toBeVisible();
  await page.keyboard.press('Escape');
  const straight = await press(page, "'");
  const { eye, target, up } = straight.camera;
  expect(Math.abs(eye.x - target.x) + Math.abs(eye.z - target.z)).toBeLessThan(1e-3);
  expect(eye.y).toBeLessThan(target.y);
  expect(up.z).toBeCloseTo(1, 9);
  await page.getByRole('textbox', { name: 'Name of the plane' }).fill('South side');
  await page.getByRole('button', { name: 'Keep', exact: true }).click();
  await press(page, 'Shift+J');
  await press(page, '\\');
  await expect(page.getByRole('img', { name: /^Work plane/ })).toHaveCount(0);
  await page.getByRole('tab', { name: 'Views' }).click();
  await page
    .getByRole('button', { name: /^Go to / })
    .first()
    .click();
  await expect(page.getByRole('img', { name: 'Work plane South side' })).toBeVisible();

  // a box on the plane: its height is told by the cursor along the plane's normal
  await take(page, ';', 'Box');
  const now = await settled(page);
  const low = seenAt(now, { x: E + 14_300, y: N + 5000, z: 3000 });
  await page.mouse.click(low.x, low.y);
  await expect(prompt(page)).toContainText('(1 placed)');
  await type(page, 'by 600, 500');
  await type(page, 'by 0, 0, 250');
  await page.getByRole('tab', { name: 'Marks' }).click();
  await expect(rows(page)).toHaveText(['box']);

  // with Ctrl held the plane follows the faces under the cursor while points are placed
  await press(page, '\\');
  await take(page, ';', 'Line');
  const on = await press(page, '1');
  const top = seenAt(on, { x: E + 15_000, y: N + 5000, z: 4000 });
  await page.keyboard.down('Control');
  await page.mouse.move(top.x + 5, top.y);
  await expect(page.getByRole('img', { name: 'Work plane', exact: true })).toBeVisible();
  await page.keyboard.up('Control');
});

test('a drawing is begun in metres: it can be moved about in while empty, and every number is in its unit', async ({
  page,
  app,
}) => {
  await page.setViewportSize(USUAL_VIEWPORT); // the foot has room for the scale bar
  await page.emulateMedia({ reducedMotion: 'reduce' });
  await page.goto(app.url);
  await page.getByRole('button', { name: 'Begin a drawing' }).click();
  await page.getByRole('textbox', { name: 'Name' }).fill('Outfall sketch');
  await page.getByTitle('m', { exact: true }).click();
  await expectAccessible(page, 'begin a drawing', '[role="dialog"]');
  await page.getByRole('button', { name: 'Begin', exact: true }).click();
  await expect(page.getByRole('button', { name: 'Fit all' })).toBeVisible();
  const empty = await settled(page);
  expect(empty.lost).toBe(false);
  for (const key of ['a', '+', 'f', 'Backspace', 'a']) await press(page, key);
  await page.getByRole('tab', { name: 'Marks' }).click();
  await take(page, ';', 'Rectangle');
  await type(page, '2, 3');
  await type(page, '250 ells');
  await expect(page.getByRole('textbox', { name: 'Place, way or length' })).toHaveValue('250 ells'); // no unit of ours
  await type(page, '14.5, 3500 mm');
  await expect(rows(page)).toHaveText(['rectangle']);
  await page.keyboard.press('Escape');
  const fitted = await press(page, 'a');
  expect(fitted.camera.widthWorld!).toBeGreaterThan(12.5);
  expect(fitted.camera.widthWorld!).toBeLessThan(20);
  const { rect } = fitted;
  await take(page, 't', 'Area');
  for (const place of ['2, 3', '14.5, 3', '14.5, 3.5', '2, 3.5']) await type(page, place);
  await page.locator('.pane-surface').focus();
  await page.keyboard.press('Enter');
  await expect(page.getByRole('status', { name: 'Area' })).toContainText('6.25\u00a0m²');
  await expect(page.getByRole('img', { name: /^Scale bar, \d+ m$/ })).toBeVisible();
  expect(fitted.scaleDenominator).toBeCloseTo((fitted.camera.widthWorld! * 1000) / ((rect.width * 25.4) / 96), 6);
});
