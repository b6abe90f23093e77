import { createReadStream, createWriteStream } from 'node:fs';
import { mkdir, readdir, rm, stat } from 'node:fs/promises';
import { dirname, join } from 'node:path';
import { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import type { FastifyInstance, FastifyRequest } from 'fastify';
import { readDto } from '@gull-pane/protocol/dto';
import {
  TakePackageDto,
  WritePackageDto,
  type PackageTakenDto,
  type ReceivedPackageDto,
} from '@gull-pane/protocol/packages';
import { readPackage, type PackageContent } from '../packages/read-package.ts';
import { knownOf, takePackage } from '../packages/take-package.ts';
import { writePackage } from '../packages/write-package.ts';
import { Problem } from '../problem.ts';
import { checked } from './checked.ts';
import { idOf } from './drawings.ts';
import { DrawingsRepository } from './drawings-repository.ts';
import type { Services } from './services.ts';
import { idOr } from './versions.ts';

const keyOf = (id: string): string => `packages/${id}.zip`;

type OneThing = FastifyRequest<{ Params: { id: string } }>;

/** A package that is neither accepted nor discarded is deleted after this time, ms. */
const KEPT_MS = 3_600_000;
const options = { bodyLimit: 2 * 1024 * 1024 };

/** Drawings with all that belongs to them as packages, and back: what a package would do is told before it is done. */
export function packageRoutes(app: FastifyInstance, services: Services): void {
  const { db, blobs, contents, folder, imports, config } = services;
  const repository = new DrawingsRepository(db);
  const received = new Map<string, PackageContent>();

  app.post('/api/drawings/:id/package', options, async (request: OneThing, reply) => {
    const drawing = await repository.find(idOf(request));
    if (drawing.revision === 0) throw new Problem('drawing-not-ready');
    const { pickSets } = checked(() => readDto(WritePackageDto, request.body ?? { pickSets: [] }));
    const source = await contents.keptSource(drawing.id, drawing.revision);
    if (source === null) throw new Problem('source-not-kept');
    const name = encodeURIComponent(`${drawing.name}.gull-pane.zip`);
    void reply.type('application/zip').header('content-disposition', `attachment; filename*=UTF-8''${name}`);
    return reply.send(Readable.from(writePackage(db, drawing, source, pickSets)));
  });

  app.post('/api/packages', async (request, reply): Promise<ReceivedPackageDto> => {
    await throwOldAway();
    if (!request.isMultipart()) throw new Problem('file-missing', { detail: 'The request is not a multipart form.' });
    const file = await request.file();
    if (!file) throw new Problem('file-missing');
    const id = imports.newId();
    const own = folder.package(id);
    const archive = `${own}.received`;
    await mkdir(dirname(own), { recursive: true });
    try {
      await pipeline(file.file, createWriteStream(archive));
      if (file.file.truncated) throw new Problem('file-too-large');
      const content = await readPackage(archive, own, config.importLimits.maxUnpackedBytes);
      received.set(id, content);
      // another server may be asked to take it
      await blobs.put(keyOf(id), createReadStream(archive));
      void reply.status(201);
      return await toldOf(id, content);
    } catch (error) {
      await rm(own, { recursive: true, force: true });
      throw error;
    } finally {
      await rm(archive, { force: true });
    }
  });

  app.post('/api/packages/:id/take', async (request: OneThing): Promise<PackageTakenDto> => {
    const id = idOr('package-not-found', request);
    const content = received.get(id) ?? (await fetched(id));
    const { how } = checked(() => readDto(TakePackageDto, request.body));
    const taken = await takePackage(services, content, how);
    await discard(id);
    return taken;
  });

  /** What another server has received. @throws Problem package-not-found */
  const fetched = async (id: string): Promise<PackageContent> => {
    const blob = await blobs.get(keyOf(id));
    if (!blob) throw new Problem('package-not-found');
    const archive = `${folder.package(id)}.received`;
    await mkdir(dirname(archive), { recursive: true });
    try {
      await pipeline(blob.stream, createWriteStream(archive));
      return await readPackage(archive, folder.package(id), config.importLimits.maxUnpackedBytes);
    } finally {
      await rm(archive, { force: true });
    }
  };

  const discard = async (id: string): Promise<void> => {
    received.delete(id);
    await rm(folder.package(id), { recursive: true, force: true });
    await blobs.remove(keyOf(id));
  };

  const toldOf = async (id: string, content: PackageContent): Promise<ReceivedPackageDto> => {
    const { manifest, cards, tours, arrangements, pickSets } = content;
    const here = (await repository.list()).find((drawing) => drawing.id === manifest.drawing.id);
    return {
      id,
      writtenAt: manifest.writtenAt,
      drawing: manifest.drawing,
      sourceBytes: manifest.files.find(({ path }) => path === 'source')!.bytes,
      holds: {
        cards: cards.length,
        tours: tours.length,
        arrangements: arrangements.length,
        pickSets: pickSets.length,
      },
      ...(here ? { nameHere: here.name } : {}),
      known: await knownOf(db, content),
    };
  };

  const throwOldAway = async (): Promise<void> => {
    const all = dirname(folder.package('x'));
    for (const name of await readdir(all).catch(() => [])) {
      const { mtimeMs } = await stat(join(all, name)).catch(() => ({ mtimeMs: Infinity }));
      if (Date.now() - mtimeMs < KEPT_MS) continue;
      received.delete(name);
      await rm(join(all, name), { recursive: true, force: true });
    }
    for await (const { key, changedAtMs } of blobs.list('packages/'))
      if (Date.now() - changedAtMs > KEPT_MS) await blobs.remove(key);
  };
}
