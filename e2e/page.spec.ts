import type { Page } from '@playwright/test';
import {
  expect,
  inspect,
  inspectPane,
  openChamber,
  openDrawing,
  openSitePlan,
  settled,
  test,
  worldAt,
  type RunningApp,
} from './app.ts';
import { yard } from './yard.ts';

test('reload brings the very view back, hidden layers too', async ({ page, app }) => {
  await openSitePlan(page, app);
  await page.mouse.move(700, 300);
  await page.mouse.wheel(0, -700);
  await page.getByRole('checkbox', { name: /^Contours/ }).uncheck();
  const before = await settled(page);
  await expect.poll(() => page.url()).toContain('hide=');
  await expect.poll(() => new URL(page.url()).searchParams.get('x')).toBe(String(before.camera.target.x));
  await page.reload();
  const after = await settled(page);
  expect(after.camera).toEqual(before.camera);
  await expect(page.getByRole('checkbox', { name: /^Contours/ })).not.toBeChecked();
});

test('layers are searched, counted, hidden and shown', async ({ page, app }) => {
  const all = await openSitePlan(page, app);
  const { layers } = (await inspect(page)).drawing!;
  expect(layers.length).toBeGreaterThanOrEqual(14);
  await page.getByRole('searchbox', { name: 'Search the layers' }).fill('filter');
  const rows = page.getByRole('list', { name: 'Layers' }).getByRole('checkbox');
  await expect(rows).toHaveCount(1);
  await page.getByRole('button', { name: 'Found off' }).click();
  const fewer = await settled(page);
  expect(fewer.drawn.segments).toBeLessThan(all.drawn.segments);
  expect((await inspect(page)).drawing!.layers.filter(({ visible }) => !visible).map(({ name }) => name)).toEqual([
    'Filter cells',
  ]);
  await page.getByRole('button', { name: 'All found on' }).click();
  expect((await settled(page)).drawn.segments).toBe(all.drawn.segments);
});

test('a fit looks only at the layers that are shown', async ({ page, app }) => {
  const all = await openSitePlan(page, app);
  await page.getByRole('button', { name: 'All off' }).click();
  await page.getByRole('checkbox', { name: /^Pumps/ }).check();
  await page.keyboard.press('a');
  const pumps = await settled(page);
  expect(pumps.camera.widthWorld!).toBeLessThan(all.camera.widthWorld! / 4);
});

test('the foot tells scale and place of the cursor', async ({ page, app }) => {
  const pane = await openSitePlan(page, app);
  await page.mouse.move(600, 400);
  const world = worldAt(pane, 600, 400);
  const place = await page.getByRole('note', { name: 'Cursor', exact: true }).textContent();
  const [east, north] = /E ([\d\u202f]+).*N ([\d\u202f]+)/
    .exec(place!)!
    .slice(1)
    .map((text) => Number(text.replaceAll('\u202f', '')));
  expect(Math.abs(east! - world.x)).toBeLessThanOrEqual(0.5);
  expect(Math.abs(north! - world.y)).toBeLessThanOrEqual(0.5);
  await page.keyboard.press('+');
  const closer = await settled(page);
  const scale = await page.getByRole('button', { name: /^Scale, / }).textContent();
  expect(Number(scale!.replace('1:', '').replaceAll(/\s/g, ''))).toBeCloseTo(closer.scaleDenominator, -1);
});

test('both themes show the drawing; the choice stays', async ({ page, app }) => {
  await openSitePlan(page, app);
  const ground = (): Promise<string> => page.evaluate(() => getComputedStyle(document.body).backgroundColor);
  expect(await ground()).toBe('rgb(247, 243, 234)');
  await page.getByRole('button', { name: 'Night watch, dark' }).click();
  await settled(page);
  expect(await ground()).toBe('rgb(15, 27, 38)');
  await page.reload();
  await settled(page);
  expect(await ground()).toBe('rgb(15, 27, 38)');
});

test('every control says its name, what it does and its keys', async ({ page, app }) => {
  await openSitePlan(page, app);
  await page.getByRole('button', { name: 'Frame corners' }).hover();
  const tip = page.getByRole('tooltip');
  await expect(tip).toContainText('Frame corners');
  await expect(tip).toContainText('fills the pane');
  await expect(tip).toContainText('C');
});

test('the keyboard reaches every control, in order', async ({ page, app }) => {
  await openSitePlan(page, app);
  const reached = new Set<string>();
  for (let i = 0; i < 70; i++) {
    await page.keyboard.press('Tab');
    reached.add(
      await page.evaluate(() => {
        const { activeElement } = document;
        return activeElement?.getAttribute('aria-label') ?? activeElement?.textContent ?? '';
      }),
    );
  }
  for (const name of [
    'Gull Pane, all drawings',
    'Fold the shelf',
    'Search the layers',
    'Frame corners',
    'Fit all',
    'Forward',
  ]) {
    expect([...reached]).toContain(name);
  }
  expect([...reached].some((name) => name.includes('arrows move'))).toBe(true);
});

test('what isn’t there is explained', async ({ page, app }) => {
  await page.goto(`${app.url}d/00000000-0000-4000-8000-000000000000`);
  await expect(page.getByRole('alert')).toContainText('There is no such drawing');
  await page.getByRole('link', { name: 'All drawings', exact: true }).click();
  await expect(page.getByRole('heading', { name: 'Drawings' })).toBeVisible();
  await page.goto(`${app.url}no/such/page`);
  await expect(page.getByRole('alert')).toContainText('nothing at this address');
});

test('no request leaves the machine, and the page reports no error', async ({ page, app }) => {
  const outside: string[] = [];
  const errors: string[] = [];
  page.on('request', (request) => {
    if (!request.url().startsWith(app.url) && !/^(data|blob):/.test(request.url())) outside.push(request.url());
  });
  page.on('console', (message) => {
    if (message.type() === 'error') errors.push(message.text());
  });
  page.on('pageerror', (error) => errors.push(error.message));
  await openSitePlan(page, app);
  await page.keyboard.press('+');
  await settled(page);
  expect(outside).toEqual([]);
  expect(errors).toEqual([]);
  expect((await inspectPane(page)).id).toBe('1');
});

test('the theme is the system’s until another is chosen', async ({ app, browser }) => {
  const context = await browser.newContext({ colorScheme: 'dark' });
  const page = await context.newPage();
  await page.goto(app.url);
  const night = page.getByRole('button', { name: 'Night watch, dark' });
  const day = page.getByRole('button', { name: 'Chart room, light' });
  await expect(night).toHaveAttribute('aria-pressed', 'true');
  await day.click();
  await page.reload();
  await expect(day).toHaveAttribute('aria-pressed', 'true');
  await context.close();
});

test('a pane is never blank while it is resized, and the page never scrolls', async ({ page, app }) => {
  await openSitePlan(page, app);
  // looked at whenever the pane's size has changed, before that is painted, and at every frame
  await page.evaluate(() => {
    const surface = document.querySelector('.pane-surface')!;
    const canvas = surface.querySelector('canvas')!;
    const small = Object.assign(document.createElement('canvas'), { width: 96, height: 60 });
    const paper = small.getContext('2d', { willReadFrequently: true })!;
    const seen = { looks: 0, blank: 0, scrolled: 0 };
    const look = (): void => {
      paper.drawImage(canvas, 0, 0, 96, 60);
      const { data } = paper.getImageData(0, 0, 96, 60);
      const isBlank = data.every((value, index) => value === data[index % 4]);
      seen.looks++;
      if (isBlank) seen.blank++;
      if (document.documentElement.scrollHeight > window.innerHeight || window.scrollY > 0) seen.scrolled++;
    };
    new ResizeObserver(look).observe(surface);
    const again = (): void => {
      look();
      requestAnimationFrame(again);
    };
    requestAnimationFrame(again);
    Object.assign(window, { seen });
  });
  for (const width of [900, 1100, 820, 960]) {
    await page.setViewportSize({ width, height: width - 320 });
    await settled(page);
  }
  await page.getByRole('button', { name: 'Fold the shelf' }).click();
  await settled(page);
  const { rect } = await settled(page);
  await page.mouse.click(rect.x + rect.width - 10, rect.y + rect.height - 10, { button: 'right' });
  await expect(page.getByRole('menuitem').first()).toBeVisible();
  await page.keyboard.press('Escape');
  const seen = await page.evaluate(() => (window as unknown as { seen: Record<string, number> }).seen);
  expect(seen.looks).toBeGreaterThan(10);
  expect([seen.blank, seen.scrolled]).toEqual([0, 0]);
});

test(
  'another drawing is shown by the switcher, with the mouse and with keys',
  { tag: '@daily' },
  async ({ page, app }) => {
    await page.emulateMedia({ reducedMotion: 'reduce' });
    await openSitePlan(page, app);
    const switcher = (name: RegExp) => page.getByRole('banner').getByRole('button', { name });
    await switcher(/^Site general arrangement/).click();
    await page.getByRole('menuitem', { name: /pump hall$/ }).click();
    await expect(switcher(/pump hall$/)).toBeVisible();
    await expect(page.getByRole('heading', { level: 1, name: /pump hall$/ })).toBeAttached();
    await switcher(/pump hall$/).focus();
    await page.keyboard.press('Enter');
    await expect(page.locator('[role=menuitem]:focus')).toBeVisible();
    await page.keyboard.press('Escape');
    await expect(page.getByRole('menuitem')).toHaveCount(0);
    await expect(switcher(/pump hall$/)).toBeFocused();
    await page.keyboard.press('Enter');
    await expect(page.locator('[role=menuitem]:focus')).toBeVisible();
    await page.keyboard.press('End');
    await expect(page.getByRole('menuitem', { name: 'All drawings' })).toBeFocused();
    await page.keyboard.press('Enter');
    await expect(page.getByRole('heading', { level: 1, name: 'Drawings' })).toBeVisible();
  },
);

for (const [kind, open] of [
  ['plan', openChamber],
  ['model', (page: Page, app: RunningApp) => openDrawing(page, app, 'Yard', yard())],
] as const)
  test(`a ${kind} is there again after the graphics processor was reset`, async ({ page, app }) => {
    await open(page, app);
    const picture = page.locator('.pane-surface').first();
    const before = await picture.screenshot();
    await page.evaluate(async () => {
      const canvas = document.querySelector<HTMLCanvasElement>('.pane-surface canvas')!;
      const reset = canvas.getContext('webgl2')!.getExtension('WEBGL_lose_context')!;
      const lost = new Promise((resolve) => canvas.addEventListener('webglcontextlost', resolve, { once: true }));
      reset.loseContext();
      await lost;
      // the browser takes the loss in once all listeners have heard of it
      await new Promise((resolve) => requestAnimationFrame(resolve));
      const restored = new Promise((resolve) =>
        canvas.addEventListener('webglcontextrestored', resolve, { once: true }),
      );
      reset.restoreContext();
      await restored;
    });
    await settled(page);
    await expect.poll(async () => (await picture.screenshot()).equals(before)).toBe(true);
  });
