/** Drawings large enough to be imported by several threads: same result as with one thread, errors are reported. */
import { mkdtempSync, readFileSync, readdirSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { gunzipSync } from 'node:zlib';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { ItemTable } from '@gull-pane/core/pyramid/items';
import { placeItems } from '@gull-pane/core/pyramid/place';
import { seededRandom } from '@gull-pane/core/geometry/random';
import type { Style } from '@gull-pane/core/drawing/model';
import { PathBuilder } from '@gull-pane/core/drawing/path';
import type { ObjectDto } from '@gull-pane/protocol/objects';
import { mayRefer } from '../src/jobs/file-text.ts';
import { writeTileset } from '../src/pyramid/write-tileset.ts';
import { TestServer } from './running-server.ts';

let server: TestServer;
let folder: string;
beforeAll(async () => {
  server = await TestServer.start();
  folder = mkdtempSync(join(tmpdir(), 'gull-pane-large-'));
});
afterAll(async () => {
  await server.stop();
  rmSync(folder, { recursive: true, force: true });
});

const PIPES = 40_000;
const pipeAt = (i: number): string =>
  `<path d="M${412_600_000 + 7 * (i % 200)}.125 ${-7_208_400_000 - 9 * Math.floor(i / 200)}.0625h5.5l0.25 3.75"/>`;
/** A drawing on the grid, with a text after every hundredth pipe. */
function manyPipes(end = '</g></svg>'): string {
  const lines = ['<svg xmlns="http://www.w3.org/2000/svg"><g id="Pipes" stroke="#146" fill="none">'];
  for (let i = 0; i < PIPES; i++) {
    lines.push(pipeAt(i));
    if (i % 100 === 99) lines.push(`<text x="${412_600_000 + i}" y="-7208400000" font-size="4">KS-${i}</text>`);
  }
  return [...lines, end].join('\n');
}

describe('a large drawing', () => {
  it('comes in whole: each object in the order of the file, with its doubles', async () => {
    const text = manyPipes();
    expect(text.length).toBeGreaterThan(2 ** 21); // else no thread takes part
    const { job, drawing } = await server.import(text, 'Pipes.svg');
    expect(job.state).toBe('done');
    expect(drawing.counts).toMatchObject({ objects: PIPES + PIPES / 100, segments: 2 * PIPES, texts: PIPES / 100 });
    const objectAt = (id: number) => server.json<ObjectDto>(`/api/drawings/${drawing.id}/objects/${id}`);
    for (const i of [0, 98, 20_017, PIPES - 1]) {
      const [x, y] = [412_600_000.125 + 7 * (i % 200), 7_208_400_000.0625 + 9 * Math.floor(i / 200)];
      const { segments } = await objectAt(i + Math.floor(i / 100));
      expect(segments).toEqual([
        { kind: 'line', from: [x, y], to: [x + 5.5, y] },
        { kind: 'line', from: [x + 5.5, y], to: [x + 5.75, y - 3.75] },
      ]);
    }
    expect((await objectAt(100)).text).toMatchObject({ text: 'KS-99', x: 412_600_099 });
  });

  it('that breaks off is refused with the line', async () => {
    const { job } = await server.import(manyPipes('<path d="M0 0'), 'Broken.svg');
    expect(job.state).toBe('failed');
    expect(job.error).toMatchObject({ code: 'malformed-xml', line: PIPES + PIPES / 100 + 2 });
  });

  it('of more elements than are allowed is refused with the limit', async () => {
    const tight = await TestServer.start({ GULL_PANE_MAX_ELEMENTS: '30000' });
    try {
      const { job } = await tight.import(manyPipes(), 'Pipes.svg');
      expect(job.error).toMatchObject({ code: 'limit-exceeded' });
      expect(job.error!.detail).toContain('GULL_PANE_MAX_ELEMENTS');
    } finally {
      await tight.stop();
    }
  });
});

it('tiles are the same, whether one thread makes them or two', async () => {
  const random = seededRandom(5);
  const fill = (table: ItemTable): ItemTable => {
    for (let i = 0; i < 24_000; i++) {
      const [x, y] = [412_600_000 + 600_000 * random(), 7_208_400_000 + 400_000 * random()];
      if (i % 3 === 0)
        table.addPath(new PathBuilder().moveTo(x, y).cubicTo(x + 90, y, x, y + 90, x + 200, y + 50), i % 4, i);
      else table.addLine([x, y, x + 1000 * random(), y], i % 4, i);
    }
    return table;
  };
  const styles = [0, 1, 2, 3].map((layer): Style => {
    const dashes = layer === 3 ? [40, 20] : [];
    return { kind: 'line', layer, colour: { r: 60 * layer, g: 90, b: 120, a: 255 }, width: layer, dashes };
  });
  const shared = fill(new ItemTable('shared'));
  const alone = join(folder, 'alone');
  const beside = join(folder, 'beside');
  const options = { tileWeight: 2000, memory: 'shared' } as const;
  const root = placeItems(shared, { ...options, random: seededRandom(1) });
  await writeTileset(root, shared, { styles, folder: beside, addressPrefix: '' });
  // so few that this thread makes them all
  await writeTileset(root, shared, { styles, folder: alone, addressPrefix: '' }, [], () => undefined, Infinity);
  expect(readdirSync(beside).sort()).toEqual(readdirSync(alone).sort());
  const bytesOf = (name: string, of: string): Buffer => {
    const bytes = readFileSync(join(of, name));
    return name.endsWith('.gz') ? gunzipSync(bytes) : bytes;
  };
  for (const name of readdirSync(alone)) expect(bytesOf(name, beside).equals(bytesOf(name, alone))).toBe(true);
});

it('a file that may refer to something in itself is known by its bytes, wherever that stands', async () => {
  const answer = async (text: string | Buffer): Promise<boolean> => {
    const path = join(folder, 'plan.svg');
    writeFileSync(path, text);
    return mayRefer(path);
  };
  const plain = `<svg xmlns="http://www.w3.org/2000/svg">${'<path d="M0 0h1"/>'.repeat(20_000)}`;
  expect(await answer(`${plain}</svg>`)).toBe(false);
  // across the seams of what is read at once, too
  for (const at of [2 ** 18 - 2, 2 ** 18 - 1, 2 ** 18, 2 ** 18 + 40])
    for (const word of ['<use href="#a"/>', '<style>', '<g fill="url(#b)">'])
      expect(await answer(`${plain.slice(0, at)}${word}</svg>`), `${word} at ${at}`).toBe(true);
  // what isn't plain text tells nothing
  expect(await answer(Buffer.from('<svg/>', 'utf16le'))).toBe(true);
  expect(await answer(Buffer.from([0x1f, 0x8b, 8, 0]))).toBe(true);
  expect(await answer('')).toBe(true);
});
