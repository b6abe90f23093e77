import { readFile } from 'node:fs/promises';
import type { Page } from '@playwright/test';
import { unzipSync, strFromU8 } from 'fflate';
import { PNG } from 'pngjs';
import { dragOnto, expect, inspectPane, openDrawing, settled, test, type RunningApp } from './app.ts';

/** A slab of 20 m by 10 m with a round opening. */
const slab = `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 20000 10000" data-unit="mm">
  <g id="Concrete"><path d="M0 0H20000V10000H0Z" fill="none" stroke="#345" stroke-width="60"/></g>
  <g id="Openings"><circle cx="10000" cy="5000" r="1500" fill="#8ac" stroke="#345" stroke-width="30"/></g>
</svg>`;

const stop = (page: Page, name: RegExp) => page.getByRole('group', { name: 'Stops' }).getByRole('button', { name });
const clock = (page: Page) => page.getByRole('timer', { name: 'Time of the tour' });

/** A drawing with two views kept, all of it and its right half, and a tour through them. */
async function openTour(page: Page, app: RunningApp): Promise<void> {
  await openDrawing(page, app, 'Slab', slab);
  await page.getByRole('tab', { name: 'Views' }).click();
  const cards = page.getByRole('list', { name: 'Views' }).getByRole('listitem');
  await page.keyboard.press('Shift+J');
  await expect(cards).toHaveCount(1);
  const { rect } = await inspectPane(page);
  await page.mouse.move(rect.x + rect.width * 0.75, rect.y + rect.height / 2);
  await page.keyboard.press('+');
  await page.keyboard.press('+');
  await settled(page);
  await page.keyboard.press('Shift+J');
  await expect(cards).toHaveCount(2);
  await page.keyboard.press('F10');
  await page.getByRole('button', { name: 'New tour' }).click();
  await page.keyboard.type('Round the slab');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('combobox', { name: 'Tour', exact: true })).toBeVisible();
  await expect(clock(page)).toContainText('of 0:07.0');
}

test('a tour is made of the views, retimed, undone, and is there after a reload', async ({ page, app }) => {
  await page.emulateMedia({ reducedMotion: 'reduce' });
  await openTour(page, app);
  await expect(stop(page, /^Stop [12],/)).toHaveCount(2);

  // a card is dropped among the stops
  await dragOnto(page, page.getByRole('list', { name: 'Views' }).getByRole('listitem').first(), stop(page, /^Stop 2/));
  await expect(stop(page, /^Stop \d,/)).toHaveCount(3);
  await expect(clock(page)).toContainText('of 0:12.0');
  await page.getByRole('button', { name: 'Undo new stop' }).click();
  await expect(stop(page, /^Stop \d,/)).toHaveCount(2);

  // the edge of a stay is dragged along the time axis, and moved by keys
  const way = page.getByRole('slider', { name: /^Way to/ });
  const box = (await way.boundingBox())!;
  await page.mouse.move(box.x + box.width / 2, box.y + box.height / 2);
  await page.mouse.down();
  await page.mouse.move(box.x + box.width / 2 + 120, box.y + box.height / 2, { steps: 4 });
  await page.mouse.up();
  await expect.poll(async () => Number(await way.getAttribute('aria-valuenow'))).toBeGreaterThan(3.4);
  const dragged = Number(await way.getAttribute('aria-valuenow'));
  await way.press('ArrowRight');
  await expect(way).toHaveAttribute('aria-valuenow', String(Math.round(dragged * 10 + 1) / 10));
  await page.getByRole('spinbutton', { name: 'Seconds of the stay' }).fill('1.5');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('slider', { name: /^Stay at/ }).first()).toHaveAttribute('aria-valuenow', '1.5');
  await page.getByRole('textbox', { name: 'Caption' }).fill('All of the slab');
  await page.keyboard.press('Enter');
  await expect(stop(page, /^Stop 1, All of the slab/)).toBeVisible();

  // its moments are seen by the axis; those who prefer stillness see the stops
  const axis = page.getByRole('slider', { name: 'Moment of the tour' });
  await stop(page, /^Stop 1/).click();
  const whole = (await settled(page)).camera.widthWorld!;
  await stop(page, /^Stop 2/).click();
  expect((await settled(page)).camera.widthWorld!).toBeLessThan(0.8 * whole);
  await axis.press('PageUp');
  await axis.press('PageUp');
  await expect(page.getByRole('status', { name: 'Playing at' })).toHaveText('Stop 1 of 2, All of the slab');

  await expect(page.getByText('Saved', { exact: true })).toBeVisible();
  const told = await clock(page).textContent();
  await page.reload();
  await settled(page);
  await page.keyboard.press('F10');
  await expect(clock(page)).toHaveText(told!);
});

test('a tour plays on the whole screen, with a clicker’s keys, and gives the pane back', async ({ page, app }) => {
  await page.emulateMedia({ reducedMotion: 'no-preference' });
  await openTour(page, app);
  await stop(page, /^Stop 1/).click();
  const whole = await settled(page);
  await page.keyboard.press('Shift+F3');
  const title = page.getByRole('dialog', { name: 'Present Round the slab' });
  await expect(title.getByRole('heading', { name: 'Round the slab' })).toBeVisible();
  await expect(title).toContainText('2 stops, 7 seconds');
  await title.getByRole('radio', { name: 'I go from stop to stop' }).click();
  await page.keyboard.press('PageDown'); // as a clicker does
  const caption = page.getByRole('status', { name: 'Caption' });
  await expect(caption).toBeVisible();
  await expect(page.getByRole('banner')).toBeHidden();
  const { rect } = await settled(page);
  expect([rect.x, rect.y, rect.width]).toEqual([0, 0, await page.evaluate(() => innerWidth)]);
  const name = await caption.textContent();

  await page.keyboard.press('PageDown'); // travels, and waits there
  await expect(caption).not.toHaveText(name!);
  const close = await settled(page);
  expect(close.camera.widthWorld!).toBeLessThan(0.6 * whole.camera.widthWorld! * (rect.width / whole.rect.width));
  await page.keyboard.press('.');
  await expect(page.getByRole('img', { name: 'The screen is dark' })).toBeVisible();
  await page.keyboard.press('.');
  await page.keyboard.press('PageUp');
  await expect(caption).toHaveText(name!);
  await page.keyboard.press('Escape');
  await expect(page.getByRole('banner')).toBeVisible();

  // played by itself it travels through views in between, and a hand stops it
  await page.getByRole('button', { name: 'From stop to stop by hand' }).click();
  await page.getByRole('slider', { name: 'Moment of the tour' }).press('PageUp');
  await page.getByRole('button', { name: 'Play', exact: true }).click();
  await expect(page.getByRole('button', { name: 'Pause' })).toBeVisible();
  const widths = new Set<number>();
  await expect
    .poll(async () => widths.add((await inspectPane(page)).camera.widthWorld!).size, { intervals: [60] })
    .toBeGreaterThan(4);
  const { rect: own } = await inspectPane(page);
  await page.mouse.move(own.x + 300, own.y + 100);
  await page.mouse.wheel(0, -100);
  await expect(page.getByRole('button', { name: 'Play', exact: true })).toBeVisible();
});

test('a tour is written as numbered pictures, the same whenever they are made', async ({ page, app }) => {
  await page.emulateMedia({ reducedMotion: 'reduce' });
  await openTour(page, app);
  const write = async (): Promise<Record<string, Uint8Array>> => {
    await page.getByRole('button', { name: 'More for Round the slab' }).click();
    await page.getByRole('menuitem', { name: /numbered pictures/ }).click();
    const dialog = page.getByRole('dialog', { name: 'Write as numbered pictures' });
    await dialog.getByRole('combobox', { name: 'Size of the pictures' }).click();
    await page.getByTitle('640 × 360 px').click();
    await dialog.getByRole('combobox', { name: 'Frames a second' }).click();
    await page.getByTitle('12 frames a second').click();
    const saved = page.waitForEvent('download');
    await dialog.getByRole('button', { name: 'Write them' }).click();
    const file = await saved;
    expect(file.suggestedFilename()).toBe('Round the slab, 12 frames a second.zip');
    await expect(dialog).toBeHidden();
    return unzipSync(new Uint8Array(await readFile(await file.path())));
  };
  await page.getByRole('spinbutton', { name: 'Seconds of the stay' }).fill('0.5');
  await page.keyboard.press('Enter');
  await stop(page, /^Stop 2/).click();
  await page.getByRole('spinbutton', { name: 'Seconds of the stay' }).fill('0.5');
  await page.keyboard.press('Enter');
  await page.getByRole('spinbutton', { name: 'Seconds of the way there' }).fill('1');
  await page.keyboard.press('Enter');
  await expect(clock(page)).toContainText('of 0:02.0');

  const files = await write();
  const frames = Object.keys(files).filter((name) => name.endsWith('.png'));
  expect(frames).toHaveLength(25);
  expect(frames.slice(0, 2)).toEqual(['frame-0001.png', 'frame-0002.png']);
  const about = JSON.parse(strFromU8(files['frames.json']!)) as Record<string, unknown>;
  expect(about).toMatchObject({ framesPerSecond: 12, frames: 25, widthPx: 640, heightPx: 360 });
  const [first, last] = [frames[0]!, frames[24]!].map((name) => PNG.sync.read(Buffer.from(files[name]!)));
  expect([first!.width, first!.height]).toEqual([640, 360]);
  expect(Buffer.compare(first!.data, last!.data)).not.toBe(0);
  // while one stays, every frame is the same; on the way none is
  expect(Buffer.compare(files[frames[0]!]!, files[frames[3]!]!)).toBe(0);
  const onTheWay = frames.slice(6, 18).map((name) => Buffer.from(files[name]!).toString('base64'));
  expect(onTheWay.map((picture) => onTheWay.indexOf(picture))).toEqual(onTheWay.map((_, k) => k));
  const again = await write();
  // but for a shade at curves, whose finer forms are there already
  for (const name of frames) {
    const [a, b] = [files, again].map((all) => PNG.sync.read(Buffer.from(all[name]!)).data) as [Buffer, Buffer];
    const far = a.filter((value, k) => Math.abs(value - b[k]!) > 8);
    expect(far).toHaveLength(0);
  }
});
