import { writeFile } from 'node:fs/promises';
import type { FastifyInstance, FastifyRequest } from 'fastify';
import { writeBegun } from '@gull-pane/importers/begun/read-begun';
import { CameraDto } from '@gull-pane/protocol/camera';
import {
  BeginDrawingDto,
  DRAWING_ADDRESS,
  RenameDrawingDto,
  idOfAddress,
  isFormer,
  type DrawingDto,
  type ImportAcceptedDto,
  type LayerDto,
} from '@gull-pane/protocol/drawings';
import { readDto } from '@gull-pane/protocol/dto';
import type { ObjectDto } from '@gull-pane/protocol/objects';
import { Problem } from '../problem.ts';
import { readObject } from '../pyramid/read-object.ts';
import { acceptImport } from './accept-import.ts';
import { checked } from './checked.ts';
import { DrawingsRepository } from './drawings-repository.ts';
import { receiveFile } from './receive-file.ts';
import type { Services } from './services.ts';

type OneDrawing = FastifyRequest<{ Params: { id: string } }>;

/** Drawings: list, import, rename, delete, layers, exact objects, picture. */
export function drawingRoutes(app: FastifyInstance, { db, contents, removed, imports, changes }: Services): void {
  const repository = new DrawingsRepository(db);
  const told = async (id: string): Promise<DrawingDto> => {
    const drawing = await repository.find(id);
    changes.tell({ kind: 'drawing', drawing });
    return drawing;
  };

  const acceptedAs = async (jobId: string): Promise<ImportAcceptedDto | null> => {
    const job = await imports.find(jobId).catch(() => null);
    return job && { drawingId: job.drawingId, jobId };
  };

  app.get('/api/drawings', () => repository.list());

  app.post('/api/drawings', async (request, reply): Promise<ImportAcceptedDto> => {
    const jobId = newJobOf(request, imports);
    void reply.status(202).header('location', `/api/jobs/${jobId}`);
    // sent again since the answer to the first time was lost
    const known = await acceptedAs(jobId);
    if (known) return known;
    const file = await receiveFile(request, await contents.incoming());
    return acceptImport({ imports, contents }, repository, jobId, file, null).catch(async (error: unknown) => {
      // sent twice at the same time: the other one was faster
      const other = await acceptedAs(jobId);
      if (other) return other;
      throw error;
    });
  });

  app.post('/api/drawings/begin', async (request, reply): Promise<ImportAcceptedDto> => {
    const { name, ...begun } = checked(() => readDto(BeginDrawingDto, request.body));
    const [drawingId, jobId] = [imports.newId(), imports.newId()];
    const text = writeBegun(begun);
    const path = await contents.incoming();
    await writeFile(path, text);
    await contents.keepSource(jobId, path);
    await imports.queue(drawingId, jobId, text.length, '', (tx) =>
      new DrawingsRepository(tx).add(drawingId, name.trim(), text.length),
    );
    void reply.status(202).header('location', `/api/jobs/${jobId}`);
    return { drawingId, jobId };
  });

  app.get('/api/drawings/:id', (request: OneDrawing): Promise<DrawingDto> => shownOf(repository, request));

  app.patch('/api/drawings/:id', async (request: OneDrawing): Promise<DrawingDto> => {
    const id = ownIdOf(request);
    await repository.find(id);
    const { name } = checked(() => readDto(RenameDrawingDto, request.body));
    await repository.rename(id, name.trim());
    return told(id);
  });

  app.delete('/api/drawings/:id', async (request: OneDrawing, reply) => {
    const id = ownIdOf(request);
    await repository.find(id);
    await imports.cancelAllOf(id);
    await db.transaction(async (tx) => {
      await new DrawingsRepository(tx).remove(id);
      await removed.add(tx, id, null);
    });
    await removed.sweep();
    changes.tell({ kind: 'drawing-gone', id });
    return reply.status(204).send();
  });

  app.put('/api/drawings/:id/source', async (request: OneDrawing, reply): Promise<ImportAcceptedDto> => {
    const drawingId = ownIdOf(request);
    const { jobId: openJob } = await repository.find(drawingId);
    if (openJob !== null) throw new Problem('import-running');
    const jobId = imports.newId();
    const file = await receiveFile(request, await contents.incoming());
    void reply.status(202).header('location', `/api/jobs/${jobId}`);
    return acceptImport({ imports, contents }, repository, jobId, file, drawingId);
  });

  app.put('/api/drawings/:id/home', async (request: OneDrawing, reply) => {
    const { id } = await repository.find(ownIdOf(request));
    await repository.setHome(
      id,
      checked(() => readDto(CameraDto, request.body)),
    );
    await told(id);
    return reply.status(204).send();
  });

  app.get('/api/drawings/:id/layers', async (request: OneDrawing): Promise<LayerDto[]> => {
    return repository.layersOf(await shownOf(repository, request));
  });

  app.get(
    '/api/drawings/:id/objects/:objectId',
    async (request: FastifyRequest<{ Params: { id: string; objectId: string } }>): Promise<ObjectDto> => {
      const drawing = await contentOf(repository, request);
      const objectId = Number(request.params.objectId);
      const isId = Number.isInteger(objectId) && objectId >= 0;
      const object = isId
        ? await readObject(await contents.revision(idOfAddress(drawing.id), drawing.revision), objectId)
        : null;
      if (!object)
        throw new Problem('object-not-found', { detail: `The drawing has ${drawing.counts.objects} objects.` });
      return object;
    },
  );

  app.get('/api/drawings/:id/picture.png', async (request: OneDrawing, reply) => {
    const drawing = await contentOf(repository, request);
    const picture = await contents.open(idOfAddress(drawing.id), drawing.revision, 'picture.png');
    if (!picture) throw new Problem('not-found', { detail: 'The drawing has no picture.' });
    return reply.type('image/png').header('cache-control', 'private, max-age=60').send(picture.stream);
  });
}

const KEY = /^[0-9a-f]{8}-[0-9a-f]{4}-[1-8][0-9a-f]{3}-[89ab][0-9a-f]{3}-[0-9a-f]{12}$/i;

/**
 * The job of an import: a client that may send a file twice names it (`Idempotency-Key`, a UUID).
 * @throws Problem bad-request for a key that is none
 */
function newJobOf({ headers }: FastifyRequest, imports: Services['imports']): string {
  const key = headers['idempotency-key'];
  if (key === undefined) return imports.newId();
  if (typeof key !== 'string' || !KEY.test(key))
    throw new Problem('bad-request', { detail: 'Idempotency-Key must be a UUID.' });
  return key.toLowerCase();
}

type ByAddress = FastifyRequest<{ Params: { id: string } }>;

/** The drawing that an address means, as that revision of it is. @throws Problem drawing-not-found, revision-not-found */
async function shownOf(repository: DrawingsRepository, request: ByAddress): Promise<DrawingDto> {
  const id = idOf(request);
  const [, , revision] = DRAWING_ADDRESS.exec(request.params.id)!;
  return revision === undefined ? repository.find(id) : repository.findRevision(id, Number(revision));
}

/** The same. @throws Problem if it has no content that could be served */
export async function contentOf(repository: DrawingsRepository, request: ByAddress): Promise<DrawingDto> {
  const drawing = await shownOf(repository, request);
  if (drawing.revision === 0) throw new Problem('drawing-not-ready');
  return drawing;
}

/**
 * The drawing's id, whichever revision of it is meant: what is kept with a drawing belongs to all of them.
 * @throws Problem drawing-not-found for what can't be an id, before the database is asked
 */
export function idOf(request: ByAddress): string {
  const [, id] = DRAWING_ADDRESS.exec(request.params.id) ?? [];
  if (id === undefined) throw new Problem('drawing-not-found', { detail: 'The address holds no drawing’s id.' });
  return id;
}

/** The same for what changes the drawing itself: a former revision stays as it is. @throws Problem drawing-not-found */
function ownIdOf(request: ByAddress): string {
  if (isFormer(request.params.id))
    throw new Problem('drawing-not-found', { detail: 'A former revision can’t be changed: use the drawing’s own id.' });
  return idOf(request);
}
