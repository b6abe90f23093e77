/**
 * Takes the pictures of docs/screenshots from the demo data, with a server and a data folder of their own.
 * usage: npm run screenshots
 */
import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { chromium, type Page } from '@playwright/test';
import { startApp } from './app.ts';
import config from '../playwright.config.ts';
import { DETAIL_SHEETS_NAME } from '@gull-pane/demo/sheet-set';

const folder = 'docs/screenshots';
const dataFolder = await mkdtemp(join(tmpdir(), 'gull-pane-pictures-'));
const app = await startApp(dataFolder);
const browser = await chromium.launch(config.use?.launchOptions ?? {});
// without motion, so that nothing is caught half faded in
const page = await browser.newPage({ viewport: { width: 1280, height: 800 }, reducedMotion: 'reduce' });

const settled = (at: Page): Promise<unknown> =>
  at.waitForFunction(() => {
    const { panes } = window.gullPane.inspect();
    return panes.length > 0 && panes.every((pane) => pane.settled);
  });
const shoot = (name: string): Promise<Buffer> => page.screenshot({ path: `${folder}/${name}.png` });

const press = async (...keys: string[]): Promise<void> => {
  for (const key of keys) {
    await page.keyboard.press(key);
    await settled(page);
  }
};
const trailIsMade = (): Promise<unknown> => page.waitForFunction(() => !document.querySelector('.trail-blank'));

await page.goto(app.url);
// the rest of the demo comes in after the plan
await page.waitForFunction(() => document.querySelectorAll('img[alt^="Picture of"]').length === 4, null, {
  timeout: 120_000,
});
await page.waitForLoadState('networkidle');
await shoot('drawings');

await page.getByRole('link', { name: 'Site general arrangement' }).click();
await settled(page);
await page.mouse.move(640, 360);
await shoot('site-plan');

await page.mouse.move(655, 180);
await page.mouse.down();
await page.mouse.move(760, 240, { steps: 3 });
await page.mouse.move(815, 275, { steps: 3 });
await page.getByRole('status', { name: 'Box' }).getByText(/\d/).first().waitFor();
await page.waitForLoadState('networkidle');
await shoot('picking');
await page.mouse.up();
await page.keyboard.press('Escape');

await page.keyboard.press('g');
await page.keyboard.type('KS-VA-04');
await page.getByRole('option').first().waitFor();
await page.keyboard.press('Enter');
await settled(page);
await trailIsMade();
await shoot('found');
await page.getByRole('button', { name: 'Put the hits away' }).click();
await page.getByRole('combobox', { name: 'Find' }).fill('');
await page.keyboard.press('Escape');
await page.keyboard.press('Escape');
await press('Backspace');

await page.keyboard.press('Shift+F1');
await page.getByRole('button', { name: 'Three places in turn' }).click();
await page.getByRole('status', { name: 'Goal' }).waitFor();
await page.locator('.drill-marks polygon').first().waitFor();
await settled(page);
await page.mouse.move(640, 20);
await shoot('warm-up');
await page.getByRole('button', { name: 'Leave the warm-up' }).click();
await page.locator('.pane-surface').first().focus();

await page.keyboard.press('c');
await page.mouse.move(640, 300);
await page.mouse.down();
await page.mouse.move(760, 372, { steps: 3 });
await page.mouse.up();
await settled(page);

const take = async (menu: string, name: string): Promise<void> => {
  await page.locator('.pane-surface').focus();
  await page.keyboard.press(menu);
  await page.getByRole('menuitem', { name, exact: true }).click();
};
const place = async (...places: readonly (readonly [number, number])[]): Promise<void> => {
  for (const [x, y] of places) {
    await page.mouse.move(x, y, { steps: 3 });
    await page.waitForLoadState('networkidle');
    await page.mouse.click(x, y);
  }
};
await page.getByRole('tab', { name: 'Marks' }).click();
await take(';', 'Cloud');
await place([1033, 262], [1108, 408]);
await take(';', 'Note');
await place([1070, 258], [1040, 66]);
await page.getByRole('textbox', { name: 'Text of the note' }).fill('Valve to be replaced, see sheet 3');
await page.keyboard.press('Enter');
await take(';', 'Hatch');
await place([590, 445]);
await page.getByRole('button', { name: 'hatch', exact: true }).waitFor();
await page.keyboard.press('Escape');
await page.keyboard.press('d');
await place([574, 280]);
await page.mouse.move(844, 391, { steps: 4 });
await page.getByRole('status', { name: 'Distance' }).waitFor();
await page.waitForLoadState('networkidle');
await trailIsMade();
await shoot('marks');
await page.keyboard.press('Escape');
await page.keyboard.press('Escape');
await page.getByRole('tab', { name: 'Layers' }).click();

await press('+', '-', 'ArrowRight', '+', 'Backspace', 'Backspace');
await page.getByRole('button', { name: /^Bearing, / }).click();
await page.getByLabel('Bearing at the top').fill('336');
await page.keyboard.press('Enter');
await page.keyboard.press('Escape');
await settled(page);
await page.mouse.move(700, 320);
await trailIsMade();

await page.keyboard.press(',');
await page.getByRole('radio', { name: /^Own/ }).check();
await shoot('hands');
await page.getByRole('radio', { name: /^Wheel button/ }).check();
await page.getByRole('button', { name: 'Close', exact: true }).click();

await press('u');
await page.getByRole('button', { name: 'Night watch, dark' }).click();
await page.mouse.move(700, 420);
await settled(page);
await trailIsMade();

await page.getByRole('button', { name: 'Chart room, light' }).click();
await press('a', 'Shift+J');
for (const building of ['Screen house', 'Gravity filters', 'Membrane hall', 'Chemical dosing']) {
  await page.keyboard.press('g');
  await page.keyboard.type(building);
  await page.getByRole('option').first().waitFor();
  await page.keyboard.press('Enter');
  await settled(page);
  await page.keyboard.press('Escape');
  await page.locator('.pane-surface').focus();
  await press('-', '-', 'Shift+J');
}
await page.getByRole('tab', { name: 'Views' }).click();
await page.locator('.view-card').nth(3).waitFor();
await page.keyboard.press('F10');
await page.getByRole('button', { name: 'New tour' }).click();
await page.keyboard.type('With the water through the works');
await page.keyboard.press('Enter');
await page.getByRole('slider', { name: 'Moment of the tour' }).waitFor();
await page.getByRole('button', { name: /^Stop 4/ }).click();
await page.mouse.move(20, 790);
await page.locator('.note').waitFor({ state: 'hidden' });
await settled(page);
await shoot('tour');
await page.getByRole('button', { name: 'Present' }).click();
await page.getByRole('button', { name: 'Start' }).waitFor();
await page.keyboard.press('Escape');
await page.keyboard.press('Shift+F7');
await page.getByRole('img', { name: 'The short link as a QR code' }).waitFor();
await shoot('share');
await page.keyboard.press('Escape');
await page.keyboard.press('F10');

await page.goto(app.url);
await page.getByRole('link', { name: DETAIL_SHEETS_NAME }).click();
await settled(page);
await press('PageDown', 'PageDown', 'PageDown');
await page.mouse.move(640, 360);
await trailIsMade();
await shoot('sheets');

await page.goto(app.url);
await page.evaluate(() => localStorage.clear());
await page.goto(app.url);
await page.getByRole('link', { name: /pump hall/ }).click();
await settled(page);
await page.mouse.move(640, 20);
await shoot('pump-hall');

await page.mouse.move(700, 330);
for (let i = 0; i < 5; i++) await page.mouse.wheel(0, -300);
await settled(page);
await page.getByRole('tab', { name: 'Marks' }).click();
await take('`', 'Plane by a face');
await place([640, 420]);
await page.getByRole('img', { name: 'Work plane' }).waitFor();
await take(';', 'Box');
await place([600, 420], [700, 450]);
await page.mouse.move(700, 330, { steps: 4 });
await page.waitForLoadState('networkidle');
await settled(page);
await shoot('work-plane');
await press('Escape', 'Escape', 'Escape', '\\', 'a');
await page.getByRole('tab', { name: 'Layers' }).click();
for (let i = 0; i < 5; i++) await page.keyboard.press('w');
await settled(page);
for (let i = 0; i < 3; i++) await page.keyboard.press('w');
await page.getByRole('group', { name: 'Dial' }).getByRole('button', { name: 'From west, above' }).click();
await page.keyboard.press('g');
await page.keyboard.type('KS-PU-204');
await page.getByRole('option').first().waitFor();
await page.keyboard.press('Enter');
await settled(page);
for (let i = 0; i < 2; i++) await page.keyboard.press('Escape');
await page.locator('.pane-surface').focus();
await press('q', 'Shift+X', '-');
await page.mouse.move(640, 20);
await settled(page);

await page.keyboard.press('g');
await page.keyboard.type('KS-PU-204');
await page.getByRole('option').first().waitFor();
await page.keyboard.press('Enter');
await settled(page);
await page.locator('.pane-surface').focus();
await press('i', 'Shift+C');
await page.getByRole('tab', { name: 'Clips' }).click();
await page.getByRole('spinbutton', { name: 'Height' }).fill('2000');
await page.keyboard.press('Enter');
await page.locator('.pane-surface').focus();
await press('a', 'Shift+X');
await page.mouse.move(640, 20);
await settled(page);
await shoot('clip');
await page.getByRole('button', { name: 'Delete Box 1' }).click();
await page.getByRole('tab', { name: 'Layers' }).click();
await press('q', 'i', 'a', 'Shift+F');
await page.mouse.click(898, 478);
await page.getByRole('group', { name: 'Stance' }).waitFor();
await settled(page);
await page.waitForFunction(() => document.querySelector('.stance-plan img') !== null);
await page.mouse.move(420, 400);
await page.mouse.down();
await page.mouse.move(600, 380, { steps: 4 });
await page.mouse.up();
await settled(page);
await page.mouse.move(640, 20);
await trailIsMade();
await shoot('standing');
await page.keyboard.press('Escape');
await settled(page);

await press('i', 'Shift+F8');
await page.waitForFunction(() => window.gullPane.inspect().panes.length === 2);
await press('Shift+F2');
await page.getByRole('tab', { name: 'Panes' }).click();
await page.locator('[data-active="true"] .pane-surface').focus();
await press('1');
await page.getByRole('button', { name: 'Keep this arrangement' }).click();
await page.getByRole('listitem', { name: /3 panes$/ }).waitFor();
await page.mouse.move(520, 330);
await page.locator('.echo').first().waitFor();
await trailIsMade();
await shoot('plan-and-model');

await page.goto(app.url);
await page.getByRole('button', { name: /Night watch/ }).click();
await page.getByRole('link', { name: /intake tower/ }).click();
await settled(page);
await page.mouse.move(640, 20);
await shoot('intake-tower');

// what has changed since the plan's first issue, which comes in last of all
const drawings = (await (await fetch(`${app.url}api/drawings`)).json()) as { id: string; name: string }[];
const plan = drawings.find(({ name }) => name.startsWith('Site general'))!;
const hall = drawings.find(({ name }) => name.includes('pump hall'))!;
for (let issues = 0; issues < 2; await new Promise((resolve) => setTimeout(resolve, 300)))
  issues = ((await (await fetch(`${app.url}api/drawings/${plan.id}/revisions`)).json()) as unknown[]).length;
await page.goto(`${app.url}d/${plan.id}`);
await page.getByRole('button', { name: 'Chart room, light' }).click();
await settled(page);
await page.getByRole('tab', { name: 'Changes' }).click();
await page.getByRole('list', { name: 'Changes', exact: true }).waitFor();
await page
  .getByText(/^\d+ changes$/)
  .first()
  .click();
await settled(page);
await page.mouse.move(640, 20);
await trailIsMade();
await shoot('changes');
await page.goto(`${app.url}d/${plan.id}/sheets`);
await page.getByRole('button', { name: 'Cover the drawing' }).click();
await page.getByRole('button', { name: /^Part A2/ }).click();
for (const [field, text] of [
  ['Project', 'Kelpie Sound Desalination Works'],
  ['Number', 'KS-GA-001'],
  ['Revision', 'C'],
  ['Drawn by', 'M. Okafor'],
] as const) {
  await page.getByRole('textbox', { name: field }).fill(text);
  await page.getByRole('textbox', { name: field }).press('Enter');
}
await page.getByRole('textbox', { name: 'Caption' }).fill('Intake to clearwells');
await page.getByRole('textbox', { name: 'Caption' }).press('Enter');
await page.locator('.sheet-frame canvas[data-state="drawn"]').waitFor();
await page.getByText('Saved', { exact: true }).waitFor();
await page.mouse.move(640, 760);
await shoot('sheet-on-paper');

// a model as it is printed
await page.goto(`${app.url}d/${hall.id}/sheets`);
await page.getByRole('button', { name: 'Four views on one sheet' }).click();
await page.getByRole('application', { name: /^View 4/ }).focus();
await page.getByRole('combobox', { name: 'Look' }).click();
await page.getByTitle('Shaded + edges').click();
await page.getByRole('checkbox', { name: 'Legend' }).check();
await page.getByText('Saved', { exact: true }).waitFor();
await page.getByRole('combobox', { name: 'Format' }).click();
await page.getByTitle('PNG').click();
await page.getByRole('spinbutton', { name: 'Resolution' }).fill('90');
await page.getByRole('spinbutton', { name: 'Resolution' }).press('Enter');
const printed = page.waitForEvent('download');
await page.getByRole('button', { name: 'Save as PNG' }).click();
await (await printed).saveAs(`${folder}/model-on-paper.png`);

await browser.close();
await app.stop();
await rm(dataFolder, { recursive: true, force: true });
