import { Readable } from 'node:stream';
import {
  DeleteObjectCommand,
  DeleteObjectsCommand,
  GetObjectCommand,
  HeadBucketCommand,
  HeadObjectCommand,
  paginateListObjectsV2,
  S3Client,
  S3ServiceException,
} from '@aws-sdk/client-s3';
import { Upload } from '@aws-sdk/lib-storage';
import type { Blob, BlobStore, ByteRange, ListedBlob } from './blob-store.ts';

/** Where blobs are in an object store with S3's interface. */
export interface S3Place {
  readonly bucket: string;
  /** Empty, or with a slash at the end. */
  readonly prefix: string;
  /** Null for the service that the region names. */
  readonly endpoint: string | null;
}

/** What is sent at a time, bytes: what S3's interface takes at least as a part. */
const PART_BYTES = 8 * 1024 * 1024;
/** Parts sent at the same time; so many are held in memory. */
const PARALLEL_PARTS = 2;
const TRIES = 5;

/**
 * Blobs in an object store with S3's interface. Keys of access and the region come from the environment as for other programs
 * (`AWS_ACCESS_KEY_ID`, `AWS_SECRET_ACCESS_KEY`, `AWS_REGION`).
 */
export class S3Blobs implements BlobStore {
  readonly #client: S3Client;

  constructor(private readonly place: S3Place) {
    this.#client = new S3Client({
      maxAttempts: TRIES,
      region: process.env.AWS_REGION ?? 'us-east-1',
      // stores other than the service itself rarely know other kinds of check sums
      requestChecksumCalculation: 'WHEN_REQUIRED',
      responseChecksumValidation: 'WHEN_REQUIRED',
      ...(place.endpoint === null ? {} : { endpoint: place.endpoint, forcePathStyle: true }),
    });
  }

  async put(key: string, content: Readable): Promise<void> {
    const upload = new Upload({
      client: this.#client,
      params: { ...this.#named(key), Body: content },
      partSize: PART_BYTES,
      queueSize: PARALLEL_PARTS,
    });
    await upload.done();
  }

  async get(key: string, range?: ByteRange): Promise<Blob | null> {
    const Range = range ? `bytes=${range.start}-${range.end}` : undefined;
    const asked = this.#client.send(new GetObjectCommand({ ...this.#named(key), Range }));
    const found = await orNull(asked).catch((error: unknown) => {
      if (statusOf(error) === 416) return 'beyond its end' as const;
      throw error;
    });
    if (found === 'beyond its end') return { stream: Readable.from([]), bytes: (await this.bytesOf(key)) ?? 0 };
    if (!found?.Body) return null;
    const whole = /\/(\d+)$/.exec(found.ContentRange ?? '')?.[1];
    return { stream: found.Body as Readable, bytes: Number(whole ?? found.ContentLength ?? 0) };
  }

  async bytesOf(key: string): Promise<number | null> {
    const found = await orNull(this.#client.send(new HeadObjectCommand(this.#named(key))));
    return found ? (found.ContentLength ?? 0) : null;
  }

  async *list(prefix: string): AsyncIterable<ListedBlob> {
    const { bucket: Bucket, prefix: own } = this.place;
    for await (const page of paginateListObjectsV2({ client: this.#client }, { Bucket, Prefix: own + prefix }))
      for (const { Key, Size, LastModified } of page.Contents ?? [])
        yield { key: Key!.slice(own.length), bytes: Size ?? 0, changedAtMs: Number(LastModified ?? 0) };
  }

  async remove(key: string): Promise<void> {
    await this.#client.send(new DeleteObjectCommand(this.#named(key)));
  }

  async removePrefix(prefix: string): Promise<void> {
    const { bucket: Bucket, prefix: own } = this.place;
    for await (const page of paginateListObjectsV2({ client: this.#client }, { Bucket, Prefix: own + prefix })) {
      const Objects = (page.Contents ?? []).map(({ Key }) => ({ Key: Key! }));
      if (Objects.length === 0) continue;
      const { Errors = [] } = await this.#client.send(new DeleteObjectsCommand({ Bucket, Delete: { Objects } }));
      if (Errors.length > 0) throw new Error(`${Errors[0]!.Key}: ${Errors[0]!.Message}`);
    }
  }

  folderOf(): null {
    return null;
  }

  async check(): Promise<void> {
    await this.#client.send(new HeadBucketCommand({ Bucket: this.place.bucket }));
  }

  #named(key: string): { readonly Bucket: string; readonly Key: string } {
    return { Bucket: this.place.bucket, Key: this.place.prefix + key };
  }
}

const statusOf = (error: unknown): number | undefined =>
  error instanceof S3ServiceException ? error.$metadata.httpStatusCode : undefined;

async function orNull<Answer>(asked: Promise<Answer>): Promise<Answer | null> {
  try {
    return await asked;
  } catch (error) {
    if (statusOf(error) === 404) return null;
    throw error;
  }
}
