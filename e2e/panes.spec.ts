/** Panes side by side: split, filled, swapped, tied, echoing, kept and restored. */
import { PNG } from 'pngjs';
import { dragOnto, expect, expectAccessible, inspect, openSitePlan, test } from './app.ts';
import { activeOf, chooseInMenu, footOf, middleOf, panesSettled, perPx, pressKey } from './many-panes.ts';
import { openYard, seenAt, towerTop } from './yard.ts';

test(
  'a pane is split, filled and closed; keys act on the active one, the wheel on the one under the cursor',
  { tag: '@daily' },
  async ({ page, app }) => {
    await page.emulateMedia({ reducedMotion: 'reduce' });
    const whole = await openSitePlan(page, app);
    const [left, right] = await pressKey(page, 'F2', 2);
    expect([left!.rect.width, right!.rect.width].every((width) => Math.abs(width - whole.rect.width / 2) < 5)).toBe(
      true,
    );
    // each keeps centre and scale
    for (const pane of [left!, right!]) {
      expect(pane.camera.target).toEqual(whole.camera.target);
      expect(perPx(pane)).toBeCloseTo(perPx(whole), 9);
    }
    expect(activeOf([left!, right!])).toBe(1);
    await expect(page.getByRole('region', { name: 'Pane 2 of 2, Site general arrangement' })).toBeVisible();

    // the wheel: zooms the pane under the cursor, whichever pane is active
    await page.mouse.move(middleOf(left!).x, middleOf(left!).y);
    await page.mouse.wheel(0, -240);
    await expect.poll(async () => perPx((await panesSettled(page, 2))[0]!)).toBeLessThan(perPx(left!) * 0.9);
    const wheeled = await panesSettled(page, 2);
    expect(wheeled[1]!.camera).toEqual(right!.camera);
    expect(activeOf(wheeled)).toBe(1);
    // keys: the active one, changed by a key or a click
    const closer = await pressKey(page, '+', 2);
    expect(perPx(closer[1]!)).toBeLessThan(perPx(right!));
    expect(closer[0]!.camera).toEqual(wheeled[0]!.camera);
    expect(activeOf(await pressKey(page, 'F6', 2))).toBe(0);
    await page.mouse.click(middleOf(right!).x, middleOf(right!).y);
    expect(activeOf(await panesSettled(page, 2))).toBe(1);

    // one fills the area and goes back just as it was, by key and by a double click on its foot
    const before = await panesSettled(page, 2);
    const filled = await pressKey(page, 'F8', 2);
    expect(filled.find(({ active }) => active)!.rect).toEqual(whole.rect);
    await expect(page.locator('.pane-place[inert]')).toHaveCount(1);
    const back = await pressKey(page, 'F8', 2);
    expect(back.map(({ rect, camera }) => [rect, camera])).toEqual(before.map(({ rect, camera }) => [rect, camera]));
    await page.mouse.dblclick(footOf(before[0]!).x, footOf(before[0]!).y);
    await expect.poll(async () => (await inspect(page)).panes.find(({ active }) => active)!.rect).toEqual(whole.rect);
    await page.mouse.dblclick(footOf(whole).x, footOf(whole).y);
    expect((await panesSettled(page, 2)).map(({ rect }) => rect)).toEqual(before.map(({ rect }) => rect));

    // three, the divider between them by hand and by key, even again by a double click
    const three = await pressKey(page, 'Shift+F2', 3);
    await expectAccessible(page, 'three panes');
    const divider = page.getByRole('separator', { name: /side by side/ });
    const box = (await divider.boundingBox())!;
    const grip = { x: box.x + box.width / 2, y: box.y + 100 };
    await page.mouse.move(grip.x, grip.y);
    await page.mouse.down();
    await page.mouse.move(grip.x + 120, grip.y, { steps: 4 });
    await page.mouse.up();
    const dragged = await panesSettled(page, 3);
    const wider = (pane: { rect: { width: number } }, than: { rect: { width: number } }): number =>
      pane.rect.width - than.rect.width;
    const leftOf = (panes: typeof three) => panes.find(({ rect }) => rect.x < 400)!;
    expect(wider(leftOf(dragged), leftOf(three))).toBe(120);
    expect(leftOf(dragged).camera.target).toEqual(leftOf(three).camera.target);
    expect(perPx(leftOf(dragged))).toBeCloseTo(perPx(leftOf(three)), 9);
    await divider.focus();
    await page.keyboard.press('ArrowLeft');
    expect(wider(leftOf(await panesSettled(page, 3)), leftOf(three))).toBe(104);
    await divider.dblclick({ position: { x: 4, y: 60 } });
    expect(wider(leftOf(await panesSettled(page, 3)), leftOf(three))).toBe(0);

    // closed, and brought back with its view
    const active = three.find((pane) => pane.active)!;
    await pressKey(page, 'F4', 2);
    const again = await pressKey(page, 'Shift+F4', 3);
    expect(again.find(({ id }) => id === active.id)!.camera).toEqual(active.camera);
  },
);

test('a foot dragged onto another pane swaps the two, with the copy key it copies the view; a menu does the same', async ({
  page,
  app,
}) => {
  await page.emulateMedia({ reducedMotion: 'reduce' });
  await openSitePlan(page, app);
  await pressKey(page, 'F2', 2);
  const before = await pressKey(page, '+', 2);
  const drag = async (keyName?: string): Promise<void> => {
    const [from, to] = [footOf(before[1]!), middleOf(before[0]!)];
    await page.mouse.move(from.x, from.y);
    if (keyName) await page.keyboard.down(keyName);
    await page.mouse.down();
    await page.mouse.move(to.x, to.y, { steps: 5 });
    await expect(page.getByText(keyName ? 'Copy the view here' : 'Swap; with Ctrl copy the view')).toBeVisible();
    await page.mouse.up();
    if (keyName) await page.keyboard.up(keyName);
  };
  await drag();
  const swapped = await panesSettled(page, 2);
  expect(swapped.map(({ id }) => id)).toEqual([before[1]!.id, before[0]!.id]);
  expect(swapped.map(({ rect }) => rect)).toEqual(before.map(({ rect }) => rect));
  // back, then copied instead
  await pressKey(page, 'Shift+F4', 2);
  await drag('Control');
  const copied = await panesSettled(page, 2);
  expect(copied.map(({ id }) => id)).toEqual(before.map(({ id }) => id));
  expect(copied[0]!.camera).toEqual(before[1]!.camera);

  await page.mouse.click(middleOf(copied[1]!).x, middleOf(copied[1]!).y);
  const closer = await pressKey(page, '+', 2);
  await chooseInMenu(page, 1, 'Copy view to', 'Pane 1');
  await expect.poll(async () => (await panesSettled(page, 2))[0]!.camera).toEqual(closer[1]!.camera);
  await chooseInMenu(page, 1, 'Swap with', 'Pane 1');
  expect((await panesSettled(page, 2)).map(({ id }) => id)).toEqual([before[1]!.id, before[0]!.id]);

  // a pane is lit while a menu names it
  await page.getByRole('button', { name: 'More for this pane' }).first().click();
  await page.getByRole('menuitem', { name: 'Copy view to' }).hover();
  await page.getByRole('menuitem', { name: 'Pane 1' }).getByText('Pane 1').hover();
  const lit = page.locator('.pane-place[data-named="true"]');
  await expect(lit).toHaveCount(1);
  for (let k = 0; k < 2; k++) await page.keyboard.press('Escape');
  await page.mouse.move(640, 20);
  await expect(lit).toHaveCount(0);

  // a row of the drawings, dropped on a pane, is shown there
  await page
    .getByRole('banner')
    .getByRole('button', { name: /^Site general arrangement/ })
    .click();
  const row = page.getByRole('menuitem', { name: /intake tower$/ }).locator('.drawing-row');
  await dragOnto(page, row, page.locator(`[data-pane="${before[0]!.id}"] .pane-surface`));
  await expect(page.getByRole('region', { name: /intake tower$/ })).toBeVisible();
  expect(new Set((await panesSettled(page, 2)).map(({ drawingId }) => drawingId)).size).toBe(2);
});

test('five panes of two drawings are kept, wrecked and restored after a reload, to the pixel', async ({
  page,
  app,
}) => {
  test.setTimeout(420_000);
  await openYard(page, app);
  await pressKey(page, 'Shift+F8', 2);
  await page.getByRole('tab', { name: 'Panes' }).click();
  await page.getByRole('button', { name: 'Five: two above, three below' }).click();
  // the new panes ask what to show
  const asks = page.getByRole('group', { name: 'What this pane shows' });
  await expect(asks).toHaveCount(3);
  const asked = await panesSettled(page, 5);
  await asks.nth(1).getByRole('button', { name: 'From south', exact: true }).click();
  await expect(asks).toHaveCount(2);
  for (const k of [1, 0]) await asks.nth(k).getByRole('button', { name: 'Leave this pane as it is' }).click();
  await expect(asks).toHaveCount(0);
  expect((await panesSettled(page, 5)).map(({ drawingId }) => drawingId)).toEqual(
    asked.map(({ drawingId }) => drawingId),
  );
  const laid = await panesSettled(page, 5);
  // each its own: direction, look, clips, hidden objects, layers, kinds, overview
  const activate = async (index: number): Promise<void> => {
    const { x, y } = middleOf(laid[index]!);
    await page.mouse.click(x, y);
    await expect.poll(async () => activeOf(await panesSettled(page, 5))).toBe(index);
    await page.keyboard.press('Escape');
  };
  await activate(3);
  await pressKey(page, '4', 5);
  await pressKey(page, 'w', 5);
  await activate(4);
  await pressKey(page, '1', 5);
  const over = await panesSettled(page, 5);
  const tower = seenAt(over[4]!, { ...towerTop, z: 900 });
  await page.mouse.click(tower.x, tower.y);
  await pressKey(page, 'Shift+C', 5);
  await page.keyboard.press('Escape'); // picks aren’t kept
  await activate(0);
  await page.getByRole('button', { name: 'Shows all kinds' }).first().click();
  await page.getByRole('checkbox', { name: 'Texts' }).click();
  await page.keyboard.press('Escape');
  await page.getByRole('tab', { name: 'Layers' }).click();
  await page.getByRole('checkbox', { name: /^Dimensions/ }).click();
  await page.getByRole('tab', { name: 'Panes' }).click();
  await chooseInMenu(page, 2, 'Tie to', 'Pane 4');
  await page.mouse.move(640, 20); // nothing is pointed at
  const before = await panesSettled(page, 5);
  const area = { x: 310, y: 46, width: 970, height: 652 };
  const picture = async (): Promise<PNG> => PNG.sync.read(await page.screenshot({ clip: area }));
  await page.evaluate(() => {
    if (document.activeElement instanceof HTMLElement) document.activeElement.blur();
  });
  const shown = await picture();
  await page.getByRole('button', { name: 'Keep this arrangement' }).click();
  await expect(page.getByRole('status', { name: 'Saving' })).toHaveText('Saved');
  await expect(page.getByRole('listitem', { name: /5 panes$/ })).toBeVisible();

  // wrecked: all but one closed, that one moved, the page left
  await page.getByRole('button', { name: 'One', exact: true }).click();
  await panesSettled(page, 1);
  await pressKey(page, '+', 1);
  await page.reload();
  await panesSettled(page, 1);
  await page.getByRole('button', { name: /^Take .*5 panes$/ }).click();
  const after = await panesSettled(page, 5);
  const told = (panes: typeof before) =>
    panes.map(({ id, active, drawingId, rect, camera }) => ({ id, active, drawingId, rect, camera }));
  expect(told(after)).toEqual(told(before));
  await expect(page.getByRole('button', { name: 'Without texts' })).toBeVisible();
  await expect(page.getByRole('button', { name: /^Tied to pane/ })).toHaveCount(4);
  await page.mouse.move(640, 20);
  await page.evaluate(() => {
    if (document.activeElement instanceof HTMLElement) document.activeElement.blur();
  });
  await panesSettled(page, 5);
  // how smooth the edges are depends on how busy the machine is: compared are the means of squares of 6 px
  const differing = (a: PNG, b: PNG): number => {
    let count = 0;
    for (let y = 0; y + 6 <= a.height; y += 6)
      for (let x = 0; x + 6 <= a.width; x += 6) {
        let sum = 0;
        for (let k = 0; k < 36; k++) {
          const at = 4 * ((y + Math.floor(k / 6)) * a.width + x + (k % 6));
          sum += a.data[at]! - b.data[at]! + a.data[at + 1]! - b.data[at + 1]!;
        }
        if (Math.abs(sum) > 36 * 24) count++;
      }
    return count;
  };
  await expect.poll(async () => differing(shown, await picture()), { timeout: 20_000 }).toBeLessThan(6);

  // a mere reload brings them back, too
  await page.reload();
  expect(told(await panesSettled(page, 5))).toEqual(told(before));
  // and in another window size each shows all that it showed
  await page.setViewportSize({ width: 1600, height: 1000 });
  await page.getByRole('button', { name: /^Take .*5 panes$/ }).click();
  const larger = await panesSettled(page, 5);
  for (const [k, pane] of larger.entries()) {
    expect(pane.camera.target).toEqual(before[k]!.camera.target);
    expect(perPx(pane) * pane.rect.width).toBeGreaterThanOrEqual(before[k]!.camera.widthWorld! * 0.999);
  }
});

test('the overview shows the whole drawing with the frame of its pane, and the frame can be dragged', async ({
  page,
  app,
}) => {
  await page.emulateMedia({ reducedMotion: 'reduce' });
  const whole = await openSitePlan(page, app);
  await pressKey(page, '+', 1);
  await pressKey(page, '+', 1);
  const [before] = await pressKey(page, '8', 1);
  const overview = page.getByRole('img', { name: /^Overview/ });
  await expect(overview.locator('img')).toBeVisible();
  const box = (await overview.boundingBox())!;
  const circle = (await overview.locator('circle').boundingBox())!;
  await page.mouse.move(circle.x + circle.width / 2, circle.y + circle.height / 2);
  await page.mouse.down();
  await page.mouse.move(circle.x + circle.width / 2 + 40, circle.y + circle.height / 2, { steps: 4 });
  await page.mouse.up();
  const [after] = await panesSettled(page, 1);
  const unitsPerOverviewPx = (after!.camera.target.x - before!.camera.target.x) / 40;
  // the whole drawing fills the overview, so that a px of it is as many times larger
  expect(unitsPerOverviewPx).toBeGreaterThan(perPx(whole) * 2);
  expect(unitsPerOverviewPx * box.width).toBeGreaterThan(whole.camera.widthWorld! * 0.8);
  expect(perPx(after!)).toBeCloseTo(perPx(before!), 9);
  expect(after!.history.length).toBe(before!.history.length + 1);
});

test('a measurement begun in one pane ends in another', async ({ page, app }) => {
  await page.emulateMedia({ reducedMotion: 'reduce' });
  await openSitePlan(page, app);
  await pressKey(page, 'F2', 2);
  await pressKey(page, '+', 2);
  const [left, right] = await pressKey(page, '+', 2);
  await page.keyboard.press('d');
  const [a, b] = [middleOf(left!), middleOf(right!)];
  await page.mouse.click(a.x + 13, a.y - 40);
  await page.mouse.move(b.x + 50, b.y + 31, { steps: 3 });
  await expect(page.getByRole('status', { name: 'Distance' })).toHaveCount(1);
  await page.mouse.click(b.x + 50, b.y + 31);
  await page.keyboard.press('Enter');
  // both panes draw it, each where it lies
  await expect(page.locator('.tool-lines polyline')).toHaveCount(2);
});

test('each pane shows its own: kinds of things, layers, hidden objects; what is picked is picked in all', async ({
  page,
  app,
}) => {
  await page.emulateMedia({ reducedMotion: 'reduce' });
  await openSitePlan(page, app);
  await pressKey(page, '+', 1);
  await pressKey(page, '+', 1);
  const both = await pressKey(page, 'F2', 2);
  expect(both[0]!.drawn.texts).toBeGreaterThan(0);
  expect(both[1]!.drawn.texts).toBe(both[0]!.drawn.texts);
  const own = page.getByRole('region', { name: /^Pane 2 of 2/ });
  await own.getByRole('button', { name: 'Shows all kinds' }).click();
  await page.getByRole('checkbox', { name: 'Texts' }).click();
  await page.getByRole('checkbox', { name: 'Filled areas' }).click();
  await page.keyboard.press('Escape');
  await expect(own.getByRole('button', { name: 'Without texts, filled areas' })).toBeVisible();
  const plain = await panesSettled(page, 2);
  expect(plain[1]!.drawn.texts).toBe(0);
  expect(plain[1]!.drawn.triangles).toBeLessThan(both[1]!.drawn.triangles);
  expect(plain[0]!.drawn).toEqual(both[0]!.drawn);

  await page.getByRole('checkbox', { name: /^Membrane racks/ }).click();
  await page.getByRole('checkbox', { name: /^Contours/ }).click();
  const fewer = await panesSettled(page, 2);
  expect(fewer[1]!.drawn.segments).toBeLessThan(plain[1]!.drawn.segments);
  expect(fewer[0]!.drawn).toEqual(both[0]!.drawn);

  // picked in one, seen in both; hidden in one, still there in the other
  const { rect } = fewer[1]!;
  await page.mouse.move(rect.x + 60, rect.y + 60);
  await page.mouse.down();
  await page.mouse.move(rect.x + 260, rect.y + 300, { steps: 4 });
  await page.mouse.up();
  await expect.poll(async () => (await panesSettled(page, 2))[1]!.picked).toBeGreaterThan(3);
  const picked = await panesSettled(page, 2);
  expect(picked[0]!.picked).toBe(picked[1]!.picked);
  await pressKey(page, 'e', 2);
  await expect(page.getByText(/objects hidden/)).toBeVisible();
  await pressKey(page, 'F6', 2);
  await expect(page.getByText(/objects hidden/)).toBeHidden();
  expect((await panesSettled(page, 2))[0]!.drawn.texts).toBe(both[0]!.drawn.texts);
  await expect(page.getByRole('checkbox', { name: /^Contours/ })).toBeChecked();
});
