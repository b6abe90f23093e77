/** The next revision of a drawing: what changed, step by step, and what is said of it. */
import { readFile } from 'node:fs/promises';
import { strFromU8, unzipSync } from 'fflate';
import { expect, expectAccessible, inspectPane, openDrawing, settled, test, inspect, revise } from './app.ts';
import { panesSettled } from './many-panes.ts';
import { press, yard } from './yard.ts';

/** A row of basins, tagged; a page of 2000 x 1000 mm. */
const basins = (tags: readonly string[], rightBy: number, withWeir: boolean): string =>
  `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 20000 10000" width="20000mm" height="10000mm">
<g id="Basins" fill="none" stroke="#345678" stroke-width="8">${tags
    .map((_, k) => `<path d="M${1000 + 4000 * k + (k === 1 ? rightBy : 0)} 2000h1500v1500h-1500z"/>`)
    .join('')}</g>
<g id="Tags" fill="#16324A">${tags.map((tag, k) => `<text x="${1000 + 4000 * k}" y="6000" font-size="250">${tag}</text>`).join('')}</g>
${withWeir ? '<g id="Weirs" stroke="#a02020"><path d="M16000 9000h2500"/></g>' : ''}</svg>`;

test('changes are laid over, gone through, reviewed, kept, and go out as a list', async ({ page, app }) => {
  await openDrawing(page, app, 'Basins', basins(['KS-BA-1', 'KS-BA-2', 'KS-BA-3'], 0, false));
  await expect(page.getByRole('tab', { name: 'Changes' })).toHaveCount(0);
  await revise(page, app, basins(['KS-BA-1', 'KS-BA-2', 'KS-BA-3A'], 350, true), 'Basins, issue B.svg');
  const whole = await settled(page);
  await press(page, '*');
  const list = page.getByRole('list', { name: 'Changes', exact: true });
  await expect(list.getByRole('listitem')).toHaveCount(3);
  await expect(page.getByRole('group', { name: 'Kinds of changes' })).toContainText(/Added.*1.*Moved.*1.*Reworded.*1/);
  await expect(page.getByText('0 of 3 changes looked at')).toBeVisible();
  await expectAccessible(page, 'changes');

  // the next one is framed; each has a description
  await press(page, '>');
  const framed = await settled(page);
  expect(framed.camera.widthWorld!).toBeLessThan(whole.camera.widthWorld! / 2);
  await expect(list).toContainText('Moved by 350 mm');
  await expect(list).toContainText('Reworded from “KS-BA-3”');
  await press(page, '>');
  expect((await inspectPane(page)).camera.target).not.toEqual(framed.camera.target);
  await press(page, '<');
  expect((await inspectPane(page)).camera).toEqual(framed.camera);

  // what is said of it is there after a reload, for the one who said it
  await page.getByLabel('Your name').fill('Ailsa');
  await page.getByLabel('Note on the change').fill('As agreed on site');
  await page.getByRole('button', { name: 'Accept' }).click();
  await expect(page.getByText('1 of 3 changes looked at')).toBeVisible();
  await press(page, '>');
  await page.getByRole('button', { name: 'Question' }).click();
  await expect(page.getByText('2 of 3 changes looked at')).toBeVisible();
  await page.reload();
  await settled(page);
  await expect(page.getByText('2 of 3 changes looked at')).toBeVisible();
  await page.getByLabel('Which changes are listed').selectOption('questioned');
  await expect(list.getByRole('listitem')).toHaveCount(1);
  await page.getByLabel('Which changes are listed').selectOption('all');
  // what moved by less than is looked at has not moved
  await page.getByRole('spinbutton', { name: 'Same within' }).fill('400');
  await page.keyboard.press('Enter');
  await expect(list.getByRole('listitem')).toHaveCount(2);
  await expect(list).not.toContainText('Moved');
  await page.getByRole('spinbutton', { name: 'Same within' }).fill('0,0001');
  await page.keyboard.press('Enter');
  await expect(list.getByRole('listitem')).toHaveCount(3);
  await page.getByRole('button', { name: /^Moved/ }).click();
  await expect(list.getByRole('listitem')).toHaveCount(2);

  const takeOut = async (row: string): Promise<void> => {
    await page.getByRole('button', { name: 'Take the list out' }).click();
    await page.getByRole('menuitem', { name: row }).click();
  };
  const saving = page.waitForEvent('download');
  await takeOut('Save as CSV');
  const text = await readFile(await (await saving).path(), 'utf8');
  expect(text.split('\r\n')).toHaveLength(4);
  expect(text).toContain('As agreed on site');

  // as topics with viewpoints, for other programs
  const savingTopics = page.waitForEvent('download');
  await takeOut('Save as BCF topics');
  const topics = unzipSync(await readFile(await (await savingTopics).path()));
  const markups = Object.keys(topics).filter((name) => name.endsWith('markup.bcf'));
  expect(markups).toHaveLength(2);
  expect(markups.map((name) => strFromU8(topics[name]!)).join(' ')).toContain('Questioned');

  // as view cards, with pictures, and as a tour through them
  await takeOut('Make a tour of them');
  await expect(page.getByRole('status', { name: 'Notes' })).toContainText('The tour “Changes 1 to 2” is there');
  await expect(page.getByRole('button', { name: /^Stop 2,/ })).toBeVisible();
  await page.getByRole('tab', { name: 'Views' }).click();
  const cards = page.getByRole('list', { name: 'Views' }).getByRole('listitem', { name: /: / });
  await expect(cards).toHaveCount(2);
  await expect(cards.first().locator('img')).toHaveCount(1);
  await page.getByRole('tab', { name: 'Changes' }).click();
  await press(page, 'F10');

  // a line wipes from one to the other
  await page.getByText('Wipe', { exact: true }).click();
  await page.getByRole('slider', { name: 'Where the line is' }).press('Home');
  await settled(page);

  // back to the whole: the base is grey, what was is broken; switched off, the drawing has its colours again
  const surface = page.locator('.pane-surface');
  await expect(surface).toHaveAttribute('data-comparing', 'true');
  await page.getByRole('switch', { name: 'Lay over the drawing' }).click();
  await expect(surface).not.toHaveAttribute('data-comparing', 'true');
});

test('before and after lie side by side, tied; a pane shows any revision', async ({ page, app }) => {
  await openDrawing(page, app, 'Basins', basins(['KS-BA-1', 'KS-BA-2'], 0, false));
  await revise(page, app, basins(['KS-BA-1', 'KS-BA-2', 'KS-BA-3'], 350, true), 'Basins, issue B.svg');
  await press(page, '*');
  await expect(page.getByText('0 of 4 changes looked at')).toBeVisible();
  await page.keyboard.press('|');
  await expect.poll(async () => (await inspect(page)).panes.length).toBe(2);
  const [one, other] = await panesSettled(page, 2);
  expect(new Set([one!.drawingId, other!.drawingId]).size).toBe(2);
  expect([one, other].filter((pane) => pane!.drawingId.endsWith('~1'))).toHaveLength(1);
  expect(one!.camera).toEqual(other!.camera);
  await page.keyboard.press('+');
  const [closer, alsoCloser] = await panesSettled(page, 2);
  expect(closer!.camera.widthWorld!).toBeLessThan(one!.camera.widthWorld!);
  expect(closer!.camera).toEqual(alsoCloser!.camera);
  await expect(page.getByRole('region', { name: /Basins, Basins$/ })).toBeVisible();

  // it is there after a reload, and the pane can show the present one again
  await page.reload();
  await panesSettled(page, 2);
  await expect(page.getByRole('region', { name: /Basins, Basins$/ })).toBeVisible();
  await page.getByLabel('Revision in this pane').selectOption({ index: 1 });
  await expect(page.getByRole('region', { name: /Basins, Basins$/ })).toHaveCount(2);
  await page.getByLabel('Revision in this pane').selectOption({ index: 0 });
  await expect(page.getByRole('region', { name: /Basins, Basins$/ })).toHaveCount(1);
});

test('a model’s next revision: what is new is framed', async ({ page, app }) => {
  await openDrawing(page, app, 'Yard', yard());
  await revise(page, app, yard(true), 'Yard B.glb');
  await press(page, '*');
  const list = page.getByRole('list', { name: 'Changes', exact: true });
  await expect(list.getByRole('listitem')).toHaveCount(1);
  await expect(list).toContainText('KS-TK-0008');
  await press(page, '>');
  const { camera } = await settled(page);
  expect(Math.abs(camera.target.x - 412_618_000)).toBeLessThan(1500);
});
