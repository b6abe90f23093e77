/** Going by name, being lost and found, strays, and a page that can't get lost either. */
import type { Page } from '@playwright/test';
import {
  USUAL_VIEWPORT,
  expect,
  expectAccessible,
  inspectPane,
  openDrawing,
  openSitePlan,
  settled,
  test,
} from './app.ts';
import { panesSettled, pressKey } from './many-panes.ts';

const find = (page: Page) => page.getByRole('combobox', { name: 'Find' });

test.beforeEach(async ({ page }) => page.emulateMedia({ reducedMotion: 'reduce' }));

test(
  'a valve is found by its tag, also mistyped, and is read at once; next and back',
  { tag: '@daily' },
  async ({ page, app }) => {
    await openSitePlan(page, app);
    await page.keyboard.press('g');
    await expect(find(page)).toBeFocused();
    await page.keyboard.type('ksva0402');
    const options = page.getByRole('listbox', { name: 'Found' }).getByRole('option');
    await expect(options.first()).toContainText('KS-VA-0402');
    await expect(page.getByText(/^No text has/)).toBeHidden();
    await page.keyboard.type('x');
    await expect(page.getByText(/^No text has “ksva0402x” in it\. The texts above are similar\./)).toBeVisible();
    await page.keyboard.press('Backspace');
    await expect(page.getByText(/^No text has/)).toBeHidden();
    await page.keyboard.press('Enter');
    const at = await settled(page);
    expect(at.scaleDenominator).toBeLessThan(300);
    expect(at.history).toEqual({ length: 2, index: 1 });
    await expect(page.getByRole('status', { name: 'Hits' })).toHaveText(/^1 of \d+$/);

    await find(page).fill('KS-VA-04');
    await expect(options.first()).toContainText('KS-VA-0401');
    await page.keyboard.press('Enter');
    const first = await settled(page);
    await expect(page.getByRole('application')).toBeFocused(); // the keys belong to the pane again
    await page.keyboard.press('h');
    await expect.poll(async () => (await settled(page)).camera.target.x).not.toBe(first.camera.target.x);
    await page.keyboard.press('Shift+H');
    await expect.poll(async () => (await settled(page)).camera.target.x).toBe(first.camera.target.x);
    await page.keyboard.press('Backspace');
    await expect.poll(async () => (await inspectPane(page)).camera.target.x).not.toBe(first.camera.target.x);
  },
);

test('a text on a hidden layer is found, and going there shows it', async ({ page, app }) => {
  await openSitePlan(page, app);
  await page.getByRole('checkbox', { name: /^Building names/ }).uncheck();
  await page.keyboard.press('g');
  await page.keyboard.type('membrane hal');
  const option = page.getByRole('option', { name: /Membrane hall/ }).first();
  await expect(option).toContainText('hidden');
  await option.click();
  await settled(page);
  await expect(page.getByRole('checkbox', { name: /^Building names/ })).toBeChecked();
});

test('what is chosen by mouse is shown in the active pane, which stays the active one', async ({ page, app }) => {
  await openSitePlan(page, app);
  const [left, right] = await pressKey(page, 'F2', 2);
  expect([left!.active, right!.active]).toEqual([false, true]);
  await page.keyboard.press('g');
  await page.keyboard.type('KS-VA-0402');
  await page
    .getByRole('option', { name: /KS-VA-0402/ })
    .first()
    .click();
  const [stays, moved] = await panesSettled(page, 2);
  expect(moved!.active).toBe(true);
  expect(stays!.camera).toEqual(left!.camera);
  expect(moved!.scaleDenominator).toBeLessThan(300);
});

test('places, scales, bearings, steps, layers and actions by the field’s language', async ({ page, app }) => {
  await openSitePlan(page, app);
  const say = async (text: string): Promise<void> => {
    await find(page).fill(text);
    await expect(page.getByRole('option').first()).toBeVisible();
    await find(page).press('Enter');
    await settled(page);
  };
  await say('412600500, 7208400250');
  expect((await inspectPane(page)).camera.target).toMatchObject({ x: 412_600_500, y: 7_208_400_250 });
  await say('1:200');
  expect((await inspectPane(page)).scaleDenominator).toBeCloseTo(200, 9);
  await say('bearing 30');
  const { up } = (await inspectPane(page)).camera;
  expect((Math.atan2(up.x, up.y) * 180) / Math.PI).toBeCloseTo(30, 9);
  await say('back 3');
  expect((await inspectPane(page)).history.index).toBe(0);
  await say('layer wall hatch');
  expect((await inspectPane(page)).history.index).toBe(1);
  await say('fit al');
  expect((await inspectPane(page)).history.index).toBe(2);
  await find(page).fill('scale house');
  await expect(page.getByText('For a command, a scale, as in “1:200” or “scale 200” is understood.')).toBeVisible();
  await find(page).fill('qqqqqq');
  await expect(page.getByText(/^Nothing is called “qqqqqq”/)).toBeVisible();
});

/** Two lines far apart with nothing between them, and a wide one. */
const gap = `<svg xmlns="http://www.w3.org/2000/svg" width="4000mm" height="3000mm" viewBox="0 0 4000 3000" fill="none" stroke="#16324A">
<g id="Lines"><path d="M0 0V3000M4000 0V3000"/><path d="M500 1500H1500" stroke-width="100"/></g></svg>`;

test('lost: said at once, also between lines; which way, how far, one key back; a line that crosses is enough', async ({
  page,
  app,
}) => {
  await openDrawing(page, app, 'Gap', gap);
  const { id } = await page.evaluate(() => window.gullPane.inspect().drawing!);
  const look = async (x: number, y: number, unitsPerPx: number): Promise<boolean> => {
    await page.goto(`${app.url}d/${id}?x=${x}&y=${y}&s=${unitsPerPx}`);
    await settled(page);
    return page
      .getByRole('status', { name: 'Lost' })
      .waitFor({ timeout: 4000 })
      .then(
        () => true,
        () => false,
      );
  };
  const { min, max } = (await page.evaluate(() => window.gullPane.inspect().drawing!.extents))!;
  const middle = (min.y + max.y) / 2;
  expect(await look(min.x + 2500, middle, 0.5)).toBe(true); // in between
  const beacon = page.getByRole('button', { name: /go there$/ });
  await expect(beacon).toContainText(/\d+ mm/);
  await beacon.click();
  await settled(page);
  await expect(page.getByRole('status', { name: 'Lost' })).toBeHidden();
  expect(await look(min.x, middle, 0.5)).toBe(false); // a line crosses, both its ends far outside
  expect(await look(min.x + 1000, middle - 40, 0.02)).toBe(false); // within a wide line, its middle outside

  await page.keyboard.press('a');
  await settled(page);
  const full = await inspectPane(page);
  for (let i = 0; i < 12; i++) await page.keyboard.press('ArrowRight');
  await settled(page);
  await expect(page.getByRole('status', { name: 'Lost' })).toBeVisible();
  await page.keyboard.press('r');
  await expect.poll(async () => (await settled(page)).lost).toBe(false);
  expect((await inspectPane(page)).camera.widthWorld).toBe(full.camera.widthWorld);
});

const strays = `<svg xmlns="http://www.w3.org/2000/svg" width="80000mm" height="60000mm" viewBox="0 0 80000 60000" fill="none" stroke="#16324A">
<g id="Basins">${Array.from({ length: 300 }, (_, i) => `<rect x="${(i % 20) * 4000}" y="${Math.floor(i / 20) * 4000}" width="3000" height="2500"/>`).join('')}
<circle cx="41000000" cy="0" r="800"/><circle cx="41000000" cy="5000" r="800"/><circle cx="41500000" cy="0" r="800"/></g></svg>`;

test('three strays are told with their distance, left out, visited and shown', async ({ page, app }) => {
  await openDrawing(page, app, 'Strays', strays);
  const offer = page.getByRole('group', { name: 'Strays' });
  await expect(offer).toContainText('3 objects lie 41 km away');
  await offer.getByRole('button', { name: 'Show distances' }).click();
  await expect(page.getByRole('list', { name: 'Objects by distance' })).toContainText('300 up to');
  await page.keyboard.press('Escape');
  await offer.getByRole('button', { name: 'Visit them' }).click();
  await expect.poll(async () => (await settled(page)).camera.widthWorld!).toBeLessThan(10_000);
  expect((await inspectPane(page)).picked).toBe(1);
  await offer.getByRole('button', { name: 'Fit without them' }).click();
  await expect.poll(async () => (await settled(page)).camera.widthWorld!).toBeGreaterThan(79_000);
  const { rect, camera } = await inspectPane(page);
  // the basins’ own box touches the margin in one direction, exactly
  const unitsPerPx = camera.widthWorld! / rect.width;
  expect(Math.max(79_000 / (rect.width - 32), 58_500 / (rect.height - 32)) / unitsPerPx).toBeCloseTo(1, 9);
});

test('strays are hidden in one go: a fit then takes the rest alone, until all is shown again', async ({
  page,
  app,
}) => {
  await openDrawing(page, app, 'Strays', strays);
  const offer = page.getByRole('group', { name: 'Strays' });
  await offer.getByRole('button', { name: 'Hide them' }).click();
  const status = page.getByRole('contentinfo', { name: 'Status' });
  await expect(status).toContainText('3 objects hidden');
  await expect(offer).toBeHidden();
  const widthAfterFit = async (): Promise<number> => {
    await page.keyboard.press('a');
    return (await settled(page)).camera.widthWorld!;
  };
  await expect.poll(widthAfterFit).toBeLessThan(200_000);
  await page.keyboard.press('Shift+E');
  await expect(status).not.toContainText('hidden');
  await expect.poll(widthAfterFit).toBeGreaterThan(40_000_000);
});

test('folded parts are found by name, and one action restores the workspace', async ({ page, app }) => {
  await openSitePlan(page, app);
  for (const key of ['Shift+S', 'Shift+R', 'Shift+T']) await page.keyboard.press(key);
  await expect(page.getByRole('navigation', { name: 'Tools' })).toBeHidden();
  await page.keyboard.press('g');
  await page.keyboard.type('tool rail');
  await page.getByRole('option', { name: /^Tool rail/ }).click();
  await expect(page.getByRole('navigation', { name: 'Tools' })).toBeVisible();
  await page.keyboard.press('Shift+W');
  await expect(page.getByRole('list', { name: 'Layers' })).toBeVisible();
});

test('a feature of a GeoJSON file is found by its property; hints come one by one and never again', async ({
  page,
  app,
}) => {
  await page.setViewportSize(USUAL_VIEWPORT); // hints need room beside the prompt
  await page.goto(app.url);
  const features = Array.from({ length: 40 }, (_, i) => ({
    type: 'Feature',
    properties: { layer: 'Drains', tag: `KS-DR-${String(i).padStart(3, '0')}` },
    geometry: {
      type: 'LineString',
      coordinates: [
        [10, 56 + i / 1000],
        [10.001, 56 + i / 1000],
      ],
    },
  }));
  const text = JSON.stringify({ type: 'FeatureCollection', features });
  const choosing = page.waitForEvent('filechooser');
  await page.getByRole('button', { name: 'Import a drawing' }).click();
  await (
    await choosing
  ).setFiles({ name: 'Drains.geojson', mimeType: 'application/geo+json', buffer: Buffer.from(text) });
  await page.getByRole('link', { name: 'Drains' }).click();
  await settled(page);
  await page.keyboard.press('g');
  await page.keyboard.type('ksdr017');
  await expect(page.getByRole('option').first()).toContainText('tag: KS-DR-017');
  await page.keyboard.press('Enter');
  const { camera } = await settled(page);
  expect(camera.widthWorld! / 1000).toBeLessThan(150); // 62 m long, it fills the better part of the pane
  expect(camera.widthWorld! / 1000).toBeGreaterThan(62);
  await page.keyboard.press('Escape');

  const hint = page.getByRole('note', { name: 'Hint' });
  // what was used needn't be told any more
  await expect(hint).toContainText('shows all keys');
  for (let i = 0; i < 3; i++) await hint.getByRole('button', { name: 'Close the hint' }).click();
  await expect(hint).toBeHidden();
  await page.reload();
  await settled(page);
  await expect(hint).toBeHidden();
});

for (const theme of ['chart-room', 'night-watch']) {
  test(`nothing on any page stands in the way of assistive technology, ${theme}`, async ({ page, app }) => {
    await page.addInitScript((name) => {
      localStorage.setItem(
        'gull-pane-preferences',
        JSON.stringify({ state: { theme: name, smoothEdges: 'off' }, version: 0 }),
      );
    }, theme);
    // of what axe looks for only the contrast differs from theme to theme
    const rules = theme === 'chart-room' ? undefined : ['color-contrast'];
    const check = (where: string): Promise<void> => expectAccessible(page, where, undefined, rules);
    await openSitePlan(page, app);
    await check('site plan');
    await page.mouse.click(700, 300);
    await page.getByRole('tab', { name: 'Picked' }).click();
    await page.keyboard.press('g');
    await page.keyboard.type('pump');
    await expect(page.getByRole('option').first()).toBeVisible();
    await check('found and picked');
    await page.keyboard.press('Escape');
    await page.keyboard.press('Escape');
    await page.keyboard.press('Shift+?');
    await expect(page.getByRole('dialog')).toBeVisible();
    await check('sheet of keys');
    await page.goto(app.url);
    await expect(page.getByRole('link', { name: 'Site general arrangement' })).toBeVisible();
    await check('drawings');
    await page.goto(`${app.url}nowhere`);
    await check('nothing here');
  });
}
