/** Picking by click, box and likeness; what is under the cursor; framing in both orders. */
import type { Page } from '@playwright/test';
import { PNG } from 'pngjs';
import { expect, inspectPane, openDrawing, openSitePlan, settled, test, type RunningApp } from './app.ts';

const [E, N] = [412_345_000, 7_208_234_000];
/** Ten lines in a row, a circle with a line through it, a filled square: every size and place known. */
const bench = `<svg xmlns="http://www.w3.org/2000/svg" width="1000mm" height="600mm" viewBox="${E} ${-N} 1000 600" fill="none" stroke="#16324A">
<g id="Bars">${Array.from({ length: 10 }, (_, i) => `<path d="M${E + 50 + 60 * i} ${-N + 50}v200"/>`).join('')}</g>
<g id="Ring"><circle cx="${E + 800}" cy="${-N + 400}" r="100"/><path d="M${E + 650} ${-N + 400}h300"/></g>
<g id="Slab"><rect x="${E + 100}" y="${-N + 350}" width="200" height="150" fill="#1F7A8C" stroke="none"/></g></svg>`;

/** A page position of a place in the file, y down from its page's corner. */
async function at(page: Page, x: number, y: number): Promise<[number, number]> {
  const { rect, camera } = await inspectPane(page);
  const { extents } = (await page.evaluate(() => window.gullPane.inspect().drawing))!;
  const unitsPerPx = camera.widthWorld! / rect.width;
  // the bars begin 50 from the page's left and upper edges
  const world = { x: extents!.min.x + x - 50, y: extents!.max.y - (y - 50) };
  return [
    rect.x + rect.width / 2 + (world.x - camera.target.x) / unitsPerPx,
    rect.y + rect.height / 2 - (world.y - camera.target.y) / unitsPerPx,
  ];
}

const picked = async (page: Page): Promise<number> => (await inspectPane(page)).picked;

async function openBench(page: Page, app: RunningApp): Promise<void> {
  await page.emulateMedia({ reducedMotion: 'reduce' });
  await openDrawing(page, app, 'Test bench', bench);
}

async function box(page: Page, from: [number, number], to: [number, number]): Promise<void> {
  await page.mouse.move(...from);
  await page.mouse.down();
  await page.mouse.move((from[0] + to[0]) / 2, (from[1] + to[1]) / 2);
  await page.mouse.move(...to);
}

test('a slanted line lies level after one click on it; Frame corners meanwhile doesn’t drop the tool', async ({
  page,
  app,
}) => {
  await openBench(page, app);
  await page.locator('.pane-surface').focus();
  await page.keyboard.press('v');
  await page.keyboard.press('c');
  await box(page, await at(page, 60, 60), await at(page, 400, 300));
  await page.mouse.up();
  await expect.poll(async () => (await settled(page)).tool).toBe('level');
  const bar = await at(page, 170, 130);
  await page.mouse.move(bar[0] - 5, bar[1]);
  await page.mouse.move(...bar);
  await expect(page.getByRole('status', { name: 'Slope' })).toHaveText('90.00° from level');
  await page.mouse.click(...bar);
  await expect.poll(async () => Math.abs((await settled(page)).camera.up.x)).toBeCloseTo(1, 9);
  expect((await inspectPane(page)).tool).toBeNull();
});

test('what is under the cursor is told; a click picks, Shift adds and takes away, Escape clears', async ({
  page,
  app,
}) => {
  await openBench(page, app);
  const ring = await at(page, 900, 400 - 0.1);
  await page.mouse.move(ring[0], ring[1] - 20);
  await page.mouse.move(...(await at(page, 800 + 70.71, 400 - 70.71)));
  const under = page.getByRole('status', { name: 'Under the cursor' });
  await expect(under).toContainText('circle');
  await expect(under).toContainText('Ring');
  await expect(under).toContainText('628.319 mm'); // two π times 100
  // its outline goes with the view: none stays behind after a twist
  const outlined = (): Promise<number> =>
    page
      .locator('.pane-surface canvas')
      .nth(2)
      .evaluate((canvas: HTMLCanvasElement) => {
        const { data } = canvas.getContext('2d')!.getImageData(0, 0, canvas.width, canvas.height);
        return data.reduce((count, value, index) => count + (index % 4 === 3 && value > 0 ? 1 : 0), 0);
      });
  await expect.poll(outlined).toBeGreaterThan(0);
  await page.keyboard.press('[');
  await settled(page);
  await expect.poll(outlined).toBe(0);
  await page.keyboard.press(']');
  await settled(page);
  await page.mouse.click(...(await at(page, 800 + 70.71, 400 - 70.71)));
  await expect.poll(() => picked(page)).toBe(1);
  await page.keyboard.down('Shift');
  await page.mouse.click(...(await at(page, 50, 150)));
  await expect.poll(() => picked(page)).toBe(2);
  await page.mouse.click(...(await at(page, 50, 150)));
  await expect.poll(() => picked(page)).toBe(1);
  await page.keyboard.up('Shift');
  await page.keyboard.press('Escape');
  await expect.poll(() => picked(page)).toBe(0);
});

test('a box tells both counts before it is let go, and takes what it says, whichever way it was drawn', async ({
  page,
  app,
}) => {
  await openBench(page, app);
  // round the first four bars, half-way down the fifth's way: its right side cuts nothing, its lower side cuts all
  const [from, to] = [await at(page, 40, 40), await at(page, 260, 150)];
  const told = page.getByRole('status', { name: 'Box' });
  for (const [a, b] of [
    [from, to],
    [to, from],
  ] as const) {
    await box(page, a, b);
    await expect(told).toContainText('inside 0');
    await expect(told).toContainText('touched 4');
    await page.keyboard.press('x');
    await page.mouse.up();
    await expect.poll(() => picked(page)).toBe(4);
    await page.keyboard.press('x');
    await page.keyboard.press('Escape');
    await expect.poll(() => picked(page)).toBe(0);
  }
  // wholly round two of them
  await box(page, await at(page, 40, 40), await at(page, 140, 270));
  await expect(told).toContainText('inside 2');
  await page.mouse.up();
  await expect.poll(() => picked(page)).toBe(2);
  // a box within the filled slab touches it
  await box(page, await at(page, 150, 400), await at(page, 200, 450));
  await expect(told).toContainText('inside 0');
  await expect(told).toContainText('touched 1');
  await page.keyboard.press('Escape');
  await page.mouse.up();
  expect(await picked(page)).toBe(2);
});

test('what lies on top of each other is gone through; same kind, same layer, all others, only these layers', async ({
  page,
  app,
}) => {
  await openBench(page, app);
  await page.getByRole('tab', { name: 'Picked' }).click();
  const rows = page.getByRole('list', { name: 'Picked objects' }).getByRole('button');
  const crossing = await at(page, 900, 400); // the ring and the line through it
  await page.mouse.click(...crossing);
  await expect(rows).toHaveCount(1);
  const first = await rows.first().textContent();
  await page.mouse.click(...crossing);
  await expect(rows.first()).not.toHaveText(first!);
  await page.keyboard.press('n');
  await expect(rows.first()).toHaveText(first!);

  await page.keyboard.press('Escape');
  await page.mouse.click(...(await at(page, 50, 150)));
  await expect(rows).toHaveCount(1);
  await rows.first().click();
  await expect(page.getByText(/^line to 412\u202f345\u202f050, /)).toBeVisible();
  await page.getByRole('button', { name: 'Same layer' }).click();
  await expect.poll(() => picked(page)).toBe(10);
  await page.getByRole('button', { name: 'Same kind' }).click(); // the line through the ring is one, too
  await expect.poll(() => picked(page)).toBe(11);
  await page.getByRole('button', { name: 'All others' }).click();
  await expect.poll(() => picked(page)).toBe(2);
  await page.getByLabel('Name of the set').fill('Ring and slab');
  await page.getByRole('button', { name: 'Keep', exact: true }).click();
  await page.getByRole('button', { name: 'Only these layers' }).click();
  await expect
    .poll(() => page.evaluate(() => window.gullPane.inspect().drawing!.layers.filter((one) => one.visible).length))
    .toBe(2);
  await page.getByRole('button', { name: 'Clear picks' }).click();
  await expect.poll(() => picked(page)).toBe(0);
  await page.getByRole('button', { name: /^Ring and slab/ }).click();
  await expect.poll(() => picked(page)).toBe(2);
});

test('frame picked, both ways round: the exact box fills the pane', async ({ page, app }) => {
  await openBench(page, app);
  const start = await inspectPane(page);
  const expectRing = async (): Promise<void> => {
    await expect.poll(async () => (await settled(page)).camera.target.x).not.toBe(start.camera.target.x);
    const { rect, camera } = await settled(page);
    const height = (camera.widthWorld! / rect.width) * (rect.height - 32);
    expect(height).toBeCloseTo(200, 6); // the ring is 200 high, the margin 16 px at both sides
  };
  await page.mouse.click(...(await at(page, 800 + 70.71, 400 - 70.71)));
  await expect.poll(() => picked(page)).toBe(1);
  await page.keyboard.press('f');
  await expectRing();
  await page.keyboard.press('Escape');
  await page.keyboard.press('a');
  await settled(page);

  await page.keyboard.press('f');
  await expect(page.getByLabel('Prompt')).toContainText('fills the pane');
  await page.mouse.click(...(await at(page, 800 + 70.71, 400 - 70.71)));
  await expectRing();
});

test('in the site plan a box picks as many as its layers hold, and hidden ones are left out', async ({ page, app }) => {
  await page.emulateMedia({ reducedMotion: 'reduce' });
  await openSitePlan(page, app);
  const { rect } = await inspectPane(page);
  const told = page.getByRole('status', { name: 'Box' });
  const whole = async (): Promise<string> => {
    await page.keyboard.press('a'); // at its edge a box moves the view on
    await settled(page);
    await box(page, [rect.x + 3, rect.y + 3], [rect.x + rect.width - 250, rect.y + rect.height - 80]);
    await page.mouse.move(rect.x + rect.width - 4, rect.y + rect.height - 4);
    await expect(told).toContainText(/inside \d/);
    await page.mouse.up();
    await expect.poll(() => picked(page)).toBeGreaterThan(0);
    const count = await picked(page);
    await page.keyboard.press('Escape');
    return String(count);
  };
  const all = (await (await fetch(`${app.url}api/drawings`)).json()) as { name: string; counts: { objects: number } }[];
  const { objects } = all.find(({ name }) => name === 'Site general arrangement')!.counts;
  expect(await whole()).toBe(String(objects));
  await page.getByRole('tab', { name: 'Layers' }).click();
  const planting = page.getByRole('checkbox', { name: /^Planting/ });
  await planting.uncheck();
  await settled(page);
  expect(await whole()).toBe(String(objects - 840));
});

/** How dark a place of the page is, 0 to 255. */
async function inkAt(page: Page, [x, y]: [number, number]): Promise<number> {
  const clip = { x: Math.round(x) - 2, y: Math.round(y) - 2, width: 5, height: 5 };
  const { data } = PNG.sync.read(await page.screenshot({ clip }));
  let darkest = 0;
  for (let i = 0; i < data.length; i += 4) darkest = Math.max(darkest, 255 - data[i]!);
  return darkest;
}

test('objects are hidden, shown alone and brought back: picture, picks, fits and what is told agree', async ({
  page,
  app,
}) => {
  await openBench(page, app);
  const whole = (await inspectPane(page)).camera.widthWorld!;
  const bar = await at(page, 110, 150);
  const square = await at(page, 200, 425);
  await page.mouse.click(...bar);
  await expect.poll(() => picked(page)).toBe(1);
  await page.mouse.move(600, 620); // what is pointed at is marked
  await page.keyboard.press('e');
  await expect(page.getByRole('contentinfo', { name: 'Status' })).toContainText('1 object hidden');
  await settled(page);
  expect(await inkAt(page, bar)).toBeLessThan(40);
  expect(await inkAt(page, await at(page, 50, 150))).toBeGreaterThan(100);
  await page.mouse.click(...bar);
  await expect.poll(() => picked(page)).toBe(0); // nothing to pick there

  // only the square: everything else is gone, a fit takes it alone
  await page.mouse.click(...square);
  await expect.poll(() => picked(page)).toBe(1);
  await page.keyboard.press('k');
  await expect(page.getByRole('contentinfo', { name: 'Status' })).toContainText('12 objects hidden');
  await expect
    .poll(async () => {
      await page.keyboard.press('a');
      return (await settled(page)).camera.widthWorld!;
    })
    .toBeLessThan(whole / 2);
  await page.keyboard.press('Escape');
  await page.getByRole('button', { name: 'Show all' }).last().click();
  await expect(page.getByRole('contentinfo', { name: 'Status' })).not.toContainText('hidden');
  await page.keyboard.press('a');
  expect((await settled(page)).camera.widthWorld!).toBeCloseTo(whole, 6);
  await page.mouse.move(600, 620);
  expect(await inkAt(page, bar)).toBeGreaterThan(100);
});

test('sets that are kept are there again after a reload', async ({ page, app }) => {
  await openBench(page, app);
  await page.keyboard.down('Shift');
  for (const x of [50, 110, 170]) await page.mouse.click(...(await at(page, x, 150)));
  await page.keyboard.up('Shift');
  await expect.poll(() => picked(page)).toBe(3);
  await page.getByRole('tab', { name: 'Picked' }).click();
  await page.getByLabel('Name of the set').fill('First bars');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('list', { name: 'Kept sets' })).toContainText('First bars');
  await page.reload();
  await settled(page);
  expect(await picked(page)).toBe(0);
  await page.getByRole('button', { name: /^First bars/ }).click();
  await expect.poll(() => picked(page)).toBe(3);
});

test.describe('a finger', () => {
  test.use({ hasTouch: true });

  test('picks what it taps, and nothing where there is nothing', async ({ page, app }) => {
    await page.addInitScript(() => {
      localStorage.setItem(
        'gull-pane-preferences',
        JSON.stringify({ state: { profile: 'touch', smoothEdges: 'off' }, version: 0 }),
      );
    });
    await openBench(page, app);
    await page.touchscreen.tap(...(await at(page, 110, 150)));
    await expect.poll(() => picked(page)).toBe(1);
    await page.touchscreen.tap(...(await at(page, 560, 500)));
    await expect.poll(() => picked(page)).toBe(0);
    await page.touchscreen.tap(...(await at(page, 200, 425)));
    await expect.poll(() => picked(page)).toBe(1);
  });
});
