/** Plan and model side by side, and a plan with elevations: features line up from pane to pane. */
import type { InspectedPane } from '@gull-pane/protocol/inspect';
import { expect, expectAccessible, test } from './app.ts';
import { middleOf, panesSettled, perPx, pressKey } from './many-panes.ts';
import { E, N, openYard, seenAt, tankTop, towerTop } from './yard.ts';

type Spot = ReturnType<typeof seenAt>;

test('plan left, model right in one key: tied to one place and scale, echoing the cursor; ties change and break', async ({
  page,
  app,
}) => {
  await openYard(page, app);
  const [plan, model] = await pressKey(page, 'Shift+F8', 2);
  expect(plan!.drawingId).not.toBe(model!.drawingId);
  expect(perPx(plan!)).toBeCloseTo(perPx(model!), 9);
  await expectAccessible(page, 'plan and model');
  const chips = page.getByRole('button', { name: /^Tied to pane/ });
  await expect(chips).toHaveCount(2);

  // the plan leads: what it has in its middle, the model has, too
  const [from, hand] = [middleOf(plan!), { dx: -70, dy: 40 }];
  await page.mouse.move(from.x, from.y);
  await page.mouse.down({ button: 'middle' });
  await page.mouse.move(from.x + hand.dx, from.y + hand.dy, { steps: 5 });
  await page.mouse.up({ button: 'middle' });
  const panned = await panesSettled(page, 2);
  expect(panned[0]!.camera.target.x).toBeCloseTo(plan!.camera.target.x + 70 * perPx(plan!), 3);
  const onModel = seenAt(panned[1]!, { ...panned[0]!.camera.target, z: 0 });
  expect(Math.hypot(onModel.x - middleOf(panned[1]!).x, onModel.y - middleOf(panned[1]!).y)).toBeLessThan(0.01);
  // the model leads
  await page.mouse.move(middleOf(model!).x, middleOf(model!).y);
  await page.mouse.wheel(0, 360);
  await expect.poll(async () => perPx((await panesSettled(page, 2))[0]!)).toBeGreaterThan(perPx(panned[0]!) * 1.1);
  const zoomed = await panesSettled(page, 2);
  expect(perPx(zoomed[0]!)).toBeCloseTo(perPx(zoomed[1]!), 9);

  // the echo: a ring where the tank is pointed at in the model, an upright line the other way round
  const tank = seenAt(zoomed[1]!, tankTop);
  await page.mouse.move(tank.x, tank.y);
  const ring = page.locator('[data-pane="' + zoomed[0]!.id + '"] .echo g');
  await expect(ring).toBeVisible();
  const place = seenAt(zoomed[0]!, { ...tankTop, z: 0 });
  const at = (await ring.getAttribute('transform'))!.match(/[\d.]+/g)!.map(Number);
  expect(Math.hypot(at[0]! + zoomed[0]!.rect.x - place.x, at[1]! + zoomed[0]!.rect.y - place.y)).toBeLessThan(3);
  await page.mouse.move(place.x, place.y);
  const line = page.locator('[data-pane="' + zoomed[1]!.id + '"] .echo .echo-line');
  await expect(line).toHaveAttribute('d', /^M[\d. -]+L/);
  const [x0, , x1] = (await line.getAttribute('d'))!.match(/-?[\d.]+/g)!.map(Number) as [number, number, number];
  expect(Math.abs(x0 - x1)).toBeLessThan(0.01);
  expect(Math.abs(x0 + zoomed[1]!.rect.x - tank.x)).toBeLessThan(4);
  await page.keyboard.press('7');
  await page.mouse.move(place.x + 5, place.y);
  await expect(page.locator('.echo')).toHaveCount(0);
  await page.keyboard.press('7');

  // the bearing, too: the plan turns a quarter, the model turns with it and keeps its tilt
  await page.getByRole('button', { name: /^Tied to pane 2/ }).click();
  await page.getByRole('group', { name: 'Tie to pane 2' }).getByText('Same', { exact: true }).click();
  await page.keyboard.press('Escape');
  await page.mouse.click(middleOf(zoomed[0]!).x, middleOf(zoomed[0]!).y);
  const turned = await pressKey(page, '[', 2);
  const { eye, target } = turned[1]!.camera;
  const { up } = turned[0]!.camera;
  const level = Math.hypot(target.x - eye.x, target.y - eye.y);
  expect((target.x - eye.x) / level).toBeCloseTo(up.x, 6);
  expect((target.y - eye.y) / level).toBeCloseTo(up.y, 6);
  expect(Math.abs(up.x)).toBeCloseTo(1, 6);

  await chips.first().click();
  await page.getByRole('button', { name: 'Break the tie' }).click();
  await expect(chips).toHaveCount(0);
  await page.mouse.click(middleOf(zoomed[0]!).x, middleOf(zoomed[0]!).y);
  const free = await pressKey(page, '+', 2);
  expect(free[1]!.camera).toEqual(turned[1]!.camera);

  // a click on the echo goes there: what the model's cursor pointed at becomes the plan's middle
  const top = seenAt(free[1]!, tankTop);
  await page.mouse.move(top.x - 4, top.y);
  await page.mouse.move(top.x, top.y);
  await expect(ring).toBeVisible();
  await page.mouse.move(middleOf(free[0]!).x, middleOf(free[0]!).y);
  await page.getByRole('button', { name: 'Go to where the cursor pointed in pane 2' }).click();
  const [followed] = await panesSettled(page, 2);
  const off = Math.hypot(followed!.camera.target.x - tankTop.x, followed!.camera.target.y - tankTop.y);
  expect(off / perPx(followed!)).toBeLessThan(3);
});

test('plan with elevations: every feature lines up from pane to pane, also after one was moved; the panes come back', async ({
  page,
  app,
}) => {
  await openYard(page, app);
  await page.locator('.pane-surface').focus();
  const [front, left, top, free] = await pressKey(page, 'Shift+9', 4);
  const isInLine = (panes: readonly InspectedPane[]): void => {
    for (const point of [towerTop, tankTop, { x: E, y: N, z: 0 }]) {
      const [f, l, t] = panes.map((pane) => seenAt(pane, point)) as [Spot, Spot, Spot];
      expect(Math.abs(f.x - t.x)).toBeLessThan(0.5);
      expect(Math.abs(f.y - l.y)).toBeLessThan(0.5);
    }
  };
  isInLine([front!, left!, top!]);
  expect(free!.active).toBe(true);
  expect(left!.rect.x).toBeGreaterThan(front!.rect.x);
  expect(top!.rect.y).toBeGreaterThan(front!.rect.y);
  // the wheel in one moves all three
  const at = seenAt(front!, tankTop);
  await page.mouse.move(at.x, at.y);
  await page.mouse.wheel(0, -300);
  await expect
    .poll(async () => (await panesSettled(page, 4))[0]!.camera.widthWorld)
    .toBeLessThan(front!.camera.widthWorld!);
  const moved = await panesSettled(page, 4);
  isInLine(moved);
  await pressKey(page, 'Shift+F4', 1);
});
