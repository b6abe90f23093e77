import { Problem } from '../problem.ts';
import { residentBytes } from '../threads/resident-memory.ts';
import type { FromImport, ImportOrder, ImportProgress, ImportResult } from './import-messages.ts';
import type { ImportProcess, ImportProcesses } from './import-processes.ts';

const LOOK_AT_MEMORY_EVERY_MS = 100;
/** What the runtime prints, or the error that it throws, when memory runs out. */
const OUT_OF_MEMORY = /heap out of memory|allocation failed|out of memory/i;

/** What one import may take. */
export interface RunLimits {
  /** Resident memory of the process, MB. */
  readonly maxMemoryMb: number;
  /** Time, s. */
  readonly maxSeconds: number;
}

/** Hears of an import. */
export interface ImportListener {
  readonly onProgress: (progress: ImportProgress) => void;
  readonly onFormat: (format: string) => void;
}

/**
 * Runs one import in a process of its own.
 * @throws Problem if the file was refused, took too much or the process ended; the signal's reason if it was cancelled
 */
export async function runImport(
  processes: ImportProcesses,
  order: ImportOrder,
  { onProgress, onFormat }: ImportListener,
  signal: AbortSignal,
  limits: RunLimits,
): Promise<ImportResult> {
  signal.throwIfAborted();
  const running = processes.take();
  const answer = await answerOf(running, order, { onProgress, onFormat }, signal, limits).catch(
    async (error: unknown) => {
      await processes.end(running); // what a file did to it is not carried over to the next
      throw error;
    },
  );
  // what goes on reading after it has said that this is too much isn't waited for
  if (answer.kind === 'refused' && answer.code === 'limit-exceeded') await processes.end(running);
  else await processes.giveBack(running);
  if (answer.kind === 'refused') throw refusal(answer);
  return answer.result;
}

type Answer = Extract<FromImport, { readonly kind: 'done' | 'refused' }>;

function answerOf(
  { child, lastWords }: ImportProcess,
  order: ImportOrder,
  { onProgress, onFormat }: ImportListener,
  signal: AbortSignal,
  limits: RunLimits,
): Promise<Answer> {
  return new Promise((resolve, reject) => {
    const settle = (end: () => void): void => {
      clearTimeout(timer);
      clearInterval(watch);
      signal.removeEventListener('abort', stop);
      child.off('message', take).off('error', fail).off('exit', exit);
      end();
    };
    const fail = (error: Error): void => settle(() => reject(error));
    const stop = (): void => fail(signal.reason as Error);
    const take = (message: FromImport): void => {
      if (message.kind === 'progress') onProgress(message.progress);
      else if (message.kind === 'format') onFormat(message.format);
      else if (message.kind === 'failed') fail(failure(message.message, limits));
      else settle(() => resolve(message));
    };
    const exit = (code: number | null, by: NodeJS.Signals | null): void => fail(endOf(code, by, lastWords(), limits));
    const timer = setTimeout(() => fail(tooLong(limits)), limits.maxSeconds * 1000);
    const watch = setInterval(() => {
      void residentBytes(child.pid ?? 0).then((bytes) => {
        if (bytes !== null && bytes > limits.maxMemoryMb * 1024 * 1024) fail(tooLarge(limits));
      });
    }, LOOK_AT_MEMORY_EVERY_MS);
    signal.addEventListener('abort', stop, { once: true });
    child.on('message', take).on('error', fail).on('exit', exit);
    child.send(order, (error) => error && fail(error));
  });
}

const tooLong = ({ maxSeconds }: RunLimits): Problem =>
  new Problem('limit-exceeded', {
    detail: `The import took longer than ${maxSeconds} s (GULL_PANE_MAX_IMPORT_SECONDS).`,
  });

const tooLarge = ({ maxMemoryMb }: RunLimits): Problem =>
  new Problem('limit-exceeded', {
    detail: `The import needs more than ${maxMemoryMb} MB of memory (GULL_PANE_MAX_IMPORT_MEMORY_MB).`,
  });

function refusal({ code, message, line, column = 0 }: Extract<FromImport, { readonly kind: 'refused' }>): Problem {
  if (line === undefined) return new Problem(code, { detail: message });
  return new Problem(code, { detail: `${message} Line ${line}, column ${column}.`, line, column });
}

function failure(message: string, limits: RunLimits): Problem {
  if (OUT_OF_MEMORY.test(message)) return tooLarge(limits);
  console.error(`import: ${message}`);
  return new Problem('import-failed', { detail: message.split('\n')[0]! });
}

/** Why a process ended before it answered. */
function endOf(code: number | null, by: NodeJS.Signals | null, words: string, limits: RunLimits): Problem {
  if (OUT_OF_MEMORY.test(words)) return tooLarge(limits);
  if (words !== '') console.error(`import process: ${words.trim()}`);
  if (by === 'SIGKILL')
    return new Problem('import-failed', {
      detail: 'The system ended the import’s process, as it does where the machine’s memory runs out.',
    });
  return new Problem('import-failed', { detail: `The import ended unexpectedly (${by ?? `code ${code}`}).` });
}
