import { EventEmitter } from 'node:events';

/** What servers of one database notify each other of; the content is in the tables. */
export const channels = ['news', 'jobs'] as const;
export type Channel = (typeof channels)[number];

/** Notifications between the servers of one database. One may be lost, so listeners also read the tables from time to time. */
export interface Signals {
  /** Notifies all servers, this one included. */
  send(channel: Channel): void;
  /** @returns a function that ends it */
  listen(channel: Channel, take: () => void): () => void;
}

/** Notifications within one process. */
export class LocalSignals implements Signals {
  readonly #events = new EventEmitter().setMaxListeners(0);

  send(channel: Channel): void {
    this.#events.emit(channel);
  }

  listen(channel: Channel, take: () => void): () => void {
    this.#events.on(channel, take);
    return () => this.#events.off(channel, take);
  }
}
