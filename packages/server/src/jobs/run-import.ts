import { startThread } from '../threads/start-thread.ts';
import type { FromImport, ImportOrder, ImportResult } from './import-messages.ts';
import { Problem } from '../problem.ts';

/**
 * Runs one import in its thread.
 * @throws Problem if the file was refused or the thread failed; the signal's reason if it was cancelled
 */
export function runImport(
  order: ImportOrder,
  onProgress: (progress: { bytesRead: number; objects: number }) => void,
  signal: AbortSignal,
  { maxMemoryMb, maxSeconds }: { readonly maxMemoryMb: number; readonly maxSeconds: number },
): Promise<ImportResult> {
  return new Promise((resolve, reject) => {
    const thread = startThread('import-thread', order, { maxOldGenerationSizeMb: maxMemoryMb });
    const timer = setTimeout(() => {
      const detail = `The import took longer than ${maxSeconds} s (GULL_PANE_MAX_IMPORT_SECONDS).`;
      fail(new Problem('limit-exceeded', { detail }));
    }, maxSeconds * 1000);
    let hasEnded = false;
    const fail = (problem: unknown): void => {
      if (hasEnded) return; // ending the thread makes it report an exit of its own
      hasEnded = true;
      clearTimeout(timer);
      signal.removeEventListener('abort', stop);
      void thread.terminate().then(() => reject(problem as Error));
    };
    const stop = (): void => fail(signal.reason);
    signal.addEventListener('abort', stop, { once: true });
    if (signal.aborted) {
      stop();
      return;
    }
    thread.on('message', (message: FromImport) => {
      if (message.kind === 'progress') onProgress(message);
      else if (message.kind === 'refused') {
        const { code, message: detail, line, column } = message;
        const place = line === undefined ? '' : ` Line ${line}, column ${column ?? 0}.`;
        fail(
          new Problem(code, {
            detail: `${detail}${place}`,
            ...(line === undefined ? {} : { line, column: column ?? 0 }),
          }),
        );
      } else {
        hasEnded = true;
        clearTimeout(timer);
        signal.removeEventListener('abort', stop);
        resolve(message.result);
      }
    });
    thread.on('error', (error) => {
      if ((error as NodeJS.ErrnoException).code === 'ERR_WORKER_OUT_OF_MEMORY') {
        const detail = `The import needs more than ${maxMemoryMb} MB of memory (GULL_PANE_MAX_IMPORT_MEMORY_MB).`;
        fail(new Problem('limit-exceeded', { detail }));
        return;
      }
      console.error('import thread:', error);
      fail(new Problem('import-failed', { detail: error instanceof Error ? error.message : String(error) }));
    });
    thread.on('exit', (code) => {
      if (code !== 0) fail(new Problem('import-failed', { detail: `The import ended unexpectedly (code ${code}).` }));
    });
  });
}
