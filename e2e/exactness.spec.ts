/** Lines stand where their doubles say, to a part of a screen's pixel, from 1:1,000,000 to 20:1 on the national grid. */
import { PNG } from 'pngjs';
import type { Page } from '@playwright/test';
import { expect, inspectPane, settled, test, type RunningApp } from './app.ts';

/** Two lines across 30 km and an arc of 200 m, none of them at a round place. */
const CROSS = { x: 412_600_123.456789, y: 7_208_400_654.321098 };
const ARC = { x: 412_600_000.123, y: 7_208_400_000.456, r: 200_000.789 };
const plan = `<svg xmlns="http://www.w3.org/2000/svg" fill="none" stroke="#000" stroke-width="0.02">
<path d="M${CROSS.x} -7193200000.5V-7223600000.5M397300000.5 ${-CROSS.y}H427900000.5"/>
<circle cx="${ARC.x}" cy="${-ARC.y}" r="${ARC.r}"/></svg>`;
/** The same arc as the edge of an area without an outline. */
const disc = `<svg xmlns="http://www.w3.org/2000/svg"><circle cx="${ARC.x}" cy="${-ARC.y}" r="${ARC.r}"/></svg>`;

async function importPlan(app: RunningApp, svg = plan): Promise<string> {
  const body = new FormData();
  body.append('file', new File([svg], 'Cross.svg'));
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

/** The line of pixels through the upper or left part of what lies near a place: how dark they are, 0 to 255. */
async function inksNear(page: Page, axis: 'x' | 'y', at: { x: number; y: number }) {
  const { rect } = await inspectPane(page);
  const reach = REACH_PX;
  const clip = {
    x: rect.x + Math.round(at.x) - reach,
    y: rect.y + Math.round(at.y) - reach,
    width: 2 * reach,
    height: 2 * reach,
  };
  const { data, width } = PNG.sync.read(await page.screenshot({ clip }));
  const density = width / clip.width;
  // one line of pixels across the line that is looked for, away from the other one
  const pixelOf = (i: number): number => (axis === 'x' ? width * density + i : width * i + density);
  const inks = Array.from({ length: width }, (_, i) => 255 - data[4 * pixelOf(i) + 1]!);
  return { inks, density, begin: axis === 'x' ? clip.x - rect.x : clip.y - rect.y };
}

/** Middle of the ink along a column or row of the pane's picture near a place, CSS px in the pane. */
async function inkNear(page: Page, axis: 'x' | 'y', at: { x: number; y: number }): Promise<number> {
  const { inks, density, begin } = await inksNear(page, axis, at);
  let sum = 0;
  let weight = 0;
  inks.forEach((ink, i) => {
    if (ink < 40) return; // the paper is not quite white
    sum += ink * (i + 0.5);
    weight += ink;
  });
  expect(weight, `no ink near ${at.x}, ${at.y}`).toBeGreaterThan(0);
  return begin + sum / weight / density;
}

/** Where an area ends along a row of the pane's picture near a place, CSS px in the pane. */
async function edgeNear(page: Page, at: { x: number; y: number }): Promise<number> {
  const { inks, density, begin } = await inksNear(page, 'x', at);
  const [first, last] = [inks[0]!, inks.at(-1)!];
  expect(Math.abs(first - last), `no edge near ${at.x}, ${at.y}`).toBeGreaterThan(100);
  return begin + inks.reduce((sum, ink) => sum + (ink - last) / (first - last), 0) / density;
}

/** Views of the arc from near to very near: turn about its centre, drawing units per px. */
const ARC_VIEWS = [
  [0.3, 20],
  [0.3, 0.5],
  [2.85, 0.02],
] as const;

/** Where the arc is at the rows of pixels that are read, and whereabouts to look. */
function* arcCrossings(
  { rect, camera }: Awaited<ReturnType<typeof settled>>,
  turn: number,
  unitsPerPx: number,
  density: number,
): Generator<{ near: { x: number; y: number }; expected: number }> {
  const side = Math.sign(Math.cos(turn));
  const placeAt = (row: number): number => {
    const north = camera.target.y + (rect.height / 2 - row) * unitsPerPx;
    const east = ARC.x + side * Math.sqrt(ARC.r ** 2 - (north - ARC.y) ** 2);
    return rect.width / 2 + (east - camera.target.x) / unitsPerPx;
  };
  for (const y of [0.2 * rect.height, 0.8 * rect.height])
    yield { near: { x: placeAt(y), y }, expected: placeAt(Math.round(y) - REACH_PX + 1 + 0.5 / density) };
}

for (const density of [1, 2]) {
  test.describe(`on a screen of ${density} px to the CSS px`, () => {
    test.use({ deviceScaleFactor: density });

    test('lines in root tiles stand within 0.6 of its px of exact at every scale', async ({ page, app }) => {
      const id = await importPlan(app);
      for (const denominator of density === 1 ? [1_000_000, 20_000, 500, 10, 1, 0.05] : [1_000_000, 500, 0.05]) {
        const unitsPerPx = (denominator * 25.4) / 96;
        // the crossing lies off the middle of the pane by no whole number of px
        const target = { x: CROSS.x - 81.37 * unitsPerPx, y: CROSS.y - 43.81 * unitsPerPx };
        await page.goto(`${app.url}d/${id}?x=${target.x}&y=${target.y}&s=${unitsPerPx}`);
        const { rect, camera } = await settled(page);
        const scale = camera.widthWorld! / rect.width;
        const x = rect.width / 2 + (CROSS.x - camera.target.x) / scale;
        const y = rect.height / 2 - (CROSS.y - camera.target.y) / scale;
        const found = { x: await inkNear(page, 'x', { x, y }), y: await inkNear(page, 'y', { x, y }) };
        expect(Math.abs(found.x - x), `1:${denominator}, x`).toBeLessThan(0.6 / density);
        expect(Math.abs(found.y - y), `1:${denominator}, y`).toBeLessThan(0.6 / density);
      }
    });

    for (const [what, svg, find] of [
      ['a large arc', plan, (page: Page, at: { x: number; y: number }) => inkNear(page, 'x', at)],
      ['the edge of a large round area', disc, edgeNear],
    ] as const) {
      test(`${what} is round and where it should be at close views`, async ({ page, app }) => {
        const id = await importPlan(app, svg);
        for (const [turn, unitsPerPx] of density === 1 ? ARC_VIEWS : ARC_VIEWS.slice(-1)) {
          const on = { x: ARC.x + ARC.r * Math.cos(turn), y: ARC.y + ARC.r * Math.sin(turn) };
          await page.goto(`${app.url}d/${id}?x=${on.x}&y=${on.y}&s=${unitsPerPx}`);
          const pane = await settled(page);
          for (const { near, expected } of arcCrossings(pane, turn, unitsPerPx, density))
            expect(Math.abs((await find(page, near)) - expected), `turn ${turn}, ${unitsPerPx} mm/px`).toBeLessThan(
              0.6 / density,
            );
        }
      });
    }
  });
}
