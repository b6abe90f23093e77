import type { FastifyInstance } from 'fastify';
import type { News } from '../changes.ts';
import { startEventStream } from './event-stream.ts';
import type { Services } from './services.ts';

/**
 * Tells every window what others change, so that they stay in step. Who was away for a moment says which change it heard of
 * last (`Last-Event-ID`) and gets those after it; `begin` says whether that was possible.
 */
export function eventRoutes(app: FastifyInstance, { changes }: Services): void {
  app.get('/api/events', (request, reply) => {
    const waiting: News[] = [];
    let sentId = -1;
    let isCaughtUp = false;
    const send = ({ id, event }: News): void => {
      if (id <= sentId) return; // it was among those that were missed
      sentId = id;
      stream.send('change', event, id);
    };
    const stop = changes.listen((own) => {
      if (isCaughtUp) send(own);
      else waiting.push(own);
    });
    const stream = startEventStream(reply, stop);
    const catchUp = async (): Promise<void> => {
      const header = request.headers['last-event-id'];
      const missed =
        typeof header === 'string' && /^\d{1,15}$/.test(header) ? await changes.since(Number(header)) : null;
      // the id lets a window that hears nothing for long say where it was
      stream.send('begin', { isComplete: missed !== null }, missed ? Number(header) : await changes.latest());
      for (const one of [...(missed ?? []), ...waiting]) send(one);
      isCaughtUp = true;
    };
    catchUp().catch(() => stream.end());
  });
}
