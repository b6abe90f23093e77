import { expect, inspectPane, openChamber, openSitePlan, pxApart, settled, test, worldAt } from './app.ts';

/** A point well inside the drawing surface, away from its middle. */
const AT = { x: 520, y: 300 };

test('the plan fills its pane, drawn from its tiles', async ({ page, app }) => {
  const pane = await openSitePlan(page, app);
  expect(pane.drawn.segments).toBeGreaterThan(50_000);
  expect(pane.drawn.tiles).toBeGreaterThan(5);
  expect(pane.pendingTiles).toBe(0);
  const { extents } = (await page.evaluate(() => window.gullPane.inspect().drawing))!;
  const across = extents!.max.x - extents!.min.x;
  const up = extents!.max.y - extents!.min.y;
  const unitsPerPx = pane.camera.widthWorld! / pane.rect.width;
  // tight: one direction touches the margin of 16 px
  const spare = Math.min(pane.rect.width - across / unitsPerPx, pane.rect.height - up / unitsPerPx);
  expect(spare).toBeCloseTo(32, 0);
});

test('the wheel zooms about the cursor, a burst is one step of the trail', { tag: '@daily' }, async ({ page, app }) => {
  const before = await openChamber(page, app);
  await page.mouse.move(AT.x, AT.y);
  const world = worldAt(before, AT.x, AT.y);
  await Promise.all(Array.from({ length: 12 }, () => page.mouse.wheel(0, -100)));
  // a busy page may come to rest between two notches
  const zoomed = async (): Promise<number> => before.camera.widthWorld! / (await inspectPane(page)).camera.widthWorld!;
  await expect.poll(zoomed).toBeCloseTo(1.2 ** 12, 3);
  const after = await settled(page);
  expect(pxApart(after, worldAt(after, AT.x, AT.y), world)).toBeLessThan(0.01);
  expect(after.history).toEqual({ length: 2, index: 1 });
  await page.keyboard.press('Backspace');
  const back = await settled(page);
  expect(back.camera).toEqual(before.camera);
  expect(back.history).toEqual({ length: 2, index: 0 });
  await page.getByRole('button', { name: 'Forward' }).click();
  expect((await settled(page)).camera).toEqual(after.camera);
});

test('the pressed wheel pans by what the hand moves, without zooming, as one step', async ({ page, app }) => {
  const before = await openChamber(page, app);
  const world = worldAt(before, AT.x, AT.y);
  await page.mouse.move(AT.x, AT.y);
  await page.mouse.down({ button: 'middle' });
  await page.mouse.move(AT.x + 60, AT.y + 20, { steps: 5 });
  await page.mouse.wheel(0, -300); // turned by accident
  await page.mouse.move(AT.x + 200, AT.y + 90, { steps: 5 });
  await page.mouse.up({ button: 'middle' });
  const after = await settled(page);
  expect(after.camera.widthWorld).toBe(before.camera.widthWorld);
  expect(pxApart(after, worldAt(after, AT.x + 200, AT.y + 90), world)).toBeLessThan(0.01);
  expect(after.history).toEqual({ length: 2, index: 1 });
});

test('a double press of the wheel fits everything in one step', async ({ page, app }) => {
  const fitted = await openChamber(page, app);
  await page.mouse.move(AT.x, AT.y);
  await page.mouse.wheel(0, -900);
  await settled(page);
  await page.mouse.click(AT.x, AT.y, { button: 'middle', clickCount: 2, delay: 5 });
  const after = await settled(page);
  expect(after.camera).toEqual(fitted.camera);
  expect(after.history).toEqual({ length: 3, index: 2 });
});

test('one press of the wheel brings the point to the middle', async ({ page, app }) => {
  const before = await openChamber(page, app);
  const world = worldAt(before, AT.x, AT.y);
  await page.mouse.click(AT.x, AT.y, { button: 'middle' });
  await expect.poll(async () => (await inspectPane(page)).history.index).toBe(1);
  const { camera } = await settled(page);
  expect(Math.hypot(camera.target.x - world.x, camera.target.y - world.y)).toBeLessThan(1e-3);
});

test('frame corners by drag and by two clicks; Escape takes back one step at a time', async ({ page, app }) => {
  const before = await openSitePlan(page, app);
  const [a, b] = [
    { x: 640, y: 330 },
    { x: 760, y: 390 },
  ];
  const middle = worldAt(before, 700, 360);
  await page.getByRole('button', { name: 'Frame corners' }).click();
  await page.mouse.move(a.x, a.y);
  await page.mouse.down();
  await page.mouse.move(b.x, b.y, { steps: 4 });
  await page.mouse.up();
  const framed = await settled(page);
  expect(pxApart(framed, framed.camera.target, middle)).toBeLessThan(0.01);
  expect(framed.camera.widthWorld! / before.camera.widthWorld!).toBeCloseTo(120 / before.rect.width, 6);
  await page.keyboard.press('Backspace');
  await settled(page);

  await page.keyboard.press('c');
  await page.mouse.click(a.x, a.y);
  await page.keyboard.press('Escape'); // the corner
  await page.mouse.click(a.x, a.y);
  await page.mouse.wheel(0, -100); // the tool goes on, the corner keeps its place in the drawing
  const zoomed = await inspectPane(page);
  const corner = worldAt(before, a.x, a.y);
  await page.mouse.click(b.x, b.y);
  const second = await settled(page);
  const wanted = worldAt(zoomed, b.x, b.y);
  expect(
    pxApart(second, second.camera.target, { x: (corner.x + wanted.x) / 2, y: (corner.y + wanted.y) / 2 }),
  ).toBeLessThan(1);
  await page.keyboard.press('c');
  const button = page.getByRole('button', { name: 'Frame corners' });
  await expect(button).toHaveAttribute('aria-pressed', 'true');
  await page.keyboard.press('Escape'); // the tool
  await expect(button).toHaveAttribute('aria-pressed', 'false');
});

test('closer, farther and arrows by keys and buttons', async ({ page, app }) => {
  const before = await openChamber(page, app);
  await page.keyboard.press('+');
  expect((await settled(page)).camera.widthWorld! / before.camera.widthWorld!).toBeCloseTo(0.5, 9);
  await page.getByRole('button', { name: 'Farther' }).click();
  const same = await settled(page);
  expect(same.camera.widthWorld).toBeCloseTo(before.camera.widthWorld!, 3);
  await page.keyboard.press('ArrowRight');
  const moved = await settled(page);
  expect(pxApart(moved, moved.camera.target, same.camera.target)).toBeCloseTo(0.2 * moved.rect.height, 3);
});

test('a travel can be interrupted at any frame', async ({ page, app }) => {
  await page.emulateMedia({ reducedMotion: 'no-preference' });
  await openChamber(page, app);
  await page.mouse.move(AT.x, AT.y);
  await page.keyboard.press('+');
  await page.waitForFunction(() => !window.gullPane.inspect().panes[0]!.settled);
  const world = worldAt(await inspectPane(page), AT.x, AT.y);
  await page.mouse.wheel(0, -100);
  const stopped = await inspectPane(page);
  // wherever the travel was, the wheel took over there and then
  const { camera } = await settled(page);
  expect(camera.widthWorld).toBeLessThanOrEqual(stopped.camera.widthWorld! * 1.0001);
  expect(pxApart(stopped, world, worldAt(await inspectPane(page), AT.x, AT.y))).toBeLessThan(400);
});

test('nothing is drawn while nothing changes', async ({ page, app }) => {
  const { frames } = await openSitePlan(page, app);
  // three seconds of the page's own clock, in which timers and frames run
  await page.evaluate(
    () =>
      new Promise<void>((resolve) => {
        const end = performance.now() + 3000;
        const tick = (now: number): void => (now > end ? resolve() : void requestAnimationFrame(tick));
        requestAnimationFrame(tick);
      }),
  );
  expect((await inspectPane(page)).frames).toBe(frames);
});

test('reduced motion jumps instead of travelling', async ({ page, app }) => {
  await page.emulateMedia({ reducedMotion: 'reduce' });
  const before = await openChamber(page, app);
  await page.keyboard.press('+');
  expect((await inspectPane(page)).camera.widthWorld! / before.camera.widthWorld!).toBeCloseTo(0.5, 9);
});

test('a pan shows at once what the view shows at rest', async ({ page, app }) => {
  await openSitePlan(page, app);
  for (const key of ['+', '+', 'ArrowUp']) {
    await page.keyboard.press(key);
    await settled(page);
  }
  const { rect } = await inspectPane(page);
  const clip = { x: rect.x + 4, y: rect.y + 4, width: rect.width - 8, height: rect.height - 8 };
  const before = await page.screenshot({ clip });
  await page.mouse.move(640, 360);
  await page.mouse.down({ button: 'middle' });
  for (let step = 1; step <= 12; step++) await page.mouse.move(640 + 15 * step, 360 + 9 * step);
  await page.evaluate(() => new Promise((resolve) => requestAnimationFrame(() => requestAnimationFrame(resolve))));
  const moving = await page.screenshot({ clip });
  await settled(page);
  const atRest = await page.screenshot({ clip });
  await page.mouse.up({ button: 'middle' });

  /** Share of px whose colour clearly differs. */
  const differing = (a: Buffer, b: Buffer): Promise<number> =>
    page.evaluate(
      async (pictures) => {
        const [one, other] = await Promise.all(
          pictures.map(async (picture) => {
            const bytes = Uint8Array.from(atob(picture), (letter) => letter.charCodeAt(0));
            const bitmap = await createImageBitmap(new Blob([bytes], { type: 'image/png' }));
            const context = new OffscreenCanvas(bitmap.width, bitmap.height).getContext('2d')!;
            context.drawImage(bitmap, 0, 0);
            return context.getImageData(0, 0, bitmap.width, bitmap.height).data;
          }),
        );
        let count = 0;
        for (let i = 0; i < one!.length; i += 4) if (Math.abs(one![i]! - other![i]!) > 90) count++;
        return count / (one!.length / 4);
      },
      [a.toString('base64'), b.toString('base64')],
    );
  expect(await differing(before, atRest)).toBeGreaterThan(0.03); // it did move
  expect(await differing(moving, atRest)).toBeLessThan(0.01);
});
