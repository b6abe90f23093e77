/** Keys, words and panels belong to what a person looks at, whatever has the focus. */
import { expect, inspect, openChamber, openDrawing, openOwnChamber, settled, test } from './app.ts';
import { press } from './yard.ts';

test('function keys act while a name is being typed, and the name is kept', async ({ page, app }) => {
  await openOwnChamber(page, app);
  await page.getByRole('tab', { name: 'Views' }).click();
  await press(page, 'Shift+J');
  const name = page.locator('.view-name');
  await name.dblclick();
  await page.getByRole('textbox', { name: 'Name of the view' }).fill('Valve chamber');
  await page.keyboard.press('F2');
  await expect.poll(async () => (await inspect(page)).panes.length).toBe(2);
  await expect(name).toHaveText('Valve chamber');
  await expect(page.getByRole('textbox', { name: 'Name of the view' })).toHaveCount(0);
});

test('switches are turned by the words beside them', async ({ page, app }) => {
  await openChamber(page, app);
  await press(page, ',');
  const dialog = page.getByRole('dialog');
  await expect(dialog.getByRole('switch', { name: 'Smooth edges' })).toBeVisible();
  const switches = await dialog.getByRole('switch').all();
  expect(switches.length).toBeGreaterThanOrEqual(3);
  for (const one of switches) {
    const before = await one.getAttribute('aria-checked');
    const words = one.locator('xpath=ancestor::label');
    const { height } = (await words.boundingBox())!;
    const at = await one.boundingBox();
    // at the first letters behind the switch
    await words.click({ position: { x: at!.width + 20, y: Math.min(height / 2, at!.height) } });
    await expect(one).not.toHaveAttribute('aria-checked', before!);
  }
});

test('a panel of the bottom line closes when another drawing takes the pane', async ({ page, app }) => {
  await openDrawing(
    page,
    app,
    'Culvert',
    '<svg xmlns="http://www.w3.org/2000/svg"><g id="Walls"><path d="M0 0H900V600"/></g></svg>',
  );
  await openChamber(page, app);
  await page.getByRole('button', { name: /^Snaps, / }).click();
  const panel = page.getByRole('checkbox', { name: 'end', exact: true });
  await expect(panel).toBeVisible();
  await page.getByRole('button', { name: 'Chamber', exact: true }).focus();
  await page.keyboard.press('Enter');
  await page.getByRole('menuitem', { name: 'Culvert' }).click();
  // until then the panes are still those of the chamber
  await expect(page.getByRole('button', { name: 'Culvert', exact: true })).toBeVisible();
  await settled(page);
  await expect(panel).toHaveCount(0);
});
