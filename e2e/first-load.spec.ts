/** What opening a drawing costs over the wire, and a page whose code doesn't come. */
import { chooseSmoothEdges, expect, inspectPane, openChamber, openSitePlan, settled, test } from './app.ts';

/** Of the page with everything that it needs before the drawing stands, tiles apart. */
const MOST_BYTES = 500_000;
const TILE = /\/tiles\/r\d+\/(\d+\.(glb|detail|fills|objects)|objects\.index)$/;

test('opening a drawing takes at most 500 kB over the wire, without tiles', async ({ page, app, browser }) => {
  await openSitePlan(page, app);
  const address = page.url();
  const context = await browser.newContext({ viewport: { width: 1280, height: 800 } }); // nothing cached
  await chooseSmoothEdges(context, 'off');
  const first = await context.newPage();
  await first.goto(address);
  await settled(first);
  const resources = await first.evaluate(() =>
    performance
      .getEntries()
      .filter((entry) => entry instanceof PerformanceResourceTiming) // the page itself is one, too
      .map(({ name, transferSize }) => [name, transferSize] as const),
  );
  const counted = resources.filter(([name]) => !TILE.test(new URL(name).pathname));
  expect(counted.some(([name]) => /assets\/.*\.js$/.test(name))).toBe(true);
  const bytes = counted.reduce((sum, [, size]) => sum + size, 0);
  const largest = counted
    .sort(([, a], [, b]) => b - a)
    .slice(0, 5)
    .map(([name, size]) => `${new URL(name).pathname} ${size}`);
  expect(bytes, largest.join(', ')).toBeLessThan(MOST_BYTES);
  expect(bytes).toBeGreaterThan(100_000); // it was loaded, not taken from a cache
  await context.close();
});

test('a page whose code doesn’t come says so in its place, with a way back', async ({ page, app }) => {
  await page.goto(app.url);
  await page.route('**/assets/drawing-page-*.js', (route) => route.abort());
  await page.getByRole('link', { name: 'Site general arrangement' }).click();
  const told = page.getByRole('alert');
  await expect(told).toContainText('This page has stopped working');
  await expect(told.getByRole('button', { name: 'Open it again' })).toBeVisible();
  await page.unroute('**/assets/drawing-page-*.js');
  await told.getByRole('link', { name: 'All drawings' }).click();
  await expect(page.getByRole('heading', { name: 'Drawings' })).toBeVisible();
  await page.getByRole('link', { name: 'Site general arrangement' }).click();
  await expect(page.getByRole('button', { name: 'Fit all' })).toBeVisible();
});

test('a panel whose code doesn’t come says so in its place; the drawing works on, and it can be tried again', async ({
  page,
  app,
}) => {
  const before = await openChamber(page, app);
  await page.route('**/assets/panes-panel-*.js', (route) => route.abort());
  await page.getByRole('tab', { name: 'Panes' }).click();
  const told = page.getByRole('tabpanel').getByRole('alert');
  await expect(told).toContainText('This part has stopped working');
  await page.keyboard.press('+');
  await expect.poll(async () => (await inspectPane(page)).camera.widthWorld!).toBeLessThan(before.camera.widthWorld!);
  await page.unroute('**/assets/panes-panel-*.js');
  await told.getByRole('button', { name: 'Show it again' }).click();
  await expect(page.getByRole('tabpanel').getByRole('button', { name: 'Keep this arrangement' })).toBeVisible();
});
