/** What a hand feels: frames while it moves, with and without what runs beside; memory after many steps. */
import type { Browser, Page } from '@playwright/test';
import type { DrawingDto } from '@gull-pane/protocol/drawings';
import type { RunningApp } from '../e2e/app.ts';
import { browserMemory } from './browser-memory.ts';
import { percentile, plain, ratio, type Figure } from './statistics.ts';

/** Moves of the hand in one take. */
const MOVES = 40;

export async function measureHands(
  browser: Browser,
  { url }: RunningApp,
  takes: number,
  keep: (figure: Figure) => void,
): Promise<void> {
  const drawings = (await (await fetch(`${url}api/drawings`)).json()) as DrawingDto[];
  const plan = drawings.find(({ name }) => name === 'Site general arrangement')!;
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
  await page.goto(url);
  const baseline = browserMemory();
  await page.goto(`${url}d/${plan.id}`);
  await settled(page);
  await page.keyboard.press('+');
  await settled(page);

  // the lens at the hand, and the whole view under it
  const lens: number[] = [];
  const plainMoves: number[] = [];
  for (let take = 0; take < takes; take++) {
    plainMoves.push(percentile(await framesOfDrag(page, 'pan'), 0.5));
    await page.keyboard.press('l');
    lens.push(percentile(await framesOfDrag(page, 'hover'), 0.5));
    await page.keyboard.press('Escape');
  }
  const told = [lens, plainMoves].map((frames) => percentile(frames, 0.5).toFixed(1)).join(' and ');
  console.log(`frames with the lens and of a pan without: ${told} ms`);
  keep(ratio('lens-frame', 1.5, 'a frame of a pan without it', { ours: lens, peer: plainMoves }));

  // pans with the trail open, whose new views want their thumbnails, and with it folded
  const withTrail: number[] = [];
  const without: number[] = [];
  for (let take = 0; take < takes; take++) {
    withTrail.push(...(await framesOfDrag(page, 'pan')));
    await page.getByRole('button', { name: 'Fold the trail' }).click();
    without.push(...(await framesOfDrag(page, 'pan')));
    await page.getByRole('button', { name: 'Open the trail' }).click();
  }
  const [slow, calm] = [percentile(withTrail, 0.95), percentile(without, 0.95)];
  keep(plain('thumbnail-stall', 1.2, 'ratio', 'the same pan with the trail folded', slow / calm, [slow, calm]));

  const steps = async (count: number): Promise<number> => {
    for (let i = 0; i < count; i++) await page.keyboard.press(['+', '[', '-', ']'][i % 4]!);
    await settled(page);
    await page.waitForFunction(() => !document.querySelector('.trail-blank'));
    return browserMemory() - baseline;
  };
  const few = await steps(10);
  const many = await steps(990);
  keep(plain('trail-memory', 1.5, 'ratio', 'after 10 steps', many / few, [many, few]));
  await page.close();
}

/** Until a pane is at rest. */
export const settled = (page: Page): Promise<unknown> =>
  page.waitForFunction(() => window.gullPane.inspect().panes.some((pane) => pane.settled), null, { timeout: 180_000 });

/** Moves the hand over the pane, a step a frame. @returns how long each frame took, ms */
export async function framesOfDrag(page: Page, how: 'pan' | 'hover'): Promise<number[]> {
  const isPan = how === 'pan';
  // there and, unmeasured, back again, so that all takes show the same
  const there = Array.from({ length: MOVES }, (_, i) => i + 1);
  const events = [
    ...(isPan ? [{ type: 'pointerdown', button: 1, step: 0, isTimed: false }] : []),
    ...there.map((step) => ({ type: 'pointermove', button: -1, step, isTimed: true })),
    ...there.map((step) => ({ type: 'pointermove', button: -1, step: MOVES - step, isTimed: false })),
    ...(isPan ? [{ type: 'pointerup', button: 1, step: 0, isTimed: false }] : []),
  ];
  const frames = await page.evaluate(
    async ([list, buttons]) => {
      const surface = document.querySelector('[data-active="true"] [role="application"]')!;
      const box = surface.getBoundingClientRect();
      const middle = { x: box.x + box.width / 2 - 100, y: box.y + box.height / 2 - 40 };
      surface.setPointerCapture = () => undefined; // pointers that are made up can't be captured
      const times: number[] = [];
      let last = await new Promise(requestAnimationFrame);
      for (const { type, button, step, isTimed } of list) {
        const at = { clientX: middle.x + 5 * step, clientY: middle.y + 2 * step };
        const pointer = { bubbles: true, pointerId: 7, pointerType: 'mouse', button, buttons };
        surface.dispatchEvent(new PointerEvent(type, { ...pointer, ...at }));
        if (!isTimed) continue;
        const now = await new Promise(requestAnimationFrame);
        times.push(now - last);
        last = now;
      }
      return times;
    },
    [events, isPan ? 4 : 0] as const,
  );
  return frames.slice(3); // the first ones warm up
}
