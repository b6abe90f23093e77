/** Models of millions of triangles as they are drawn: the pump hall ten times side by side. */
import { packGlb, unpackGlb } from '@gull-pane/core/pyramid/glb';
import { pumpHallModel } from '@gull-pane/demo/pump-hall';
import type { ImportAcceptedDto } from '@gull-pane/protocol/drawings';
import { hasEnded, type JobDto } from '@gull-pane/protocol/jobs';
import type { Page } from '@playwright/test';
import { browserMemory } from './browser-memory.ts';
import type { SolidBench } from './page/solid-page.ts';
import { median, plain, ratio, type Figure } from './statistics.ts';

declare global {
  interface Window {
    readonly solidBench: SolidBench;
  }
}

/** Metres from one copy to the next, and from row to row. */
const [PITCH, ROW_PITCH] = [90, 60];
const A_ROW = 10;
/** Frames until the pace is learned. */
const WARMING = 30;

interface Gltf {
  nodes: { children?: number[]; translation?: number[] }[];
  scenes: { nodes: number[] }[];
}

/** Where a copy stands, metres, Y up. */
const shiftOf = (copy: number): readonly [number, number, number] => [
  PITCH * (copy % A_ROW),
  0,
  ROW_PITCH * Math.floor(copy / A_ROW),
];

/** The same hall several times in rows of ten; its shapes are kept once. */
function halls(copies: number): Uint8Array {
  const { json, bin } = unpackGlb(pumpHallModel());
  const gltf = json as Gltf;
  const { nodes } = gltf;
  const nodesOfAll = Array.from({ length: copies }, (_, copy) =>
    nodes.map((node, index) => ({
      ...node,
      ...(node.children ? { children: node.children.map((child) => child + copy * nodes.length) } : {}),
      ...(index === 0 ? { translation: (node.translation ?? [0, 0, 0]).map((v, k) => v + shiftOf(copy)[k]!) } : {}),
    })),
  ).flat();
  const scenes = [{ nodes: Array.from({ length: copies }, (_, copy) => copy * nodes.length) }];
  return packGlb({ ...gltf, nodes: nodesOfAll, scenes }, bin);
}

export async function measureSolidFrames(
  page: Page,
  url: string,
  serve: (name: string, bytes: Buffer) => void,
  isQuick: boolean,
  keep: (figure: Figure) => void,
): Promise<void> {
  const bytes = halls(isQuick ? 2 : 10);
  serve('halls.glb', Buffer.from(bytes));
  const drawingId = await importHalls(url, bytes);
  const first: number[] = [];
  const whole: number[] = [];
  const peer: number[] = [];
  for (let i = 0; i < (isQuick ? 1 : 3); i++) {
    const opened = await page.evaluate((id) => window.solidBench.firstPicture(id), drawingId);
    first.push(opened.first);
    whole.push(opened.whole);
    peer.push(await page.evaluate(() => window.solidBench.loadElsewhere('/bench/halls.glb')));
  }
  keep(ratio('solid-first-picture', 0.4, 'three’s GLTFLoader until painted', { ours: first, peer }));
  keep(ratio('solid-whole-picture', 1, 'three’s GLTFLoader until painted', { ours: whole, peer }));
  keep(plain('solid-memory', 500, 'MB', 'a page with nothing open', await memoryOf(page, url, drawingId)));
  for (const [name, look] of [
    ['solid-fidelity', 'shaded'],
    ['solid-fidelity-edges', 'shaded-edges'],
  ] as const) {
    const id = drawingId;
    const share = await page.evaluate(([id, look]) => window.solidBench.differenceAtRest(id, look), [
      id,
      look,
    ] as const);
    keep(plain(name, 0.005, 'share of px', 'a picture of every triangle', share));
  }
  const samples = isQuick ? 3 : 7;
  const taken = await page.evaluate(
    async ([id, count, warming]) => {
      const { solidBench } = window;
      await solidBench.open(id, 0);
      await solidBench.settle();
      const triangles = solidBench.loadBare();
      await solidBench.open(id);
      await solidBench.settle();
      solidBench.orbit(warming);
      const taken = { triangles, moving: [] as number[], bare: [] as number[], settled: [] as number[] };
      for (let i = 0; i < count; i++) {
        taken.moving.push(solidBench.orbit(3).at(-1)!);
        taken.bare.push(solidBench.drawBare());
        taken.settled.push(solidBench.drawSettled().ms);
      }
      const drawn = solidBench.drawSettled();
      const [cut, whole, hidden]: [number[], number[], number[]] = [[], [], []];
      for (let i = 0; i < count + 1; i++) {
        await solidBench.cut(true);
        const clipped = solidBench.drawSettled().ms;
        await solidBench.cut(false);
        const plain = solidBench.drawSettled().ms;
        const hide = solidBench.hideHalf();
        if (i === 0) continue; // shaders and cut surfaces are made
        cut.push(clipped);
        whole.push(plain);
        hidden.push(hide);
      }
      const owners = solidBench.keepOwners();
      const owned: number[] = [];
      for (let i = 0; i < count; i++) owned.push(solidBench.drawBare());
      return { ...taken, drawn, owners, owned, cut, whole, hidden };
    },
    [drawingId, samples, WARMING] as const,
  );
  const { triangles, moving, bare, settled, owned, owners, drawn } = taken;
  console.log(
    `${triangles} triangles bare in ${median(bare).toFixed(0)} ms; at rest ${drawn.triangles} and ${drawn.edges} edges in ` +
      `${median(settled).toFixed(0)} ms; ${owners} own a pixel, ${median(owned).toFixed(0)} ms; moving ${median(moving).toFixed(0)} ms`,
  );
  keep(ratio('clip-frame', 1.3, 'the same without', { ours: taken.cut, peer: taken.whole }));
  keep(ratio('hide-50k', 1, 'a frame of an orbit', { ours: taken.hidden, peer: moving }));
  keep(ratio('orbit-moving', 0.08, 'a bare draw of all triangles', { ours: moving, peer: bare }));
  keep(ratio('solid-settled', 5, 'a bare draw of the triangles that own a pixel', { ours: settled, peer: owned }));
}

/** How a frame at rest grows from five million triangles to fifty; with `isQuick` from one to five. */
export async function measureSolidGrowth(
  page: Page,
  url: string,
  isQuick: boolean,
  keep: (figure: Figure) => void,
): Promise<void> {
  const counts = isQuick ? [2, 10] : [10, 100];
  const ids: string[] = [];
  for (const count of counts) ids.push(await importHalls(url, halls(count)));
  const taken: number[][] = [];
  for (const [k, id] of ids.entries()) {
    const { frames, drawn } = await page.evaluate(
      async ([id, samples]) => {
        const { solidBench } = window;
        await solidBench.open(id);
        await solidBench.settle();
        solidBench.drawSettled();
        const frames = Array.from({ length: samples }, () => solidBench.drawSettled().ms);
        return { frames, drawn: solidBench.drawSettled() };
      },
      [id, isQuick ? 3 : 7] as const,
    );
    const ms = median(frames).toFixed(0);
    console.log(`${counts[k]} halls at rest: ${drawn.triangles} triangles and ${drawn.edges} edges in ${ms} ms`);
    taken.push(frames);
  }
  const [peer, ours] = taken as [number[], number[]];
  keep(ratio('solid-50m', 1.5, 'a tenth of the halls', { ours, peer }));
}

/** @returns the drawing's id */
async function importHalls(url: string, bytes: Uint8Array): Promise<string> {
  const body = new FormData();
  body.append('file', new File([bytes as Uint8Array<ArrayBuffer>], 'Halls.glb'));
  const accepted = (await (await fetch(`${url}api/drawings`, { method: 'POST', body })).json()) as ImportAcceptedDto;
  for (let job: JobDto | undefined; !job || !hasEnded(job.state);) {
    await new Promise((resolve) => setTimeout(resolve, 300));
    job = (await (await fetch(`${url}api/jobs/${accepted.jobId}`)).json()) as JobDto;
    if (job.state === 'failed') throw new Error(`the halls don't come in: ${JSON.stringify(job)}`);
  }
  return accepted.drawingId;
}

/** What the product takes with a model at rest, MB above the same page with nothing open. */
async function memoryOf(page: Page, url: string, id: string): Promise<number> {
  const own = await page
    .context()
    .browser()!
    .newPage({ viewport: { width: 1280, height: 800 } });
  await own.goto(url);
  const before = browserMemory();
  await own.goto(`${url}d/${id}`);
  await own.waitForFunction(() => window.gullPane.inspect().panes.some((pane) => pane.settled), null, {
    timeout: 180_000,
  });
  const taken = (browserMemory() - before) / 2 ** 20;
  await own.close();
  return taken;
}
