/**
 * Measures what must be fast and small, in one go on this machine, and writes bench/results.json. Fails nothing.
 * usage: npm run bench [-- --quick] [--only frames]
 *   --quick  fewer samples of a smaller drawing
 *   --only   import (always), frames, pan, hands, panes, finding, checking, solids, solid-frames, solid-growth, growth, print, alone, memory; what is left out isn't in the results
 */
import { execFileSync } from 'node:child_process';
import { existsSync, mkdtempSync, readFileSync, rmSync, statSync, writeFileSync } from 'node:fs';
import { cpus, tmpdir, totalmem } from 'node:os';
import { join } from 'node:path';
import { parseArgs } from 'node:util';
import { chromium, type Browser, type Page } from '@playwright/test';
import type { Camera } from '@gull-pane/core/camera/camera';
import type { DrawingDto } from '@gull-pane/protocol/drawings';
import config from '../playwright.config.ts';
import { startApp, type RunningApp } from '../e2e/app.ts';
import { measureCoverage, measureRevisionDiff } from './checking.ts';
import { measureFinding, measurePicking } from './finding.ts';
import { measureGrowth } from './growth.ts';
import { measureHands } from './hands.ts';
import { bareLines, gzippedBytes, largeDrawing, sitePlan } from './files.ts';
import { measureImport } from './importing.ts';
import { measureMemoryAndIdle } from './memory.ts';
import { measureCards, measureFourPanes, measureNinePanes } from './panes.ts';
import { measureSolidFrames, measureSolidGrowth } from './solid-frames.ts';
import { measureAlone } from './alone.ts';
import type { GlCalls } from './page/gl-calls.ts';
import { unitsPerPxAtScale } from '@gull-pane/core/camera/scale';
import { WEIGHT_MOVING } from '../packages/web/src/render/budgets.ts';
import { measureOrganic } from './organic.ts';
import { measurePrinting } from './printing.ts';
import { measureSolids } from './solids.ts';
import { measureFlood } from './working.ts';
import { median, plain, ratio, table, type Figure } from './statistics.ts';

const { values } = parseArgs({
  options: { quick: { type: 'boolean', default: false }, only: { type: 'string', multiple: true } },
});
const isAsked = (
  part:
    | 'frames'
    | 'pan'
    | 'hands'
    | 'panes'
    | 'finding'
    | 'checking'
    | 'solids'
    | 'print'
    | 'memory'
    | 'alone'
    | 'growth'
    | 'solid-growth',
): boolean => !values.only || values.only.includes(part);
const SEGMENTS = values.quick ? 300_000 : 1_000_000;
/** Drawings in which the growth of times is looked at. */
const SIZES = values.quick ? [30_000, 100_000, 300_000] : [100_000, 1_000_000, 10_000_000];
const SAMPLES = values.quick ? 5 : 15;
const TOUR_SECONDS = values.quick ? 20 : 120;
/** Of the demo's plan, where some 10,000 segments are in sight. */
const PAN_SCALE = 629;
/** A chord's error where nothing can be seen of it, CSS px. */
const CHORD_PX = 0.3;

const figures: Figure[] = [];
const keep = (figure: Figure): void => {
  figures.push(figure);
  console.log(`${figure.ok ? 'reached' : 'MISSED '}  ${figure.id}: ${figure.value.toPrecision(3)} (bar ${figure.bar})`);
};

interface BenchInPage {
  open(id: string): Promise<void>;
  loadBare(url: string, anchor: { x: number; y: number }): Promise<number>;
  extentsCamera(): Camera;
  settle(camera: Camera): Promise<void>;
  drawSettled(camera: Camera, mostWeight?: number): { ms: number; segments: number };
  framesAt(camera: Camera, samples: number): Promise<number[]>;
  closeCamera(lines: number): Promise<Camera>;
  drawBare(camera: Camera): { ms: number };
  keepBareIn(camera: Camera): number;
  fidelityAt(camera: Camera, mostWeight?: number): number;
  firstPicture(id: string, goodEnough: number): Promise<{ ms: number; fidelity: number; tiles: number[] }>;
  loadedTiles(): string[];
  tileNames(tiles: readonly number[]): string[];
  fitMs(angleRad: number, rounds: number): number;
  fit(angleRad: number, rounds: number): { oursMs: number; loopMs: number; apart: number };
  panStep(camera: Camera, right: number, down?: number): { ms: number };
  panCalls(camera: Camera, right: number, down: number): GlCalls;
  drawWhole(camera: Camera): void;
  cachedBytes(): number;
}
declare global {
  interface Window {
    readonly bench: BenchInPage;
  }
}

const large = largeDrawing(SEGMENTS);
const site = sitePlan();
execFileSync('npx', ['vite', 'build', 'bench/page', '--logLevel', 'warn'], { stdio: 'inherit' });
const dataFolder = mkdtempSync(join(tmpdir(), 'gull-pane-bench-'));
// a hundred halls have more triangles than the usual limit allows
const app = await startApp(dataFolder, { GULL_PANE_MAX_ELEMENTS: '20000000' });
const browser = await chromium.launch(config.use?.launchOptions ?? {});
try {
  const drawing = await measureImport(app.url, large.svg, values.quick || values.only ? 1 : 3, keep);
  const bare = new Map<string, Buffer>();
  const page = await benchPage(browser, app, bare);
  if (isAsked('frames')) await measureFrames(page, drawing, bare);
  if (isAsked('pan')) await measurePan(browser, page, app);
  if (isAsked('hands')) await measureHands(browser, app, SAMPLES, keep);
  if (isAsked('panes')) {
    await measureFourPanes(browser, app, drawing, SAMPLES, keep);
    await measureNinePanes(page, app, site, (name, bytes) => bare.set(name, bytes), SAMPLES, keep);
    await measureCards(browser, app, values.quick, keep);
  }
  if (isAsked('finding')) {
    const { id, revision } = drawing;
    await measurePicking(join(dataFolder, 'drawings', id, `r${revision}`, 'tiles'), keep);
    measureFinding(keep);
    await measureFlood(page, (name, bytes) => bare.set(name, bytes), id, keep);
  }
  if (isAsked('checking')) {
    await measureRevisionDiff(app.url, dataFolder, site.svg, values.quick ? 3 : 7, keep);
    await measureCoverage(browser, app.url, SAMPLES, keep);
  }
  if (isAsked('solids')) {
    await measureSolids(values.quick ? 3 : 7, keep);
    await measureOrganic(values.quick ? 1 : 3, keep);
  }
  if (isAsked('solids') || values.only?.includes('solid-frames')) {
    const serve = (name: string, bytes: Buffer): unknown => bare.set(name, bytes);
    await measureSolidFrames(page, app.url, serve, values.quick, keep);
  }
  if (isAsked('solid-growth')) await measureSolidGrowth(page, app.url, values.quick, keep);
  if (isAsked('growth')) {
    const options = { samples: SAMPLES, tourSeconds: TOUR_SECONDS / 2 };
    const known = { segments: SEGMENTS, drawing };
    await measureGrowth(browser, page, app, dataFolder, SIZES, known, options, keep);
  }
  if (isAsked('print')) await measurePrinting(app.url, drawing, values.quick ? 1 : 3, keep);
  if (isAsked('alone')) await measureAlone(values.quick, keep);
  if (isAsked('memory')) await measureMemoryAndIdle(browser, app, drawing, TOUR_SECONDS, keep);
} finally {
  await browser.close();
  await app.stop();
  rmSync(dataFolder, { recursive: true, force: true });
}
const [cpu] = cpus();
const results = {
  machine: `${cpus().length} × ${cpu?.model ?? 'unknown'}, ${Math.round(totalmem() / 2 ** 30)} GiB, Node ${process.version}`,
  date: new Date().toISOString(),
  segments: SEGMENTS,
  figures,
};
console.log(`\n${table(figures)}\n`);
if (!values.only) {
  writeFileSync('bench/results.json', `${JSON.stringify(results, null, 2)}\n`);
  console.log('bench/results.json is written.');
}

/** A page with the drawing parts of the product, at the server's own address. */
async function benchPage(at: Browser, { url }: RunningApp, bare: ReadonlyMap<string, Buffer>): Promise<Page> {
  const page = await at.newPage({ viewport: { width: 1280, height: 800 } });
  page.on('pageerror', (error) => console.error('page:', error.message));
  await page.route('**/bench/**', (route) => {
    const name = new URL(route.request().url()).pathname.slice('/bench/'.length);
    const lines = bare.get(name);
    if (lines) return route.fulfill({ body: lines, contentType: 'application/octet-stream' });
    const file = join('.cache/bench/page', name === '' ? 'index.html' : name);
    return existsSync(file) ? route.fulfill({ path: file }) : route.abort();
  });
  await page.goto(`${url}bench/`);
  await page.waitForFunction(() => 'bench' in window);
  return page;
}

async function measureFrames(page: Page, drawing: DrawingDto, bare: Map<string, Buffer>): Promise<void> {
  const camera = await page.evaluate(async (id) => {
    await window.bench.open(id);
    return window.bench.extentsCamera();
  }, drawing.id);
  const anchor = { x: camera.target.x, y: camera.target.y };
  const lines = bareLines(large.svg, anchor, CHORD_PX * camera.unitsPerPx);
  bare.set('bare.bin', Buffer.from(lines.buffer));
  const bareCount = await page.evaluate(([url, at]) => window.bench.loadBare(url, at), [
    '/bench/bare.bin',
    anchor,
  ] as const);

  // the first picture, from a fresh start, against the browser's own
  const ours: number[] = [];
  const peer: number[] = [];
  let bytesFirst = 0;
  for (let i = 0; i < (values.quick ? 2 : 5); i++) {
    const result = await page.evaluate((id) => window.bench.firstPicture(id, 0.25), drawing.id);
    ours.push(result.ms);
    bytesFirst = tileBytes(drawing, await page.evaluate((tiles) => window.bench.tileNames(tiles), result.tiles));
    peer.push(await loadAsSvg(browser, large.atOrigin));
  }
  keep(ratio('first-picture', 0.1, 'loading the file as SVG until painted', { ours, peer }));

  await page.evaluate((at) => window.bench.settle(at), camera);
  const gzipped = await gzippedBytes(large.svg);
  keep(plain('bytes-first', 0.08, 'ratio', 'the SVG gzipped', bytesFirst / gzipped));
  const all = tileBytes(drawing, await page.evaluate(() => window.bench.loadedTiles()));
  keep(plain('bytes-settled', 0.7, 'ratio', 'the SVG gzipped', all / gzipped));

  // what the pace keeps on a machine without a graphics processor
  const moving = WEIGHT_MOVING.least;
  const take = await page.evaluate(
    ([at, samples, most]) => {
      const taken = { settled: [] as number[], moving: [] as number[], bare: [] as number[], segments: [0, 0] };
      for (let i = 0; i < samples + 2; i++) {
        const bareMs = window.bench.drawBare(at).ms;
        const settled = window.bench.drawSettled(at);
        const moved = window.bench.drawSettled(at, most);
        if (i < 2) continue; // warming up
        taken.bare.push(bareMs);
        taken.settled.push(settled.ms);
        taken.moving.push(moved.ms);
        taken.segments = [settled.segments, moved.segments];
      }
      return taken;
    },
    [camera, SAMPLES, moving] as const,
  );
  console.log(
    `bare ${bareCount} lines, ${median(take.bare).toFixed(0)} ms; at rest ${take.segments[0]!}, moving ${take.segments[1]!}`,
  );
  keep(ratio('frame-extents-settled', 0.5, 'all lines in one bare draw', { ours: take.settled, peer: take.bare }));
  keep(ratio('frame-extents-moving', 0.1, 'all lines in one bare draw', { ours: take.moving, peer: take.bare }));
  const far = await page.evaluate((at) => window.bench.fidelityAt(at), camera);
  keep(plain('fidelity-extents', 0.05, 'share', 'the bare draw of all', far));
  const away = await page.evaluate(([at, most]) => window.bench.fidelityAt(at, most), [camera, moving] as const);
  keep(plain('fidelity-moving', 0.25, 'share', 'the bare draw of all', away));

  // a view where about 20,000 of the lines show
  let close = camera;
  let shown = bareCount;
  for (let unitsPerPx = camera.unitsPerPx; shown > 20_000; unitsPerPx /= 1.25) {
    close = { ...camera, unitsPerPx };
    shown = await page.evaluate((at) => window.bench.keepBareIn(at), close);
  }
  // curves as fine as ours are there, so that both draw the same picture
  bare.set('close.bin', Buffer.from(bareLines(large.svg, anchor, CHORD_PX * close.unitsPerPx).buffer));
  shown = await page.evaluate(
    async ([url, at, view]) => {
      await window.bench.loadBare(url, at);
      return window.bench.keepBareIn(view);
    },
    ['/bench/close.bin', anchor, close] as const,
  );
  await page.evaluate((at) => window.bench.settle(at), close);
  const detail = await page.evaluate(
    ([at, samples]) => {
      const taken = { ours: [] as number[], bare: [] as number[], segments: 0 };
      for (let i = 0; i < samples + 2; i++) {
        const bareMs = window.bench.drawBare(at).ms;
        const { ms, segments } = window.bench.drawSettled(at);
        if (i < 2) continue;
        taken.bare.push(bareMs);
        taken.ours.push(ms);
        taken.segments = segments;
      }
      return taken;
    },
    [close, SAMPLES] as const,
  );
  await page.evaluate(([url, at]) => window.bench.loadBare(url, at), ['/bench/bare.bin', anchor] as const);
  console.log(`detail: ${shown} lines bare, ${detail.segments} drawn`);
  keep(ratio('frame-detail', 1.4, 'a bare draw of just what shows', { ours: detail.ours, peer: detail.bare }));

  const fits = await page.evaluate((samples) => {
    const taken = { ours: [] as number[], loop: [] as number[], apart: 0 };
    for (let i = 0; i < samples; i++) {
      const { oursMs, loopMs, apart } = window.bench.fit(0.37 * i, 200);
      taken.ours.push(oursMs);
      taken.loop.push(loopMs);
      taken.apart = Math.max(taken.apart, apart);
    }
    return taken;
  }, SAMPLES);
  keep(ratio('fit', 0.01, 'a loop over all points', { ours: fits.ours, peer: fits.loop }));
  keep(plain('fit-apart', 1e-6, 'relative', 'the loop, whose points are single precision and chords', fits.apart));
}

/** Bytes of tiles as they are sent. */
function tileBytes(drawing: DrawingDto, uris: readonly string[]): number {
  const folder = join(dataFolder, 'drawings', drawing.id);
  return uris.reduce((sum, uri) => sum + statSync(join(folder, uri.replace('/', '/tiles/') + '.gz')).size, 0);
}

/** Opens a file in the browser itself. @returns ms until it is painted, which is proved not to be blank */
async function loadAsSvg(at: Browser, path: string): Promise<number> {
  const page = await at.newPage({ viewport: { width: 1280, height: 800 } });
  const begin = performance.now();
  await page.goto(`file://${join(process.cwd(), path)}`, { timeout: 300_000 });
  const picture = await page.screenshot({ timeout: 300_000 });
  const ms = performance.now() - begin;
  if (picture.length < 20_000) throw new Error(`the browser's picture of ${path} is blank`);
  await page.close();
  return ms;
}

/** A pan step in full looks, timed until a screenshot of one pixel is there, on both sides. */
async function measurePan(at: Browser, page: Page, { url }: RunningApp): Promise<void> {
  const drawings = (await (await fetch(`${url}api/drawings`)).json()) as DrawingDto[];
  const plan = drawings.find(({ name }) => name === 'Site general arrangement')!;
  const camera = await page.evaluate(async (id) => {
    await window.bench.open(id);
    const at = window.bench.extentsCamera();
    await window.bench.settle(at);
    return at;
  }, plan.id);
  const svg = await at.newPage({ viewport: { width: 1280, height: 800 } });
  await svg.setContent(
    `<body style="margin:0">${readFileSync(site.atOrigin, 'utf8').replace(/^<\?xml[^>]*>/, '')}</body>`,
  );
  const box = await svg.evaluate(() => {
    const root = document.querySelector('svg')!;
    root.setAttribute('width', '1280');
    root.setAttribute('height', '800');
    const { x, y, width, height } = root.viewBox.baseVal;
    return { x, y, width, height };
  });
  const whole = await svg.screenshot();
  if (whole.length < 20_000) throw new Error("the browser's picture of the site plan is blank");
  const clip = { x: 640, y: 400, width: 1, height: 1 };
  const ours: number[] = [];
  const peer: number[] = [];
  await page.evaluate((at) => window.bench.drawWhole(at), camera);
  const timed = async (act: () => Promise<unknown>): Promise<number> => {
    const before = performance.now();
    await act();
    return performance.now() - before;
  };
  for (let i = 0; i < SAMPLES + 2; i++) {
    // a page can't read its own pixels: a screenshot of one waits for them; what that costs without a change is left out
    const idle = await timed(async () => {
      await svg.evaluate(() => document.title);
      await svg.screenshot({ clip });
    });
    const moved = await timed(async () => {
      await svg.evaluate(
        ([{ x, y, width, height }, shift]) => {
          document.querySelector('svg')!.setAttribute('viewBox', `${x + shift * width} ${y} ${width} ${height}`);
        },
        [box, 0.01 * (i + 1)] as const,
      );
      await svg.screenshot({ clip });
    });
    const { ms } = await page.evaluate(([view, right]) => window.bench.panStep(view, right), [
      camera,
      12.8 * (i + 1),
    ] as const);
    if (i < 2) continue;
    peer.push(Math.max(moved - idle, 1));
    ours.push(ms);
  }
  keep(ratio('pan-vs-svg', 0.15, 'the browser’s own SVG, panned by viewBox', { ours, peer }));
  await svg.close();
  await measurePanCalls(page, { ...camera, unitsPerPx: unitsPerPxAtScale(PAN_SCALE) });
}

/** What steps of a pan ask of the graphics processor, askew so that two sides come into sight. */
async function measurePanCalls(page: Page, camera: Camera): Promise<void> {
  await page.evaluate((at) => window.bench.settle(at), camera);
  await page.evaluate((at) => window.bench.drawWhole(at), camera);
  const steps: GlCalls[] = [];
  for (let i = 1; i <= SAMPLES + 2; i++)
    steps.push(
      await page.evaluate(([at, step]) => window.bench.panCalls(at, 9 * step, 5 * step), [camera, i] as const),
    );
  const most = (count: (calls: GlCalls) => number): number => Math.max(...steps.slice(2).map(count));
  console.log(`a step of a pan changes programs ${most(({ programs }) => programs)} times`);
  keep(
    plain(
      'calls-per-pan',
      12,
      'draw calls',
      'the worst step at 1:629',
      most(({ draws }) => draws),
    ),
  );
  keep(
    plain(
      'uploads-per-pan',
      2,
      'uploads',
      'the worst step at 1:629',
      most(({ uploads }) => uploads),
    ),
  );
}
