import { Readable } from 'node:stream';
import type { FastifyInstance, FastifyRequest } from 'fastify';
import { idOfAddress } from '@gull-pane/protocol/drawings';
import { readDto } from '@gull-pane/protocol/dto';
import { markOf } from '@gull-pane/protocol/marks';
import { PrintDto } from '@gull-pane/protocol/sheet-sets';
import { runExport } from '../exports/run-export.ts';
import { Problem } from '../problem.ts';
import { checked } from './checked.ts';
import { contentOf } from './drawings.ts';
import { DrawingsRepository } from './drawings-repository.ts';
import { marksOf } from './marks.ts';
import type { Services } from './services.ts';

/** Sheets go to paper as PDF, page by page: little is held at a time. */
export function printRoutes(app: FastifyInstance, { db, folder }: Services): void {
  const repository = new DrawingsRepository(db);

  app.post(
    '/api/drawings/:id/print',
    { bodyLimit: 4 * 1024 * 1024 },
    async (request: FastifyRequest<{ Params: { id: string } }>, reply) => {
      const drawing = await contentOf(repository, request);
      if (drawing.kind !== 'flat')
        throw new Problem('bad-request', { detail: 'Only plans go to paper so far; this drawing is a model.' });
      const id = idOfAddress(drawing.id);
      const set = checked(() => readDto(PrintDto, request.body));
      const layers = await repository.layersOf(drawing);
      const marks = (await marksOf(db, id)).map(markOf);
      const own = folder.revision(id, drawing.revision);
      const pieces = await runExport({ format: 'pdf', folder: own, drawing, layers, set, marks });
      const name = encodeURIComponent(`${set.fields.title || drawing.name}.pdf`);
      void reply.type('application/pdf').header('content-disposition', `inline; filename*=UTF-8''${name}`);
      return reply.send(Readable.from(pieces));
    },
  );
}
