/** Files from this size on are sent piece by piece, so that a lost connection costs a piece only; bytes. */
export const RESUMABLE_FROM = 16 * 1024 * 1024;

/** How far a file has been sent, bytes. */
export interface Sent {
  readonly sent: number;
  readonly of: number;
}

export interface UploadAnswer {
  readonly status: number;
  /** What the server said, read as JSON; null if it is none. */
  readonly body: unknown;
}

/**
 * Sends a file as a form and tells how far it has come, which `fetch` can't.
 * @param signal calls it off
 * @returns the server's answer, whatever its status
 * @throws DOMException AbortError if it was called off; TypeError if the server can't be reached
 */
export const upload = (
  method: 'POST' | 'PUT',
  path: string,
  file: File,
  signal?: AbortSignal,
  onSent?: (sent: Sent) => void,
): Promise<UploadAnswer> =>
  new Promise((resolve, reject) => {
    const request = new XMLHttpRequest();
    const abort = (): void => request.abort();
    request.open(method, path);
    request.upload.onprogress = ({ loaded, total }) => onSent?.({ sent: loaded, of: total });
    request.onload = () => resolve({ status: request.status, body: read(request.responseText) });
    request.onerror = () => reject(new TypeError('The server can’t be reached.'));
    const calledOff = (): void => reject(new DOMException('The upload was called off.', 'AbortError'));
    request.onabort = calledOff;
    request.onloadend = () => signal?.removeEventListener('abort', abort);
    if (signal?.aborted === true) {
      calledOff();
      return;
    }
    signal?.addEventListener('abort', abort);
    const form = new FormData();
    form.append('file', file);
    request.send(form);
  });

function read(text: string): unknown {
  try {
    return JSON.parse(text) as unknown;
  } catch {
    return null;
  }
}
