/** Raster pictures below the lines: where they lie to the px, what hides them, how they move. */
import { PNG } from 'pngjs';
import type { Page } from '@playwright/test';
import { drop, expect, inspectPane, openDrawing, openFile, settled, test, worldAt } from './app.ts';

/** Far from the works: these drawings aren't meant where a plan of them is looked for. */
const [E, N] = [431_600_000, 7_308_400_000];
/** A picture of px that are 100 mm: white, a red square from 10 to 20 px to the right and 5 to 15 px down, blue below. */
function picture(): Buffer {
  const png = new PNG({ width: 1200, height: 800 });
  for (let y = 0; y < 800; y++)
    for (let x = 0; x < 1200; x++) {
      const isRed = x >= 100 && x < 200 && y >= 50 && y < 150;
      png.data.set(
        isRed ? [220, 20, 20, 255] : y >= 600 ? [20, 40, 220, 255] : [250, 250, 250, 255],
        4 * (1200 * y + x),
      );
    }
  return PNG.sync.write(png);
}
const plan = (more = ''): string =>
  `<svg xmlns="http://www.w3.org/2000/svg" viewBox="${E} ${-N} 120000 80000" width="120000mm" height="80000mm">` +
  `<g id="Aerial"><image x="${E}" y="${-N}" width="120000" height="80000"${more} href="data:image/png;base64,${picture().toString('base64')}"/></g>` +
  `<g id="Lines"><path d="M${E} ${-N + 40_000}h120000" stroke="black" stroke-width="2000"/></g></svg>`;

/** Colours at places of the drawing, as they are seen. */
async function coloursAt(page: Page, places: readonly (readonly [number, number])[]): Promise<number[][]> {
  const { rect, camera } = await inspectPane(page);
  const shot = PNG.sync.read(await page.screenshot({ clip: rect }));
  const perPx = camera.widthWorld! / rect.width;
  return places.map(([x, y]) => {
    const [right, down] = [(E + x - camera.target.x) / perPx, (camera.target.y - (N - y)) / perPx];
    const at = 4 * (shot.width * Math.round(shot.height / 2 + down) + Math.round(shot.width / 2 + right));
    return [...shot.data.subarray(at, at + 3)];
  });
}
const near = (colour: readonly number[]): unknown => colour.map((value) => expect.closeTo(value, -1) as unknown); // within 5

test('a picture lies where the plan says, below its lines, and goes with its layer', async ({ page, app }) => {
  await openDrawing(page, app, 'Aerial', plan());
  const places = [
    [11_000, 6000],
    [19_000, 14_000],
    [30_000, 10_000],
    [60_000, 40_000],
    [100_000, 70_000],
  ] as const;
  const seen = [
    [220, 20, 20],
    [220, 20, 20],
    [250, 250, 250],
    [0, 0, 0],
    [20, 40, 220],
  ];
  expect(await coloursAt(page, places)).toEqual(seen.map(near));
  // zoomed in, single px can be seen: red ends 20 000 mm from the left
  const pane = await inspectPane(page);
  const corner = { x: pane.rect.x + pane.rect.width / 2, y: pane.rect.y + pane.rect.height / 2 };
  const middle = worldAt(pane, corner.x, corner.y);
  const perPx = pane.camera.widthWorld! / pane.rect.width;
  await page.mouse.move(corner.x + (E + 20_000 - middle.x) / perPx, corner.y + (middle.y - (N - 15_000)) / perPx);
  for (let i = 0; i < 5; i++) await page.mouse.wheel(0, -300);
  const zoomed = async (): Promise<number> => pane.camera.widthWorld! / (await inspectPane(page)).camera.widthWorld!;
  await expect.poll(zoomed).toBeCloseTo(1.2 ** 15, 3);
  await settled(page);
  expect(
    await coloursAt(page, [
      [19_900, 14_900],
      [20_100, 14_900],
      [19_900, 15_100],
    ]),
  ).toEqual(
    [
      [220, 20, 20],
      [250, 250, 250],
      [250, 250, 250],
    ].map(near),
  );

  await page.getByRole('checkbox', { name: 'Aerial' }).uncheck();
  await settled(page);
  const [ground] = await coloursAt(page, [[19_900, 14_900]]);
  expect(ground![0]).toBeLessThan(250);
  expect(ground![1]).toBeGreaterThan(200);
});

test('a faint picture is seen through, and one with its world file lies on the grid', async ({ page, app }) => {
  await openDrawing(page, app, 'Faint', plan(' opacity="0.25"'));
  const [red] = await coloursAt(page, [[15_000, 10_000]]);
  // a quarter of red on paper of (246, 242, 234)
  expect(red![0]).toBeGreaterThan(220);
  expect(red![1]).toBeGreaterThan(150);
  expect(red![1]).toBeLessThan(220);

  await page.goto(app.url);
  // 0.1 m a px; the middle of the first px
  const world = `0.1\n0\n0\n-0.1\n${E / 1000 + 0.05}\n${N / 1000 - 0.05}\n`;
  await drop(page, [
    { name: 'Ortho 7.png', content: picture() },
    { name: 'Ortho 7.pgw', content: world },
  ]);
  await page.getByRole('link', { name: 'Ortho 7' }).click();
  await settled(page);
  expect(
    await coloursAt(page, [
      [15_000, 10_000],
      [25_000, 10_000],
      [60_000, 70_000],
    ]),
  ).toEqual(
    [
      [220, 20, 20],
      [250, 250, 250],
      [20, 40, 220],
    ].map(near),
  );
});

test('a photo alone is a drawing that fills its pane', async ({ page, app }) => {
  const pane = await openFile(page, app, 'Weir 3.png', Uint8Array.from(picture()));
  const shot = PNG.sync.read(await page.screenshot({ clip: pane.rect }));
  const at = (x: number, y: number): number[] => {
    const from = 4 * (shot.width * Math.round(shot.height * y) + Math.round(shot.width * x));
    return [...shot.data.subarray(from, from + 3)];
  };
  expect(at(0.5, 0.3)).toEqual(near([250, 250, 250]));
  expect(at(0.5, 0.85)).toEqual(near([20, 40, 220]));
});
