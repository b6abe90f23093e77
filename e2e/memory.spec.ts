/** Drawings that are opened and closed leave nothing behind. */
import type { CDPSession } from '@playwright/test';
import { expect, inspect, test } from './app.ts';

/** What the page's own thread holds once garbage is collected, MB: objects, what the browser keeps for them, and numbers. */
async function heldMb(cdp: CDPSession): Promise<number> {
  // what waits for a finaliser goes the second time
  for (let round = 0; round < 2; round++) await cdp.send('HeapProfiler.collectGarbage');
  const { usedSize, embedderHeapUsedSize, backingStorageSize } = await cdp.send('Runtime.getHeapUsage');
  return (usedSize + embedderHeapUsedSize + backingStorageSize) / 2 ** 20;
}

test('ten drawings opened one after the other leave memory and workers where they were', async ({ page, app }) => {
  const cdp = await page.context().newCDPSession(page);
  await page.goto(app.url);
  const openAndLeave = async (name: string): Promise<number> => {
    await page.getByRole('link', { name, exact: true }).click();
    await expect
      .poll(async () => (await inspect(page)).panes.map(({ settled }) => settled), { timeout: 60_000 })
      .toEqual([true]);
    const held = await heldMb(cdp);
    await page.getByRole('link', { name: 'Gull Pane, all drawings' }).click();
    await expect(page.getByRole('link', { name, exact: true })).toBeVisible();
    return held;
  };
  const names = ['Site general arrangement', 'Kelpie Sound · pump hall'];
  // code that is loaded once stays
  for (const name of names) await openAndLeave(name);
  const before = await heldMb(cdp);
  const opened: number[] = [];
  for (let times = 0; times < 8; times++) opened.push(await openAndLeave(names[times % 2]!));
  const after = await heldMb(cdp);
  const least = Math.min(...opened) - before;
  expect(least).toBeGreaterThan(5);
  // a sixteenth of what an opening takes, left behind by each of eight, would be half of it
  expect(after - before).toBeLessThan(least / 2);
  await expect.poll(() => page.workers().length).toBe(0);
});
