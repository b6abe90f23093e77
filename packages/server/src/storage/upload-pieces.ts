import { createWriteStream } from 'node:fs';
import { mkdir, rename, rm } from 'node:fs/promises';
import { join } from 'node:path';
import { pipeline } from 'node:stream/promises';
import { FileStore } from '@tus/file-store';
import type { DataStore } from '@tus/server';
import type { BlobStore } from './blob-store.ts';
import type { DataFolder } from './data-folder.ts';
import type { BlobPlace } from './open-blobs.ts';
import type { S3Place } from './s3-blobs.ts';

/** What was begun and not gone on with for so long is thrown away, ms. */
const KEPT_MS = 24 * 3600 * 1000;
const PREFIX = 'uploads/';

/** Where files are put together that are sent piece by piece, to whichever server. */
export interface UploadPieces {
  readonly store: DataStore;
  /** @returns the path on this machine of a file whose pieces are all there; it is the caller's */
  readonly whole: (id: string) => Promise<string>;
  readonly discard: (id: string) => Promise<void>;
  /** Throws away what was begun long ago. */
  readonly tidy: () => Promise<void>;
}

export async function openPieces(place: BlobPlace, blobs: BlobStore, local: DataFolder): Promise<UploadPieces> {
  return 'folder' in place ? inFolder(join(place.folder, PREFIX)) : inBucket(place, blobs, local);
}

async function inFolder(directory: string): Promise<UploadPieces> {
  await mkdir(directory, { recursive: true });
  const pathOf = (id: string): string => join(directory, `${id}.whole`);
  const store = new FileStore({ directory, expirationPeriodInMilliseconds: KEPT_MS });
  return {
    store,
    whole: async (id) => {
      await rename(join(directory, id), pathOf(id));
      return pathOf(id);
    },
    discard: async (id) => {
      for (const name of [id, `${id}.json`]) await rm(join(directory, name), { force: true });
      await rm(pathOf(id), { force: true });
    },
    tidy: () => store.deleteExpired().then(() => undefined),
  };
}

/** A rule of the bucket may throw away what was begun long ago: this doesn't. */
async function inBucket(
  { bucket, prefix, endpoint }: S3Place,
  blobs: BlobStore,
  local: DataFolder,
): Promise<UploadPieces> {
  const { S3Store } = await import('@tus/s3-store');
  class PrefixedStore extends S3Store {
    /** Its keys are ids of uploads: they go below the prefix, too. */
    begin(): this {
      this.client.middlewareStack.add(
        (next) => (args) => {
          const { input } = args;
          return next('Key' in input ? { ...args, input: { ...input, Key: `${prefix}${PREFIX}${input.Key}` } } : args);
        },
        { step: 'initialize', name: 'prefix' },
      );
      return this;
    }
  }
  const store = new PrefixedStore({
    useTags: false,
    s3ClientConfig: {
      bucket,
      region: process.env.AWS_REGION ?? 'us-east-1',
      requestChecksumCalculation: 'WHEN_REQUIRED',
      responseChecksumValidation: 'WHEN_REQUIRED',
      ...(endpoint === null ? {} : { endpoint, forcePathStyle: true }),
    },
  }).begin();
  const pathOf = (id: string): string => join(local.uploads, `${id}.whole`);
  return {
    store,
    whole: async (id) => {
      await pipeline(await store.read(id), createWriteStream(pathOf(id)));
      return pathOf(id);
    },
    discard: async (id) => {
      await rm(pathOf(id), { force: true });
      // by the keys that the package gives them: it removes only what isn't whole yet
      for (const end of ['', '.info', '.part']) await blobs.remove(`${PREFIX}${id}${end}`);
    },
    tidy: () => Promise.resolve(),
  };
}
