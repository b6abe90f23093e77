import type { ChildProcess } from 'node:child_process';
import { once } from 'node:events';
import { getPriority } from 'node:os';
import { residentBytes } from '../threads/resident-memory.ts';
import { startProcess } from '../threads/start-process.ts';
import { IMPORT_PRIORITY } from './import-priorities.ts';

/** A process that uses more memory than this isn't reused, bytes. */
const KEPT_BELOW_BYTES = 400 * 1024 * 1024;
/** While an import runs longer than this, a spare process is started for the next one, ms. */
const LONG_MS = 1000;
/** How much of a process's error output is kept: enough to tell why it ended. */
const LAST_WORDS_CHARACTERS = 20_000;

/** Whether a large file has given it less priority than others have: it can't have it back. */
function isLowered({ pid }: ChildProcess): boolean {
  try {
    return pid === undefined || getPriority(pid) > IMPORT_PRIORITY;
  } catch {
    return true; // it has ended
  }
}

/** A process that an import runs in. */
export interface ImportProcess {
  readonly child: ChildProcess;
  /** Its error output so far; the runtime reports there when it runs out of memory. */
  readonly lastWords: () => string;
}

/** Pool of import processes. One is kept warm, so that a small file doesn't wait for a process to start. */
export class ImportProcesses {
  #warm: ImportProcess | null = null;
  readonly #all = new Set<ChildProcess>();
  #isStopped = false;

  /** @param maxMemoryMb heap limit of each process, MB */
  constructor(private readonly maxMemoryMb: number) {}

  /** Takes a process for one import. Pass it to `giveBack` or `end` afterwards. */
  take(): ImportProcess {
    const taken = this.#warm ?? this.#start();
    this.#warm = null;
    taken.child.ref();
    taken.child.channel?.ref();
    setTimeout(() => {
      if (this.#all.has(taken.child) && !this.#isStopped && !this.#warm) this.#keep(this.#start());
    }, LONG_MS).unref();
    return taken;
  }

  /** Returns a process to the pool after a successful import. */
  async giveBack(process: ImportProcess): Promise<void> {
    const bytes = await residentBytes(process.child.pid ?? 0);
    const isFresh = bytes !== null && bytes <= KEPT_BELOW_BYTES && !isLowered(process.child);
    if (this.#isStopped || this.#warm || !isFresh) await this.end(process);
    else this.#keep(process);
  }

  /** Kills a process. Resolves once it has exited and can't write any more. */
  async end({ child }: ImportProcess): Promise<void> {
    if (!this.#all.has(child)) return;
    const hasEnded = once(child, 'exit');
    child.kill('SIGKILL');
    await hasEnded;
  }

  /** Kills all processes. */
  async stop(): Promise<void> {
    this.#isStopped = true;
    await Promise.all([...this.#all].map((child) => this.end({ child, lastWords: () => '' })));
  }

  /** Keeps a process as the warm one. Idle, it doesn't keep the server's event loop alive. */
  #keep(process: ImportProcess): void {
    this.#warm = process;
    process.child.unref();
    process.child.channel?.unref();
  }

  #start(): ImportProcess {
    const child = startProcess('import-process', this.maxMemoryMb);
    let words = '';
    child.stderr?.on('data', (chunk) => (words = (words + String(chunk)).slice(-LAST_WORDS_CHARACTERS)));
    (child.stderr as { unref?: () => void } | null)?.unref?.();
    const started: ImportProcess = { child, lastWords: () => words };
    this.#all.add(child);
    const gone = (): void => {
      this.#all.delete(child);
      if (this.#warm === started) this.#warm = null;
    };
    child.on('exit', gone);
    child.on('error', gone);
    return started;
  }
}
