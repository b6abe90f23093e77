/** axe finds nothing in any panel, menu or dialog that a button, a tab or a key of a drawing's page opens, in either theme. */
import { expect, expectAccessible, openChamber, settled, test } from './app.ts';
import { openYard } from './yard.ts';

/** Buttons that open something: menus and popovers of the bar, the rail, the foot and the bottom line. */
const OPENERS = ['header', 'nav[aria-label="Tools"]', '.pane-foot', '.status-line']
  .flatMap((place) => [`${place} button[aria-haspopup]`, `${place} button[aria-expanded="false"]`])
  .join(', ');
/** What they open. */
const OPENED =
  '.ant-dropdown:not(.ant-dropdown-hidden), .ant-popover:not(.ant-popover-hidden), .ant-drawer, .ant-modal';
/** Keys that open a dialog or a panel of their own. */
const KEYS = [
  ['Shift+?', '[role="dialog"]'],
  ['F10', '.tour-bar'],
] as const;

for (const theme of ['chart-room', 'night-watch'])
  for (const [kind, open] of [
    ['plan', openChamber],
    ['model', openYard],
  ] as const)
    test(`axe finds nothing in any panel, menu and dialog: ${kind}, ${theme}`, async ({ page, app }) => {
      await page.addInitScript((name) => {
        localStorage.setItem(
          'gull-pane-preferences',
          JSON.stringify({ state: { theme: name, smoothEdges: 'off' }, version: 0 }),
        );
      }, theme);
      await open(page, app);
      await page.mouse.move(2, 2);
      // of what axe looks for only the contrast differs from theme to theme
      const rules = theme === 'chart-room' ? undefined : ['color-contrast'];
      const tabs = page.getByRole('tablist', { name: 'Shelf' }).getByRole('tab');
      for (const tab of await tabs.all()) {
        await tab.click();
        await expect(page.getByRole('tabpanel').locator(':scope > *').first()).toBeVisible();
        await settled(page);
        await expectAccessible(page, `tab ${await tab.innerText()}`, '.shelf', rules);
      }
      const openers = page.locator(OPENERS).filter({ visible: true });
      const names = await openers.evaluateAll((buttons) =>
        buttons.map((one) => (one.getAttribute('aria-label') ?? one.textContent).trim()),
      );
      expect(names.length).toBeGreaterThan(5);
      for (const name of names) {
        const button = openers.and(page.getByRole('button', { name, exact: true })).first();
        if (name === 'Tours' || (await button.count()) === 0) continue; // tours by their key, below
        await button.click();
        const opened = page.locator(OPENED).first();
        await expect(opened, name).toHaveText(/\S/); // not the one before, which is on its way out
        await expect(opened).not.toHaveClass(/enter|leave/); // moving in it is half transparent
        await expectAccessible(page, name, OPENED, rules);
        await page.keyboard.press('Escape');
        await expect(page.locator(OPENED)).toHaveCount(0);
      }
      await page.locator('.pane-surface').first().focus();
      for (const [key, part] of KEYS) {
        await page.keyboard.press(key);
        await expect(page.locator(part).first()).toBeVisible();
        await expectAccessible(page, key, part, rules);
        await page.keyboard.press('Escape');
      }
      // the short menu
      const box = (await page.locator('.pane-surface').first().boundingBox())!;
      await page.mouse.click(box.x + box.width / 2, box.y + box.height / 2, { button: 'right' });
      await expect(page.getByRole('menu').first()).toBeVisible();
      await expectAccessible(page, 'short menu', OPENED, rules);
    });
