/**
 * Takes the pictures of docs/screenshots from the demo data, with a server and a data folder of their own.
 * usage: npm run screenshots
 */
import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { chromium, type Page } from '@playwright/test';
import { startApp } from '../e2e/app.ts';
import config from '../playwright.config.ts';

const folder = 'docs/screenshots';
const dataFolder = await mkdtemp(join(tmpdir(), 'gull-pane-pictures-'));
const app = await startApp(dataFolder);
const browser = await chromium.launch(config.use?.launchOptions ?? {});
const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });

const settled = (at: Page): Promise<unknown> =>
  at.waitForFunction(() => {
    const { panes } = window.gullPane.inspect();
    return panes.length > 0 && panes.every((pane) => pane.settled);
  });
const shoot = (name: string): Promise<Buffer> => page.screenshot({ path: `${folder}/${name}.png` });

await page.goto(app.url);
await page.getByRole('img', { name: /Picture of/ }).waitFor();
await page.waitForLoadState('networkidle');
await shoot('drawings');

await page.getByRole('link', { name: 'Site general arrangement' }).click();
await settled(page);
await page.mouse.move(640, 360);
await shoot('site-plan');

await page.keyboard.press('c');
await page.mouse.move(640, 325);
await page.mouse.down();
await page.mouse.move(760, 400, { steps: 3 });
await shoot('frame-corners');
await page.mouse.up();
await settled(page);
await page.getByRole('button', { name: 'Night watch, dark' }).click();
await page.mouse.move(700, 420);
await settled(page);
await shoot('detail-at-night');

await browser.close();
await app.stop();
await rm(dataFolder, { recursive: true, force: true });
