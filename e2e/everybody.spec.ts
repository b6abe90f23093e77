/** Window sizes, keyboard only, touch only, and the view described in words. */
import type { Page } from '@playwright/test';
import {
  expect,
  expectAccessible,
  inspect,
  inspectPane,
  openChamber,
  openDrawing,
  openOwnChamber,
  settled,
  tap,
  test,
} from './app.ts';
import { openYard, press, seenAt, tankTop } from './yard.ts';

const SIZES = [
  [1280, 800],
  [1024, 700],
  [1366, 768],
  [2000, 900],
  [768, 1024],
  [640, 400], // 1280x800 at 200 %
] as const;

/** Names of what a person can't see wholly: cut by its line, or outside the window. */
const cutOff = (page: Page): Promise<string[]> =>
  page.evaluate(() => {
    const told = (one: Element): string => one.getAttribute('aria-label') ?? one.textContent;
    const isOut = (one: Element): boolean => {
      const { left, top, right, bottom, width } = one.getBoundingClientRect();
      if (width === 0 || getComputedStyle(one).visibility === 'hidden') return false;
      return left < -0.5 || top < -0.5 || right > innerWidth + 0.5 || bottom > innerHeight + 0.5;
    };
    const lines = [...document.querySelectorAll('.pane-foot, .status-line, .prompt, .tool-rail')];
    const overfull = lines.filter(
      (one) => one.scrollWidth > one.clientWidth + 1 || one.scrollHeight > one.clientHeight + 1,
    );
    const parts = document.querySelectorAll('.pane-foot *, .status-line *, .tool-rail button, .top-bar button');
    return [...overfull, ...[...parts].filter(isOut)].map(told);
  });

for (const [kind, open] of [
  ['plan', openChamber],
  ['model', openYard],
] as const)
  test(`at every size nothing of foot, prompt and rail is cut off: ${kind}`, async ({ page, app }) => {
    await open(page, app);
    for (const [width, height] of SIZES) {
      await page.setViewportSize({ width, height });
      await settled(page);
      for (const tool of ['Escape', 'd']) {
        await press(page, tool);
        await expect.poll(() => cutOff(page), { message: `${width}x${height}, ${tool}` }).toEqual([]);
      }
      await press(page, 'Escape');
      // scale and menu are always there, and every tool can be reached
      const foot = page.getByRole('group', { name: 'Foot' });
      await expect(foot.getByRole('button', { name: /^Scale, / })).toBeVisible();
      await expect(foot.getByRole('button', { name: 'More for this pane' })).toBeVisible();
      const rail = page.getByRole('navigation', { name: 'Tools' });
      for (const [group, row] of [
        ['Zoom', 'Fit all'],
        ['Trail', 'Back'],
        ...(kind === 'plan'
          ? [['Twist', 'Square up']]
          : [
              ['Turn', 'Orbit'],
              ['Clip', 'Clip box'],
            ]),
      ] as [string, string][]) {
        const own = rail.getByRole('button', { name: row, exact: true });
        const folded = rail.getByRole('button', { name: group, exact: true });
        await expect(own.or(folded), `${row} at ${width}x${height}`).toBeVisible();
      }
    }
  });

test('letters of 150 % enlarge the tools with them, and nothing is cut off', async ({ page, app }) => {
  await page.setViewportSize({ width: 1280, height: 800 });
  await openChamber(page, app);
  const fit = page.getByRole('button', { name: 'Fit all', exact: true });
  const before = (await fit.boundingBox())!.width;
  await page.evaluate(() => (document.documentElement.style.fontSize = '24px'));
  await expect.poll(async () => (await fit.boundingBox())!.width / before).toBeCloseTo(1.5, 2);
  await settled(page);
  await expect.poll(() => cutOff(page)).toEqual([]);
});

test('with more contrast all text reaches the enhanced ratio; with forced colours active controls use the highlight colours', async ({
  page,
  app,
}) => {
  await page.emulateMedia({ contrast: 'more' });
  await openChamber(page, app);
  await expectAccessible(page, 'more contrast', undefined, ['color-contrast-enhanced']);
  await page.emulateMedia({ contrast: 'no-preference', forcedColors: 'active' });
  await tap(page, 'd');
  const colours = (name: string): Promise<string> =>
    page
      .getByRole('navigation', { name: 'Tools' })
      .getByRole('button', { name, exact: true })
      .evaluate((one) => `${getComputedStyle(one).backgroundColor} ${getComputedStyle(one).color}`);
  await expect.poll(() => colours('Distance')).not.toBe(await colours('Fit all'));
  const shelf = page.getByRole('tab', { name: 'Layers' });
  expect(await shelf.evaluate((one) => getComputedStyle(one).backgroundColor)).toBe(
    (await colours('Distance')).split(' rgb(')[0],
  );
});

test('two panes side by side tell scale and coordinates', async ({ page, app }) => {
  await page.setViewportSize({ width: 1280, height: 800 });
  await openChamber(page, app);
  await page.keyboard.press('F2');
  await expect.poll(async () => (await inspect(page)).panes.length).toBe(2);
  await page.mouse.move(420, 300);
  const foot = page.getByRole('group', { name: 'Foot' }).first();
  await expect(foot.getByRole('button', { name: /^Scale, / })).toBeVisible();
  await expect(foot.getByRole('note', { name: 'Cursor', exact: true })).toContainText(/E .*N /);
  await expect(foot.getByRole('note', { name: 'Cursor', exact: true })).toBeInViewport({ ratio: 1 });
});

test('fifteen tasks with the keyboard alone', async ({ page, app }) => {
  const whole = await openOwnChamber(page, app);
  const pane = page.locator('.pane-surface').first();
  const prompt = page.getByRole('status', { name: 'Prompt' });
  const keys = async (...names: string[]): Promise<void> => {
    for (const name of names) await tap(page, name);
    await settled(page);
  };
  await pane.focus();
  // 1, 2: closer, and back
  await keys('+');
  expect((await inspectPane(page)).camera.widthWorld!).toBeLessThan(whole.camera.widthWorld!);
  await keys('Backspace');
  expect((await inspectPane(page)).camera).toEqual(whole.camera);
  // 3: an exact scale, by the find field
  await keys('/');
  await page.keyboard.type('1:20');
  await keys('Enter');
  expect((await inspectPane(page)).scaleDenominator).toBeCloseTo(20, 9);
  // 4: everything again
  await keys('a');
  // 5: a cursor of its own, and an object picked with it
  await keys('p', 'ArrowRight', 'ArrowDown');
  await expect(page.getByRole('group', { name: 'Keyboard cursor' })).toBeVisible();
  await page.getByLabel('Step of the keyboard cursor').focus();
  await page.keyboard.type('400');
  await page.keyboard.press('Enter');
  await expect(page.getByLabel('Step of the keyboard cursor')).toHaveValue('400');
  // the walls repeat every 400: from one corner to the next, whichever the snap of the first is
  await keys('d');
  await page.keyboard.press(' ');
  await expect(prompt).toContainText('(1 placed)');
  await keys('ArrowRight');
  await page.keyboard.press(' ');
  await expect(prompt).toContainText('(2 placed)');
  // 6: the distance is finished, exact
  await keys('Enter');
  await expect(prompt).toContainText(/Distance 400\D/);
  await keys('Escape', 'Escape');
  // 7: two corners are framed
  await keys('c');
  await page.keyboard.press(' ');
  await keys('ArrowLeft', 'ArrowDown');
  await page.keyboard.press(' ');
  const framed = await settled(page);
  expect(framed.camera.widthWorld!).toBeLessThan(whole.camera.widthWorld! / 4);
  await keys('Backspace');
  // 8: the lens dives to where it looks
  await keys('l');
  await page.keyboard.press(' ');
  expect((await settled(page)).camera.widthWorld!).toBeLessThan(whole.camera.widthWorld!);
  expect((await inspectPane(page)).tool).toBeNull();
  await keys('Backspace');
  // 9: a note is drawn on top
  await page.keyboard.press(';');
  await expect(page.getByRole('menuitem', { name: 'Rectangle', exact: true })).toBeVisible();
  await page.keyboard.type('Rect');
  for (let i = 0; i < 12; i++) {
    const focused = await page.evaluate(() => document.activeElement?.textContent ?? '');
    if (focused.startsWith('Rectangle')) break;
    await page.keyboard.press('ArrowDown');
  }
  await page.keyboard.press('Enter');
  await expect(prompt).toContainText('Rectangle');
  await pane.focus();
  await page.keyboard.press(' ');
  await keys('ArrowRight', 'ArrowDown');
  await page.keyboard.press(' ');
  await expect.poll(async () => (await inspectPane(page)).marks).toBe(1);
  await keys('Escape', 'Escape');
  // 10: the cursor is put away, arrows move the view again
  await keys('p');
  await expect(page.getByRole('group', { name: 'Keyboard cursor' })).toBeHidden();
  const before = await inspectPane(page);
  await keys('ArrowRight');
  expect((await inspectPane(page)).camera.target.x).toBeGreaterThan(before.camera.target.x);
  // 11: a view is kept
  await keys('Shift+J');
  // 12, 13: split, go to the other pane, close it
  await page.keyboard.press('F2');
  await expect.poll(async () => (await inspect(page)).panes.length).toBe(2);
  await page.keyboard.press('F6');
  await page.keyboard.press('F4');
  await expect.poll(async () => (await inspect(page)).panes.length).toBe(1);
  // 14: the sheet of keys opens and closes, and the pane has the keys again
  await page.keyboard.press('F1');
  await expect(page.getByRole('dialog')).toBeVisible();
  await page.keyboard.press('Escape');
  await expect(page.getByRole('dialog')).toBeHidden();
  // 15: the view is described
  await page.keyboard.press('Shift+Digit6');
  await expect(page.getByRole('status', { name: 'Notes' })).toContainText(
    /^Chamber: Plan, north up, scale 1:.*Middle at E .* N .*1 of 1 layers on\. Nothing picked\./,
  );
});

test('the view of a model is described in words, and the dial shrinks while a tool is in use', async ({
  page,
  app,
}) => {
  const start = await openYard(page, app);
  const dial = page.getByRole('group', { name: 'Dial' });
  await expect(dial).toBeVisible();
  // nothing of the model lies under the dial after a fit
  const box = (await dial.boundingBox())!;
  for (const x of [0, 20_000])
    for (const y of [0, 12_000])
      for (const z of [-500, 0]) {
        const at = seenAt(start, { x: 412_600_000 + x, y: 7_208_400_000 + y, z });
        expect(at.x > box.x && at.y > box.y).toBe(false);
      }
  await press(page, 'd');
  await expect(dial).toBeHidden();
  await page.getByRole('button', { name: 'Show the dial' }).click();
  await expect(dial).toBeVisible();
  await press(page, 'Escape');
  await expect(dial).toBeVisible();
  const at = seenAt(await settled(page), tankTop);
  await page.mouse.click(at.x, at.y);
  await expect.poll(async () => (await inspectPane(page)).picked).toBe(1);
  await press(page, 'Shift+Digit6');
  await expect(page.getByRole('status', { name: 'Notes' })).toContainText(
    /Yard: From south-east, above, .*Look: .*3 of 3 layers on\. 1 object picked\./,
  );
  await expectAccessible(page, 'a note');
});

test('the picture of a view is there within a second, and is what the pane showed', async ({ page, app }) => {
  await openYard(page, app);
  await press(page, 'w');
  await press(page, '1');
  // its last view, then all of them: none is blank
  await expect(page.locator('.trail-view').last().locator('img')).toBeVisible({ timeout: 1000 });
  await expect(page.locator('.trail-blank')).toHaveCount(0);
  // another pane of the same drawing has the same pictures
  await page.keyboard.press('F2');
  await expect.poll(async () => (await inspect(page)).panes.length).toBe(2);
  await expect(page.locator('.trail-blank')).toHaveCount(0);
});

test('a thousand layers are a list of the rows in sight', async ({ page, app }) => {
  const groups = Array.from(
    { length: 1000 },
    (_, i) => `<g id="Layer ${i}"><path stroke="#345678" d="M0 ${i}H900"/></g>`,
  );
  await openDrawing(page, app, 'Layered', `<svg xmlns="http://www.w3.org/2000/svg">${groups.join('')}</svg>`);
  const list = page.getByRole('list', { name: 'Layers' });
  await expect(list.getByRole('checkbox').first()).toBeVisible();
  expect(await list.getByRole('checkbox').count()).toBeLessThan(100);
  await page.getByRole('searchbox', { name: 'Search the layers' }).fill('Layer 77');
  await expect(list.getByRole('checkbox')).toHaveCount(11);
  await page.getByRole('button', { name: 'Found off' }).click();
  await page.getByRole('searchbox', { name: 'Search the layers' }).fill('');
  await expect(page.getByText('989 of 1 000 on')).toBeVisible();
  await list.evaluate((one) => (one.scrollTop = one.scrollHeight));
  await expect(list.getByRole('checkbox', { name: /^Layer 999/ })).toBeVisible();
});

test('lengths and angles are shown in the units that a person has chosen', async ({ page, app }) => {
  await openDrawing(
    page,
    app,
    'Slab',
    '<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 900 600" width="900mm" height="600mm"><path stroke="#345678" fill="none" d="M0 0H900V600z"/></svg>',
  );
  await page.getByRole('button', { name: /^Figures in / }).click();
  await page.getByLabel('Unit of lengths').selectOption('ft-in');
  await page.getByText('gon', { exact: true }).click();
  await page.keyboard.press('Escape');
  await press(page, 'd');
  const field = page.getByRole('textbox', { name: 'Place, way or length' });
  for (const text of ['100, 100', 'by 304.8, 0']) {
    await field.fill(text);
    await field.press('Enter');
  }
  await press(page, 'Enter');
  const told = page.getByRole('status', { name: 'Distance' });
  await expect(told).toContainText('1′ 0″');
  await expect(told).toContainText(/Bearing 100\sgon/);
});

test.describe('fingers', () => {
  test.use({ hasTouch: true, viewport: { width: 768, height: 1024 } });

  test('eight tasks with fingers alone, on a tablet held upright', async ({ page, app }) => {
    const whole = await openOwnChamber(page, app);
    const cdp = await page.context().newCDPSession(page);
    const touch = (type: 'touchStart' | 'touchMove' | 'touchEnd', ...points: [number, number][]): Promise<unknown> =>
      cdp.send('Input.dispatchTouchEvent', { type, touchPoints: points.map(([x, y], id) => ({ x, y, id })) });
    // 1: two fingers zoom
    await touch('touchStart', [400, 500]);
    await touch('touchStart', [400, 500], [500, 500]);
    for (const step of [10, 30, 60]) await touch('touchMove', [400 - step, 500], [500 + step, 500]);
    await touch('touchEnd');
    const closer = await settled(page);
    expect(closer.camera.widthWorld!).toBeLessThan(whole.camera.widthWorld! / 1.5);
    // 2: one pans
    await touch('touchStart', [400, 500]);
    for (const step of [20, 60, 90]) await touch('touchMove', [400 + step, 500]);
    await touch('touchEnd');
    expect((await settled(page)).camera.target.x).toBeLessThan(closer.camera.target.x);
    // 3: back, by the rail or its group
    const rail = page.getByRole('navigation', { name: 'Tools' });
    await rail.getByRole('button', { name: 'Back', exact: true }).tap();
    expect((await settled(page)).camera.widthWorld!).toBeCloseTo(closer.camera.widthWorld!, 6);
    // 4: everything
    await rail.getByRole('button', { name: 'Fit all', exact: true }).tap();
    expect((await settled(page)).camera.widthWorld!).toBeCloseTo(whole.camera.widthWorld!, 6);
    // 5: a layer is switched off in the shelf, a sheet over the panes
    await page.getByRole('button', { name: 'Layers', exact: true }).tap();
    await page.getByRole('checkbox', { name: /^Walls/ }).tap();
    await expect(page.getByText('0 of 1 on')).toBeVisible();
    await page.getByRole('checkbox', { name: /^Walls/ }).tap();
    await page.getByRole('button', { name: 'Fold the shelf' }).tap();
    // 6: a distance is measured by two taps
    await rail.getByRole('button', { name: 'Distance', exact: true }).tap();
    await page.touchscreen.tap(350, 450);
    await expect(page.getByRole('status', { name: 'Prompt' })).toContainText('(1 placed)');
    await page.touchscreen.tap(550, 560);
    await expect(page.getByRole('status', { name: 'Prompt' })).toContainText('(2 placed)');
    await expect(page.getByRole('status', { name: 'Distance' })).toContainText('Bearing');
    await rail.getByRole('button', { name: 'Distance', exact: true }).tap();
    // 7: a view is kept and gone to
    await rail.getByRole('button', { name: 'Keep this view' }).tap();
    await expect(page.getByRole('status', { name: 'Notes' })).toContainText('Kept as');
    // 8: found by name
    await page.getByRole('combobox', { name: 'Find' }).tap();
    await page.keyboard.type('1:10');
    await page.getByRole('option').first().tap();
    expect((await settled(page)).scaleDenominator).toBeCloseTo(10, 9);
    // what fingers press is large enough
    const small = await page.evaluate(() =>
      [...document.querySelectorAll('.tool-rail button, .top-bar button, .pane-foot button')]
        .filter((one) => {
          const { width, height } = one.getBoundingClientRect();
          return width > 0 && (width < 43.5 || height < 43.5);
        })
        .map((one) => one.getAttribute('aria-label')),
    );
    expect(small).toEqual([]);
  });

  test('a card is dragged to another place with a finger', async ({ page, app }) => {
    await openOwnChamber(page, app);
    const rail = page.getByRole('navigation', { name: 'Tools' });
    for (const name of ['Zoom in', 'Fit all']) {
      const button = rail.getByRole('button', { name, exact: true });
      if (await button.isVisible()) await button.tap();
      else await tap(page, name === 'Fit all' ? 'a' : '+');
      await settled(page);
      await rail.getByRole('button', { name: 'Keep this view' }).tap();
      await expect(page.getByRole('status', { name: 'Notes' })).toContainText('Kept as');
    }
    await page.getByRole('button', { name: 'Views', exact: true }).tap();
    const cards = page.getByRole('list', { name: 'Views' }).getByRole('listitem');
    await expect(cards).toHaveCount(2);
    const names = await cards.evaluateAll((all) => all.map((one) => one.getAttribute('aria-label')));
    // the code that drags is loaded when there is something to drag
    await expect(cards.locator('xpath=descendant-or-self::*[@data-can-drag]')).toHaveCount(2);
    const middles = (await Promise.all([0, 1].map((k) => cards.nth(k).boundingBox()))).map((box) => ({
      x: Math.round(box!.x + box!.width / 2),
      y: Math.round(box!.y + box!.height / 2),
    }));
    const [first, second] = middles as [{ x: number; y: number }, { x: number; y: number }];
    const cdp = await page.context().newCDPSession(page);
    const touch = (type: 'touchStart' | 'touchMove' | 'touchEnd', ...touchPoints: { x: number; y: number }[]) =>
      cdp.send('Input.dispatchTouchEvent', { type, touchPoints });
    await touch('touchStart', second);
    await expect(page.locator('[data-dnd-dragging]').first()).toBeAttached();
    await expect(async () => {
      for (const step of [0.2, 0.5, 0.8, 1])
        await touch('touchMove', { x: first.x, y: Math.round(second.y + step * (first.y - second.y)) });
      await expect(page.locator('.view-card[data-over="true"]')).toBeVisible({ timeout: 500 });
    }).toPass({ intervals: [50] });
    await touch('touchEnd');
    await expect
      .poll(() => cards.evaluateAll((all) => all.map((one) => one.getAttribute('aria-label'))))
      .toEqual([names[1], names[0]]);
  });
});
