/** Inside a model: standing and walking. */
import { expect, expectAccessible, inspectPane, settled, test } from './app.ts';
import { E, N, apart, openYard, press, seenAt, towerTop } from './yard.ts';

/** On the slab, south-east of the tank and before the tower. */
const spot = { x: E + 10_000, y: N + 3000, z: 0 };

test('one stands where the floor is clicked, walks by keys and leash, is stopped by walls, and goes back', async ({
  page,
  app,
}) => {
  const before = await openYard(page, app);
  await page.getByRole('button', { name: 'Stand', exact: true }).click();
  await expect(page.getByLabel('Prompt')).toContainText('Click the floor where you want to stand');
  const at = seenAt(before, spot);
  await page.mouse.click(at.x, at.y);
  const stance = page.getByRole('group', { name: 'Stance' });
  await expect(stance).toBeVisible();
  const standing = await settled(page);
  const { eye } = standing.camera;
  expect(Math.hypot(eye.x - spot.x, eye.y - spot.y)).toBeLessThan(60);
  expect(eye.z).toBeCloseTo(1650, 1);
  expect(standing.camera.projection).toBe('perspective');
  expect(standing.history.index).toBe(before.history.index + 1);
  await expectAccessible(page, 'standing');

  await stance.getByLabel('Eye height').fill('2.1');
  await page.keyboard.press('Enter');
  await expect.poll(async () => (await inspectPane(page)).camera.eye.z).toBeCloseTo(2100, 1);

  // the view looks north-west: the tank is ahead; walls stop, so nobody gets into it
  await page.locator('.pane-surface').focus();
  const middle = { x: E + 5000, y: N + 6000 };
  await page.keyboard.down('Shift');
  await page.keyboard.down('ArrowUp');
  const toTank = async (): Promise<number> => {
    const { eye: now } = (await inspectPane(page)).camera;
    return Math.hypot(now.x - middle.x, now.y - middle.y);
  };
  await expect.poll(toTank, { timeout: 20_000 }).toBeLessThan(3300);
  await page.keyboard.up('ArrowUp');
  await page.keyboard.up('Shift');
  const walked = await settled(page);
  expect(await toTank()).toBeGreaterThan(2700);
  expect(walked.camera.eye.z).toBeCloseTo(2100, 0);
  expect(walked.history.index).toBe(standing.history.index + 2);

  // a drag looks about: what is seen follows the hand, the eye stays
  await page.mouse.move(700, 400);
  await page.mouse.down();
  await page.mouse.move(500, 430, { steps: 5 });
  await page.mouse.up();
  const looked = await settled(page);
  for (const axis of ['x', 'y', 'z'] as const)
    expect(Math.abs(looked.camera.eye[axis] - walked.camera.eye[axis])).toBeLessThan(1e-3);
  expect(looked.camera.target).not.toEqual(walked.camera.target);

  // with Shift it leads, as long as it is held
  await page.keyboard.down('Shift');
  await page.mouse.move(700, 400);
  await page.mouse.down();
  await page.mouse.move(700, 560, { steps: 4 });
  await expect(page.locator('.leash-mark text')).toContainText('m/s back');
  await expect
    .poll(async () => {
      const { eye: now } = (await inspectPane(page)).camera;
      return Math.hypot(now.x - looked.camera.eye.x, now.y - looked.camera.eye.y);
    })
    .toBeGreaterThan(500);
  await page.mouse.up();
  await page.keyboard.up('Shift');
  expect((await settled(page)).camera.eye.z).toBeCloseTo(2100, 0);

  await page.keyboard.press('Escape');
  expect((await settled(page)).camera).toEqual(before.camera);
  await expect(stance).toBeHidden();
  // all of it is on the trail
  await press(page, 'Backspace');
  expect((await settled(page)).camera.projection).toBe('perspective');
});

test('the plan inset moves one there; the sky is no floor; another view ends the stance', async ({ page, app }) => {
  const before = await openYard(page, app);
  await press(page, 'Shift+F');
  await page.mouse.click(before.rect.x + 30, before.rect.y + 30);
  await expect(page.getByRole('alert').filter({ hasText: 'Nothing is there to stand on' })).toBeVisible();
  const roof = seenAt(before, towerTop);
  await page.mouse.click(roof.x, roof.y + 6);
  const onTop = await settled(page);
  expect(onTop.camera.eye.z).toBeGreaterThan(9000);
  const plan = page.getByRole('button', { name: 'Plan: a click moves you there' });
  const box = (await plan.boundingBox())!;
  // the slab fills the plan's width but for a margin; its middle is in the middle
  await plan.click({ position: { x: box.width / 2, y: box.height / 2 } });
  const moved = await settled(page);
  expect(apart(moved.camera.eye, { x: E + 10_000, y: N + 6000 })).toBeLessThan(300);
  expect(moved.camera.eye.z).toBeCloseTo(1650, 0);
  await press(page, 'a');
  await expect(page.getByRole('group', { name: 'Stance' })).toBeHidden();
  await expect(page.getByRole('button', { name: 'Stand', exact: true })).toHaveAttribute('aria-pressed', 'false');
});
