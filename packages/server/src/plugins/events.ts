import type { FastifyInstance } from 'fastify';
import { startEventStream } from './event-stream.ts';
import type { Services } from './services.ts';

/** Tells every window what others change, so that they stay in step. */
export function eventRoutes(app: FastifyInstance, { changes }: Services): void {
  app.get('/api/events', (_request, reply) => {
    const stop = changes.listen((event) => stream.send('change', event));
    const stream = startEventStream(reply, stop);
    // tells a client that reconnects that it may have missed something
    stream.send('begin', {});
  });
}
