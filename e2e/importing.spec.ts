import { spawnSync } from 'node:child_process';
import { mkdtempSync, readFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { drop, expect, inspect, settled, test } from './app.ts';

const valve = `<svg xmlns="http://www.w3.org/2000/svg" width="40mm" height="20mm" viewBox="0 0 400 200">
  <g id="Valve"><path d="M100 50L300 150V50L100 150Z" fill="none" stroke="#16324A"/><text x="200" y="40" text-anchor="middle" font-size="30">KS-VA-0417</text></g>
</svg>`;

test('a dropped file becomes a drawing that opens', { tag: '@daily' }, async ({ page, app }) => {
  await page.goto(app.url);
  await drop(page, [{ name: 'Valve KS-VA-0417.svg', content: valve }]);
  await page.getByRole('link', { name: 'Valve KS-VA-0417' }).click();
  const pane = await settled(page);
  expect(pane.drawn).toMatchObject({ segments: 4, texts: 1 });
  const { extents, layers } = (await inspect(page)).drawing!;
  expect(layers.map(({ name }) => name)).toEqual(['Valve']);
  // 400 user units are 40 mm
  expect(extents).toEqual({ min: { x: 10, y: -15, z: 0 }, max: { x: 30, y: -5, z: 0 } });
});

test('a large file shows its progress and can be cancelled', async ({ page, app }) => {
  const file = join(mkdtempSync(join(tmpdir(), 'gull-pane-')), 'Large.svg');
  const made = spawnSync('npx', ['tsx', 'packages/demo/src/make-drawing.ts', '--segments', '300000', '--out', file]);
  expect(made.status).toBe(0);
  await page.goto(app.url);
  await page.getByLabel('Files to import').setInputFiles(file);
  const card = page.getByRole('listitem', { name: 'Large' });
  await expect(card.getByRole('progressbar')).toBeVisible();
  await expect(card.getByRole('status')).toHaveText(/Reading, .* objects so far/);
  await card.getByRole('button', { name: 'Cancel the import' }).click();
  await expect(card.getByRole('progressbar')).toBeHidden();
  await expect(card).toContainText('Not imported');
  await expect(card.getByRole('status')).toHaveText('The import was cancelled.');
  // another try, with a file that is there sooner
  const again = page.waitForEvent('filechooser');
  await card.getByRole('button', { name: 'Import again' }).click();
  await (await again).setFiles({ name: 'Valve.svg', mimeType: 'image/svg+xml', buffer: Buffer.from(valve) });
  await expect(card.getByRole('img', { name: 'Picture of Large' })).toBeVisible();
  await expect(card).not.toContainText('cancelled');
  await card.getByRole('button', { name: 'More for Large' }).click();
  await page.getByRole('menuitem', { name: 'Delete' }).click();
  await page.getByRole('button', { name: 'Delete' }).click();
  await expect(card).toBeHidden();
});

test('a link to a drawing that is still being imported opens it once it is there', async ({ page, app }) => {
  await page.goto(app.url);
  await drop(page, [{ name: 'Still coming.svg', content: valve }]);
  const address = await page.getByRole('link', { name: 'Still coming' }).getAttribute('href');
  const drawing = `**/api/drawings/${address!.split('/').at(-1)!}`;
  // the server answers as if the import went on
  let isThere = false;
  await page.route(drawing, async (route) => {
    const response = await route.fetch();
    const coming = isThere ? {} : { revision: 0, jobId: '8a1f6c52-6b0e-4f0f-9d5b-0a4d6b8f2c31' };
    const told = (await response.json()) as object;
    await route.fulfill({ response, json: { ...told, ...coming } });
  });
  await page.route(`${drawing}/tiles/tileset.json`, async (route) => {
    if (isThere) await route.continue();
    else await route.fulfill({ status: 409, json: { title: 'The drawing has no content yet' } });
  });
  await page.goto(new URL(address!, app.url).href);
  const status = page.getByRole('status');
  await expect(status).toContainText('still being imported');
  await expect(status.getByRole('link', { name: 'All drawings' })).toBeVisible();
  isThere = true;
  expect((await settled(page)).drawn).toMatchObject({ segments: 4, texts: 1 });
});

test('a broken file says what is wrong, where, and what to do; nothing else is lost', async ({ page, app }) => {
  await page.goto(app.url);
  await drop(page, [{ name: 'Broken.svg', content: valve.replace('</g>', '') }]);
  const card = page.getByRole('listitem', { name: 'Broken' });
  await expect(card.getByRole('alert')).toContainText('The SVG is broken');
  await expect(card.getByRole('alert')).toContainText('Line 3');
  await expect(card.getByRole('alert')).toContainText('Export the file again');
  await expect(page.getByRole('link', { name: 'Site general arrangement' })).toBeVisible();
  // mended, it takes the place of the one that failed
  const again = page.waitForEvent('filechooser');
  await card.getByRole('button', { name: 'Import again' }).click();
  await (await again).setFiles({ name: 'Broken.svg', mimeType: 'image/svg+xml', buffer: Buffer.from(valve) });
  await expect(card.getByRole('img', { name: 'Picture of Broken' })).toBeVisible();
  await expect(card.getByRole('alert')).toBeHidden();
});

test('a file of another kind is refused by its content, whatever its name', async ({ page, app }) => {
  await page.goto(app.url);
  await drop(page, [{ name: 'Picture.svg', content: readFileSync('LICENSE', 'utf8') }]);
  await expect(
    page.getByRole('alert').filter({ hasText: 'Picture.svg: This file can’t be read as a drawing' }),
  ).toBeVisible();
});

test('an empty file is refused at once', async ({ page, app }) => {
  await page.goto(app.url);
  await drop(page, [{ name: 'Empty.svg', content: '' }]);
  await expect(page.getByRole('alert').filter({ hasText: 'Empty.svg: The file is empty' })).toBeVisible();
});

test('a file that is being sent tells how far it has come, and can be called off', async ({ page, app }) => {
  // what the server is sent is held back: the page has sent all of it, and still waits
  await page.route('**/api/drawings', async (route) => {
    if (route.request().method() !== 'POST') await route.continue();
  });
  await page.goto(app.url);
  await drop(page, [{ name: 'Weir.svg', content: valve }]);
  const sending = page.getByRole('status', { name: 'Sending Weir.svg' });
  await expect(sending).toContainText(/Sending Weir\.svg, .* of .*B/);
  await sending.getByRole('button', { name: 'Cancel the upload' }).click();
  await expect(sending).toHaveCount(0);
  // that is no failure
  await expect(page.getByRole('alert').filter({ hasText: 'Weir' })).toHaveCount(0);
  await expect(page.getByRole('link', { name: 'Weir' })).toHaveCount(0);
});

test('a drawing is renamed and takes a newer file', async ({ page, app }) => {
  await page.goto(app.url);
  await drop(page, [{ name: 'Revised.svg', content: valve }]);
  await expect(page.getByRole('link', { name: 'Revised' })).toBeVisible();
  await page.getByRole('button', { name: 'More for Revised' }).click();
  await page.getByRole('menuitem', { name: 'Rename' }).click();
  await page.getByRole('textbox', { name: 'Name of the drawing' }).fill('Valve, revised');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('link', { name: 'Valve, revised' })).toBeVisible();
  const newer = valve.replace('<text', '<circle cx="200" cy="100" r="40" fill="none" stroke="red"/><text');
  await page
    .getByLabel('Newer file for Valve, revised')
    .setInputFiles({ name: 'B.svg', mimeType: 'image/svg+xml', buffer: Buffer.from(newer) });
  await expect(page.getByRole('listitem', { name: 'Valve, revised' })).toContainText('3 objects');
});

test('an OBJ and the file of its materials, dropped together, become one model in its colours', async ({
  page,
  app,
}) => {
  await page.goto(app.url);
  await drop(page, [
    { name: 'Plate.mtl', content: 'newmtl Brass\nKd 0.8 0.6 0.2\n' },
    {
      name: 'Plate.obj',
      content: 'mtllib Plate.mtl\no Plate\nusemtl Brass\nv 0 0 0\nv 900 0 0\nv 900 500 0\nf 1 2 3\n',
    },
  ]);
  await page.getByRole('link', { name: 'Plate' }).click();
  const pane = await settled(page);
  expect(pane.drawn).toMatchObject({ triangles: 1 });
  const { id } = (await inspect(page)).drawing!;
  const told = (await (await fetch(`${app.url}api/drawings/${id}/layers`)).json()) as {
    name: string;
    colour: string;
  }[];
  expect(told.map(({ name, colour }) => [name, colour])).toEqual([['Brass', '#cc9933']]);
});

test('a file that is dropped on a card becomes the next revision of that drawing', async ({ page, app }) => {
  await page.goto(app.url);
  const plan = (size: number): string =>
    `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 900 900"><g id="Pit" stroke="#345678"><path d="M9 9h${size}v9"/></g></svg>`;
  await drop(page, [{ name: 'Dropped pit.svg', content: plan(500) }]);
  const card = page.getByRole('listitem', { name: 'Dropped pit', exact: true });
  await expect(card.getByRole('link', { name: 'Dropped pit' })).toBeVisible();
  const cards = await page.getByRole('listitem').count();
  await drop(page, [{ name: 'Pit, issue B.svg', content: plan(700) }], 'li[aria-label="Dropped pit"]');
  const id = (await card.getByRole('link').getAttribute('href'))!.split('/').at(-1)!;
  await expect
    .poll(async () => ((await (await fetch(`${app.url}api/drawings/${id}`)).json()) as { revision: number }).revision)
    .toBe(2);
  await expect(page.getByRole('listitem')).toHaveCount(cards);
});

test('a large file goes on where it was after the connection was lost, and is imported once', async ({ page, app }) => {
  // large by what is drawn nowhere: a comment
  const rest = '<path d="M412600000 -7208400000h900v-900h-900z" fill="none" stroke="#16324a" stroke-width="5"/></svg>';
  const head =
    '<svg xmlns="http://www.w3.org/2000/svg" viewBox="412600000 -7208401000 1000 1000" width="1000mm" height="1000mm">';
  const buffer = Buffer.from(`${head}<!--${' '.repeat(20 * 1024 * 1024)}-->${rest}`);
  let pieces = 0;
  const sent: number[] = [];
  await page.route('**/api/uploads/*', async (route) => {
    if (route.request().method() !== 'PATCH') return route.continue();
    sent.push(Number(route.request().headers()['upload-offset']));
    // the second piece is lost on its way
    return ++pieces === 2 ? route.abort('connectionreset') : route.continue();
  });
  await page.goto(app.url);
  await page.getByLabel('Files to import').setInputFiles({ name: 'Large room.svg', mimeType: 'image/svg+xml', buffer });
  await expect(page.getByRole('link', { name: 'Large room' })).toBeVisible({ timeout: 60_000 });
  await expect(page.getByRole('link', { name: 'Large room' })).toHaveCount(1);
  // pieces of 8 MB: the lost one was sent again from its own beginning, not the file from the first byte
  const step = 8 * 1024 * 1024;
  expect(sent).toEqual([0, step, step, 2 * step]);
});
