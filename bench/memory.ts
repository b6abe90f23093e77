/** What the product takes of memory and of the page's thread in a tour, and that it draws nothing at rest. */
import type { Browser } from '@playwright/test';
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

/** A tour over the drawing in the product itself, then ten seconds of rest. */
export async function measureMemoryAndIdle(
  at: Browser,
  { url }: RunningApp,
  drawing: DrawingDto,
  tourSeconds: number,
  keep: (figure: Figure) => void,
): Promise<void> {
  const blank = await at.newPage({ viewport: { width: 1280, height: 800 } });
  await blank.addInitScript(watchLongTasks);
  await blank.goto(url);
  const baseline = browserMemory();
  await blank.goto(`${url}d/${drawing.id}`);
  const settled = (): Promise<unknown> =>
    blank.waitForFunction(() => window.gullPane.inspect().panes.some((pane) => pane.settled), null, {
      timeout: 180_000,
    });
  await settled();
  await blank.mouse.move(700, 380);
  await blank.evaluate(() => (window.longTasks = []));
  const begin = performance.now();
  const firstHalfMinute: number[] = [];
  const lastHalfMinute: number[] = [];
  let peak = 0;
  for (let round = 0; performance.now() - begin < tourSeconds * 1000; round++) {
    await blank.mouse.move(420 + ((round * 137) % 700), 120 + ((round * 89) % 500));
    await blank.mouse.wheel(0, round % 8 < 4 ? -300 : 300);
    await new Promise((resolve) => setTimeout(resolve, 120));
    const now = browserMemory() - baseline;
    peak = Math.max(peak, now);
    const elapsed = (performance.now() - begin) / 1000;
    if (elapsed < tourSeconds / 4) firstHalfMinute.push(now);
    if (elapsed > tourSeconds * 0.75) lastHalfMinute.push(now);
  }
  const long = await blank.evaluate(() => window.longTasks);
  keep(plain('long-tasks', 0, 'tasks', 'none longer than 100 ms in the tour', long.length, long));
  keep(plain('memory-mb', MOST_MB, 'MB', 'a page with nothing open', peak / 2 ** 20));
  const cached = await blank.evaluate(() => window.gullPane.inspect().panes[0]!.cachedBytes);
  keep(plain('memory', 3, 'ratio', 'decoded bytes of the tiles in the cache', peak / cached, [peak, cached]));
  keep(ratio('memory-drift', 1.1, 'the first quarter of the tour', { ours: lastHalfMinute, peer: firstHalfMinute }));
  await settled();
  const frames = (): Promise<number> => blank.evaluate(() => window.gullPane.inspect().panes[0]!.frames);
  const before = await frames();
  await new Promise((resolve) => setTimeout(resolve, 10_000));
  keep(plain('idle', 0, 'frames', '–', (await frames()) - before));
  await blank.close();
}
