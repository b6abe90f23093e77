import type { FastifyInstance, FastifyRequest } from 'fastify';
import { hasEnded, type JobDto } from '@gull-pane/protocol/jobs';
import { Problem } from '../problem.ts';
import { startEventStream } from './event-stream.ts';
import type { Services } from './services.ts';

type OneJob = FastifyRequest<{ Params: { id: string } }>;
const UUID = /^[0-9a-f]{8}(-[0-9a-f]{4}){3}-[0-9a-f]{12}$/i;

/** Import jobs: state, cancelling, and their progress as server-sent events. */
export function jobRoutes(app: FastifyInstance, { imports }: Services): void {
  const find = (request: OneJob): Promise<JobDto> => {
    if (!UUID.test(request.params.id)) throw new Problem('job-not-found');
    return imports.find(request.params.id);
  };

  app.get('/api/jobs/:id', async (request: OneJob) => find(request));

  app.post('/api/jobs/:id/cancel', async (request: OneJob) => {
    const { id } = await find(request);
    return imports.cancel(id);
  });

  app.get('/api/jobs/:id/events', async (request: OneJob, reply) => {
    const { id } = await find(request);
    const tell = (job: JobDto): void => {
      stream.send('job', job);
      if (!hasEnded(job.state)) return;
      stop();
      stream.end();
    };
    const stop = imports.listen(id, tell);
    const stream = startEventStream(reply, stop);
    tell(await imports.find(id)); // listening began first, so that no change falls between
  });
}
