import type { Readable } from 'node:stream';

/** Both ends belong to it, as in RFC 9110, 14.1. */
export interface ByteRange {
  readonly start: number;
  readonly end: number;
}

export interface Blob {
  readonly stream: Readable;
  /** Of the whole blob, whatever part of it the stream holds. */
  readonly bytes: number;
}

export interface ListedBlob {
  readonly key: string;
  readonly bytes: number;
  readonly changedAtMs: number;
}

/**
 * Where files are kept that all servers share. Keys are paths without a slash at the beginning; a prefix ends with a slash and
 * means everything below.
 */
export interface BlobStore {
  /** Replaces what is there; never seen in part. */
  put(key: string, content: Readable): Promise<void>;
  /** @returns null if there is none of that name */
  get(key: string, range?: ByteRange): Promise<Blob | null>;
  /** @returns null if there is none of that name */
  bytesOf(key: string): Promise<number | null>;
  list(prefix: string): AsyncIterable<ListedBlob>;
  remove(key: string): Promise<void>;
  removePrefix(prefix: string): Promise<void>;
  /** Where everything below a prefix lies on this machine's file system; null if it doesn't. */
  folderOf(prefix: string): string | null;
  /** @throws if it can't be reached or written */
  check(): Promise<void>;
}
