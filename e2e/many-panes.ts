/** What tests of several panes share. */
import type { Page } from '@playwright/test';
import type { InspectedPane } from '@gull-pane/protocol/inspect';
import { expect, inspect } from './app.ts';

/** All panes in reading order, once there are so many and nothing moves any more. */
export async function panesSettled(page: Page, count: number): Promise<InspectedPane[]> {
  await page.waitForFunction((wanted) => {
    // a window that has just come up has nothing to tell yet
    if (!('gullPane' in window)) return false;
    const { panes } = window.gullPane.inspect();
    return panes.length === wanted && panes.every((pane) => pane.settled);
  }, count);
  const { panes } = await inspect(page);
  return [...panes].sort((a, b) => a.rect.y - b.rect.y || a.rect.x - b.rect.x);
}

export const middleOf = ({ rect }: InspectedPane): { x: number; y: number } => ({
  x: rect.x + rect.width / 2,
  y: rect.y + rect.height / 2,
});
/** A free place of a pane's foot: between what is told at its left and its buttons at the right. */
export const footOf = ({ rect }: InspectedPane): { x: number; y: number } => ({
  x: rect.x + rect.width * 0.62,
  y: rect.y + rect.height + 14,
});
export const perPx = ({ camera, rect }: InspectedPane): number => camera.widthWorld! / rect.width;
export const activeOf = (panes: readonly InspectedPane[]): number => panes.findIndex(({ active }) => active);

/** A key for the active pane. */
export async function pressKey(page: Page, key: string, count: number): Promise<InspectedPane[]> {
  await page.locator('.pane[data-active="true"] .pane-surface').focus();
  await page.keyboard.press(key);
  return panesSettled(page, count);
}

export async function chooseInMenu(page: Page, index: number, ...rows: readonly string[]): Promise<void> {
  await page.getByRole('button', { name: 'More for this pane' }).nth(index).click();
  for (const [k, name] of rows.entries()) {
    // a row's key is part of its name
    const row = page.getByRole('menuitem', { name }).filter({ visible: true }).last();
    if (k < rows.length - 1) await row.hover();
    else await row.click();
  }
  await expect(page.getByRole('menu').filter({ visible: true })).toHaveCount(0);
}
