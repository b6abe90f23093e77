import { createWriteStream } from 'node:fs';
import { open, rm } from 'node:fs/promises';
import { basename } from 'node:path';
import { Transform } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import type { MultipartFile } from '@fastify/multipart';
import type { FastifyRequest } from 'fastify';
import { mayBeModel } from '@gull-pane/importers/model/model-head';
import { isPdfHead } from '@gull-pane/importers/pdf/pdf-head';
import { beginsLikePicture } from '@gull-pane/importers/picture/picture-size';
import { Problem } from '../problem.ts';

export interface ReceivedFile {
  /** Where it lies on this machine. */
  readonly path: string;
  /** The file's own name without folders and ending. */
  readonly name: string;
  readonly bytes: number;
}

/**
 * Streams the one file of a multipart request to disk; nothing stays behind if that fails.
 * @throws Problem file-missing, file-too-large, empty-file or not-svg
 */
export async function receiveFile(request: FastifyRequest, target: string): Promise<ReceivedFile> {
  const file = await firstFile(request);
  try {
    const sink = createWriteStream(target);
    await pipeline(file.file, refuseUnknown(file.filename), sink);
    if (file.file.truncated) throw new Problem('file-too-large');
    if (sink.bytesWritten === 0) throw new Problem('empty-file', { detail: `${file.filename} has 0 bytes.` });
    return { path: target, name: titleOf(file.filename), bytes: sink.bytesWritten };
  } catch (error) {
    // the rest is read and dropped: what the connection carries next would wait behind it
    request.raw.unpipe();
    request.raw.resume();
    await rm(target, { force: true });
    throw error;
  }
}

/** Passes bytes on, unless the first of them can't begin a file of a kind that is read. */
function refuseUnknown(name: string): Transform {
  let isKnown = false;
  return new Transform({
    transform(chunk: Buffer, _encoding, done) {
      if (!isKnown && !canBeginDrawing(chunk)) {
        done(unknownFile(name));
        return;
      }
      isKnown = true;
      done(null, chunk);
    },
  });
}

/**
 * Looks at a file that has come by another way.
 * @throws Problem empty-file or not-svg
 */
export async function refuseUnknownFile(path: string, filename: string): Promise<ReceivedFile> {
  const file = await open(path);
  try {
    const { size } = await file.stat();
    if (size === 0) throw new Problem('empty-file', { detail: `${filename} has 0 bytes.` });
    const { buffer, bytesRead } = await file.read(Buffer.alloc(HEAD_BYTES), 0, HEAD_BYTES, 0);
    if (!canBeginDrawing(buffer.subarray(0, bytesRead))) throw unknownFile(filename);
    return { path, name: titleOf(filename), bytes: size };
  } finally {
    await file.close();
  }
}

/** Bytes at the beginning that identify a file. */
const HEAD_BYTES = 1 << 16;

const unknownFile = (name: string): Problem =>
  new Problem('not-svg', {
    detail: `${name} is not XML, JSON, PDF or gzip, nor a picture or model in a format that can be read.`,
  });

/** XML in any of its encodings, JSON, PDF, gzip (which may hold one of the first two), a picture, or a model. */
function canBeginDrawing(bytes: Buffer): boolean {
  if (bytes[0] === 0x1f && bytes[1] === 0x8b) return true;
  if (isPdfHead(bytes) || beginsLikePicture(bytes) || mayBeModel(bytes)) return true;
  if ((bytes[0] === 0xff && bytes[1] === 0xfe) || (bytes[0] === 0xfe && bytes[1] === 0xff)) return true;
  return /^(\ufeff)?\s*([<{]|$)/.test(bytes.toString('utf8', 0, 512));
}

async function firstFile(request: FastifyRequest): Promise<MultipartFile> {
  if (!request.isMultipart()) throw new Problem('file-missing', { detail: 'The request is not a multipart form.' });
  const file = await request.file();
  if (!file) throw new Problem('file-missing');
  return file;
}

/** What a person would call a file of this name. */
function titleOf(filename: string): string {
  const plain = basename(filename.replaceAll('\\', '/')).replace(/\.[A-Za-z0-9]{1,7}$/, '');

  const clean = plain.replace(/[\u0000-\u001f\u007f]/g, '').trim();
  return clean.slice(0, 200) || 'Drawing';
}
