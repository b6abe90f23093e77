import { open } from 'node:fs/promises';
import { join } from 'node:path';
import { createGunzip } from 'node:zlib';
import type { FastifyInstance, FastifyRequest } from 'fastify';
import { idOfAddress } from '@gull-pane/protocol/drawings';
import { Problem } from '../problem.ts';
import { contentOf, idOf } from './drawings.ts';
import { PICTURES_FOLDER } from '../pyramid/picture-store.ts';
import { DrawingsRepository } from './drawings-repository.ts';
import type { Services } from './services.ts';

const TILE_NAME =
  /^(\d{1,9}\.(glb|detail|fills|objects)|\d{1,9}-(coarse|own)\d\.glb|objects\.index|(texts|solid)\.json)$/;
const typeOf = (name: string): string =>
  name.endsWith('.glb')
    ? 'model/gltf-binary'
    : name.endsWith('.json')
      ? 'application/json'
      : 'application/octet-stream';
const REVISION = /^r(\d{1,9})$/;
const NUMBER = /^\d{1,9}$/;
const PICTURE_TILE = /^\d{1,9}_\d{1,9}\.(png|jpeg)$/;

/**
 * The display pyramid as 3D Tiles, and beside it where every object lies: the tileset by the drawing's address, the rest by
 * that of their revision, for good.
 */
export function tileRoutes(app: FastifyInstance, { db, folder }: Services): void {
  const repository = new DrawingsRepository(db);

  app.get(
    '/api/drawings/:id/tiles/tileset.json',
    async (request: FastifyRequest<{ Params: { id: string } }>, reply) => {
      const { id: address, revision } = await contentOf(repository, request);
      const id = idOfAddress(address);
      const file = await open(join(folder.revision(id, revision), 'tiles', 'tileset.json'));
      const etag = `"${id}-${revision}"`;
      void reply.header('etag', etag).header('cache-control', 'private, no-cache').type('application/json');
      if (request.headers['if-none-match'] === etag) {
        await file.close();
        return reply.status(304).send();
      }
      return reply.send(file.createReadStream());
    },
  );

  type OnePictureTile = FastifyRequest<{
    Params: { id: string; revision: string; source: string; level: string; name: string };
  }>;
  app.get(
    `/api/drawings/:id/tiles/:revision/${PICTURES_FOLDER}/:source/:level/:name`,
    async (request: OnePictureTile, reply) => {
      const id = idOf(request);
      const { revision, source, level, name } = request.params;
      const number = REVISION.exec(revision)?.[1];
      const isSound = number !== undefined && NUMBER.test(source) && NUMBER.test(level) && PICTURE_TILE.test(name);
      if (!isSound) throw new Problem('not-found');
      const path = join(folder.revision(id, Number(number)), PICTURES_FOLDER, source, level, name);
      const file = await open(path).catch(() => {
        throw new Problem('not-found', { detail: 'The drawing has no such tile; it may have been imported anew.' });
      });
      void reply
        .type(name.endsWith('.png') ? 'image/png' : 'image/jpeg')
        .header('cache-control', 'private, max-age=31536000, immutable');
      return reply.send(file.createReadStream());
    },
  );

  type OneTile = FastifyRequest<{ Params: { id: string; revision: string; tile: string } }>;
  app.get('/api/drawings/:id/tiles/:revision/:tile', async (request: OneTile, reply) => {
    const id = idOf(request);
    const { revision, tile } = request.params;
    const number = REVISION.exec(revision)?.[1];
    if (number === undefined || !TILE_NAME.test(tile)) throw new Problem('not-found');
    const file = await open(join(folder.revision(id, Number(number)), 'tiles', `${tile}.gz`)).catch(() => {
      throw new Problem('not-found', { detail: 'The drawing has no such tile; it may have been imported anew.' });
    });
    void reply
      .type(typeOf(tile))
      .header('cache-control', 'private, max-age=31536000, immutable')
      .header('vary', 'accept-encoding');
    const takesGzip = /\bgzip\b/.test(request.headers['accept-encoding'] ?? '');
    if (takesGzip) return reply.header('content-encoding', 'gzip').send(file.createReadStream());
    return reply.send(file.createReadStream().pipe(createGunzip()));
  });
}
