/** Our extents against a browser's own bounding boxes, on files that packages ship. */
import { readFileSync, readdirSync } from 'node:fs';
import { createRequire } from 'node:module';
import { dirname, join } from 'node:path';
import { expect, test, type Page } from '@playwright/test';
import { visitExtremes } from '@gull-pane/core/drawing/extents';
import { ReferenceScan } from '@gull-pane/importers/svg/definitions';
import { defaultSvgLimits } from '@gull-pane/importers/svg/limits';
import { PreparationReader } from '@gull-pane/importers/svg/preparation';
import { SvgReader } from '@gull-pane/importers/svg/read-svg';

const require = createRequire(import.meta.url);

type Box = readonly [number, number, number, number];

/** Extents by our reader, in the file's own coordinates (y down). */
function ownBox(text: string): Box {
  const scan = new ReferenceScan();
  scan.write(text);
  const first = new PreparationReader(scan.references, defaultSvgLimits);
  first.write(text);
  let [minX, minY, maxX, maxY] = [Infinity, Infinity, -Infinity, -Infinity];
  const path = ({ path: drawn }: { path: Parameters<typeof visitExtremes>[0] }): void =>
    visitExtremes(drawn, (x, y) => {
      [minX, minY] = [Math.min(minX, x), Math.min(minY, -y)];
      [maxX, maxY] = [Math.max(maxX, x), Math.max(maxY, -y)];
    });
  const reader = new SvgReader({ path, text: () => undefined, picture: () => undefined }, first.end());
  reader.write(text);
  reader.end();
  return [minX, minY, maxX, maxY];
}

/** Extents of what is painted, by the browser: its boxes of elements, moved by the transforms around them. */
function browserBox(page: Page, text: string): Promise<Box> {
  return page.evaluate((source) => {
    document.body.innerHTML = source;
    const root = document.querySelector('svg')!;
    let box = [Infinity, Infinity, -Infinity, -Infinity];
    for (const element of root.querySelectorAll<SVGGraphicsElement>('path,rect,circle,ellipse,line,polyline,polygon')) {
      if (element.closest('defs,clipPath,mask,symbol,pattern,marker')) continue;
      const { fill, stroke, visibility, strokeWidth } = getComputedStyle(element);
      const isPainted = (fill !== 'none' && element.tagName !== 'line') || (stroke !== 'none' && strokeWidth !== '0px');
      if (!isPainted || visibility !== 'visible') continue;
      const { x, y, width, height } = element.getBBox();
      let m = new DOMMatrix();
      for (let at: Element | null = element; at && at !== root; at = at.parentElement) {
        const own = (at as SVGGraphicsElement).transform.baseVal.consolidate()?.matrix;
        if (own) m = new DOMMatrix([own.a, own.b, own.c, own.d, own.e, own.f]).multiply(m);
      }
      for (const [px, py] of [
        [x, y],
        [x + width, y + height],
      ] as const) {
        const p = m.transformPoint({ x: px, y: py });
        box = [Math.min(box[0]!, p.x), Math.min(box[1]!, p.y), Math.max(box[2]!, p.x), Math.max(box[3]!, p.y)];
      }
    }
    return box as unknown as Box;
  }, text);
}

/** What a box of a box can't tell exactly, and what isn't drawn as the browser does. */
const unfit = /rotate|skew|matrix|<text|clip-path|mask=|marker|<use|<image|<style/;
const folders = [
  { name: 'lucide-static', folder: join(dirname(require.resolve('lucide-static/package.json')), 'icons'), every: 11 },
  {
    name: 'bootstrap-icons',
    folder: join(dirname(require.resolve('bootstrap-icons/package.json')), 'icons'),
    every: 11,
  },
  { name: 'flag-icons', folder: join(dirname(require.resolve('flag-icons/package.json')), 'flags/4x3'), every: 2 },
  { name: 'a map of the world', folder: dirname(require.resolve('@svg-maps/world/package.json')), every: 1 },
];

for (const { name, folder, every } of folders) {
  test(`extents are the browser’s own: ${name}`, async ({ page }) => {
    const files = readdirSync(folder)
      .filter((file) => file.endsWith('.svg'))
      .filter((_, index) => index % every === 0);
    let compared = 0;
    for (const file of files) {
      const text = readFileSync(join(folder, file), 'utf8');
      if (unfit.test(text)) continue;
      const [own, browser] = [ownBox(text), await browserBox(page, text)];
      const size = Math.max(browser[2] - browser[0], browser[3] - browser[1]);
      const hasArcs = /<(circle|ellipse)|r[xy]?=|d="[^"]*[aA]/.test(text);
      const most = size * (hasArcs ? 1e-4 : 1e-6);
      const off = Math.max(...own.map((value, index) => Math.abs(value - browser[index]!)));
      expect(off, `${file}: ours ${own.join(' ')}, the browser’s ${browser.join(' ')}`).toBeLessThanOrEqual(most);
      compared++;
    }
    expect(compared).toBeGreaterThan(files.length / 3);
    test.info().annotations.push({ type: 'files compared', description: String(compared) });
  });
}
