import { createReadStream } from 'node:fs';
import { open } from 'node:fs/promises';
import type { Readable } from 'node:stream';
import { TextDecoder } from 'node:util';
import { createGunzip } from 'node:zlib';
import { ReadError } from '@gull-pane/importers/read-error';

const PIECE_BYTES = 1 << 18;
/** As much of a file's beginning as tells its encoding, bytes. */
const HEAD_BYTES = 1024;

export interface FileTextLimits {
  /** What a compressed file may become, bytes. */
  readonly maxUnpackedBytes: number;
}

/**
 * Reads a text file piece by piece, so that memory stays bounded: gzip is unpacked, the encoding taken from the byte
 * order mark or the XML declaration (XML 1.0, appendix F).
 * @param take called with each piece and how many bytes of the file itself have been read
 * @throws ReadError if it is damaged, in an unknown encoding, or unpacks to more than the limit
 */
export async function forEachPiece(
  path: string,
  limits: FileTextLimits,
  take: (text: string, bytesRead: number) => void,
): Promise<void> {
  const head = await firstBytes(path);
  const isGzip = head[0] === 0x1f && head[1] === 0x8b;
  const file = createReadStream(path, { highWaterMark: PIECE_BYTES });
  const source: Readable = isGzip ? file.pipe(createGunzip({ chunkSize: PIECE_BYTES })) : file;
  if (isGzip) file.on('error', (error) => source.destroy(error));
  let decoder: TextDecoder | undefined;
  let unpacked = 0;
  try {
    for await (const chunk of source as AsyncIterable<Buffer>) {
      unpacked += chunk.length;
      if (isGzip && unpacked > limits.maxUnpackedBytes) {
        const megabytes = Math.round(limits.maxUnpackedBytes / 1024 / 1024);
        const detail = `The file unpacks to more than ${megabytes} MB (GULL_PANE_MAX_UNPACKED_MB).`;
        throw new ReadError('limit-exceeded', detail);
      }
      decoder ??= decoderFor(chunk);
      take(decode(decoder, chunk), file.bytesRead);
    }
  } catch (error) {
    const { code } = error as NodeJS.ErrnoException;
    if (code?.startsWith('Z_')) throw new ReadError('damaged-file', `The compressed file is damaged (${code}).`);
    throw error;
  } finally {
    source.destroy();
    file.destroy();
  }
  if (decoder) take(decode(decoder), file.bytesRead);
}

/** What an SVG holds that refers to something in it, or has rules of style, in any encoding that has ASCII in it. */
const REFERRING = ['href', 'url(', '<style', ':style'].map((word) => Buffer.from(word));
/** Longer than any of them, bytes. */
const CARRIED_BYTES = 8;

/**
 * Whether a text file may be one that must be gone through before it is read: found in its bytes, which takes a small
 * part of the time of decoding it. Says yes where bytes tell nothing: packed files, other encodings, what isn't XML.
 */
export async function mayRefer(path: string): Promise<boolean> {
  let rest: Uint8Array = new Uint8Array(0);
  let isFirst = true;
  for await (const chunk of createReadStream(path, { highWaterMark: PIECE_BYTES }) as AsyncIterable<Buffer>) {
    if (isFirst && !(chunk[0] === 0x3c && chunk[1] !== 0 && encodingOf(chunk) === 'utf-8')) return true;
    isFirst = false;
    const seam = Buffer.concat([rest, chunk.subarray(0, CARRIED_BYTES)]);
    if (REFERRING.some((word) => chunk.includes(word) || seam.includes(word))) return true;
    rest = chunk.subarray(-CARRIED_BYTES);
  }
  return isFirst;
}

async function firstBytes(path: string): Promise<Buffer> {
  const file = await open(path);
  try {
    const head = Buffer.alloc(2);
    await file.read(head, 0, 2, 0);
    return head;
  } finally {
    await file.close();
  }
}

function decoderFor(head: Buffer): TextDecoder {
  const label = encodingOf(head);
  try {
    return new TextDecoder(label, { fatal: label.startsWith('utf') });
  } catch {
    throw new ReadError(
      'bad-encoding',
      `The file says that it is written in “${label.slice(0, 40)}”, which isn’t known.`,
      {
        line: 1,
        column: 1,
      },
    );
  }
}

function encodingOf(head: Buffer): string {
  if (head[0] === 0xff && head[1] === 0xfe) return 'utf-16le';
  if (head[0] === 0xfe && head[1] === 0xff) return 'utf-16be';
  if (head[0] === 0x3c && head[1] === 0) return 'utf-16le';
  if (head[0] === 0 && head[1] === 0x3c) return 'utf-16be';
  const declared = /^\s*<\?xml[^>]*\bencoding\s*=\s*["']([^"']+)["']/.exec(head.toString('latin1', 0, HEAD_BYTES))?.[1];
  // a file that says UTF-16 without being so has been rewritten by something that forgot to say it
  return declared === undefined || /^utf-?16/i.test(declared) ? 'utf-8' : declared.toLowerCase();
}

function decode(decoder: TextDecoder, chunk?: Buffer): string {
  try {
    return chunk ? decoder.decode(chunk, { stream: true }) : decoder.decode();
  } catch {
    throw new ReadError('bad-encoding', `The file holds bytes that are no text in ${decoder.encoding}.`);
  }
}
