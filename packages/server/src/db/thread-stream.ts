import { Duplex } from 'node:stream';
import type { Worker } from 'node:worker_threads';
import type { FromDatabase, ToDatabase } from './database-thread.ts';

/**
 * What the PostgreSQL client takes for its socket: carries the wire protocol to the database thread and back. The client
 * so stays the ordinary one, and a PostgreSQL server can take the thread's place.
 */
export class ThreadStream extends Duplex {
  #waitingSinceMs: number | null = null;
  readonly #answers: ((message: FromDatabase) => void)[] = [];

  constructor(private readonly thread: Worker) {
    super();
    thread.on('message', this.#listen);
  }

  readonly #listen = (message: FromDatabase): void => {
    if (message.kind === 'bytes' || message.kind === 'broken') this.#answers.shift()?.(message);
  };

  /** How long the thread has left the last message unanswered, ms; 0 while nothing waits. */
  get waitingMs(): number {
    return this.#waitingSinceMs === null ? 0 : performance.now() - this.#waitingSinceMs;
  }

  // what the client calls on a socket
  connect(): this {
    setImmediate(() => this.emit('connect'));
    return this;
  }
  setNoDelay(): this {
    return this;
  }
  setKeepAlive(): this {
    return this;
  }
  ref(): this {
    return this;
  }
  unref(): this {
    return this;
  }

  override _read(): void {
    // answers are pushed as they come
  }

  override _write(chunk: Uint8Array, _encoding: BufferEncoding, done: (error?: Error) => void): void {
    this.#waitingSinceMs ??= performance.now();
    this.#answers.push((message) => {
      this.#waitingSinceMs = null;
      if (message.kind === 'broken') {
        done(new Error(`database: ${message.message}`));
        return;
      }
      if (message.kind === 'bytes' && message.bytes.length > 0) this.push(Buffer.from(message.bytes));
      done();
    });
    const request: ToDatabase = { kind: 'bytes', bytes: new Uint8Array(chunk) };
    this.thread.postMessage(request);
  }

  override _final(done: () => void): void {
    this.push(null);
    done();
  }

  override _destroy(error: Error | null, done: (error: Error | null) => void): void {
    this.thread.off('message', this.#listen);
    done(error);
  }
}
