/** Pictures at rest have smooth edges, unless that is switched off. */
import { PNG } from 'pngjs';
import { expect, openDrawing, settled, test } from './app.ts';

test.use({ smoothEdges: 'automatic' });

const slanted = `<svg xmlns="http://www.w3.org/2000/svg" width="100mm" height="60mm" viewBox="0 0 1000 600">
  <path d="M0 0L1000 600M0 600L1000 130" fill="none" stroke="#16324A"/>
</svg>`;

test('smooth edges are there at rest, and go and come by a switch', async ({ page, app }) => {
  await page.emulateMedia({ reducedMotion: 'reduce' });
  await openDrawing(page, app, 'Slanted', slanted);
  /** Colours along the lines: ink and ground alone, or shades between them. */
  const colours = async (): Promise<number> => {
    const { rect } = await settled(page);
    // away from where the lines cross: ink upon ink is a colour of its own
    const clip = { x: rect.x + rect.width / 4 - 50, y: rect.y + 20, width: 100, height: rect.height - 40 };
    const { data } = PNG.sync.read(await page.screenshot({ clip }));
    const found = new Set<number>();
    for (let i = 0; i < data.length; i += 4) found.add((data[i]! << 16) | (data[i + 1]! << 8) | data[i + 2]!);
    return found.size;
  };
  // a machine that is busy affords two passes: one shade between ink and ground
  expect(await colours()).toBeGreaterThan(2);
  await page.locator('.pane-surface').focus();
  await page.keyboard.press(',');
  const smooth = page.getByRole('switch', { name: 'Smooth edges' });
  await expect(smooth).toBeChecked();
  await smooth.click();
  await page.keyboard.press('Escape');
  await expect.poll(colours).toBe(2);
  await page.locator('.pane-surface').focus();
  await page.keyboard.press(',');
  await smooth.click();
  await page.keyboard.press('Escape');
  await expect.poll(colours).toBeGreaterThan(2);
});
