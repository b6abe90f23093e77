/** Solids: orbit, directions, lock, projections, looks, picking and finding, with the hands of a person. */
import type { Page } from '@playwright/test';
import { PNG } from 'pngjs';
import type { InspectedPane } from '@gull-pane/protocol/inspect';
import { E, N, apart, letGo, openYard, orbit, press, seenAt, tankTop, tiltOf, towerTop } from './yard.ts';
import { VIEWPORT, chooseSmoothEdges, expect, expectAccessible, inspectPane, settled, test } from './app.ts';

test('a model opens from south-east above with everything in the pane', { tag: '@daily' }, async ({ page, app }) => {
  const pane = await openYard(page, app);
  await expect(page.getByRole('button', { name: 'Direction, From south-east, above' })).toBeVisible();
  for (const x of [0, 20_000])
    for (const y of [0, 12_000]) {
      const at = seenAt(pane, { x: E + x, y: N + y, z: -500 });
      expect(at.x).toBeGreaterThanOrEqual(pane.rect.x + 15);
      expect(at.x).toBeLessThanOrEqual(pane.rect.x + pane.rect.width - 15);
    }
  await expectAccessible(page, 'a solid');
});

test('orbit turns about the point that was grabbed, level, one step of the trail; Back returns', async ({
  page,
  app,
}) => {
  const before = await openYard(page, app);
  const grabbed = seenAt(before, tankTop);
  await orbit(page, grabbed, 150, -40);
  const during = await inspectPane(page);
  expect(apart(seenAt(during, tankTop), grabbed)).toBeLessThan(0.5);
  await expect(page.locator('.pivot-mark')).toBeVisible();
  const after = await letGo(page);
  expect(apart(seenAt(after, tankTop), grabbed)).toBeLessThan(0.5);
  expect(Math.abs(tiltOf(after) - tiltOf(before))).toBeGreaterThan(5);
  // the horizon stayed level: up has no part across
  const { eye, target, up } = after.camera;
  const across = { x: -(eye.y - target.y), y: eye.x - target.x };
  expect(Math.abs(across.x * up.x + across.y * up.y)).toBeLessThan(1e-6 * Math.hypot(across.x, across.y));
  expect(after.history.length).toBe(before.history.length + 1);
  const back = await press(page, 'Backspace');
  expect(back.camera.eye).toEqual(before.camera.eye);
});

test('a level orbit ends exactly at straight above; an open one goes on, and level up brings it back', async ({
  page,
  app,
}) => {
  const start = await openYard(page, app);
  const grabbed = seenAt(start, tankTop);
  await orbit(page, grabbed, 0, 400);
  expect(tiltOf(await letGo(page))).toBeCloseTo(90, 4);
  await press(page, 'i');
  await page.getByRole('combobox', { name: 'Kind of orbit' }).click();
  await page.getByTitle('Open orbit').click();
  await orbit(page, grabbed, 120, 60);
  const rolled = await letGo(page);
  await expect(page.getByRole('button', { name: /^Direction, .*rolled/ })).toBeVisible();
  const level = await press(page, 'y');
  await expect(page.getByRole('button', { name: /^Direction, (?!.*rolled)/ })).toBeVisible();
  expect(tiltOf(level)).toBeCloseTo(tiltOf(rolled), 3);
});

test('the orbit tool and a held key turn, too', async ({ page, app }) => {
  const start = await openYard(page, app);
  const grabbed = seenAt(start, tankTop);
  const drag = async (dx: number): Promise<void> => {
    await page.mouse.move(grabbed.x, grabbed.y);
    await page.mouse.down();
    await page.mouse.move(grabbed.x + dx, grabbed.y, { steps: 5 });
    await page.mouse.up();
  };
  await page.getByRole('navigation', { name: 'Tools' }).getByRole('button', { name: 'Orbit', exact: true }).click();
  await drag(90);
  const byTool = await settled(page);
  expect(apart(seenAt(byTool, tankTop), grabbed)).toBeLessThan(0.5);
  expect(byTool.camera.eye.x).not.toBeCloseTo(start.camera.eye.x, 0);
  await page.keyboard.press('Escape');
  expect((await inspectPane(page)).tool).toBeNull();
  await page.keyboard.down('b');
  await drag(-60);
  await page.keyboard.up('b');
  const byKey = await settled(page);
  expect(byKey.camera.eye.x).not.toBeCloseTo(byTool.camera.eye.x, 0);
  expect(byKey.tool).toBeNull();
  expect(byKey.picked).toBe(0);
});

test('a plan is locked: orbit pans it, a hint says how to unlock; a tilted one says so and squares up', async ({
  page,
  app,
}) => {
  await openYard(page, app);
  const plan = await press(page, '0');
  expect(tiltOf(plan)).toBeCloseTo(90, 6);
  await expect(page.getByRole('button', { name: 'Plan lock, locked' })).toBeVisible();
  const grabbed = seenAt(plan, tankTop);
  await orbit(page, grabbed, 70, 25);
  const panned = await letGo(page);
  expect(tiltOf(panned)).toBeCloseTo(90, 6);
  expect(apart(seenAt(panned, tankTop), { x: grabbed.x + 70, y: grabbed.y + 25 })).toBeLessThan(0.5);
  await page
    .getByRole('status', { name: 'Plan lock' })
    .getByRole('button', { name: /Unlock/ })
    .click();
  await orbit(page, seenAt(panned, tankTop), 0, -33);
  const tilted = await letGo(page);
  expect(tiltOf(tilted)).toBeLessThan(89);
  await expect(page.getByRole('button', { name: /Direction, Plan, tilted \d+°/ })).toBeVisible();
  await page.getByRole('group', { name: 'Foot' }).getByRole('button', { name: 'Square up', exact: true }).click();
  expect(tiltOf(await settled(page))).toBeCloseTo(90, 6);
});

test('the dial: dots, bars, arrow keys, typed numbers, and its mark dragged', async ({ page, app }) => {
  await openYard(page, app);
  const dial = page.getByRole('group', { name: 'Dial' });
  const direction = page.getByRole('button', { name: /^Direction, / });
  await dial.getByRole('button', { name: 'From north-west, below' }).click();
  await settled(page);
  await expect(direction).toHaveAccessibleName('Direction, From north-west, below');
  await dial.getByRole('button', { name: 'Plan', exact: true }).click();
  await settled(page);
  await expect(direction).toHaveAccessibleName('Direction, Plan, north up');
  await dial.getByRole('button', { name: 'From east', exact: true }).click();
  await settled(page);
  const mark = dial.getByRole('slider', { name: 'Direction' });
  await mark.focus();
  await page.keyboard.press('ArrowUp');
  expect(tiltOf(await settled(page))).toBeCloseTo(5, 4);
  const tilt = dial.getByRole('spinbutton', { name: 'Tilt' });
  await tilt.fill('50');
  await tilt.press('Enter');
  expect(tiltOf(await settled(page))).toBeCloseTo(50, 4);
  const chart = (await dial.locator('svg.dial-chart').boundingBox())!;
  await page.mouse.move(chart.x + 0.75 * chart.width + 12, chart.y + 20);
  await page.mouse.down();
  await page.mouse.move(chart.x + 0.5 * chart.width + 13, chart.y + 30, { steps: 4 });
  await page.mouse.up();
  await settled(page);
  await expect(direction).toHaveAccessibleName('Direction, From south, above');
});

test('switching the projection keeps what is in focus; zooming by the wheel never passes the surface', async ({
  page,
  app,
}) => {
  await openYard(page, app);
  await page.mouse.move(640, 60);
  const parallel = await inspectPane(page);
  const perspective = await press(page, 'q');
  expect(perspective.camera.projection).toBe('perspective');
  expect(
    apart(seenAt(perspective, perspective.camera.target), seenAt(parallel, perspective.camera.target)),
  ).toBeLessThan(0.1);
  expect(perspective.scaleDenominator / parallel.scaleDenominator).toBeCloseTo(1, 4);
  const at = seenAt(perspective, towerTop);
  await page.mouse.move(at.x, at.y);
  for (let i = 0; i < 5; i++) await page.mouse.wheel(0, -120);
  const closer = await settled(page);
  expect(closer.scaleDenominator).toBeLessThan(perspective.scaleDenominator / 2);
  // the px under the cursor stays; its rounding grows with the picture
  expect(apart(seenAt(closer, towerTop), at)).toBeLessThan(3);
  for (let i = 0; i < 25; i++) await page.mouse.wheel(0, -120);
  const close = await settled(page);
  expect(close.camera.eye.z).toBeGreaterThan(9000);
  const all = await press(page, 'a');
  const inside = seenAt(all, towerTop);
  expect(inside.y).toBeGreaterThanOrEqual(all.rect.y + 15);
  const again = await press(page, 'q');
  expect(again.camera.projection).toBe('parallel');
});

/** Share of a picture's px that have a colour like that of the tank. */
async function tealShare(page: Page, pane: InspectedPane): Promise<number> {
  const { x, y, width, height } = pane.rect;
  const { data } = PNG.sync.read(await page.screenshot({ clip: { x, y, width: width - 270, height } }));
  let count = 0;
  for (let i = 0; i < data.length; i += 4) {
    const [red, green, blue] = [data[i]!, data[i + 1]!, data[i + 2]!];
    if (green > red + 25 && Math.abs(green - blue) < 20) count++; // the ink of lines is bluer
  }
  return count / (data.length / 4);
}

/** Places along both contours of the tank near which nothing dark is drawn. @param withinPx how far they may be off */
async function contourGaps(page: Page, pane: InspectedPane, withinPx: number): Promise<number> {
  const { eye, target } = pane.camera;
  const away = Math.hypot(target.x - eye.x, target.y - eye.y);
  const [dx, dy] = [(target.x - eye.x) / away, (target.y - eye.y) / away];
  const picture = PNG.sync.read(await page.screenshot());
  const isDark = (x: number, y: number): boolean =>
    picture.data[4 * (Math.round(y) * picture.width + Math.round(x))]! < 190;
  let gaps = 0;
  for (const side of [-1, 1])
    for (let z = 300; z <= 4700; z += 50) {
      const at = seenAt(pane, { x: E + 5000 + side * 2500 * dy, y: N + 6000 - side * 2500 * dx, z });
      let found = false;
      for (let off = -withinPx; off <= withinPx; off++) found ||= isDark(at.x + off, at.y);
      if (!found) gaps++;
    }
  return gaps;
}

test.describe('with smooth edges', () => {
  test.use({ smoothEdges: 'automatic' }); // of an edge that isn't smooth every px has its whole colour

  test('looks: surfaces come and go, hidden lines are gone, see-through shows what lies behind', async ({
    page,
    app,
  }) => {
    const pane = await openYard(page, app);
    await page.mouse.move(640, 20);
    const choose = async (name: string): Promise<InspectedPane> => {
      await page.getByRole('button', { name: /^Look, / }).click();
      await page.getByRole('group', { name: 'Looks' }).getByRole('button', { name, exact: true }).click();
      await page.keyboard.press('Escape');
      // its chosen button has the colour that is looked for
      await expect(page.getByRole('group', { name: 'Looks' })).toBeHidden();
      await page.locator('.pane-surface').focus();
      return settled(page);
    };
    const shaded = await tealShare(page, pane);
    expect(shaded).toBeGreaterThan(0.01);
    const lines = await choose('Lines');
    expect(lines.drawn.triangles).toBe(0);
    expect(await tealShare(page, pane)).toBeLessThan(shaded / 8);
    const hidden = await choose('Hidden line');
    expect(hidden.drawn.triangles).toBeGreaterThan(0);
    expect(await tealShare(page, pane)).toBeLessThan(shaded / 20);
    // the contours of the tank run from its foot to its rim without a gap
    expect(await contourGaps(page, hidden, 3)).toBe(0);
    const perspective = await press(page, 'q');
    expect(await contourGaps(page, perspective, 14)).toBe(0);
    await press(page, 'q');
    const plain = await choose('Shaded');
    expect(plain.drawn.segments).toBe(0);
    await choose('Materials');
    expect(await tealShare(page, pane)).toBeGreaterThan(shaded / 2);
    await choose('See-through');
    expect((await inspectPane(page)).drawn.segments).toBeGreaterThan(0);
  });
});

test('objects are told under the cursor, picked by a click, framed, and found by name', async ({ page, app }) => {
  const pane = await openYard(page, app);
  const at = seenAt(pane, tankTop);
  await page.mouse.move(at.x - 3, at.y);
  await page.mouse.move(at.x, at.y);
  await expect(page.getByRole('status', { name: 'Under the cursor' })).toContainText('KS-TK-0007');
  await expect(page.getByRole('note', { name: 'Cursor', exact: true })).toHaveText(/Z 5\u202f000$/);
  await page.mouse.click(at.x, at.y);
  await expect.poll(async () => (await inspectPane(page)).picked).toBe(1);
  const framed = await press(page, 'f');
  expect(framed.scaleDenominator).toBeLessThan(pane.scaleDenominator / 1.5);
  await page.keyboard.press('g');
  await page.keyboard.type('KS-TW-0003');
  await expect(page.getByRole('option', { name: /KS-TW-0003/ }).first()).toBeVisible();
  await page.keyboard.press('Enter');
  await expect(page.getByRole('status', { name: 'Hits' })).toHaveText('1 of 1');
  const found = await settled(page);
  const top = seenAt(found, { ...towerTop, z: 4500 });
  expect(apart(top, { x: found.rect.x + found.rect.width / 2, y: found.rect.y + found.rect.height / 2 })).toBeLessThan(
    40,
  );
  // from the west the tank stands before the tower: it fades until the view changes
  await press(page, '4');
  await settled(page);
  await press(page, 'f');
  await expect.poll(async () => (await inspectPane(page)).faded).toBe(1);
  await press(page, 'ArrowLeft');
  await expect.poll(async () => (await inspectPane(page)).faded).toBe(0);
});

test('the view is in the address and comes back with it, tilted and in perspective; a home view can be set', async ({
  page,
  app,
}) => {
  await openYard(page, app);
  await page.getByRole('group', { name: 'Dial' }).getByRole('button', { name: 'From west, above' }).click();
  const before = await press(page, 'q');
  await expect.poll(() => page.url()).toContain('fov=45');
  await page.goto(page.url());
  const after = await settled(page);
  expect(after.camera.projection).toBe('perspective');
  for (const axis of ['x', 'y', 'z'] as const)
    expect(Math.abs(after.camera.eye[axis] - before.camera.eye[axis])).toBeLessThan(0.01);
  await press(page, 'Shift+G');
  await expect(page.getByText('Home view set')).toBeVisible();
  await press(page, '0');
  const home = await press(page, 'i');
  expect(home.camera).toEqual(after.camera);
  // it is kept with the drawing, not in this browser alone
  const context = await page.context().browser()!.newContext({ viewport: VIEWPORT, reducedMotion: 'reduce' });
  await chooseSmoothEdges(context, 'off');
  const elsewhere = await context.newPage();
  await elsewhere.goto(page.url().replace(/\?.*/, ''));
  await settled(elsewhere);
  await press(elsewhere, '0');
  expect((await press(elsewhere, 'i')).camera).toEqual(after.camera);
  await context.close();
});

test.describe('on a touch screen', () => {
  test.use({ hasTouch: true });

  test('two fingers that move side by side turn the model about what lies between them', async ({ page, app }) => {
    const before = await openYard(page, app);
    const cdp = await page.context().newCDPSession(page);
    const touch = (type: 'touchStart' | 'touchMove' | 'touchEnd', ...points: [number, number][]): Promise<unknown> =>
      cdp.send('Input.dispatchTouchEvent', { type, touchPoints: points.map(([x, y], id) => ({ x, y, id })) });
    const { x, y } = seenAt(before, tankTop);
    await touch('touchStart', [x - 40, y]);
    await touch('touchStart', [x - 40, y], [x + 40, y]);
    // fingers come one after the other, so that each step is a tiny pinch as well
    for (let step = 1; step <= 150; step += 2)
      await touch('touchMove', [x - 40 + step, y - step / 4], [x + 40 + step, y - step / 4]);
    await touch('touchEnd');
    const after = await settled(page);
    expect(apart(seenAt(after, tankTop), { x, y })).toBeLessThan(8);
    expect(Math.abs(tiltOf(after) - tiltOf(before))).toBeGreaterThan(3);
    expect(after.camera.widthWorld).toBeCloseTo(before.camera.widthWorld!, 6);
  });
});

test('a reload right after hiding, cutting and another look brings all of it back, in one pane', async ({
  page,
  app,
}) => {
  await openYard(page, app);
  await press(page, 'w');
  const before = await press(page, '1');
  const tower = seenAt(before, { ...towerTop, z: 4500 });
  await page.mouse.click(tower.x, tower.y);
  await expect.poll(async () => (await settled(page)).picked).toBe(1);
  await press(page, 'e');
  await press(page, 'Shift+C');
  await page.getByRole('tab', { name: /^Clips/ }).click();
  await expect(page.getByRole('listitem', { name: 'Box 1' })).toBeVisible();
  await page.getByRole('button', { name: /^Look, / }).click();
  await page.getByRole('group', { name: 'Looks' }).getByRole('button', { name: 'Hidden line', exact: true }).click();
  await page.reload(); // at once
  const after = await settled(page);
  expect(after.camera).toEqual(before.camera);
  await expect(page.getByText('1 object hidden')).toBeVisible();
  await expect(page.getByRole('listitem', { name: 'Box 1' })).toBeVisible();
  await expect(page.getByRole('button', { name: 'Look, Hidden line' })).toBeVisible();
});

test('a plan of the same place lies on the ground, is kept, and goes again', async ({ page, app }) => {
  const pane = await openYard(page, app);
  const choice = page.getByRole('combobox', { name: 'Plan on the ground' });
  await expect(choice).toBeVisible();
  const shot = async (): Promise<PNG> => {
    const { x, y, width } = pane.rect;
    return PNG.sync.read(await page.screenshot({ clip: { x, y: y + 60, width: width / 3, height: 120 } }));
  };
  const differing = (a: PNG, b: PNG): number => {
    let count = 0;
    for (let i = 0; i < a.data.length; i += 4)
      if (Math.abs(a.data[i]! - b.data[i]!) + Math.abs(a.data[i + 2]! - b.data[i + 2]!) > 60) count++;
    return count;
  };
  await press(page, '-');
  await press(page, '-');
  const bare = await shot();
  // by name: other tests of this server may have drawn plans at the same place
  await choice.click();
  await page.getByTitle('Site general arrangement', { exact: true }).click();
  await expect.poll(async () => differing(bare, await shot()), { timeout: 20_000 }).toBeGreaterThan(300);
  await expect(page.getByRole('complementary')).toContainText('Site general arrangement');
  await page.reload();
  await settled(page);
  await expect.poll(async () => differing(bare, await shot()), { timeout: 20_000 }).toBeGreaterThan(300);
  await press(page, 'Shift+P');
  await expect.poll(async () => differing(bare, await shot())).toBeLessThan(40);
});
