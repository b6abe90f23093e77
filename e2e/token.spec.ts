/** A server that asks for a token shows nothing before it is named. */
import { rm } from 'node:fs/promises';
import { demoFolder, expect, expectAccessible, startApp, test } from './app.ts';

const TOKEN = 'kelpie-sound-0417';

test('the token is asked for, a wrong one is told, the right one opens the drawings', async ({ page }) => {
  const folder = await demoFolder();
  const app = await startApp(folder, { GULL_PANE_TOKEN: TOKEN });
  try {
    await page.goto(app.url);
    const field = page.getByLabel('Access token');
    await expect(field).toBeVisible();
    await expectAccessible(page, 'token page');
    await expect(page.getByRole('link', { name: 'Site general arrangement' })).toHaveCount(0);
    await field.fill('membrane-hall-9999');
    await page.keyboard.press('Enter');
    await expect(page.getByRole('alert')).toContainText('That is not the token');
    await expectAccessible(page, 'token page after a wrong one');
    await field.fill(TOKEN);
    await page.keyboard.press('Enter');
    await expect(page.getByRole('link', { name: 'Site general arrangement' })).toBeVisible();
  } finally {
    await app.stop();
    await rm(folder, { recursive: true, force: true });
  }
});
