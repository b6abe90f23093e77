/** Files that all servers share: the same in a folder and in an object store, whose requests are signed and may fail. */
import { mkdtemp, readFile, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { Readable } from 'node:stream';
import { afterAll, afterEach, beforeAll, beforeEach, describe, expect, it } from 'vitest';
import type { BlobStore } from '../src/storage/blob-store.ts';
import { FolderBlobs } from '../src/storage/folder-blobs.ts';
import { LocalCopies } from '../src/storage/local-copies.ts';
import { openBlobs } from '../src/storage/open-blobs.ts';
import { S3StandIn } from './stand-ins/s3-stand-in.ts';

let store: S3StandIn;
let folder: string;
const before = { ...process.env };
beforeAll(async () => {
  store = await S3StandIn.start();
  Object.assign(process.env, store.env());
});
afterAll(async () => {
  process.env = before;
  await store.stop();
});
beforeEach(async () => {
  folder = await mkdtemp(join(tmpdir(), 'gull-pane-blobs-'));
});
afterEach(() => rm(folder, { recursive: true, force: true }));

const bytesOf = async (stream: Readable): Promise<Buffer> => {
  const pieces: Buffer[] = [];
  for await (const piece of stream) pieces.push(piece as Buffer);
  return Buffer.concat(pieces);
};
const textOf = async (blobs: BlobStore, key: string): Promise<string | null> => {
  const blob = await blobs.get(key);
  return blob && (await bytesOf(blob.stream)).toString();
};
const keysOf = async (blobs: BlobStore, prefix: string): Promise<string[]> => {
  const keys: string[] = [];
  for await (const { key } of blobs.list(prefix)) keys.push(key);
  return keys;
};
const bucket = (): Promise<BlobStore> => openBlobs({ bucket: 'kelpie', prefix: 'office/', endpoint: store.endpoint });

describe.each([
  ['a folder', (): Promise<BlobStore> => Promise.resolve(new FolderBlobs(folder))],
  ['an object store', bucket],
])('blobs in %s', (_name, open) => {
  let blobs: BlobStore;
  beforeEach(async () => {
    blobs = await open();
    await blobs.removePrefix('drawings/');
  });

  it('come back as they were put, whole or in part, and replace what was there', async () => {
    await blobs.put('drawings/a/r1/tiles/0.glb', Readable.from(['first']));
    await blobs.put('drawings/a/r1/tiles/0.glb', Readable.from(['0123', '456789']));
    expect(await textOf(blobs, 'drawings/a/r1/tiles/0.glb')).toBe('0123456789');
    const part = await blobs.get('drawings/a/r1/tiles/0.glb', { start: 2, end: 4 });
    expect(part!.bytes).toBe(10);
    expect((await bytesOf(part!.stream)).toString()).toBe('234');
    const beyond = await blobs.get('drawings/a/r1/tiles/0.glb', { start: 10, end: 20 });
    expect(beyond!.bytes).toBe(10);
    expect(await bytesOf(beyond!.stream)).toHaveLength(0);
    expect(await blobs.bytesOf('drawings/a/r1/tiles/0.glb')).toBe(10);
  });

  it('that aren’t there are null', async () => {
    expect(await blobs.get('drawings/none')).toBeNull();
    expect(await blobs.bytesOf('drawings/none')).toBeNull();
    expect(await keysOf(blobs, 'drawings/none/')).toEqual([]);
    await blobs.remove('drawings/none');
    await blobs.removePrefix('drawings/none/');
  });

  it('are listed and removed by their prefix, and no others, however many there are', async () => {
    const names = Array.from({ length: 230 }, (_, k) => `drawings/a/r1/${String(k).padStart(3, '0')} “ß&”`);
    for (const name of names) await blobs.put(name, Readable.from([name]));
    await blobs.put('drawings/a/r10/0', Readable.from(['other']));
    expect(await keysOf(blobs, 'drawings/a/r1/')).toEqual(names);
    await blobs.removePrefix('drawings/a/r1/');
    expect(await keysOf(blobs, 'drawings/')).toEqual(['drawings/a/r10/0']);
  });

  it('of many megabytes are sent in pieces', async () => {
    const whole = Buffer.alloc(20 * 1024 * 1024, 'Kelpie Sound ');
    await blobs.put('drawings/large', Readable.from([whole.subarray(0, 7_000_001), whole.subarray(7_000_001)]));
    expect((await bytesOf((await blobs.get('drawings/large'))!.stream)).equals(whole)).toBe(true);
  });

  it('whose writing fails leave nothing behind', async () => {
    const broken = Readable.from(
      (function* () {
        yield 'half';
        throw new Error('the file ends early');
      })(),
    );
    await expect(blobs.put('drawings/half', broken)).rejects.toThrow('ends early');
    expect(await keysOf(blobs, 'drawings/')).toEqual([]);
  });
});

describe('an object store', () => {
  it('is asked again where a request fails or its connection breaks', async () => {
    const blobs = await bucket();
    store.fail(503, 'cut', 500);
    await blobs.put('drawings/a', Readable.from(['kept']));
    store.fail('cut', 503);
    expect(await textOf(blobs, 'drawings/a')).toBe('kept');
  });

  it('refuses what isn’t signed with its key: the start ends with one line that names the setting', async () => {
    process.env.AWS_SECRET_ACCESS_KEY = 'another';
    try {
      await expect(bucket()).rejects.toThrow(/^The bucket kelpie can’t be used \([^\n]*GULL_PANE_S3_ENDPOINT[^\n]*$/);
      expect(store.refused).toBeGreaterThan(0);
    } finally {
      process.env.AWS_SECRET_ACCESS_KEY = store.env().AWS_SECRET_ACCESS_KEY;
    }
  });
});

it('no key leads out of the folder', async () => {
  const blobs = new FolderBlobs(join(folder, 'own'));
  for (const key of ['../x', 'a/../../x', '/etc/passwd', './x'])
    await expect(blobs.put(key, Readable.from(['x']))).rejects.toThrow('no key of a blob');
});

describe('copies on this machine', () => {
  it('hold everything below a prefix, are made once, and go when they are too large and not used any more', async () => {
    const blobs = await bucket();
    for (const drawing of ['a', 'b']) {
      await blobs.put(`drawings/${drawing}/r1/tiles/0.glb`, Readable.from([`tile of ${drawing}`]));
      await blobs.put(`drawings/${drawing}/r1/source`, Readable.from(['source']));
    }
    const copies = new LocalCopies(blobs, folder, 20);
    const { requests } = store;
    const [one, same] = await Promise.all([copies.folder('drawings/a/r1/'), copies.folder('drawings/a/r1/')]);
    expect(one).toBe(same);
    expect(store.requests - requests).toBe(3); // a list and two files
    expect(await readFile(join(one, 'tiles/0.glb'), 'utf8')).toBe('tile of a');
    // too much, but somebody may be reading it
    const other = await copies.folder('drawings/b/r1/');
    expect(await readFile(join(one, 'source'), 'utf8')).toBe('source');
    await copies.forget('drawings/a/');
    await expect(readFile(join(one, 'source'))).rejects.toThrow('ENOENT');
    expect(await readFile(join(other, 'source'), 'utf8')).toBe('source');
    await expect(copies.folder('drawings/none/r1/')).rejects.toThrow('Nothing is kept');
    await blobs.removePrefix('drawings/');
  });
});
