/** Inside a model: standing and walking, clips, six axes, the tree. */
import type { Page } from '@playwright/test';
import { PNG } from 'pngjs';
import type { InspectedPane } from '@gull-pane/protocol/inspect';
import { expect, expectAccessible, inspectPane, settled, test } from './app.ts';
import { E, N, apart, letGo, openYard, orbit, press, seenAt, tankTop, tiltOf, towerTop } from './yard.ts';

/** On the slab, south-east of the tank and before the tower. */
const spot = { x: E + 10_000, y: N + 3000, z: 0 };

test('one stands where the floor is clicked, walks by keys and leash, is stopped by walls, and goes back', async ({
  page,
  app,
}) => {
  const before = await openYard(page, app);
  await page.keyboard.press('Shift+F');
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
  await expect.poll(async () => (await inspectPane(page)).tool).toBeNull();
});

/** The colour of a place of the pane. */
async function colourAt(page: Page, at: { x: number; y: number }): Promise<number[]> {
  const shot = PNG.sync.read(await page.screenshot({ clip: { x: at.x - 3, y: at.y - 3, width: 7, height: 7 } }));
  const sums = [0, 0, 0];
  for (let i = 0; i < shot.data.length; i += 4) for (let c = 0; c < 3; c++) sums[c]! += shot.data[i + c]! / 49;
  return sums;
}

test('a clip box shows its inside alone, with caps where it cuts; picks and fits mind it', async ({ page, app }) => {
  const before = await openYard(page, app);
  const tower = seenAt(before, { ...towerTop, z: 4500 });
  await page.mouse.click(tower.x, tower.y);
  await press(page, 'Shift+C');
  await page.getByRole('tab', { name: 'Clips' }).click();
  const box = page.getByRole('listitem', { name: 'Box 1' });
  await expect(box.getByRole('spinbutton', { name: 'Height' })).toHaveValue(/9\D?360/);
  // the tank is gone: nothing can be picked there
  await page.keyboard.press('Escape');
  const tank = seenAt(before, tankTop);
  await page.mouse.click(tank.x, tank.y);
  expect((await settled(page)).picked).toBe(0);
  // a fit looks at what remains
  const fitted = await press(page, 'a');
  const [low, high] = [seenAt(fitted, { ...towerTop, z: 0 }), seenAt(fitted, towerTop)];
  expect(low.y - high.y).toBeGreaterThan(0.5 * fitted.rect.height);

  // half of the tower is cut away: what was its wall is a hatched cap now
  const wall = await colourAt(page, seenAt(fitted, { x: E + 15_000, y: N + 5000, z: 7000 }));
  await box.getByRole('spinbutton', { name: 'Height' }).fill('4000');
  await page.keyboard.press('Enter');
  await settled(page);
  const capped = await colourAt(page, seenAt(fitted, { x: E + 15_000, y: N + 6000, z: 6499 }));
  expect(Math.max(...capped.map((value, c) => Math.abs(value - wall[c]!)))).toBeGreaterThan(15);
  // its handle draws the side along its own normal
  const handle = page.getByRole('button', { name: 'Draw the top side of Box 1' });
  const at = (await handle.boundingBox())!;
  await page.mouse.move(at.x + at.width / 2, at.y + at.height / 2);
  await page.mouse.down();
  await page.mouse.move(at.x + at.width / 2, at.y + at.height / 2 - 60, { steps: 4 });
  await page.mouse.up();
  const perPx = fitted.camera.widthWorld! / fitted.rect.width;
  // level is seen foreshortened by the tilt of the view
  const wanted = 4000 + (60 * perPx) / Math.cos((tiltOf(fitted) * Math.PI) / 180);
  const height = async (): Promise<number> =>
    Number((await box.getByRole('spinbutton', { name: 'Height' }).inputValue()).replaceAll(/[^\d.]/g, ''));
  expect(Math.abs((await height()) - wanted)).toBeLessThan(3 * perPx);

  await box.getByRole('radiogroup', { name: 'Keeps' }).getByText('Outside').click();
  await press(page, 'a');
  const tankNow = await settled(page);
  const seen = seenAt(tankNow, tankTop);
  await page.mouse.click(seen.x, seen.y);
  expect((await settled(page)).picked).toBe(1);
  await expectAccessible(page, 'clips');
  await box.getByRole('button', { name: 'Delete Box 1' }).click();
  await expect(page.getByText('Nothing is cut.')).toBeVisible();
});

test('a section by a face cuts away what lies before it, and flips', async ({ page, app }) => {
  const before = await openYard(page, app);
  // on a low window the group is a menu
  await page.getByRole('button', { name: 'Clip', exact: true }).click();
  await page.getByRole('menuitem', { name: 'Section by a face' }).click();
  await expect(page.getByLabel('Prompt')).toContainText('Click a face of the model');
  const top = seenAt(before, { ...tankTop, z: 5000 });
  await page.mouse.click(top.x, top.y);
  await settled(page);
  // the tower above the tank's top is gone
  const above = seenAt(before, { x: E + 15_000, y: N + 5000, z: 8000 });
  await page.mouse.click(above.x, above.y);
  expect((await settled(page)).picked).toBe(0);
  await press(page, 'Shift+D');
  await page.mouse.click(above.x, above.y);
  expect((await settled(page)).picked).toBe(1);
  await press(page, 'Shift+Z');
  const slab = seenAt(before, { x: E + 10_000, y: N + 2000, z: 0 });
  await page.mouse.click(slab.x, slab.y);
  expect((await settled(page)).picked).toBe(1);
});

test('the controller on the screen slides, turns and zooms; a recording plays through it; all of it is on the trail', async ({
  page,
  app,
}) => {
  const before = await openYard(page, app);
  await press(page, 'Shift+M');
  const six = page.getByRole('group', { name: 'Six axes' });
  await expectAccessible(page, 'six axes');
  const turn = six.getByRole('button', { name: /^Turn: drag/ });
  const cap = (await turn.boundingBox())!;
  const middle = { x: cap.x + cap.width / 2, y: cap.y + cap.height / 2 };
  await page.mouse.move(middle.x, middle.y);
  await page.mouse.down();
  await page.mouse.move(middle.x + 30, middle.y, { steps: 3 });
  await expect(page.locator('.pivot-mark')).toBeVisible();
  await expect.poll(async () => tiltlessTurn(before, await inspectPane(page))).toBeGreaterThan(0.15);
  await page.mouse.up();
  const turned = await settled(page);
  expect(turned.history.index).toBe(before.history.index + 1);
  expect(turned.camera.widthWorld).toBeCloseTo(before.camera.widthWorld!, 6);

  // keys push it, too: the model comes nearer as long as the key is down
  await six.getByRole('button', { name: /^Slide: drag/ }).focus();
  await page.keyboard.down('PageUp');
  await expect
    .poll(async () => (await inspectPane(page)).camera.widthWorld!)
    .toBeLessThan(0.8 * before.camera.widthWorld!);
  await page.keyboard.up('PageUp');
  const nearer = await settled(page);
  expect(nearer.history.index).toBe(turned.history.index + 1);

  await six.getByRole('button', { name: 'Play a recorded round' }).click();
  await expect.poll(async () => tiltlessTurn(nearer, await inspectPane(page))).toBeGreaterThan(0.1);
  await six.getByRole('button', { name: 'Stop the recording' }).click();
  await settled(page);
  await press(page, 'Backspace');
  expect((await settled(page)).camera).toEqual(nearer.camera);
});

/** How far two views look another way, radians. */
function tiltlessTurn({ camera: a }: InspectedPane, { camera: b }: InspectedPane): number {
  const way = ({ eye, target }: typeof a): number => Math.atan2(target.y - eye.y, target.x - eye.x);
  const apartRad = Math.abs(way(a) - way(b));
  return Math.min(apartRad, 2 * Math.PI - apartRad);
}

test('the tree is in step with the picks; a box takes what lies in it by its faces; one turns with the picked alone', async ({
  page,
  app,
}) => {
  const before = await openYard(page, app);
  await page.getByRole('tab', { name: 'Tree' }).click();
  const tower = seenAt(before, { ...towerTop, z: 4500 });
  await page.mouse.click(tower.x, tower.y);
  const leaf = page.getByRole('treeitem', { name: /KS-TW-0003/, selected: true });
  await expect(leaf).toBeVisible();
  await expectAccessible(page, 'the tree');
  await page.getByLabel('Search the tree').fill('tk-');
  await page.getByText('KS-TK-0007').click();
  expect((await settled(page)).picked).toBe(1);
  await page.getByRole('tab', { name: 'Picked' }).click();
  await page.getByRole('button', { name: /KS-TK-0007/ }).click();
  // a cylinder of 96 sides, 5 m across and 5 m high
  await expect(page.getByText(/^98\.1\d+ m³$/)).toBeVisible();
  await expect(page.getByText('Yard › Tanks')).toBeVisible();

  // the corner of the tank's box, seen beside its round side, isn't the tank
  await page.keyboard.press('Escape');
  const corner = { x: E + 2500, y: N + 3500, z: 5000 };
  const beside = seenAt(before, corner);
  await page.mouse.move(beside.x - 12, beside.y - 12);
  await page.mouse.down();
  await page.mouse.move(beside.x + 6, beside.y + 6, { steps: 3 });
  await expect(page.getByRole('status', { name: 'Box' })).toContainText(/touched\s*0/);
  const top = seenAt(before, tankTop);
  await page.mouse.move(top.x, top.y, { steps: 3 });
  await expect(page.getByRole('status', { name: 'Box' })).toContainText(/inside\s*0touched\s*[12]/);
  await page.mouse.up();

  await page.mouse.click(tower.x, tower.y);
  expect((await settled(page)).picked).toBe(1);
  await press(page, 'Shift+N');
  const tank = seenAt(before, tankTop);
  const shown = await colourAt(page, tank);
  await orbit(page, tower, 6, 0);
  await expect
    .poll(async () => {
      const alone = await colourAt(page, tank);
      return Math.max(...alone.map((value, c) => Math.abs(value - shown[c]!)));
    })
    .toBeGreaterThan(40);
  await letGo(page);
  const back = await colourAt(page, seenAt(await settled(page), tankTop));
  expect(Math.max(...back.map((value, c) => Math.abs(value - shown[c]!)))).toBeLessThan(12);
});
