/** View cards: keep, wreck, restore. */
import { dragOnto, expect, expectAccessible, inspectPane, openSitePlan, settled, test } from './app.ts';
import { openYard, press, seenAt, towerTop } from './yard.ts';

test(
  'a view is kept by one key, wrecked, and restored to the last digit, also after a reload',
  { tag: '@daily' },
  async ({ page, app }) => {
    await openYard(page, app);
    await press(page, '4');
    const before = await press(page, '+');
    await press(page, 'w');
    await page.getByRole('tab', { name: 'Views' }).click();
    await expect(page.getByText('No view is kept yet')).toBeVisible();
    await press(page, 'Shift+J');
    const card = page.getByRole('listitem').filter({ has: page.getByRole('button', { name: /^Go to / }) });
    await expect(card).toHaveCount(1);
    await expect(card).toContainText(/, from west, 1:/);
    await expect(card.getByRole('note', { name: 'What differs' })).toHaveText('The pane shows just this');
    await expectAccessible(page, 'views');

    // wreck it: another direction and scale, another look, an object hidden, a clip
    await press(page, '1');
    await press(page, 'w');
    const south = await press(page, 'a');
    const tower = seenAt(south, { ...towerTop, z: 4500 });
    await page.mouse.click(tower.x, tower.y);
    await expect.poll(async () => (await inspectPane(page)).picked).toBe(1);
    await press(page, 'Shift+C');
    await press(page, 'e');
    await expect(page.getByText('1 object hidden')).toBeVisible();
    await expect(card.getByRole('note', { name: 'What differs' })).toHaveText(
      /Differs: .*closer, another direction, look Materials, 1 object shown, Box 1 removed/,
    );
    await page.reload();
    await settled(page);
    await card.getByRole('button', { name: /^Go to / }).click();
    const after = await settled(page);
    expect(after.camera).toEqual(before.camera);
    await expect(page.getByRole('button', { name: 'Look, Materials' })).toBeVisible();
    await expect(card.getByRole('note', { name: 'What differs' })).toHaveText('The pane shows just this');

    // only where, or only how
    await press(page, 'w');
    await press(page, '1');
    await card.getByRole('button', { name: /^More for / }).click();
    await page.getByRole('menuitem', { name: 'Go there, looks as they are' }).click();
    expect((await settled(page)).camera).toEqual(before.camera);
    await expect(page.getByRole('button', { name: 'Look, See-through' })).toBeVisible();
  },
);

test('cards are renamed, grouped, found, put in another order, deleted and brought back; another window’s changes show', async ({
  page,
  app,
}) => {
  await openSitePlan(page, app);
  await page.getByRole('tab', { name: 'Views' }).click();
  const names = page.locator('.view-name');
  for (let i = 0; i < 4; i++) {
    await press(page, '+');
    await press(page, 'Shift+J');
    await expect(names).toHaveCount(i + 1);
  }
  const rename = async (index: number, name: string): Promise<void> => {
    await names.nth(index).dblclick();
    await page.getByRole('textbox', { name: 'Name of the view' }).fill(name);
    await page.keyboard.press('Enter');
    await expect(names.nth(index)).toHaveText(name);
  };
  await rename(0, 'Intake');
  await rename(1, 'Filters');
  await rename(2, 'Outfall');
  await rename(3, 'Store');
  await page.getByRole('listitem', { name: 'Intake' }).scrollIntoViewIfNeeded();
  await dragOnto(page, page.getByRole('listitem', { name: 'Filters' }), page.getByRole('listitem', { name: 'Intake' }));
  await expect(names).toHaveText(['Filters', 'Intake', 'Outfall', 'Store']);
  // the same without dragging
  for (const [row, order] of [
    ['Move up', ['Filters', 'Intake', 'Store', 'Outfall']],
    ['Move down', ['Filters', 'Intake', 'Outfall', 'Store']],
  ] as const) {
    await page.getByRole('button', { name: 'More for Store' }).click();
    await page.getByRole('menuitem', { name: row }).click();
    await expect(names).toHaveText([...order]);
  }
  await page.getByRole('button', { name: 'More for Outfall' }).click();
  await page.getByRole('menuitem', { name: 'Put in a group' }).click();
  await page.getByRole('textbox', { name: 'Group of the view' }).fill('Sea');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('list', { name: 'Views' })).toContainText(/SeaOutfall$/);
  await page.getByLabel('Search the views').fill('sea');
  await expect(names).toHaveText(['Outfall']);
  await page.getByLabel('Search the views').fill('');

  // another window renames the same card first
  const other = await page.context().newPage();
  await other.goto(page.url());
  await settled(other);
  await other.getByRole('tab', { name: 'Views' }).click();
  await other.locator('.view-name').filter({ hasText: 'Filters' }).dblclick();
  await other.getByRole('textbox', { name: 'Name of the view' }).fill('Gravity filters');
  await other.keyboard.press('Enter');
  await expect(other.getByRole('listitem', { name: 'Gravity filters' })).toBeVisible();
  await other.close();
  await expect(page.getByRole('listitem', { name: 'Gravity filters' })).toBeVisible();

  // the find field goes to a card by its name, slips forgiven
  await press(page, 'g');
  await page.keyboard.type('gravty fil');
  await page
    .getByRole('option', { name: /Gravity filters/ })
    .first()
    .click();
  await settled(page);
  await expect(page.getByRole('listitem', { name: 'Gravity filters' })).toHaveAttribute('data-current', 'true');
  await page.getByRole('combobox', { name: 'Find' }).fill('');
  await page.keyboard.press('Escape');

  await page.getByRole('button', { name: 'More for Intake' }).click();
  await page.getByRole('menuitem', { name: 'Delete' }).click();
  await expect(page.getByRole('listitem', { name: 'Intake' })).toBeHidden();
  await page.getByRole('button', { name: 'Undo delete' }).click();
  await expect(names).toHaveText(['Gravity filters', 'Intake', 'Store', 'Outfall']);
});
