import type { ChildProcess } from 'node:child_process';
import { once } from 'node:events';
import { residentBytes } from '../threads/resident-memory.ts';
import { startProcess } from '../threads/start-process.ts';

/** A process that has grown beyond this isn't kept for the next import, bytes. */
const KEPT_BELOW_BYTES = 400 * 1024 * 1024;
/** An import that takes this long is a long one: another process is made ready for those that come meanwhile, ms. */
const LONG_MS = 1000;
/** What is kept of what a process prints: enough for the reason of its end. */
const LAST_WORDS_CHARACTERS = 20_000;

/** A process that an import runs in. */
export interface ImportProcess {
  readonly child: ChildProcess;
  /** What it printed on standard error so far; what the runtime says when memory runs out stands there. */
  readonly lastWords: () => string;
}

/** The processes that imports run in: one is kept warm, so that a small file doesn't wait for its process. */
export class ImportProcesses {
  #warm: ImportProcess | null = null;
  readonly #all = new Set<ChildProcess>();
  #isStopped = false;

  /** @param maxMemoryMb what each may take, MB */
  constructor(private readonly maxMemoryMb: number) {}

  /** A process for one import; to be given back. */
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

  /** Takes a process back whose import has ended well. */
  async giveBack(process: ImportProcess): Promise<void> {
    const bytes = await residentBytes(process.child.pid ?? 0);
    if (this.#isStopped || this.#warm || bytes === null || bytes > KEPT_BELOW_BYTES) await this.end(process);
    else this.#keep(process);
  }

  /** Ends a process at once, whatever it is doing; when this comes back it writes no more. */
  async end({ child }: ImportProcess): Promise<void> {
    if (!this.#all.has(child)) return;
    const hasEnded = once(child, 'exit');
    child.kill('SIGKILL');
    await hasEnded;
  }

  /** Ends all of them. */
  async stop(): Promise<void> {
    this.#isStopped = true;
    await Promise.all([...this.#all].map((child) => this.end({ child, lastWords: () => '' })));
  }

  /** An idle one keeps nobody waiting: the server may end. */
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
