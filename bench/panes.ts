/** What several panes cost, what thousands of view cards cost, and how soon one of them is gone to. */
import type { Browser, Page } from '@playwright/test';
import type { Camera } from '@gull-pane/core/camera/camera';
import type { KeepCardDto } from '@gull-pane/protocol/cards';
import type { DrawingDto } from '@gull-pane/protocol/drawings';
import type { RunningApp } from '../e2e/app.ts';
import { bareLines, type DrawingFiles } from './files.ts';
import { framesOfDrag } from './hands.ts';
import type { NinePanes } from './page/nine-panes.ts';
import { percentile, plain, ratio, type Figure } from './statistics.ts';

declare global {
  interface Window {
    readonly ninePanes: NinePanes;
  }
}

const CHORD_PX = 0.3;
/** Moves and letters of one take over a list of cards. */
const SCROLLS = 60;

const settled = (page: Page): Promise<unknown> =>
  page.waitForFunction(
    () => {
      if (!('gullPane' in window)) return false;
      const { panes } = window.gullPane.inspect();
      return panes.length > 0 && panes.every((pane) => pane.settled);
    },
    null,
    { timeout: 180_000 },
  );

/** Panning one of four panes of a large drawing, against the same drawing in one pane. */
export async function measureFourPanes(
  browser: Browser,
  { url }: RunningApp,
  drawing: DrawingDto,
  takes: number,
  keep: (figure: Figure) => void,
): Promise<void> {
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
  await page.goto(`${url}d/${drawing.id}`);
  await settled(page);
  await page.keyboard.press('7'); // no echo
  const one: number[] = [];
  const four: number[] = [];
  for (let take = 0; take < Math.max(3, takes / 3); take++) {
    one.push(...(await framesOfDrag(page, 'pan')));
    await page.getByRole('tab', { name: 'Panes' }).click();
    await page.getByRole('button', { name: 'Four', exact: true }).click();
    await settled(page);
    four.push(...(await framesOfDrag(page, 'pan')));
    await page.getByRole('button', { name: 'One', exact: true }).click();
    await settled(page);
  }
  const told = [four, one].map((frames) => percentile(frames, 0.5).toFixed(1)).join(' and ');
  console.log(`frames of a pan in one of four panes and in one alone: ${told} ms`);
  keep(ratio('four-panes', 1.3, 'the same pan in one pane alone', { ours: four, peer: one }));
  await page.close();
}

/** Nine panes of the demo's plan and model in one pass each, against bare draws. @param page with the parts that draw */
export async function measureNinePanes(
  page: Page,
  { url }: RunningApp,
  site: DrawingFiles,
  serve: (name: string, bytes: Buffer) => void,
  samples: number,
  keep: (figure: Figure) => void,
): Promise<void> {
  const drawings = (await (await fetch(`${url}api/drawings`)).json()) as DrawingDto[];
  const plan = drawings.find(({ name }) => name === 'Site general arrangement')!;
  const model = drawings.find(({ name }) => name.includes('pump hall'))!;
  const camera: Camera = await page.evaluate(([planId, modelId]) => window.ninePanes.open(planId, modelId), [
    plan.id,
    model.id,
  ] as const);
  const { x, y } = camera.target;
  serve('nine.bin', Buffer.from(bareLines(site.svg, { x, y }, CHORD_PX * camera.unitsPerPx).buffer));
  await page.evaluate(() => window.ninePanes.loadBare('/bench/nine.bin'));
  const taken = await page.evaluate((count) => {
    const ours: number[] = [];
    const peer: number[] = [];
    for (let i = 0; i < count + 2; i++) {
      const [own, bare] = [window.ninePanes.draw(), window.ninePanes.drawBare()];
      if (i < 2) continue; // warming up
      ours.push(own);
      peer.push(bare);
    }
    return { ours, peer };
  }, samples);
  keep(
    ratio('nine-panes-settle', 2, 'bare draws of five times the plan’s lines, four times the model’s triangles', taken),
  );
}

/** Scrolling and searching 5,000 view cards against 50, and a card that is gone to. */
export async function measureCards(
  browser: Browser,
  { url }: RunningApp,
  isQuick: boolean,
  keep: (figure: Figure) => void,
): Promise<void> {
  const few = await drawingWithCards(url, 50);
  const many = await drawingWithCards(url, isQuick ? 1000 : 5000);
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
  const frames = { few: [] as number[], many: [] as number[] };
  const toTravel: number[] = [];
  for (let take = 0; take < (isQuick ? 2 : 5); take++)
    for (const [which, id] of [
      ['few', few],
      ['many', many],
    ] as const) {
      await page.goto(`${url}d/${id}`);
      await settled(page);
      await page.getByRole('tab', { name: 'Views' }).click();
      await page.getByLabel('Search the views').waitFor();
      frames[which].push(...(await framesOfCards(page)));
      if (which === 'many') toTravel.push(await framesToTravel(page));
    }
  const [slow, calm] = [percentile(frames.many, 0.95), percentile(frames.few, 0.95)];
  keep(plain('cards-5000', 1.5, 'ratio', 'the same with 50 cards, 95th percentile', slow / calm, [slow, calm]));
  keep(plain('restore', 2, 'frames', '–', percentile(toTravel, 0.5), toTravel));
  await page.close();
}

/** A small drawing with so many view cards. @returns its id */
async function drawingWithCards(url: string, count: number): Promise<string> {
  const body = new FormData();
  const svg = `<svg xmlns="http://www.w3.org/2000/svg" width="900mm" height="600mm" viewBox="0 0 900 600">
    <g id="Walls"><rect x="50" y="50" width="800" height="500" fill="none" stroke="#333" stroke-width="4"/></g></svg>`;
  body.append('file', new File([svg], `Cards ${count}.svg`));
  const { drawingId } = (await (await fetch(`${url}api/drawings`, { method: 'POST', body })).json()) as {
    drawingId: string;
  };
  for (;;) {
    const { revision } = (await (await fetch(`${url}api/drawings/${drawingId}`)).json()) as DrawingDto;
    if (revision > 0) break;
    await new Promise((resolve) => setTimeout(resolve, 100));
  }
  const picture = `data:image/png;base64,${Buffer.from(onePixel, 'base64').toString('base64')}`;
  const card = (k: number): KeepCardDto => ({
    name: `Valve KS-VA-${String(k).padStart(4, '0')}, plan, 1:${20 + (k % 80)}`,
    group: `Area ${k % 7}`,
    position: k,
    camera: { x: 450 + (k % 30), y: -300, z: 0, unitsPerPx: 0.5 + (k % 10) / 20, qx: 0, qy: 0, qz: 0, qw: 1 },
    widthPx: 966,
    heightPx: 620,
    picture,
    shows: { hiddenLayers: [], hiddenObjects: '', revision: 1, clips: [] },
  });
  for (let at = 0; at < count; at += 25)
    await Promise.all(
      Array.from({ length: Math.min(25, count - at) }, (_, k) =>
        fetch(`${url}api/drawings/${drawingId}/cards`, {
          method: 'POST',
          headers: { 'content-type': 'application/json' },
          body: JSON.stringify(card(at + k)),
        }),
      ),
    );
  return drawingId;
}
const onePixel = 'iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNk+M9QDwADhgGAWjR9awAAAABJRU5ErkJggg==';

/** Scrolls through the list and types into its search. @returns how long each frame took, ms */
const framesOfCards = (page: Page): Promise<number[]> =>
  page.evaluate(async (scrolls) => {
    const list = document.querySelector('.view-list')!;
    const field = document.querySelector<HTMLInputElement>('[aria-label="Search the views"]')!;
    const value = Object.getOwnPropertyDescriptor(HTMLInputElement.prototype, 'value')!;
    const times: number[] = [];
    const searches = ['v', 'va', 'va-', 'va-0', 'va-00', 'va-001', 'va-00', 'va', ''];
    let last = await new Promise(requestAnimationFrame);
    // two frames a letter: one that takes it, one that shows what was found
    for (let k = 0; k < scrolls + 2 * searches.length; k++) {
      if (k < scrolls) list.scrollTop += 140;
      else if ((k - scrolls) % 2 === 0) {
        value.set!.call(field, searches[(k - scrolls) / 2]);
        field.dispatchEvent(new Event('input', { bubbles: true }));
      }
      const now = await new Promise(requestAnimationFrame);
      times.push(now - last);
      last = now;
    }
    return times;
  }, SCROLLS);

/** Frames of the screen from a click on a card to the first frame of the pane's travel. */
const framesToTravel = (page: Page): Promise<number> =>
  page.evaluate(async () => {
    const cards = document.querySelectorAll<HTMLButtonElement>('.view-go');
    const before = window.gullPane.inspect().panes[0]!.frames;
    cards[2]!.click();
    for (let frame = 1; frame < 60; frame++) {
      await new Promise(requestAnimationFrame);
      if (window.gullPane.inspect().panes[0]!.frames > before) return frame;
    }
    return 60;
  });
