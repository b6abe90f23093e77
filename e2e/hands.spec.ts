import { isDeepStrictEqual } from 'node:util';
import type { CDPSession, Page } from '@playwright/test';
import type { InspectedPane } from '@gull-pane/protocol/inspect';
import { expect, inspectPane, openDrawing, tap, test, type RunningApp } from './app.ts';

/** A valve pit on its sheet, 1 px of the file a metre; few lines, so that many acts take little time. */
const pit =
  `<svg xmlns="http://www.w3.org/2000/svg" width="420m" height="297m" viewBox="0 0 420 297" fill="none" stroke="#16324A">
  <g id="Sheet frame"><rect x="10" y="10" width="400" height="277"/></g>
  <g id="Pit"><rect x="60" y="60" width="280" height="160"/><circle cx="200" cy="140" r="40"/><path d="M60 220L340 60M150 60V220"/></g>
  <g id="Survey marks"><path d="M0 0H4M416 297H420"/></g></svg>`
    .replaceAll('420m', '420000mm')
    .replaceAll('297m', '297000mm');

/** Where the cursor rests, and where tools are clicked; page px. */
const AT = { x: 700, y: 300 };
const OTHER = { x: 820, y: 380 };

type Camera = InspectedPane['camera'];
type Way = (page: Page, cdp: CDPSession) => Promise<void>;

/** Ways over something that is pressed on the page: they are the same whatever hands mean. */
const pressed = new WeakSet<Way>();
const overThePage = (way: Way): Way => {
  pressed.add(way);
  return way;
};

const key =
  (name: string): Way =>
  (page) =>
    tap(page, name);
const button = (name: string): Way =>
  overThePage((page) =>
    page.getByRole('navigation', { name: 'Tools' }).getByRole('button', { name, exact: true }).click(),
  );
const railMenu = (name: string, row: string): Way =>
  overThePage(async (page, cdp) => {
    await button(name)(page, cdp);
    await page.getByRole('menuitem', { name: row }).click();
  });
/** A row of the short menu, opened at the cursor's place. */
const menu = (...path: string[]): Way =>
  overThePage(async (page) => {
    await page.mouse.click(AT.x, AT.y, { button: 'right' });
    for (const [index, name] of path.entries()) {
      const row = page.getByRole('menuitem', { name, exact: false }).last();
      if (index < path.length - 1) await row.hover();
      else await row.click();
    }
  });
const rest: Way = (page) => page.mouse.move(AT.x, AT.y);
const sideButton =
  (name: 'back' | 'forward'): Way =>
  async (_, cdp) => {
    for (const type of ['mousePressed', 'mouseReleased'] as const)
      await cdp.send('Input.dispatchMouseEvent', { type, ...AT, button: name, clickCount: 1 });
  };
const then = (...ways: Way[]): Way => {
  const all: Way = async (page, cdp) => {
    for (const way of ways) await way(page, cdp);
  };
  return ways.some((way) => pressed.has(way)) ? overThePage(all) : all;
};
const click =
  ({ x, y }: { x: number; y: number }): Way =>
  async (page) => {
    await page.mouse.move(x, y);
    await page.mouse.down();
    await page.mouse.up();
  };
/** From AT to OTHER with a button, keys held with it or a letter held for it. */
const drag =
  (name: 'left' | 'middle' | 'right', ...held: string[]): Way =>
  async (page) => {
    await page.mouse.move(AT.x, AT.y);
    for (const one of held) await page.keyboard.down(one);
    await page.mouse.down({ button: name });
    await page.mouse.move(AT.x + 40, AT.y + 30, { steps: 3 });
    await page.mouse.move(OTHER.x, OTHER.y, { steps: 3 });
    await page.mouse.up({ button: name });
    for (const one of [...held].reverse()) await page.keyboard.up(one);
  };
const pressWheel =
  (times: number): Way =>
  async (page) => {
    await page.mouse.move(AT.x, AT.y);
    for (let i = 0; i < times; i++) {
      await page.mouse.down({ button: 'middle' });
      await page.mouse.up({ button: 'middle' });
    }
  };

const twoClicks = then(click(AT), click(OTHER));

/** Every act of the sheet that moves the view, in every way of doing it: all must lead to the same camera. */
const acts: Readonly<Record<string, readonly Way[]>> = {
  'Fit all': [key('a'), key('Home'), button('Fit all'), menu('Fit all'), pressWheel(2)],
  'Fit sheet': [key('s'), railMenu('More: zoom', 'Fit sheet'), menu('View', 'Sheets', 'Fit sheet')],
  Closer: [key('+'), button('Closer'), menu('View', 'Scale', 'Closer')],
  Farther: [key('-'), button('Farther'), menu('View', 'Scale', 'Farther')],
  'Twice out': [key('o'), railMenu('More: zoom', 'Twice out'), menu('View', 'Scale', 'Twice out')],
  'Centre here': [then(rest, key('m')), menu('Centre here'), pressWheel(1)],
  Back: [key('Backspace'), button('Back'), menu('View', 'Trail', 'Back'), sideButton('back')],
  'Turn a quarter left': [key('['), button('Turn a quarter left'), menu('View', 'Twist', 'Turn a quarter left')],
  'Turn a quarter right': [key(']'), button('Turn a quarter right'), menu('View', 'Twist', 'Turn a quarter right')],
  'Square up': [key('u'), button('Square up'), menu('View', 'Twist', 'Square up')],
  'Frame corners': [key('c'), button('Frame corners'), menu('Frame corners')].map((way) => then(way, twoClicks)),
  Lens: [key('l'), button('Lens'), menu('Lens')].map((way) => then(way, click(AT))),
  'Level a line': [key('v'), button('Level a line'), menu('View', 'Twist', 'Level a line')].map((way) =>
    then(way, twoClicks),
  ),
};

/** The movements of each profile; a held letter is the same in all of them. */
const movements: Readonly<Record<string, Readonly<Record<string, readonly Way[]>>>> = {
  'wheel-button': {
    pan: [drag('middle'), drag('left', 'Alt'), drag('middle', 'Shift'), drag('left', 'p')],
    zoom: [drag('middle', 'Control'), drag('left', 'z')],
    twist: [drag('middle', 'Control', 'Shift'), drag('left', 't')],
  },
  'right-drag': {
    pan: [drag('right'), drag('middle'), drag('right', 'Shift'), drag('left', 'p')],
    zoom: [drag('right', 'Control'), drag('left', 'z')],
    twist: [drag('right', 'Control', 'Shift'), drag('left', 't')],
  },
  trackpad: {
    pan: [drag('left', 'Alt'), drag('middle'), drag('left', 'p')],
    zoom: [drag('left', 'Control'), drag('left', 'z')],
    twist: [drag('left', 'Control', 'Shift'), drag('left', 't')],
  },
  touch: {
    pan: [drag('middle'), drag('left', 'p')],
    zoom: [drag('left', 'Control'), drag('left', 'z')],
    twist: [drag('left', 'Control', 'Shift'), drag('left', 't')],
  },
};

async function openWith(page: Page, app: RunningApp, profile: string): Promise<void> {
  await page.emulateMedia({ reducedMotion: 'reduce' });
  await page.addInitScript((id) => {
    const state = { profile: id, percentPerNotch: 20, glides: false, smoothEdges: 'off' };
    localStorage.setItem('gull-pane-preferences', JSON.stringify({ state, version: 0 }));
  }, profile);
  await openDrawing(page, app, 'Valve pit', pit);
}

/** A view that nothing is special about: twisted, closer than all, with views before and after it on the trail. */
async function goToStart(page: Page): Promise<Camera> {
  for (const name of ['u', 'a', '+', 'ArrowRight', '[']) await page.keyboard.press(name);
  await page.mouse.move(AT.x, AT.y);
  await expectStill(page);
  return (await inspectPane(page)).camera;
}
/** Back to the start by the trail: every act has left one step, or two with the press that takes it back. */
async function returnTo(page: Page, start: Camera): Promise<Camera> {
  await page.mouse.move(AT.x, AT.y);
  for (let press = 0; press < 2; press++) {
    await page.keyboard.press('Backspace');
    await expectStill(page);
    const { camera } = await inspectPane(page);
    if (isDeepStrictEqual(camera, start)) return camera;
  }
  return goToStart(page);
}
const expectStill = (page: Page): Promise<unknown> =>
  page.waitForFunction(() => window.gullPane.inspect().panes.every((pane) => !pane.flying));

/** Does an act and, should it be one that waits for a second press, lets it come to its end. */
async function cameraAfter(page: Page, cdp: CDPSession, way: Way, before: Camera, what: string): Promise<Camera> {
  await way(page, cdp);
  await expect
    .poll(async () => (await inspectPane(page)).camera, { message: what, intervals: [10, 20, 40, 80] })
    .not.toEqual(before);
  await expectStill(page);
  return (await inspectPane(page)).camera;
}

function expectSame(camera: Camera, wanted: Camera, what: string): void {
  const tolerance = wanted.widthWorld! * 1e-9;
  expect(Math.abs(camera.widthWorld! - wanted.widthWorld!), what).toBeLessThan(tolerance);
  for (const axis of ['x', 'y'] as const) {
    expect(Math.abs(camera.target[axis] - wanted.target[axis]), what).toBeLessThan(tolerance);
    expect(Math.abs(camera.up[axis] - wanted.up[axis]), what).toBeLessThan(1e-9);
  }
}

for (const profile of ['wheel-button', 'right-drag', 'trackpad', 'touch']) {
  // buttons and menus are tried once, and one of them in each profile: it opens by a button of the mouse
  const isTried = (name: string, way: Way): boolean =>
    profile === 'wheel-button' || name === 'Fit all' || !pressed.has(way);
  test(`every way of doing an act leads to the same view: ${profile}`, async ({ page, app }) => {
    await openWith(page, app, profile);
    const cdp = await page.context().newCDPSession(page);
    let start = await goToStart(page);
    for (const [name, ways] of Object.entries({ ...acts, ...movements[profile] })) {
      let wanted: Camera | null = null;
      for (const [index, way] of ways.entries()) {
        if (!isTried(name, way)) continue;
        const camera = await cameraAfter(page, cdp, way, start, `${name}, way ${index + 1}`);
        wanted ??= camera;
        expectSame(camera, wanted, `${name}, way ${index + 1}`);
        expect((await inspectPane(page)).tool).toBeNull();
        start = await returnTo(page, start);
      }
    }
  });
}

test('no navigation ends a measurement or moves its points', async ({ page, app }) => {
  await openWith(page, app, 'wheel-button');
  const cdp = await page.context().newCDPSession(page);
  const start = await goToStart(page);
  await page.keyboard.press('d');
  await click(AT)(page, cdp);
  await expect(page.getByLabel('Prompt')).toContainText('click the next point');
  await page.mouse.move(AT.x, AT.y + 120);
  const told = page.getByRole('status', { name: 'Distance' });
  await expect(told).toContainText('mm');
  for (const [name, [way]] of Object.entries({ ...acts, ...movements['wheel-button'] })) {
    await cameraAfter(page, cdp, way!, start, name);
    await returnTo(page, start);
    expect((await inspectPane(page)).tool, name).toBe('distance');
    await expect(page.getByLabel('Prompt')).toContainText('click the next point');
  }
  await goToStart(page);
  // the first point still stands where it was: at the cursor nothing is measured
  await page.mouse.move(AT.x, AT.y);
  await expect(told).toBeHidden();
  await page.mouse.move(AT.x, AT.y + 120);
  await expect(told).toContainText('mm');
  await page.keyboard.press('Escape');
  await page.keyboard.press('Escape');
  expect((await inspectPane(page)).tool).toBeNull();
});

test('a trackpad moves the view with two fingers and zooms by a pinch', async ({ page, app }) => {
  await openWith(page, app, 'trackpad');
  const before = await goToStart(page);
  await page.mouse.wheel(30, 40);
  const { camera: moved } = await inspectPane(page);
  expect(moved.widthWorld).toBe(before.widthWorld);
  expect(moved.target).not.toEqual(before.target);
  // browsers tell a pinch as a wheel with Ctrl that no key goes with
  await page.getByRole('application').dispatchEvent('wheel', {
    clientX: AT.x,
    clientY: AT.y,
    deltaY: -100 * Math.log(2),
    ctrlKey: true,
    bubbles: true,
    cancelable: true,
  });
  expect((await inspectPane(page)).camera.widthWorld! / moved.widthWorld!).toBeCloseTo(0.5, 9);
});

test.describe('fingers', () => {
  test.use({ hasTouch: true });

  test('one pans, two zoom about what lies between them, and neither places a point', async ({ page, app }) => {
    await openWith(page, app, 'touch');
    const cdp = await page.context().newCDPSession(page);
    const touch = (type: 'touchStart' | 'touchMove' | 'touchEnd', ...points: [number, number][]): Promise<unknown> =>
      cdp.send('Input.dispatchTouchEvent', { type, touchPoints: points.map(([x, y], id) => ({ x, y, id })) });
    const start = await goToStart(page);
    await touch('touchStart', [AT.x, AT.y]);
    for (const step of [20, 60, 90]) await touch('touchMove', [AT.x + step, AT.y]);
    await touch('touchEnd');
    const { camera: panned } = await inspectPane(page);
    expect(panned.widthWorld).toBe(start.widthWorld);
    const way = Math.hypot(panned.target.x - start.target.x, panned.target.y - start.target.y);
    const { rect } = await inspectPane(page);
    expect(way / (start.widthWorld! / rect.width)).toBeCloseTo(90, 0);

    await page.keyboard.press('d');
    await touch('touchStart', [600, 300]);
    await touch('touchStart', [600, 300], [700, 300]);
    for (const step of [10, 30, 50]) await touch('touchMove', [600 - step, 300], [700 + step, 300]);
    await touch('touchEnd');
    expect((await inspectPane(page)).camera.widthWorld! / panned.widthWorld!).toBeCloseTo(0.5, 3);
    await expect(page.getByLabel('Prompt')).toContainText('click where the distance begins');
    await touch('touchStart', [600, 300]);
    await touch('touchEnd');
    await expect(page.getByLabel('Prompt')).toContainText('click the next point');
  });
});

test('with a corner pending, the pane moves on when the cursor reaches its edge', async ({ page, app }) => {
  await openWith(page, app, 'wheel-button');
  await page.keyboard.press('+');
  const { camera, rect } = await inspectPane(page);
  await page.keyboard.press('c');
  await page.mouse.move(rect.x + rect.width - 6, 300); // nothing is pending yet
  await click(AT)(page, await page.context().newCDPSession(page));
  await page.mouse.move(rect.x + rect.width - 6, 300, { steps: 4 });
  await expect
    .poll(async () => ((await inspectPane(page)).camera.target.x - camera.target.x) / camera.widthWorld!)
    .toBeGreaterThan(0.1);
  await page.mouse.move(AT.x, AT.y);
  const stopped = (await inspectPane(page)).camera;
  await page.mouse.move(AT.x + 1, AT.y);
  expect((await inspectPane(page)).camera).toEqual(stopped);
  await page.keyboard.press('Escape');
  expect((await inspectPane(page)).history).toMatchObject({ length: 3, index: 2 }); // one step for the whole move
});

test('the right button opens a short menu, and a second right click does its first row', async ({ page, app }) => {
  await openWith(page, app, 'wheel-button');
  const cdp = await page.context().newCDPSession(page);
  await page.keyboard.press('d');
  await click(AT)(page, cdp);
  await click(OTHER)(page, cdp);
  await page.mouse.click(AT.x, AT.y, { button: 'right' });
  await expect(page.getByRole('menuitem', { name: /Finish the measurement/ })).toBeVisible();
  await page.mouse.click(AT.x, AT.y, { button: 'right' });
  await expect(page.getByLabel('Prompt')).toContainText('Click to begin the next measurement');
  await page.keyboard.press('Shift+F10');
  await expect(page.getByRole('menuitem', { name: /Clear the measurement/ })).toBeVisible();
  await page.keyboard.press('Escape');
  await expect(page.getByRole('menuitem', { name: /Clear the measurement/ })).toBeHidden();

  // it is short, and wholly in the window wherever it is opened
  const { x, y, width, height } = (await inspectPane(page)).rect;
  const menu = page.locator('.short-menu:visible');
  for (const [across, down] of [
    [0.02, 0.02],
    [0.98, 0.02],
    [0.5, 0.5],
    [0.02, 0.98],
    [0.98, 0.98],
  ] as const) {
    await page.mouse.click(x + across * width, y + down * height, { button: 'right' });
    await expect(menu.first()).toBeVisible();
    expect(await menu.first().locator('> [role="menuitem"]').count()).toBeLessThanOrEqual(8);
    const box = (await menu.first().boundingBox())!;
    const { width: most, height: tallest } = page.viewportSize()!;
    for (const edge of [box.x, box.y, most - box.x - box.width, tallest - box.y - box.height])
      expect(edge).toBeGreaterThanOrEqual(0);
    await page.keyboard.press('Escape');
    await expect(menu).toHaveCount(0);
  }
});

test('own hands: what is pressed is bound, clashes are shown, resets bring back what was', async ({ page, app }) => {
  await openWith(page, app, 'right-drag');
  await page.keyboard.press(',');
  await page.getByRole('radio', { name: /^Own/ }).check();
  const row = page.getByRole('group', { name: 'Fit sheet' });
  await row.getByRole('button', { name: 'Fit sheet: add' }).click();
  await expect(page.getByRole('status', { name: 'Recording for Fit sheet' })).toBeVisible();
  await page.keyboard.press('a');
  await expect(page.getByRole('alert')).toContainText('“A” means Fit all and Fit sheet');
  await page.getByRole('alert').getByRole('button', { name: 'Use it for Fit all' }).click();
  await expect(page.getByRole('alert')).toBeHidden();
  await expect(row.getByRole('button', { name: 'Fit sheet: remove A' })).toBeHidden();
  await row.getByRole('button', { name: 'Fit sheet: reset' }).click();
  await expect(row).toContainText('S');

  const pan = page.getByRole('group', { name: 'Pan', exact: true });
  await pan.getByRole('button', { name: 'Pan: add' }).click();
  const recorder = page.getByRole('status', { name: 'Recording for Pan' });
  const box = (await recorder.boundingBox())!;
  await page.keyboard.down('Shift');
  await page.mouse.move(box.x + 20, box.y + 20);
  await page.mouse.down();
  await page.mouse.move(box.x + 80, box.y + 30);
  await page.mouse.up();
  await page.keyboard.up('Shift');
  await expect(pan).toContainText('Shift');
  await page.getByRole('button', { name: 'Close', exact: true }).click();
  const { camera } = await inspectPane(page);
  await drag('left', 'Shift')(page, await page.context().newCDPSession(page));
  const moved = (await inspectPane(page)).camera;
  expect(moved.widthWorld).toBe(camera.widthWorld);
  expect(moved.target).not.toEqual(camera.target);
});

test('the step and direction of the wheel are settings, tried beside them', async ({ page, app }) => {
  await openWith(page, app, 'wheel-button');
  await page.keyboard.press(',');
  const slider = page.getByRole('slider', { name: 'Step of the wheel' });
  await slider.focus();
  for (let i = 0; i < 5; i++) await page.keyboard.press('ArrowRight');
  await expect(page.getByText('One notch enlarges by 25 %')).toBeVisible();
  await page.getByRole('switch', { name: 'Roll towards you to zoom in' }).click();
  const sample = page.getByRole('img', { name: /^Sample/ });
  await sample.hover();
  await page.mouse.wheel(0, 100);
  await expect(sample).toHaveAccessibleName('Sample, enlarged 1.25 times');
  await page.getByRole('button', { name: 'Close', exact: true }).click();
  const before = (await inspectPane(page)).camera;
  await page.mouse.move(AT.x, AT.y);
  await page.mouse.wheel(0, 100);
  await expect.poll(async () => before.widthWorld! / (await inspectPane(page)).camera.widthWorld!).toBeCloseTo(1.25, 9);
});

test('one key opens the sheet of all keys, made from the habits in use', async ({ page, app }) => {
  await openWith(page, app, 'right-drag');
  await page.keyboard.press('?');
  const sheet = page.getByRole('dialog', { name: 'Keys and gestures' });
  await expect(sheet).toContainText('Hands: Right drag');
  await expect(sheet.getByText('drag the right button').first()).toBeVisible();
  const search = sheet.getByLabel('Search keys and gestures');
  await expect(search).toBeFocused();
  await sheet.getByText('steps back once').scrollIntoViewIfNeeded();
  await expect(sheet.getByText('steps back once')).toBeInViewport();
  await search.fill('right angle');
  await expect(sheet.getByRole('term')).toHaveText(['Turn a quarter left', 'Turn a quarter right']);
  await page.keyboard.press('Escape');
  await expect(sheet).toBeHidden();
});
