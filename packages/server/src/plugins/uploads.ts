import { Server } from '@tus/server';
import type { FastifyInstance, FastifyReply, FastifyRequest } from 'fastify';
import { DRAWING_ADDRESS } from '@gull-pane/protocol/drawings';
import { Problem } from '../problem.ts';
import { acceptImport } from './accept-import.ts';
import { DrawingsRepository } from './drawings-repository.ts';
import { refuseUnknownFile } from './receive-file.ts';
import type { Services } from './services.ts';

const PATH = '/api/uploads';

/**
 * Large files that are sent piece by piece and go on where they were after a lost connection (tus 1.0.0). An upload's
 * id is that of the job that imports it; metadata: `filename`, and `drawing` where the file is the next content of one.
 */
export function uploadRoutes(app: FastifyInstance, { config, db, pieces, contents, imports }: Services): void {
  const repository = new DrawingsRepository(db);
  const uploads = new Server({
    path: PATH,
    datastore: pieces.store,
    maxSize: config.maxUploadBytes,
    relativeLocation: true,
    namingFunction: () => imports.newId(),
    async onUploadFinish(_request, { id, metadata }) {
      try {
        const former = formerOf(metadata?.drawing ?? null);
        const path = await pieces.whole(id);
        const file = await refuseUnknownFile(path, metadata?.filename ?? 'The file');
        const accepted = await acceptImport({ imports, contents }, repository, id, file, former);
        await pieces.discard(id);
        return answer(202, accepted);
      } catch (error) {
        await pieces.discard(id);
        const { details } = error instanceof Problem ? error : new Problem('internal');
        if (!(error instanceof Problem)) console.error(`${PATH}/${id}:`, error);
        return answer(details.status, details);
      }
    },
  });
  app.addHook('onReady', () => pieces.tidy());
  // its body is read piece by piece, not as a whole
  app.addContentTypeParser('application/offset+octet-stream', (_request, _payload, done) => done(null));
  /** A client that lost the last response asks for the offset: the upload is complete, though its file has moved on to the import. */
  const isWhole = async (request: FastifyRequest<{ Params: { upload: string } }>, reply: FastifyReply) => {
    const job = await imports.find(request.params.upload).catch(() => null);
    if (!job) return handle(request, reply);
    const { bytesTotal } = job.progress;
    return reply
      .headers({ 'tus-resumable': '1.0.0', 'upload-offset': bytesTotal, 'upload-length': bytesTotal })
      .header('cache-control', 'no-store')
      .send();
  };
  const handle = async ({ raw }: FastifyRequest, reply: FastifyReply): Promise<void> => {
    reply.hijack();
    await uploads.handle(raw, reply.raw);
  };
  const start = (request: FastifyRequest, reply: FastifyReply): Promise<void> => {
    if (Number(request.headers['upload-length']) > config.maxUploadBytes) throw new Problem('file-too-large');
    return handle(request, reply);
  };
  app.route({ method: 'POST', url: PATH, handler: start });
  app.head(`${PATH}/:upload`, isWhole);
  app.route({ method: ['PATCH', 'DELETE'], url: `${PATH}/:upload`, handler: handle });
}

const answer = (status: number, body: object) => ({
  status_code: status,
  headers: { 'content-type': status < 400 ? 'application/json' : 'application/problem+json' },
  body: JSON.stringify(body),
});

/** @throws Problem drawing-not-found for what can't be a drawing's address */
function formerOf(address: string | null): string | null {
  if (address === null || address === '') return null;
  const [, id] = DRAWING_ADDRESS.exec(address) ?? [];
  if (id === undefined) throw new Problem('drawing-not-found');
  return id;
}
