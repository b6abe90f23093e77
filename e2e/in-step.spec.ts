/** Windows that stay in step, and a server that goes away and comes back. */
import { rm } from 'node:fs/promises';
import { createServer, type AddressInfo } from 'node:net';
import type { Page } from '@playwright/test';
import { emptyFolder, expect, openChamber, openDrawing, openSitePlan, settled, startApp, test } from './app.ts';
import { chooseInMenu, middleOf, panesSettled, perPx, pressKey } from './many-panes.ts';
import { press } from './yard.ts';

const names = (page: Page) => page.locator('.view-name');
async function openViews(page: Page, url: string): Promise<void> {
  await page.goto(url);
  await settled(page);
  await page.getByRole('tab', { name: 'Views' }).click();
}
async function rename(page: Page, from: string, to: string): Promise<void> {
  await names(page).filter({ hasText: from }).dblclick();
  await page.getByRole('textbox', { name: 'Name of the view' }).fill(to);
  await page.keyboard.press('Enter');
}
const plan = (width: number): string =>
  `<svg xmlns="http://www.w3.org/2000/svg" width="4000mm" height="3000mm" viewBox="0 0 4000 3000">
     <g id="Walls"><rect x="100" y="100" width="${width}" height="2000" fill="none" stroke="#333" stroke-width="10"/></g>
     <g id="Far"><circle cx="3600" cy="2700" r="200" fill="none" stroke="#c33" stroke-width="10"/></g></svg>`;

test('each window keeps its own trail, and sees the views that another one has had', async ({ page, app, context }) => {
  await openChamber(page, app);
  const { origin, pathname } = new URL(page.url());
  const views = async (): Promise<number> => {
    const trail = (await (await fetch(`${origin}/api/drawings/${pathname.split('/').at(-1)}/trail`)).json()) as {
      views: unknown[];
    };
    return trail.views.length;
  };
  await page.locator('.pane-surface').focus();
  for (const key of ['+', '-', '+']) {
    await page.keyboard.press(key);
    await settled(page);
  }
  const { history } = await settled(page);
  await expect.poll(views).toBe(history.length);
  const other = await context.newPage();
  await other.goto(origin + pathname);
  // it goes on where the first one was, and fits everything: its address tells no view
  expect((await settled(other)).history.length).toBe(history.length + 1);
  await other.locator('.pane-surface').focus();
  await other.keyboard.press('ArrowLeft');
  await settled(other);
  await expect.poll(views).toBe(history.length + 2);
  await other.close();
  await page.reload();
  expect((await settled(page)).history).toEqual(history);
  // the other window's view is a way beside the own ones
  await expect(page.getByRole('button', { name: /ways? left here/ }).first()).toBeVisible();
});

test('two windows on one drawing stay in step; what both change at once is a choice', async ({ page, app }) => {
  await openDrawing(page, app, 'Pump chamber', plan(900));
  await page.getByRole('tab', { name: 'Views' }).click();
  await press(page, 'Shift+J');
  await expect(names(page)).toHaveCount(1);
  const other = await page.context().newPage();
  await openViews(other, page.url());
  await rename(page, '1:', 'Chamber');
  await expect(names(other)).toHaveText(['Chamber']);
  await press(other, 'Shift+J');
  await expect(names(page)).toHaveCount(2);
  await rename(other, '1:', 'Whole');
  await expect(names(page)).toHaveText(['Chamber', 'Whole']);
  await other.getByRole('button', { name: 'More for Whole' }).click();
  await other.getByRole('menuitem', { name: 'Delete' }).click();
  await expect(names(page)).toHaveText(['Chamber']);
  await other.getByRole('button', { name: 'Undo delete' }).click();
  await expect(names(page)).toHaveText(['Chamber', 'Whole']);
  await other.close();

  // a third window hears nothing, so that it changes what is no longer there
  const deaf = await page.context().newPage();
  await deaf.route('**/api/events', (route) => route.abort());
  await openViews(deaf, page.url());
  await rename(page, 'Chamber', 'Chamber, north wall');
  await expect(page.getByRole('status', { name: 'Saving' })).toHaveText('Saved');
  await rename(deaf, 'Chamber', 'Chamber, inlet');
  const choice = deaf.getByRole('dialog', { name: /was changed in another window, too/ });
  await expect(choice.getByRole('region', { name: 'From the other window' })).toContainText('Chamber, north wall');
  await expect(choice.getByRole('region', { name: 'From this window' })).toContainText('Chamber, inlet');
  await choice.getByRole('button', { name: 'Make it mine' }).click();
  await expect(names(page)).toHaveText(['Chamber, inlet', 'Whole']);
  await rename(page, 'Whole', 'Whole chamber');
  await expect(page.getByRole('status', { name: 'Saving' })).toHaveText('Saved');
  await rename(deaf, 'Whole', 'All');
  await choice.getByRole('button', { name: 'Keep theirs' }).click();
  await expect(names(deaf)).toHaveText(['Chamber, inlet', 'Whole chamber']);
});

test('cards say whether what lies in their frame has changed when the drawing has come in anew', async ({
  page,
  app,
}) => {
  await openDrawing(page, app, 'Outfall chamber', plan(900));
  const id = new URL(page.url()).pathname.split('/').at(-1)!;
  await page.getByRole('tab', { name: 'Views' }).click();
  const frame = async (fromX: number, fromY: number, toX: number, toY: number): Promise<void> => {
    const pane = await press(page, 'a');
    await press(page, 'c');
    const at = (x: number, y: number) => ({
      x: pane.rect.x + x * pane.rect.width,
      y: pane.rect.y + y * pane.rect.height,
    });
    for (const { x, y } of [at(fromX, fromY), at(toX, toY)]) await page.mouse.click(x, y);
    await settled(page);
  };
  await frame(0.1, 0.1, 0.45, 0.5);
  await press(page, 'Shift+J');
  await expect(names(page)).toHaveCount(1);
  await frame(0.72, 0.7, 0.95, 0.95);
  await press(page, 'Shift+J');
  await expect(names(page)).toHaveCount(2);
  await rename(page, (await names(page).first().textContent())!, 'Wall');
  await expect(names(page).first()).toHaveText('Wall');
  const body = new FormData();
  body.append('file', new File([plan(950)], 'Outfall chamber.svg'));
  await fetch(`${app.url}api/drawings/${id}/source`, { method: 'PUT', body });
  await expect(page.getByText('has come in anew: reload the page to see it')).toBeVisible();
  await page.reload();
  await settled(page);
  const notes = page.getByRole('note', { name: 'Content' });
  await expect(notes).toHaveText(['The content here has changed since', 'The content here is as it was']);
});

test('the server is killed and comes back: the page says so, goes on, and saves what was done meanwhile', async ({
  page,
}) => {
  const folder = await emptyFolder();
  const port = await freePort();
  const first = await startApp(folder, { PORT: String(port) });
  await openDrawing(page, first, 'Killed', plan(800));
  await page.getByRole('tab', { name: 'Views' }).click();
  await press(page, 'Shift+J');
  await expect(page.getByRole('status', { name: 'Saving' })).toHaveText('Saved');
  first.process.kill('SIGKILL');
  await expect(page.getByRole('status', { name: 'Saving' })).toContainText('can’t be reached');
  // the drawing is still there to look at, and changes wait
  await rename(page, '1:', 'Before the fall');
  await press(page, '+');
  await press(page, 'Shift+J');
  await expect(names(page)).toHaveCount(2);
  await expect(page.getByRole('status', { name: 'Saving' })).toContainText('2 changes wait');
  const second = await startApp(folder, { PORT: String(port) });
  await expect(page.getByRole('status', { name: 'Saving' })).toHaveText('Saved');
  const id = new URL(page.url()).pathname.split('/').at(-1)!;
  const kept = (await (await fetch(`${second.url}api/drawings/${id}/cards`)).json()) as { name: string }[];
  expect(kept.map(({ name }) => name)).toEqual(['Before the fall', await names(page).nth(1).textContent()]);
  await page.reload();
  await settled(page);
  await expect(names(page)).toHaveCount(2);
  await second.stop();
  await rm(folder, { recursive: true, force: true });
});

test('a pane in a window of its own stays tied, and comes back when that window is closed', async ({ page, app }) => {
  await page.emulateMedia({ reducedMotion: 'reduce' });
  await openSitePlan(page, app);
  await pressKey(page, 'F2', 2);
  await chooseInMenu(page, 1, 'Tie to', 'Pane 1');
  const opening = page.waitForEvent('popup');
  await chooseInMenu(page, 1, 'In a window of its own');
  const own = await opening;
  await own.emulateMedia({ reducedMotion: 'reduce' });
  const [there] = await panesSettled(own, 1);
  const [here] = await panesSettled(page, 1);
  expect(there!.camera.target).toEqual(here!.camera.target);
  // either leads
  await own.mouse.move(middleOf(there!).x, middleOf(there!).y);
  await own.mouse.wheel(0, -240);
  await expect.poll(async () => perPx((await panesSettled(page, 1))[0]!)).toBeLessThan(perPx(here!) * 0.95);
  const zoomed = (await panesSettled(own, 1))[0]!;
  await expect.poll(async () => (await panesSettled(page, 1))[0]!.camera.target).toEqual(zoomed.camera.target);
  await page.bringToFront();
  const [closer] = await pressKey(page, '+', 1);
  await expect.poll(async () => perPx((await panesSettled(own, 1))[0]!)).toBeCloseTo(perPx(closer!), 9);
  // the cursor is echoed over there
  await page.mouse.move(middleOf(closer!).x - 30, middleOf(closer!).y + 20);
  await expect(own.locator('.echo g')).toBeVisible();
  await own.close({ runBeforeUnload: true });
  const back = await panesSettled(page, 2);
  expect(perPx(back[1]!)).toBeCloseTo(perPx(closer!), 9);
});

/** A port that nobody listens on. */
async function freePort(): Promise<number> {
  const server = createServer();
  await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve));
  const { port } = server.address() as AddressInfo;
  await new Promise((resolve) => server.close(resolve));
  return port;
}
