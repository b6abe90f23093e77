import { createWriteStream } from 'node:fs';
import { rm } from 'node:fs/promises';
import { basename } from 'node:path';
import { pipeline } from 'node:stream/promises';
import type { MultipartFile } from '@fastify/multipart';
import type { FastifyRequest } from 'fastify';
import { Problem } from '../problem.ts';

export interface ReceivedFile {
  /** The file's own name without folders and ending. */
  readonly name: string;
  readonly bytes: number;
}

/**
 * Streams the one file of a multipart request to disk; nothing stays behind if that fails.
 * @throws Problem file-missing, file-too-large or empty-file
 */
export async function receiveFile(request: FastifyRequest, target: string): Promise<ReceivedFile> {
  const file = await firstFile(request);
  try {
    const sink = createWriteStream(target);
    await pipeline(file.file, sink);
    if (file.file.truncated) throw new Problem('file-too-large');
    if (sink.bytesWritten === 0) throw new Problem('empty-file', { detail: `${file.filename} has 0 bytes.` });
    return { name: titleOf(file.filename), bytes: sink.bytesWritten };
  } catch (error) {
    await rm(target, { force: true });
    throw error;
  }
}

async function firstFile(request: FastifyRequest): Promise<MultipartFile> {
  if (!request.isMultipart()) throw new Problem('file-missing', { detail: 'The request is not a multipart form.' });
  const file = await request.file();
  if (!file) throw new Problem('file-missing');
  return file;
}

/** What a person would call a file of this name. */
function titleOf(filename: string): string {
  const plain = basename(filename.replaceAll('\\', '/')).replace(/\.[A-Za-z0-9]{1,5}$/, '');

  const clean = plain.replace(/[\u0000-\u001f\u007f]/g, '').trim();
  return clean.slice(0, 200) || 'Drawing';
}
