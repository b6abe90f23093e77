/** Points of a survey: seen, sized, picked, framed, snapped to. */
import { apart, seenAt, type Point } from './yard.ts';
import { expect, openFile, settled, tap, test } from './app.ts';

const pegs: readonly (readonly [string, Point])[] = [
  ['KS-PEG-01', { x: 412_600_123.4, y: 7_208_400_250, z: 3500 }],
  ['KS-PEG-02', { x: 412_640_000, y: 7_208_400_250, z: 3750 }],
  ['KS-PEG-03', { x: 412_620_000, y: 7_208_430_125, z: 2000 }],
];
const list = `id,x_mm,y_mm,z_mm,r,g,b\n${pegs.map(([name, { x, y, z }]) => `${name},${x},${y},${z},190,30,30`).join('\n')}\n`;

test('points are pointed at, picked by name, snapped to exactly and drawn in a size that one chooses', async ({
  page,
  app,
}) => {
  const pane = await openFile(page, app, 'Pegs.csv', list);
  const places = pegs.map(([, place]) => seenAt(pane, place));
  for (const { x, y } of places) {
    expect(x).toBeGreaterThan(pane.rect.x);
    expect(x).toBeLessThan(pane.rect.x + pane.rect.width);
    expect(y).toBeGreaterThan(pane.rect.y);
    expect(y).toBeLessThan(pane.rect.y + pane.rect.height);
  }
  await page.mouse.click(places[1]!.x + 2, places[1]!.y + 1);
  await page.getByRole('tab', { name: 'Picked' }).click();
  const panel = page.getByRole('tabpanel', { name: 'Picked' });
  await panel.getByRole('button', { name: /^KS-PEG-02/ }).click();
  await expect(panel).toContainText(/East412\s640\s000/);
  await expect(panel).toContainText('Points1');

  await page.locator('.pane-surface').focus();
  await tap(page, 'd');
  await page.mouse.move(places[0]!.x + 4, places[0]!.y - 3);
  await expect(page.locator('.snap-word')).toContainText('point');
  await page.mouse.click(places[0]!.x + 4, places[0]!.y - 3);
  await page.mouse.move(places[1]!.x - 4, places[1]!.y - 3);
  await expect(page.locator('.snap-word')).toContainText('point');
  await page.mouse.click(places[1]!.x - 4, places[1]!.y - 3);
  // √(39 876.6² + 250²)
  await expect(page.getByRole('status', { name: 'Distance' })).toContainText(/39\s877\.38/);
  await page.keyboard.press('Escape');
  await page.keyboard.press('Escape');

  await page.getByRole('button', { name: /^Look, / }).click();
  await expect(page.getByText('Points 3 px')).toBeVisible();
  await page.getByRole('slider', { name: 'Size of points' }).focus();
  await page.keyboard.press('End');
  await expect(page.getByText('Points 10 px')).toBeVisible();
  await page.keyboard.press('Escape');
  const same = await settled(page);
  expect(apart(seenAt(same, pegs[2]![1]), places[2]!)).toBeLessThan(1e-6);
});
