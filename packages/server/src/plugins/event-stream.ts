import type { FastifyReply } from 'fastify';

/** A window that hears nothing for longer than this takes the server for gone, ms. */
const PULSE_MS = 10_000;
/** What waits for a reader, bytes at most. */
const MOST_WAITING_BYTES = 4 * 1024 * 1024;
/** So soon a window that lost the way tries again, ms. */
const RETRY_MS = 1000;

export interface EventStream {
  /** @param id what a client names when it comes back */
  readonly send: (event: string, data: unknown, id?: number) => void;
  readonly end: () => void;
}

/**
 * Turns an answer into server-sent events (HTML Living Standard, 9.2).
 * @param onEnd called when either side has ended it
 */
export function startEventStream(reply: FastifyReply, onEnd: () => void): EventStream {
  reply.hijack();
  const stream = reply.raw;
  const headers = { 'content-type': 'text/event-stream', 'cache-control': 'no-store', connection: 'keep-alive' };
  stream.writeHead(200, headers);
  stream.write(`retry: ${RETRY_MS}\n\n`);
  const pulse = setInterval(() => stream.write(': still here\n\n'), PULSE_MS);
  stream.on('close', () => {
    clearInterval(pulse);
    onEnd();
  });
  return {
    send: (event, data, id) => {
      stream.write(`${id === undefined ? '' : `id: ${id}\n`}event: ${event}\ndata: ${JSON.stringify(data)}\n\n`);
      // who doesn't read is let go: it comes back, and hears what it has missed
      if (stream.writableLength > MOST_WAITING_BYTES) stream.destroy();
    },
    end: () => stream.end(),
  };
}
