/** The next revision of a drawing: what changed, step by step, and what is said of it. */
import { readFile } from 'node:fs/promises';
import type { Page } from '@playwright/test';
import { expect, expectAccessible, inspectPane, openDrawing, settled, test, type RunningApp } from './app.ts';
import { press, yard } from './yard.ts';

/** A row of basins, tagged; a page of 2000 x 1000 mm. */
const basins = (tags: readonly string[], rightBy: number, withWeir: boolean): string =>
  `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 20000 10000" width="20000mm" height="10000mm">
<g id="Basins" fill="none" stroke="#345678" stroke-width="8">${tags
    .map((_, k) => `<path d="M${1000 + 4000 * k + (k === 1 ? rightBy : 0)} 2000h1500v1500h-1500z"/>`)
    .join('')}</g>
<g id="Tags" fill="#16324A">${tags.map((tag, k) => `<text x="${1000 + 4000 * k}" y="6000" font-size="250">${tag}</text>`).join('')}</g>
${withWeir ? '<g id="Weirs" stroke="#a02020"><path d="M16000 9000h2500"/></g>' : ''}</svg>`;

/** Imports a newer file of the drawing that is open. */
async function revise(
  page: Page,
  app: RunningApp,
  content: string | Uint8Array<ArrayBuffer>,
  name: string,
): Promise<void> {
  const id = new URL(page.url()).pathname.split('/').at(-1)!;
  const body = new FormData();
  body.append('file', new File([content], name));
  const answer = await fetch(`${app.url}api/drawings/${id}/source`, { method: 'PUT', body });
  const { jobId } = (await answer.json()) as { jobId: string };
  const state = async (): Promise<string> =>
    ((await (await fetch(`${app.url}api/jobs/${jobId}`)).json()) as { state: string }).state;
  await expect.poll(state, { intervals: [20, 50, 100] }).toBe('done');
  await page.goto(`${app.url}d/${id}`);
  await settled(page);
}

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
  await page.getByRole('button', { name: /^Moved/ }).click();
  await expect(list.getByRole('listitem')).toHaveCount(2);

  const saving = page.waitForEvent('download');
  await page.getByRole('button', { name: 'Save the list as CSV' }).click();
  const text = await readFile(await (await saving).path(), 'utf8');
  expect(text.split('\r\n')).toHaveLength(4);
  expect(text).toContain('As agreed on site');

  // back to the whole: the base is grey, what was is broken; switched off, the drawing has its colours again
  const surface = page.locator('.pane-surface');
  await expect(surface).toHaveAttribute('data-comparing', 'true');
  await page.getByRole('switch', { name: 'Lay over the drawing' }).click();
  await expect(surface).not.toHaveAttribute('data-comparing', 'true');
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
