import { Upload, type DetailedError } from 'tus-js-client';
import type { Sent } from './upload';

const PIECE_BYTES = 8 * 1024 * 1024;
/** So long it is waited before each new try, ms; then it is given up, and goes on where it was when the file is chosen again. */
const RETRIES_MS = [0, 500, 1000, 2000, 4000, 8000, 16_000, 32_000];

/** What the server said instead of taking the file. */
export class UploadRefused extends Error {
  constructor(
    readonly status: number,
    /** As JSON; null if it is none. */
    readonly body: unknown,
  ) {
    super(`The upload was refused: ${status}`);
  }
}

/**
 * Sends a file piece by piece (tus 1.0.0).
 * @param drawing whose next content it is; null for a new drawing
 * @returns the id of the job that imports it
 * @throws UploadRefused; DOMException AbortError if it was called off; TypeError if the server can't be reached
 */
export function resumableUpload(
  file: File,
  drawing: string | null,
  signal?: AbortSignal,
  onSent?: (sent: Sent) => void,
): Promise<string> {
  return new Promise((resolve, reject) => {
    signal?.throwIfAborted();
    const upload: Upload = new Upload(file, {
      endpoint: '/api/uploads',
      chunkSize: PIECE_BYTES,
      retryDelays: RETRIES_MS,
      removeFingerprintOnSuccess: true,
      metadata: { filename: file.name, ...(drawing === null ? {} : { drawing }) },
      fingerprint: () => Promise.resolve(['upload', drawing ?? '', file.name, file.size, file.lastModified].join(' ')),
      onProgress: (sent, of) => onSent?.({ sent, of }),
      // what the server refuses it refuses again; 409 and 423: a piece before this one is still being written
      onShouldRetry: (error) => {
        const status = statusOf(error);
        return status === 0 || status >= 500 || status === 409 || status === 423;
      },
      onError: (error) => {
        const status = 'originalResponse' in error ? statusOf(error) : 0;
        if (status === 0) reject(new TypeError('The server can’t be reached.'));
        else reject(new UploadRefused(status, bodyOf(error as DetailedError)));
      },
      onSuccess: () => resolve(upload.url!.split('/').at(-1)!),
    });
    signal?.addEventListener('abort', () => {
      void upload.abort(true).catch(() => undefined);
      reject(new DOMException('The upload was called off.', 'AbortError'));
    });
    // the same file was begun before: it goes on there
    void upload.findPreviousUploads().then(([former]) => {
      if (former) upload.resumeFromPreviousUpload(former);
      if (signal?.aborted !== true) upload.start();
    });
  });
}

const statusOf = (error: DetailedError): number => error.originalResponse?.getStatus() ?? 0;

function bodyOf(error: DetailedError): unknown {
  try {
    return JSON.parse(error.originalResponse?.getBody() ?? '') as unknown;
  } catch {
    return null;
  }
}
