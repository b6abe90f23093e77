/** What browser tests share: a server of their own, and the page as its users and `inspect()` see it. */
import { spawn, type ChildProcess } from 'node:child_process';
import { once } from 'node:events';
import { cp, mkdtemp, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import AxeBuilder from '@axe-core/playwright';
import { test as base, expect, type BrowserContext, type Locator, type Page } from '@playwright/test';
import type { Inspection, InspectedPane } from '@gull-pane/protocol/inspect';

export interface RunningApp {
  readonly url: string;
  readonly process: ChildProcess;
  stop(): Promise<void>;
}

/** A server that hasn't ended by then hangs: it would hold up all that comes after it, ms. */
const LONGEST_STOP_MS = 60_000;

/** Starts the built server on a free port; in a new folder it imports the demo, like any other first start. */
export async function startApp(dataFolder: string, env: NodeJS.ProcessEnv = {}): Promise<RunningApp> {
  const child = spawn(process.execPath, ['packages/server/dist/main.js'], {
    env: { ...process.env, PORT: '0', GULL_PANE_DATA: dataFolder, ...env },
    stdio: ['ignore', 'pipe', 'pipe'],
  });
  let output = '';
  const url = await new Promise<string>((resolve, reject) => {
    const read = (chunk: Buffer): void => {
      output += String(chunk);
      const ready = /Gull Pane is ready: (\S+)/.exec(output);
      if (ready) resolve(ready[1]!);
    };
    child.stdout.on('data', read);
    child.stderr.on('data', read);
    child.on('exit', (code) => reject(new Error(`the server ended with code ${code ?? 'none'}:\n${output}`)));
  });
  return {
    url,
    process: child,
    stop: async () => {
      if (child.exitCode !== null) return;
      const ended = once(child, 'exit');
      child.kill('SIGTERM');
      const limit = setTimeout(() => child.kill('SIGKILL'), LONGEST_STOP_MS);
      await ended;
      clearTimeout(limit);
    },
  };
}

/** A data folder with the demo imported, to be copied: `seed-demo.ts` makes it. */
export const DEMO_FOLDER = join(import.meta.dirname, '..', '.cache', 'demo-data');

const newFolder = (): Promise<string> => mkdtemp(join(tmpdir(), 'gull-pane-e2e-'));

/** A data folder in which the demo counts as imported: a server there begins with no drawing. */
export async function emptyFolder(): Promise<string> {
  const folder = await newFolder();
  await writeFile(join(folder, 'demo-seeded'), '');
  return folder;
}

/** A data folder that has the demo. */
export async function demoFolder(): Promise<string> {
  const folder = await newFolder();
  await cp(DEMO_FOLDER, folder, { recursive: true });
  return folder;
}

/** The page's size where it doesn't matter: without a graphics processor every px takes time. */
export const VIEWPORT = { width: 1024, height: 700 };
/** The size that the page is laid out for. */
export const USUAL_VIEWPORT = { width: 1280, height: 800 };

type SmoothEdges = 'automatic' | 'off';

/** Opens pages with a choice about smooth edges: a picture at rest is otherwise drawn up to eight times. */
export async function chooseSmoothEdges(context: BrowserContext, smoothEdges: SmoothEdges): Promise<void> {
  await context.addInitScript((choice) => {
    const key = 'gull-pane-preferences';
    if (localStorage.getItem(key) === null)
      localStorage.setItem(key, JSON.stringify({ state: { smoothEdges: choice }, version: 0 }));
  }, smoothEdges);
}

interface WorkerFixtures {
  readonly app: RunningApp;
  readonly sharedContext: BrowserContext;
}
interface Options {
  /** Off unless the test is about them. */
  readonly smoothEdges: SmoothEdges;
}

/** A server with the demo for all tests of a worker; pages whose edges stay as they are drawn first. */
export const test = base.extend<Options, WorkerFixtures>({
  smoothEdges: ['off', { option: true }],
  // nothing travels or fades unless a test asks for motion: `page.emulateMedia({ reducedMotion: 'no-preference' })`;
  // the page's code is compiled once for all tests that take the browser as it is; each begins without anything kept
  context: async ({ browser, sharedContext, app, smoothEdges, hasTouch, deviceScaleFactor }, use) => {
    const isUsual = smoothEdges === 'off' && !hasTouch && (deviceScaleFactor ?? 1) === 1;
    if (!isUsual) {
      const context = await browser.newContext({ reducedMotion: 'reduce' });
      await chooseSmoothEdges(context, smoothEdges);
      await use(context);
      await context.close();
      return;
    }
    await use(sharedContext);
    const last = await sharedContext.newPage();
    for (const page of sharedContext.pages()) if (page !== last) await page.close();
    const cdp = await sharedContext.newCDPSession(last);
    await cdp.send('Storage.clearDataForOrigin', {
      origin: new URL(app.url).origin,
      storageTypes: 'local_storage,indexeddb',
    });
    await sharedContext.clearCookies();
    await sharedContext.clearPermissions();
    await last.close();
  },
  sharedContext: [
    async ({ browser }, use) => {
      // told in full: it would else be as the test wants it that happens to come first
      const usual = { viewport: VIEWPORT, hasTouch: false, deviceScaleFactor: 1 } as const;
      const context = await browser.newContext({ ...usual, reducedMotion: 'reduce' });
      await chooseSmoothEdges(context, 'off');
      await use(context);
      await context.close();
    },
    { scope: 'worker' },
  ],
  app: [
    async ({}, use) => {
      const folder = await demoFolder();
      const app = await startApp(folder);
      await use(app);
      await app.stop();
      await rm(folder, { recursive: true, force: true });
    },
    { scope: 'worker' },
  ],
});

export { expect };

export const inspect = (page: Page): Promise<Inspection> => page.evaluate(() => window.gullPane.inspect());

export async function inspectPane(page: Page): Promise<InspectedPane> {
  const { panes } = await inspect(page);
  expect(panes).toHaveLength(1);
  return panes[0]!;
}

/** Waits until nothing travels, everything has arrived and the picture at rest is drawn. */
export async function settled(page: Page): Promise<InspectedPane> {
  // told by the same look that found it at rest: a moment later the page may be on its way to another drawing
  const found = await page.waitForFunction(() => {
    const { panes } = window.gullPane.inspect();
    return panes.length > 0 && panes.every((pane) => pane.settled) ? panes : null;
  });
  const panes = (await found.jsonValue())!;
  expect(panes).toHaveLength(1);
  return panes[0]!;
}

/** The address of a drawing by its name. */
async function addressOf(app: RunningApp, name: string): Promise<{ readonly id: string; readonly url: string }> {
  const drawings = (await (await fetch(`${app.url}api/drawings`)).json()) as { id: string; name: string }[];
  const found = drawings.find((drawing) => drawing.name.startsWith(name));
  if (!found) throw new Error(`there is no drawing “${name}”`);
  return { id: found.id, url: `${app.url}d/${found.id}` };
}

/** Opens the site plan by its address, with a trail of one view. */
export async function openSitePlan(page: Page, app: RunningApp): Promise<InspectedPane> {
  const { id, url } = await addressOf(app, 'Site general arrangement');
  await forgetTrail(app, id);
  await page.goto(url);
  await expect(page.getByRole('button', { name: 'Fit all' })).toBeVisible();
  return settled(page);
}

/** A chamber of some hundred lines: enough wherever the size of a drawing proves nothing more. */
function chamber(): string {
  const lines: string[] = [];
  for (let i = 0; i < 400; i++) {
    const [x, y] = [412_600_000 + (i % 25) * 400, -7_208_400_000 - Math.floor(i / 25) * 400];
    lines.push(`<path id="W-${i}" d="M${x} ${y}h300v-200z"/>`);
  }
  return `<svg xmlns="http://www.w3.org/2000/svg"><g id="Walls" fill="none" stroke="#16324A">${lines.join('')}</g></svg>`;
}
const chambers = new Map<RunningApp, string>();

/** Opens a small plan of the test's own: what it keeps and draws there is nobody else's. */
export const openOwnChamber = (page: Page, app: RunningApp): Promise<InspectedPane> =>
  openDrawing(page, app, 'Chamber', chamber());

/** Opens a small plan on the national grid, with a trail of one view; a server imports it once. */
export async function openChamber(page: Page, app: RunningApp): Promise<InspectedPane> {
  const known = chambers.get(app);
  if (known === undefined) {
    const pane = await openDrawing(page, app, 'Chamber', chamber());
    chambers.set(app, new URL(page.url()).pathname.split('/').at(-1)!);
    return pane;
  }
  await forgetTrail(app, known);
  await page.goto(`${app.url}d/${known}`);
  return settled(page);
}

/** Forgets where the panes of a drawing have been, in whichever window. */
async function forgetTrail(app: RunningApp, id: string): Promise<void> {
  await fetch(`${app.url}api/drawings/${id}/trail`, { method: 'DELETE' });
}

/** Imports a drawing and opens it, with a trail of one view. */
export async function openDrawing(
  page: Page,
  app: RunningApp,
  name: string,
  content: string | Uint8Array<ArrayBuffer>,
): Promise<InspectedPane> {
  return openFile(page, app, `${name}.${typeof content === 'string' ? 'svg' : 'glb'}`, content);
}

/** The same with the file's whole name. */
export async function openFile(
  page: Page,
  app: RunningApp,
  fileName: string,
  content: string | Uint8Array<ArrayBuffer>,
): Promise<InspectedPane> {
  const body = new FormData();
  body.append('file', new File([content], fileName));
  const accepted = (await (await fetch(`${app.url}api/drawings`, { method: 'POST', body })).json()) as {
    drawingId: string;
  };
  const statusNow = async (): Promise<string> => {
    const response = await fetch(`${app.url}api/drawings/${accepted.drawingId}`);
    return ((await response.json()) as { status: string }).status;
  };
  await expect.poll(statusNow, { intervals: [20, 50, 100] }).toBe('ready');
  await page.goto(`${app.url}d/${accepted.drawingId}`);
  return settled(page);
}

/**
 * Taps a key. The page gets both halves of it at once: however busy the machine, it isn't held so long that it borrows a
 * movement.
 */
export async function tap(page: Page, key: string): Promise<void> {
  if (key.length > 1 && key.includes('+')) await page.keyboard.press(key); // those with modifiers borrow nothing
  else await Promise.all([page.keyboard.down(key), page.keyboard.up(key)]);
}

/** The world point at a page position, by what `inspect()` tells of the camera. */
export function worldAt(pane: InspectedPane, x: number, y: number): { x: number; y: number } {
  const { rect, camera } = pane;
  const unitsPerPx = camera.widthWorld! / rect.width;
  const right = (x - rect.x - rect.width / 2) * unitsPerPx;
  const up = (rect.y + rect.height / 2 - y) * unitsPerPx;
  return {
    x: camera.target.x + right * camera.up.y + up * camera.up.x,
    y: camera.target.y - right * camera.up.x + up * camera.up.y,
  };
}

/** Distance of two world points in px of a pane. */
export function pxApart(pane: InspectedPane, a: { x: number; y: number }, b: { x: number; y: number }): number {
  return Math.hypot(a.x - b.x, a.y - b.y) / (pane.camera.widthWorld! / pane.rect.width);
}

/** Drops files on the page the way a file manager does. */
export async function drop(
  page: Page,
  files: readonly { readonly name: string; readonly content: string | Uint8Array }[],
  on = 'main',
): Promise<void> {
  await page.getByRole('heading', { name: 'Drawings' }).waitFor();
  const list = files.map(({ name, content }) => ({ name, base64: Buffer.from(content).toString('base64') }));
  const transfer = await page.evaluateHandle((told) => {
    const data = new DataTransfer();
    for (const { name, base64 } of told)
      data.items.add(new File([Uint8Array.from(atob(base64), (letter) => letter.charCodeAt(0))], name));
    return data;
  }, list);
  for (const type of ['dragenter', 'dragover', 'drop']) await page.dispatchEvent(on, type, { dataTransfer: transfer });
}

/** Imports a newer file of the drawing that is open. */
export async function revise(
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

/** Drags an element onto another with the mouse, as a hand does: it is let go once the other one is lit. */
export async function dragOnto(page: Page, from: Locator, to: Locator): Promise<void> {
  await expect(from).toHaveAttribute('data-can-drag'); // the code that drags is loaded when there is something to drag
  await from.hover(); // waits until it stands still
  const { x, y, width, height } = (await to.boundingBox())!;
  await page.mouse.down();
  await expect(async () => {
    await page.mouse.move(x + width / 2 - 12, y + height / 2, { steps: 4 });
    await page.mouse.move(x + width / 2, y + height / 2, { steps: 4 });
    await expect(page.locator('[data-over="true"]').first()).toBeVisible({ timeout: 1000 });
  }).toPass({ intervals: [100], timeout: 30_000 });
  await page.mouse.up();
}

/**
 * Nothing that axe knows keeps anybody from using the page as it is.
 * @param within a selector: what a dialog covers isn't looked at
 * @param rules those of axe that are tried; all if absent
 */
export async function expectAccessible(page: Page, where: string, within?: string, rules?: string[]): Promise<void> {
  const axe = rules ? new AxeBuilder({ page }).withRules(rules) : new AxeBuilder({ page });
  // a tip that happens to be open under the mouse belongs to its control, not to a region of the page
  const withoutTips = await page.addStyleTag({ content: '.ant-tooltip { display: none !important }' });
  const { violations } = await (within === undefined ? axe : axe.include(within)).analyze();
  await withoutTips.evaluate((style) => (style as HTMLStyleElement).remove());
  const told = violations.map(({ id, nodes }) => `${id}: ${nodes.map(({ html }) => html.slice(0, 160)).join(' | ')}`);
  expect(told, where).toEqual([]);
}
