/** A server with a token or a sign-in service shows nothing before one is signed in. */
import { rm } from 'node:fs/promises';
import { OpenIdStandIn } from '../packages/server/test/stand-ins/open-id-stand-in.ts';
import { demoFolder, expect, expectAccessible, startApp, test } from './app.ts';

const TOKEN = 'kelpie-sound-0417';

test('the token is asked for, a wrong one is refused, the right one opens the drawings', async ({ page }) => {
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

test('people sign in at their service, come back to where they were, and are offered what they may do', async ({
  page,
}) => {
  const folder = await demoFolder();
  const provider = await OpenIdStandIn.start();
  const app = await startApp(folder, provider.env);
  const drawing = page.getByRole('link', { name: 'Site general arrangement' });
  try {
    provider.claims = { sub: 'rike', name: 'Rike Holm', roles: ['look'] };
    await page.goto(`${app.url}?from=a-letter`);
    const signIn = page.getByRole('link', { name: 'Sign in' });
    await expect(signIn).toBeFocused();
    await expectAccessible(page, 'sign-in page');
    await page.keyboard.press('Enter');
    await expect(drawing).toBeVisible();
    expect(new URL(page.url()).search).toBe('?from=a-letter');
    await expect(page.getByText('Rike Holm, may look')).toBeVisible();
    await expect(page.getByRole('button', { name: 'Import a drawing' })).toHaveCount(0);
    await expectAccessible(page, 'drawings page with the role look');
    await page.getByRole('button', { name: 'Sign out' }).click();
    await expect(signIn).toBeVisible();
    provider.claims = { sub: 'ole', name: 'Ole Brandt', roles: ['manage'] };
    await signIn.click();
    await expect(page.getByText('Ole Brandt, may manage drawings')).toBeVisible();
    await expect(page.getByRole('button', { name: 'Import a drawing' })).toBeVisible();
  } finally {
    await app.stop();
    await provider.stop();
    await rm(folder, { recursive: true, force: true });
  }
});
