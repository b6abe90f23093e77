import { Duplex } from 'node:stream';
import type { Worker } from 'node:worker_threads';
import type { FromDatabase, ToDatabase } from './database-thread.ts';

type Answer = Extract<FromDatabase, { readonly connection: number }>;

/**
 * What the PostgreSQL client takes for its socket: carries the wire protocol to the database thread and back. The client
 * so stays the ordinary one, and a PostgreSQL server can take the thread's place. All connections share one session, so
 * one begins when the one before has ended; each takes the answers that have its number.
 */
export class ThreadStream extends Duplex {
  static #begun = 0;
  readonly #connection = ++ThreadStream.#begun;
  #take: (answer: Answer) => void = () => undefined;

  /**
   * @param before the connection before it
   * @param onAnswer called whenever the thread has answered
   */
  constructor(
    private readonly thread: Worker,
    private before: ThreadStream | null,
    private readonly onAnswer: () => void,
  ) {
    super();
    thread.on('message', this.#listen);
  }

  readonly #listen = (message: FromDatabase): void => {
    if ('connection' in message && message.connection === this.#connection) this.#take(message);
  };

  // what the client calls on a socket
  connect(): this {
    const begin = (): void => {
      this.before = null;
      this.emit('connect');
    };
    // a statement of it may have failed whose other messages are still on their way
    if (this.before && !this.before.closed) this.before.once('close', begin);
    else setImmediate(begin);
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
    // a stream writes one chunk at a time: the answer is this one's
    this.#take = (answer) => {
      this.onAnswer();
      if (answer.kind === 'bytes' && answer.bytes.length > 0) this.push(Buffer.from(answer.bytes));
      done(answer.kind === 'failed' ? new Error(`database: ${answer.message}`) : undefined);
    };
    const request: ToDatabase = { kind: 'bytes', connection: this.#connection, bytes: new Uint8Array(chunk) };
    this.thread.postMessage(request);
  }

  /** The messages of a statement go together. */
  override _writev(chunks: { readonly chunk: Uint8Array }[], done: (error?: Error) => void): void {
    this._write(Buffer.concat(chunks.map(({ chunk }) => chunk)), 'binary', done);
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
