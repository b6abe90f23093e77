/** Lines stand where their doubles say, to a part of a pixel, from 1:1,000,000 to 20:1 on the national grid. */
import { PNG } from 'pngjs';
import type { Page } from '@playwright/test';
import { expect, inspectPane, settled, test, type RunningApp } from './app.ts';

/** Two lines across 30 km and an arc of 200 m, none of them at a round place. */
const CROSS = { x: 412_600_123.456789, y: 7_208_400_654.321098 };
const ARC = { x: 412_600_000.123, y: 7_208_400_000.456, r: 200_000.789 };
const plan = `<svg xmlns="http://www.w3.org/2000/svg" fill="none" stroke="#000" stroke-width="0.02">
<path d="M${CROSS.x} -7193200000.5V-7223600000.5M397300000.5 ${-CROSS.y}H427900000.5"/>
<circle cx="${ARC.x}" cy="${-ARC.y}" r="${ARC.r}"/></svg>`;

async function importPlan(app: RunningApp): Promise<string> {
  const body = new FormData();
  body.append('file', new File([plan], 'Cross.svg'));
  const response = await fetch(`${app.url}api/drawings`, { method: 'POST', body });
  const { drawingId } = (await response.json()) as { drawingId: string };
  await expect
    .poll(
      async () => ((await (await fetch(`${app.url}api/drawings/${drawingId}`)).json()) as { status: string }).status,
    )
    .toBe('ready');
  return drawingId;
}

/** How far about a place is looked, px. */
const REACH_PX = 8;

/** Middle of the ink along a column or row of the pane's picture near a place, CSS px in the pane. */
async function inkNear(page: Page, axis: 'x' | 'y', at: { x: number; y: number }): Promise<number> {
  const { rect } = await inspectPane(page);
  const reach = REACH_PX;
  const clip = {
    x: rect.x + Math.round(at.x) - reach,
    y: rect.y + Math.round(at.y) - reach,
    width: 2 * reach,
    height: 2 * reach,
  };
  const { data, width } = PNG.sync.read(await page.screenshot({ clip }));
  let sum = 0;
  let weight = 0;
  for (let i = 0; i < 2 * reach; i++) {
    // one line of pixels across the line that is looked for, away from the other one
    const pixel = axis === 'x' ? width * 1 + i : width * i + 1;
    const ink = 255 - data[4 * pixel + 1]!;
    if (ink < 40) continue; // the paper is not quite white
    sum += ink * (i + 0.5);
    weight += ink;
  }
  expect(weight, `no ink near ${at.x}, ${at.y}`).toBeGreaterThan(0);
  return (axis === 'x' ? clip.x - rect.x : clip.y - rect.y) + sum / weight;
}

test('lines in root tiles stand within 0.6 px of exact at every scale', async ({ page, app }) => {
  const id = await importPlan(app);
  for (const denominator of [1_000_000, 20_000, 500, 10, 1, 0.05]) {
    const unitsPerPx = (denominator * 25.4) / 96;
    // the crossing lies off the middle of the pane by no whole number of px
    const target = { x: CROSS.x - 81.37 * unitsPerPx, y: CROSS.y - 43.81 * unitsPerPx };
    await page.goto(`${app.url}d/${id}?x=${target.x}&y=${target.y}&s=${unitsPerPx}`);
    const { rect, camera } = await settled(page);
    const scale = camera.widthWorld! / rect.width;
    const x = rect.width / 2 + (CROSS.x - camera.target.x) / scale;
    const y = rect.height / 2 - (CROSS.y - camera.target.y) / scale;
    const found = { x: await inkNear(page, 'x', { x, y }), y: await inkNear(page, 'y', { x, y }) };
    expect(Math.abs(found.x - x), `1:${denominator}, x`).toBeLessThan(0.6);
    expect(Math.abs(found.y - y), `1:${denominator}, y`).toBeLessThan(0.6);
  }
});

test('a large arc is round and where it should be at close views', async ({ page, app }) => {
  const id = await importPlan(app);
  for (const [turn, unitsPerPx] of [
    [0.3, 20],
    [0.3, 0.5],
    [2.85, 0.02],
  ] as const) {
    const on = { x: ARC.x + ARC.r * Math.cos(turn), y: ARC.y + ARC.r * Math.sin(turn) };
    await page.goto(`${app.url}d/${id}?x=${on.x}&y=${on.y}&s=${unitsPerPx}`);
    const { rect, camera } = await settled(page);
    // along the horizontal through a point of the pane, where the circle crosses it
    for (const row of [0.2, 0.8]) {
      const north = camera.target.y + (0.5 - row) * rect.height * unitsPerPx;
      const east = ARC.x + Math.sign(Math.cos(turn)) * Math.sqrt(ARC.r ** 2 - (north - ARC.y) ** 2);
      const x = rect.width / 2 + (east - camera.target.x) / unitsPerPx;
      const [a, b] = [x, rect.height * row];
      const row1 = Math.round(b) - REACH_PX + 1; // the line of pixels that is read
      const northRead = camera.target.y + (rect.height / 2 - (row1 + 0.5)) * unitsPerPx;
      const eastRead = ARC.x + Math.sign(Math.cos(turn)) * Math.sqrt(ARC.r ** 2 - (northRead - ARC.y) ** 2);
      const expected = rect.width / 2 + (eastRead - camera.target.x) / unitsPerPx;
      expect(
        Math.abs((await inkNear(page, 'x', { x: a, y: b })) - expected),
        `turn ${turn}, ${unitsPerPx} mm/px`,
      ).toBeLessThan(0.6);
    }
  }
});
