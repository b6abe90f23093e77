/** Drills for the hands: each looks at the view, not at what was pressed. */
import type { Page } from '@playwright/test';
import { expect, expectAccessible, inspect, openChamber, openOwnChamber, openSitePlan, settled, test } from './app.ts';
import { openYard, press } from './yard.ts';

const goal = (page: Page) => page.getByRole('status', { name: 'Goal' });
const result = (page: Page) => page.getByRole('status', { name: 'Result' });

/** Corners of the square that is marked, CSS px of the page. */
async function marked(page: Page): Promise<readonly [x: number, y: number][]> {
  const points = await page.locator('.drill-marks polygon').first().getAttribute('points');
  const box = (await page.locator('.pane-surface').first().boundingBox())!;
  return points!.split(' ').map((pair) => {
    const [x, y] = pair.split(',').map(Number) as [number, number];
    return [box.x + x, box.y + y];
  });
}

const allAtRest = (page: Page): Promise<void> =>
  expect.poll(async () => (await inspect(page)).panes.every(({ settled: isAtRest }) => isAtRest)).toBe(true);

/** The middle of a square in the pane of the same number, CSS px of the page. */
async function middleOfMark(page: Page, k: number): Promise<[x: number, y: number]> {
  const box = (await page.locator('.drill-marks').nth(k).locator('polygon').nth(k).boundingBox())!;
  return [box.x + box.width / 2, box.y + box.height / 2];
}

test('drills in a plan: framed, back, to scale; told against one’s own best and the fewest acts', async ({
  page,
  app,
}) => {
  await openChamber(page, app);
  await page.locator('.pane-surface').focus();
  await page.keyboard.press('Shift+F1');
  const card = page.getByRole('region', { name: 'Warm-up' });
  await expect(card.getByRole('list', { name: 'Drills' }).getByRole('listitem')).toHaveCount(9);
  await expectAccessible(page, 'warm-up');
  await card.getByRole('button', { name: 'Begin', exact: true }).click();
  await expect(goal(page)).toContainText('Make the marked square fill the pane');
  await settled(page);
  // another way than the quickest: closer first, then the corners
  await press(page, '+');
  await expect(result(page)).toHaveCount(0);
  await page.keyboard.press('Backspace');
  await settled(page);
  await page.keyboard.press('c');
  const corners = await marked(page);
  await page.mouse.click(...corners[0]!);
  await page.mouse.click(...corners[2]!);
  await expect(result(page)).toContainText('3 acts');
  await expect(result(page)).toContainText('The fewest possible: 1 act');
  await expect(result(page)).toContainText('Your first time');
  await expect(page.locator('.drill-marks')).toHaveCount(0);

  await card.getByRole('button', { name: 'Next: Come back' }).click();
  await expect(goal(page)).toContainText('Show the whole drawing again');
  await page.locator('.pane-surface').focus();
  await page.keyboard.press('Backspace');
  await expect(result(page)).toContainText('It can’t be done with fewer');
  await card.getByRole('button', { name: 'Once more' }).click();
  await expect(goal(page)).toBeVisible();
  await page.locator('.pane-surface').focus();
  await page.keyboard.press('Backspace');
  await expect(result(page)).toContainText(/best/);
  await expect(card.getByRole('img', { name: /^Seconds, 2 times/ })).toBeVisible();

  await card.getByRole('button', { name: 'Next: An exact scale' }).click();
  const scale = /1:(\d+)/.exec((await goal(page).textContent())!)![0];
  await page.keyboard.press('g');
  await page.keyboard.type(scale);
  await page.keyboard.press('Enter');
  await expect(result(page)).toContainText('1 act.');

  // what was done is there after a reload; it is left at any moment
  await page.reload();
  await settled(page);
  await page.locator('.pane-surface').focus();
  await page.keyboard.press('Shift+F1');
  await expect(card.getByRole('list', { name: 'Drills' })).toContainText(/Come back\d/);
  await card.getByRole('button', { name: 'Compare in two panes' }).click();
  await expect(goal(page)).toContainText('two panes');
  await page.locator('.pane-surface').focus();
  await page.keyboard.press('F2');
  await expect(result(page)).toContainText('1 act.');
  expect((await inspect(page)).panes).toHaveLength(2);
  await card.getByRole('button', { name: 'Leave the warm-up' }).click();
  await expect(card).toHaveCount(0);
});

test('a pipe is followed from end to end, and a measurement goes from pane to pane', async ({ page, app }) => {
  await openSitePlan(page, app);
  await page.locator('.pane-surface').focus();
  await page.keyboard.press('Shift+F1');
  const card = page.getByRole('region', { name: 'Warm-up' });
  await card.getByRole('button', { name: 'Follow a pipe' }).click();
  await expect(goal(page)).toContainText('Follow the marked pipe');
  await expect(page.locator('.drill-marks polyline')).toHaveCount(1);
  for (let k = 0; k < 3; k++) {
    await press(page, 'Backspace');
    await press(page, 'c');
    const corners = await marked(page);
    await page.mouse.click(...corners[0]!);
    await page.mouse.click(...corners[2]!);
    if (k < 2) await expect(goal(page)).toContainText(`${k + 1} of 3 done`);
  }
  await expect(result(page)).toContainText('The fewest possible: 3 acts');

  await press(page, 'Backspace');
  await card.getByRole('button', { name: 'Leave the warm-up' }).click();
  await page.locator('.pane-surface').focus();
  await page.keyboard.press('Shift+F1');
  await card.getByRole('button', { name: 'Measure between panes' }).click();
  await expect(goal(page)).toContainText('Measure from square 1 to square 2');
  await page.locator('.pane-surface').focus();
  await page.keyboard.press('F2');
  await expect(page.locator('.pane-surface')).toHaveCount(2);
  await allAtRest(page);
  for (const k of [1, 0]) {
    await page
      .locator('.pane-surface')
      .nth(k)
      .click({ position: { x: 20, y: 300 } });
    await page.keyboard.press('a');
    await allAtRest(page);
  }
  await page.keyboard.press('d');
  // its first square in one pane, its second in the other
  for (const k of [0, 1]) await page.mouse.click(...(await middleOfMark(page, k)));
  await expect(result(page)).toContainText(/act/);
  expect((await inspect(page)).panes).toHaveLength(2);
});

test('a drill in a model looks at the direction', async ({ page, app }) => {
  await openYard(page, app);
  await page.locator('.pane-surface').focus();
  await page.keyboard.press('Shift+F1');
  const card = page.getByRole('region', { name: 'Warm-up' });
  await card.getByRole('button', { name: 'Look straight at a side' }).click();
  const side = /the (\w+) side/.exec((await goal(page).textContent())!)![1]!;
  await page.keyboard.press('g');
  await page.keyboard.type(`from ${side}`);
  await page
    .getByRole('option', { name: new RegExp(`^From ${side}(?!-)`) })
    .first()
    .click();
  await expect(result(page)).toContainText(/act/);
});

test('a newcomer is shown round the screen by doing each step', async ({ page, app }) => {
  await openOwnChamber(page, app);
  await page.locator('.pane-surface').focus();
  await page.keyboard.press('Shift+F1');
  const card = page.getByRole('region', { name: 'Warm-up' });
  await card.getByRole('button', { name: 'Round the screen' }).click();
  const step = page.getByRole('status', { name: 'Step' });
  await expect(step).toContainText('1 of 6');
  await expect(page.locator('[data-toured="true"]')).toHaveCount(1);
  await page.locator('.pane-surface').focus();
  await page.keyboard.press('+');
  await expect(step).toContainText('2 of 6');
  await page.keyboard.press('Backspace');
  await expect(step).toContainText('3 of 6');
  await page.keyboard.press('g');
  await page.keyboard.type('1:500');
  await page.keyboard.press('Enter');
  await expect(step).toContainText('4 of 6');
  await card.getByRole('button', { name: 'Skip' }).click();
  await expect(step).toContainText('5 of 6');
  await page.locator('.pane-surface').focus();
  await page.keyboard.press('Shift+J');
  await expect(step).toContainText('6 of 6');
  await page.getByRole('button', { name: /^View 1,/ }).click();
  await expect(step).toContainText('That was the screen');
  await card.getByRole('button', { name: 'On to the drills' }).click();
  await expect(card.getByRole('list', { name: 'Drills' })).toBeVisible();
  await expect(page.locator('[data-toured="true"]')).toHaveCount(0);
});
