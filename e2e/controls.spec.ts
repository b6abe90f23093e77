/** Every control of the bar, the rail, the foot and the shelf does something when it is pressed with the mouse. */
import type { Page } from '@playwright/test';
import { expect, openChamber, test } from './app.ts';
import { openYard } from './yard.ts';

const CONTROLS = ['header', 'nav[aria-label="Tools"]', '.pane-foot', 'aside[aria-label="Shelf"]']
  .map((place) => `${place} button`)
  .join(', ');

/** All that a person could notice, but for the tip of what is under the mouse. */
const noticed = (page: Page): Promise<string> =>
  page.evaluate(() => {
    const states = [...document.querySelectorAll('button, [role], [aria-pressed], [aria-expanded], input')]
      .filter((element) => element.closest('[role="tooltip"]') === null && element.getClientRects().length > 0)
      .map((element) =>
        ['role', 'aria-label', 'aria-pressed', 'aria-expanded', 'aria-selected', 'aria-checked', 'data-on']
          .map((name) => element.getAttribute(name))
          .concat(element instanceof HTMLInputElement ? [element.value, String(element.checked)] : []),
      );
    const { panes } = window.gullPane.inspect();
    const views = panes.map(({ camera, history, tool, picked, marks }) => ({ camera, history, tool, picked, marks }));
    const words = [...document.querySelectorAll('[role="status"], [role="alert"], .prompt')].map(
      (one) => one.textContent,
    );
    return JSON.stringify([location.href, document.documentElement.dataset, states, views, words, { ...localStorage }]);
  });

/** A view that every way of fitting, turning and going back has something to do with. */
async function unsettle(page: Page): Promise<void> {
  await page.locator('.pane-surface').first().focus();
  for (const key of ['Escape', 'Escape', '+', 'ArrowRight', ']']) await page.keyboard.press(key);
}

for (const [kind, open] of [
  ['plan', openChamber],
  ['model', openYard],
] as const)
  test(`every control does something when it is pressed: ${kind}`, async ({ page, app }) => {
    await open(page, app);
    const address = page.url();
    const names = await page
      .locator(CONTROLS)
      .filter({ visible: true })
      .evaluateAll((buttons) =>
        buttons
          .filter((one) => !one.matches(':disabled, [aria-disabled="true"]'))
          .map((one) => (one.getAttribute('aria-label') ?? one.textContent).trim()),
      );
    expect(new Set(names).size).toBeGreaterThan(25);
    const silent: string[] = [];
    for (const [index, name] of names.entries()) {
      await unsettle(page);
      const nth = names.slice(0, index).filter((one) => one === name).length;
      const control = page
        .locator(CONTROLS)
        .filter({ visible: true })
        .and(page.getByRole('button', { name, exact: true }).or(page.getByRole('tab', { name, exact: true })))
        .nth(nth);
      if ((await control.count()) === 0) continue; // its name says what it shows, which was changed before
      // to choose what is chosen changes nothing
      const isSelected = await control.evaluate(
        (one) =>
          one.getAttribute('aria-selected') === 'true' ||
          (one.getAttribute('aria-pressed') === 'true' && one.closest('[aria-label="Theme"]') !== null),
      );
      const before = await noticed(page);
      // what was opened last may have come late, and lies over the control
      await control.click({ timeout: 4000 }).catch(async () => {
        await page.keyboard.press('Escape');
        await expect(page.getByRole('dialog')).toHaveCount(0);
        await control.click();
      });
      const hasChanged = await expect
        .poll(() => noticed(page), { timeout: 3000, intervals: [20, 50, 100] })
        .not.toBe(before)
        .then(
          () => true,
          () => false,
        );
      if (!hasChanged && !isSelected) silent.push(name);
      if (page.url().split('?')[0] !== address.split('?')[0]) await open(page, app);
      if (await page.getByRole('dialog').count()) await page.keyboard.press('Escape');
      const folded = page.getByRole('button', { name: 'Layers', exact: true, expanded: false });
      if (await folded.count()) await folded.click(); // the shelf was folded
    }
    expect(silent).toEqual([]);
  });
