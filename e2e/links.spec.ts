/** Links: every state of the panes is one. */
import { rm } from 'node:fs/promises';
import {
  VIEWPORT,
  chooseSmoothEdges,
  emptyFolder,
  expect,
  expectAccessible,
  openDrawing,
  settled,
  startApp,
  test,
} from './app.ts';
import { panesSettled, pressKey } from './many-panes.ts';
import { openYard, press, seenAt, towerTop, yard } from './yard.ts';

test('a link opens what all panes show, in another browser and on another server that has the drawing', async ({
  page,
  app,
  browser,
}) => {
  await page.context().grantPermissions(['clipboard-read', 'clipboard-write']);
  await openYard(page, app);
  await press(page, '4');
  await pressKey(page, 'F2', 2);
  await pressKey(page, 'w', 2);
  await pressKey(page, '1', 2);
  const over = await pressKey(page, 'a', 2);
  const tower = seenAt(over[1]!, { ...towerTop, z: 4500 });
  await page.mouse.click(tower.x, tower.y);
  await expect.poll(async () => (await panesSettled(page, 2))[1]!.picked).toBe(1);
  await pressKey(page, 'e', 2);
  await expect(page.getByText('1 object hidden')).toBeVisible();
  const before = await panesSettled(page, 2);
  await page.keyboard.press('F7');
  await expect(page.getByText('The link is copied')).toBeVisible();
  const short = await page.evaluate(() => navigator.clipboard.readText());
  expect(new URL(short).pathname).toMatch(/^\/v\/[a-z2-7]{10}$/);

  await page.keyboard.press('Shift+F7');
  const dialog = page.getByRole('dialog', { name: 'Share what the panes show' });
  await expect(dialog.getByRole('textbox', { name: 'Short link' })).toHaveValue(short);
  await expect(dialog.locator('.share-code')).toBeVisible();
  await expectAccessible(page, 'share');
  const long = await dialog.getByRole('textbox', { name: 'Long link' }).inputValue();
  await page.keyboard.press('Escape');

  const elsewhere = await browser.newContext({ viewport: VIEWPORT, reducedMotion: 'reduce' });
  await chooseSmoothEdges(elsewhere, 'off');
  const other = await elsewhere.newPage();
  const told = (panes: typeof before) => panes.map(({ active, rect, camera }) => ({ active, rect, camera }));
  for (const link of [short, long]) {
    await other.goto(link);
    expect(told(await panesSettled(other, 2))).toEqual(told(before));
    await expect(other.getByText('1 object hidden')).toBeVisible();
    await expect(other.getByRole('button', { name: 'Look, Materials' })).toHaveCount(1);
  }

  // another server knows no short link of this one; the long one opens there once the drawing is there, too
  const folder = await emptyFolder();
  const second = await startApp(folder);
  await other.goto(short.replace(app.url, second.url));
  await expect(other.getByRole('alert')).toContainText('This server knows no such link');
  await other.goto(long.replace(app.url, second.url));
  await expect(other.getByRole('alert')).toContainText('“Yard” isn’t on this server: import it here');
  await openDrawing(other, second, 'Yard', yard());
  await other.goto(long.replace(app.url, second.url));
  expect(told(await panesSettled(other, 2))).toEqual(told(before));
  await elsewhere.close();
  await second.stop();
  await rm(folder, { recursive: true, force: true });
});

test('links that are broken explain themselves; Back leaves the page, not a zoom', async ({ page, app }) => {
  const failure = page.getByRole('alert');
  await page.goto(`${app.url}v#1.abcdef`);
  await expect(failure).toContainText('It is damaged');
  await page.goto(`${app.url}v#9.abcdef`);
  await expect(failure).toContainText('newer version');
  await page.goto(`${app.url}v/aaaaaaaaaa`);
  await expect(failure).toContainText('knows no such link');

  await page.goto(app.url);
  await page.getByRole('link', { name: 'Site general arrangement' }).click();
  await settled(page);
  const url = page.url();
  for (const key of ['+', '+', 'a', '+']) await press(page, key);
  await expect.poll(() => page.url()).not.toBe(url);
  await page.goBack();
  await expect(page.getByRole('heading', { name: 'Drawings' })).toBeVisible();
  await page.goForward();
  await settled(page);
  await expect(page.getByRole('button', { name: 'Fit all' })).toBeVisible();
});
