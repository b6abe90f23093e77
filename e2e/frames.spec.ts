import type { Page } from '@playwright/test';
import {
  USUAL_VIEWPORT,
  expect,
  inspectPane,
  openDrawing,
  openSitePlan,
  pxApart,
  settled,
  tap,
  test,
  worldAt,
} from './app.ts';

const [E, N] = [412_345_678.123, 7_208_234_567.891];
/** A slab with known corners and a brace across it, far from the origin as works are. */
const slab = `<svg xmlns="http://www.w3.org/2000/svg" width="2000mm" height="1200mm" viewBox="${E} ${-N - 1200} 2000 1200" fill="none" stroke="#16324A">
  <g id="Slab"><path d="M${E + 100} ${-N - 100}H${E + 1334.567}V${-N - 889.012}H${E + 100}Z"/><path d="M${E + 100} ${-N - 889.012}L${E + 1334.567} ${-N - 100}"/></g></svg>`;

const click = async (page: Page, x: number, y: number): Promise<void> => {
  await page.mouse.move(x, y);
  await page.mouse.down();
  await page.mouse.up();
};

test('a distance is measured from the exact doubles, from end to end, through zooms and held keys', async ({
  page,
  app,
}) => {
  await page.emulateMedia({ reducedMotion: 'reduce' });
  let pane = await openDrawing(page, app, 'Slab', slab);
  // the file lies where its page lies: the slab's corner is told by the extents
  const { min, max } = (await page.evaluate(() => window.gullPane.inspect().drawing!.extents))!;
  const at = (x: number, y: number): [number, number] => {
    const { rect, camera } = pane;
    const unitsPerPx = camera.widthWorld! / rect.width;
    return [
      rect.x + rect.width / 2 + (x - camera.target.x) / unitsPerPx,
      rect.y + rect.height / 2 - (y - camera.target.y) / unitsPerPx,
    ];
  };
  await page.keyboard.press('d');
  const [x0, y0] = at(min.x, min.y);
  await click(page, x0 + 4, y0 - 3); // near the corner is enough
  await expect(page.getByLabel('Prompt')).toContainText('click the next point');

  // the view is borrowed in between, by the wheel and by a held key
  await page.mouse.move(600, 300);
  await page.mouse.wheel(0, -300);
  await page.mouse.wheel(0, 300);
  await page.keyboard.down('p');
  await expect(page.getByLabel('Prompt')).toContainText('the tool goes on');
  await page.mouse.down();
  await page.mouse.move(560, 330, { steps: 4 });
  await page.mouse.up();
  await page.keyboard.up('p');
  await expect(page.getByLabel('Prompt')).toContainText('click the next point');

  pane = await settled(page);
  const [x1, y1] = at(max.x, max.y);
  await page.mouse.move(x1 + 3, y1 - 4);
  await expect(page.getByText('end', { exact: true })).toBeVisible();
  await click(page, x1 + 3, y1 - 4);
  await page.keyboard.press('Enter');
  await expect(page.getByLabel('Prompt')).toContainText('Click to begin the next measurement');
  const told = (await page.getByRole('status', { name: 'Distance' }).textContent())!;
  const length = Number(/^([\d\u202f.]+)\smm/.exec(told)![1]!.replaceAll('\u202f', ''));
  expect(length).toBeCloseTo(Math.hypot(max.x - min.x, max.y - min.y), 5);
  expect(Math.hypot(max.x - min.x, max.y - min.y)).toBeCloseTo(Math.hypot(1234.567, 789.012), 4);
});

test('middles and crossings draw the cursor, told in words', async ({ page, app }) => {
  await page.emulateMedia({ reducedMotion: 'reduce' });
  const pane = await openDrawing(page, app, 'Slab', slab);
  const { rect } = pane;
  const [middleX, middleY] = [rect.x + rect.width / 2, rect.y + rect.height / 2];
  await page.keyboard.press('d');
  await page.mouse.move(middleX + 2, middleY + 1);
  await expect(page.getByText('middle', { exact: true })).toBeVisible(); // of the brace
  await page.mouse.move(middleX + 120, middleY + 160);
  await expect(page.getByText('middle', { exact: true })).toBeHidden();
});

test('the scale is set exactly: by the standard’s, by typing, on a measured screen', async ({ page, app }) => {
  await page.emulateMedia({ reducedMotion: 'reduce' }); // a panel that still opens would move away under the press
  await openSitePlan(page, app);
  const scaleNow = async (): Promise<number> => (await settled(page)).scaleDenominator;
  const open = (): Promise<void> => page.getByRole('button', { name: /^Scale, / }).click();
  await open();
  await page
    .getByRole('group', { name: 'Standard scales' })
    .getByRole('button', { name: '1:200', exact: true })
    .click();
  expect(await scaleNow()).toBeCloseTo(200, 6);
  await open();
  await page.getByLabel('Any scale').fill('1:75');
  await page.keyboard.press('Enter');
  expect(await scaleNow()).toBeCloseTo(75, 6);

  await open();
  await page.getByRole('button', { name: /Measure this screen/ }).click();
  await page.getByRole('spinbutton', { name: 'Diagonal of the screen' }).fill('27');
  await page.keyboard.press('Enter');
  const mmPerPx = await page.evaluate(() => (27 * 25.4) / Math.hypot(screen.width, screen.height));
  const { camera, rect } = await inspectPane(page);
  expect(await scaleNow()).toBeCloseTo(camera.widthWorld! / rect.width / mmPerPx, 6);
  await page.getByRole('button', { name: 'Done' }).click();
  await page.getByLabel('Any scale').fill('50');
  await page.keyboard.press('Enter');
  expect(await scaleNow()).toBeCloseTo(50, 6);
  const after = await inspectPane(page);
  expect(after.camera.widthWorld! / after.rect.width).toBeCloseTo(50 * mmPerPx, 6);
});

test('the scale bar is as long as it says', async ({ page, app }) => {
  await page.setViewportSize(USUAL_VIEWPORT); // in a narrow foot it makes room for others
  await page.emulateMedia({ reducedMotion: 'reduce' });
  await openSitePlan(page, app);
  for (const key of ['a', '+', '+', '+']) {
    await page.keyboard.press(key);
    const bar = page.getByRole('img', { name: /^Scale bar/ });
    const metres = Number(/([\d.]+) m$/.exec((await bar.getAttribute('aria-label'))!)![1]);
    const widthPx = await bar.locator('i').evaluate((line) => line.getBoundingClientRect().width);
    const { camera, rect } = await inspectPane(page);
    expect((widthPx * camera.widthWorld!) / rect.width / 1000).toBeCloseTo(metres, 1);
  }
});

test('frames, fits and the lens are right under a twist; square up brings north back', async ({ page, app }) => {
  await openSitePlan(page, app);
  await page.getByRole('button', { name: /^Bearing, / }).click();
  await page.getByLabel('Bearing at the top').fill('30');
  await page.keyboard.press('Enter');
  await page.keyboard.press('Escape');
  let pane = await settled(page);
  expect((Math.atan2(pane.camera.up.x, pane.camera.up.y) * 180) / Math.PI).toBeCloseTo(30, 9);
  await expect(page.getByRole('button', { name: 'Bearing, Plan, 030° up' })).toBeVisible();

  await page.getByRole('application').focus();
  await page.keyboard.press('c');
  const corners = [worldAt(pane, 600, 300), worldAt(pane, 760, 380)];
  await click(page, 600, 300);
  await click(page, 760, 380);
  pane = await settled(page);
  const [a, b] = corners.map((world) => seenAt(pane, world)) as [{ x: number; y: number }, { x: number; y: number }];
  expect(Math.abs(b.x - a.x) / pane.rect.width).toBeCloseTo(1, 3);

  const point = worldAt(pane, 700, 350);
  await tap(page, 'l');
  await page.mouse.move(700, 350);
  await expect(page.getByRole('img', { name: 'Lens, 4× enlarged' })).toBeVisible();
  await page.mouse.wheel(0, -400);
  await expect(page.getByRole('img', { name: 'Lens, 8× enlarged' })).toBeVisible();
  await page.keyboard.press('9');
  await expect(page.getByRole('img', { name: 'Lens, 9× enlarged' })).toBeVisible();
  await page.getByLabel('Enlargement of the lens').fill('6');
  await page.keyboard.press('Enter');
  await page.mouse.move(701, 350);
  await page.mouse.move(700, 350);
  await expect(page.getByRole('img', { name: 'Lens, 6× enlarged' })).toBeVisible();
  await click(page, 700, 350);
  const dived = await settled(page);
  expect(pane.camera.widthWorld! / dived.camera.widthWorld!).toBeCloseTo(6, 6);
  expect(pxApart(dived, worldAt(dived, 700, 350), point)).toBeLessThan(0.01);
  expect(dived.tool).toBeNull(); // one click goes there and puts it away

  await page.keyboard.press('u');
  expect((await settled(page)).camera.up.x).toBe(0);
  await expect(page.getByRole('button', { name: 'Bearing, Plan, north up' })).toBeVisible();
});

/** Where a world point is seen on the page, under any twist. */
function seenAt({ rect, camera }: Awaited<ReturnType<typeof inspectPane>>, world: { x: number; y: number }) {
  const [dx, dy] = [world.x - camera.target.x, world.y - camera.target.y];
  const unitsPerPx = camera.widthWorld! / rect.width;
  const { x: ux, y: uy } = camera.up;
  return {
    x: rect.x + rect.width / 2 + (dx * uy - dy * ux) / unitsPerPx,
    y: rect.y + rect.height / 2 - (dx * ux + dy * uy) / unitsPerPx,
  };
}

test('a held letter borrows the lens, and its letting go leaves all as it was', async ({ page, app }) => {
  const before = await openSitePlan(page, app);
  await page.mouse.move(700, 350);
  await page.keyboard.down('l');
  const lens = page.getByRole('img', { name: /^Lens/ });
  await expect(lens).toBeVisible();
  await page.mouse.move(720, 360);
  await page.mouse.wheel(0, -100);
  await page.keyboard.up('l');
  await expect(lens).toBeHidden();
  expect((await inspectPane(page)).camera).toEqual(before.camera);
  expect((await inspectPane(page)).tool).toBeNull();
});

test('the trail: thumbnails, scrubbing, a left branch, and all of it after a reload', async ({ page, app }) => {
  await openSitePlan(page, app);
  const views = page.getByRole('region', { name: 'Trail' }).getByRole('button', { name: /^View/ });
  await page.keyboard.press('+');
  await settled(page);
  await page.keyboard.press('+');
  const tip = await settled(page);
  await expect(views).toHaveCount(3);
  await expect(views.locator('img')).toHaveCount(3);
  const inks = await views.locator('img').evaluateAll((images) =>
    images.map((image) => {
      const canvas = document.createElement('canvas');
      [canvas.width, canvas.height] = [240, 150];
      const context = canvas.getContext('2d')!;
      context.drawImage(image as HTMLImageElement, 0, 0);
      const { data } = context.getImageData(0, 0, 240, 150);
      return data.filter((value, index) => index % 4 < 3 && value < 200).length;
    }),
  );
  for (const ink of inks) expect(ink).toBeGreaterThan(1000);

  // scrubbing follows the hand between two views, and is let go at the nearer one
  const [first, last] = [(await views.first().boundingBox())!, (await views.last().boundingBox())!];
  await page.mouse.move(last.x + 50, last.y + 30);
  await page.mouse.down();
  await page.mouse.move((first.x + last.x) / 2 + 20, last.y + 30, { steps: 5 });
  await expect(page.getByLabel('Prompt')).toContainText('Drag along the trail');
  const between = (await inspectPane(page)).camera.widthWorld!;
  expect(between).toBeGreaterThan(tip.camera.widthWorld! * 1.2);
  await page.mouse.move(first.x + 55, last.y + 30, { steps: 3 });
  await page.mouse.up();
  const back = await settled(page);
  expect(back.history).toEqual({ length: 3, index: 0 });
  await page.mouse.move(first.x + 55, last.y + 30);
  await page.mouse.wheel(0, 100); // the wheel walks
  expect((await settled(page)).history).toEqual({ length: 3, index: 1 });

  await page.getByRole('application').focus();
  await page.keyboard.press('[');
  expect((await settled(page)).history).toEqual({ length: 3, index: 2 });
  await page.getByRole('button', { name: '1 way left here' }).click();
  const again = await settled(page);
  expect(again.camera).toEqual(tip.camera);

  await page.reload();
  const reloaded = await settled(page);
  expect(reloaded.camera).toEqual(tip.camera);
  expect(reloaded.history).toEqual({ length: 3, index: 2 });
  await expect(page.getByRole('button', { name: '1 way left here' })).toBeVisible();
  await page.keyboard.press('Backspace');
  expect((await settled(page)).history.index).toBe(1);
});

test('a trail of 300 steps, more than are kept, stays quick to walk and bounded', async ({ page, app }) => {
  await page.emulateMedia({ reducedMotion: 'reduce' });
  await openDrawing(page, app, 'Slab', slab);
  await page.evaluate(async () => {
    const press = (key: string): boolean => window.dispatchEvent(new KeyboardEvent('keydown', { key, bubbles: true }));
    for (let i = 0; i < 300; i++) {
      press(['+', '[', '-', ']'][i % 4]!);
      await new Promise(requestAnimationFrame);
    }
  });
  const pane = await inspectPane(page);
  expect(pane.history).toEqual({ length: 301, index: 300 });
  expect(pane.thumbnails).toBeLessThanOrEqual(150);
  const count = await page.getByRole('region', { name: 'Trail' }).getByRole('button', { name: /^View/ }).count();
  expect(count).toBeLessThan(30);
  await page.keyboard.press('Backspace');
  expect((await inspectPane(page)).history).toEqual({ length: 301, index: 299 });
  const { camera } = await inspectPane(page);
  await expect
    .poll(async () => {
      const id = await page.evaluate(() => window.gullPane.inspect().drawing!.id);
      return ((await (await fetch(`${app.url}api/drawings/${id}/trail`)).json()) as { views: unknown[] }).views.length;
    })
    .toBeGreaterThan(100);
  await page.reload();
  const reloaded = await settled(page);
  expect(reloaded.camera).toEqual(camera);
  expect(reloaded.history.length).toBeLessThanOrEqual(250);
  expect(reloaded.history.index).toBe(reloaded.history.length - 2);
});

test('the ends of zooming are felt as ends and told in the foot', async ({ page, app }) => {
  await page.emulateMedia({ reducedMotion: 'reduce' });
  await openDrawing(page, app, 'Slab', slab);
  const scale = page.getByRole('button', { name: /^Scale, / });
  await expect(scale).not.toHaveAccessibleName(/closest|farthest/);
  for (const [key, end] of [
    ['-', 'farthest'],
    ['+', 'closest'],
  ] as const) {
    await expect
      .poll(async () => {
        for (let i = 0; i < 12; i++) await page.keyboard.press(key);
        return page.getByRole('button', { name: new RegExp(`^Scale, .*${end}$`) }).count();
      })
      .toBe(1);
    const { camera, history } = await inspectPane(page);
    await page.keyboard.press(key);
    const after = await inspectPane(page);
    expect(after.camera).toEqual(camera); // no drift at the end, and no step of the trail
    expect(after.history).toEqual(history);
  }
  await expect(page.getByRole('alert')).toHaveCount(0);
});
