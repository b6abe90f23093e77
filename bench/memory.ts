/** What the product takes of memory and of the page's thread in a tour, and that it draws nothing at rest. */
import type { Browser, Page } from '@playwright/test';
import type { DrawingDto } from '@gull-pane/protocol/drawings';
import type { RunningApp } from '../e2e/app.ts';
import { browserMemory } from './browser-memory.ts';
import { plain, ratio, type Figure } from './statistics.ts';

declare global {
  interface Window {
    /** How long tasks of the page were that took more than 100 ms. */
    longTasks: number[];
  }
}

/** Of a drawing of a million segments. */
const MOST_MB = 350;

/** Runs in the page before its own code. */
function watchLongTasks(): void {
  window.longTasks = [];
  new PerformanceObserver((list) => {
    for (const { duration } of list.getEntries()) if (duration > 100) window.longTasks.push(Math.round(duration));
  }).observe({ type: 'longtask', buffered: true });
}

/** What a tour over a drawing came to. */
interface Tour {
  readonly page: Page;
  /** Above a page with nothing open. */
  readonly peakMb: number;
  readonly firstQuarter: readonly number[];
  readonly lastQuarter: readonly number[];
}

/** A tour over a drawing in the product itself; its page is closed. */
export async function measureTour(
  at: Browser,
  url: string,
  drawingId: string,
  tourSeconds: number,
): Promise<{ readonly peakMb: number }> {
  const { page, peakMb } = await tourOf(at, url, drawingId, tourSeconds);
  await page.close();
  return { peakMb };
}

async function tourOf(at: Browser, url: string, drawingId: string, tourSeconds: number): Promise<Tour> {
  const page = await at.newPage({ viewport: { width: 1280, height: 800 } });
  await page.addInitScript(watchLongTasks);
  await page.goto(url);
  const baseline = browserMemory();
  await page.goto(`${url}d/${drawingId}`);
  await settled(page);
  await page.mouse.move(700, 380);
  await page.evaluate(() => (window.longTasks = []));
  const begin = performance.now();
  const firstQuarter: number[] = [];
  const lastQuarter: number[] = [];
  let peak = 0;
  for (let round = 0; performance.now() - begin < tourSeconds * 1000; round++) {
    await page.mouse.move(420 + ((round * 137) % 700), 120 + ((round * 89) % 500));
    await page.mouse.wheel(0, round % 8 < 4 ? -300 : 300);
    await new Promise((resolve) => setTimeout(resolve, 120));
    const now = browserMemory() - baseline;
    peak = Math.max(peak, now);
    const elapsed = (performance.now() - begin) / 1000;
    if (elapsed < tourSeconds / 4) firstQuarter.push(now);
    if (elapsed > tourSeconds * 0.75) lastQuarter.push(now);
  }
  return { page, peakMb: peak / 2 ** 20, firstQuarter, lastQuarter };
}

const settled = (page: Page): Promise<unknown> =>
  page.waitForFunction(() => window.gullPane.inspect().panes.some((pane) => pane.settled), null, { timeout: 180_000 });

/** A tour over the drawing in the product itself, then ten seconds of rest. */
export async function measureMemoryAndIdle(
  at: Browser,
  { url }: RunningApp,
  drawing: DrawingDto,
  tourSeconds: number,
  keep: (figure: Figure) => void,
): Promise<void> {
  const { page, peakMb, firstQuarter, lastQuarter } = await tourOf(at, url, drawing.id, tourSeconds);
  const long = await page.evaluate(() => window.longTasks);
  keep(plain('long-tasks', 0, 'tasks', 'none longer than 100 ms in the tour', long.length, long));
  keep(plain('memory-mb', MOST_MB, 'MB', 'a page with nothing open', peakMb));
  const cached = await page.evaluate(() => window.gullPane.inspect().panes[0]!.cachedBytes);
  keep(
    plain('memory', 3, 'ratio', 'decoded bytes of the tiles in the cache', (2 ** 20 * peakMb) / cached, [
      peakMb,
      cached,
    ]),
  );
  keep(ratio('memory-drift', 1.1, 'the first quarter of the tour', { ours: lastQuarter, peer: firstQuarter }));
  await settled(page);
  const frames = (): Promise<number> => page.evaluate(() => window.gullPane.inspect().panes[0]!.frames);
  const before = await frames();
  await new Promise((resolve) => setTimeout(resolve, 10_000));
  keep(plain('idle', 0, 'frames', '–', (await frames()) - before));
  await page.close();
}
