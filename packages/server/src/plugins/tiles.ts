import { createGunzip } from 'node:zlib';
import type { FastifyInstance, FastifyReply, FastifyRequest } from 'fastify';
import { idOfAddress } from '@gull-pane/protocol/drawings';
import { Problem } from '../problem.ts';
import { PICTURES_FOLDER } from '../pyramid/picture-store.ts';
import { contentOf, idOf } from './drawings.ts';
import { DrawingsRepository } from './drawings-repository.ts';
import { sendBlob } from './send-blob.ts';
import type { Services } from './services.ts';

const TILE_NAME =
  /^(\d{1,9}\.(glb|detail|fills|objects)|\d{1,9}-(coarse|own)\d\.glb|shapes\d{1,9}\.bin|objects\.index|(texts|solid)\.json)$/;
const typeOf = (name: string): string =>
  name.endsWith('.glb')
    ? 'model/gltf-binary'
    : name.endsWith('.json')
      ? 'application/json'
      : 'application/octet-stream';
const REVISION = /^r(\d{1,9})$/;
const NUMBER = /^\d{1,9}$/;
const PICTURE_TILE = /^\d{1,9}_\d{1,9}\.(png|jpeg)$/;

/** Tiles are compressed when they are made. */
const asIs = { compress: false } as const;

const noSuchTile = (): Problem =>
  new Problem('not-found', { detail: 'The drawing has no such tile; it may have been imported anew.' });

/**
 * The display pyramid as 3D Tiles, and beside it where every object lies: the tileset by the drawing's address, the rest by
 * that of their revision, for good, so that any cache between may keep it.
 */
export function tileRoutes(app: FastifyInstance, { config, db, contents }: Services): void {
  const repository = new DrawingsRepository(db);
  const forGood = `${config.sharedCaches ? 'public' : 'private'}, max-age=31536000, immutable`;

  app.get(
    '/api/drawings/:id/tiles/tileset.json',
    async (request: FastifyRequest<{ Params: { id: string } }>, reply) => {
      const { id: address, revision } = await contentOf(repository, request);
      const id = idOfAddress(address);
      const etag = `"${id}-${revision}"`;
      void reply.header('etag', etag).header('cache-control', 'private, no-cache').type('application/json');
      if (request.headers['if-none-match'] === etag) return reply.status(304).send();
      const tileset = await contents.open(id, revision, 'tiles/tileset.json');
      if (!tileset) throw noSuchTile();
      return reply.send(tileset.stream);
    },
  );

  type OnePictureTile = FastifyRequest<{
    Params: { id: string; revision: string; source: string; level: string; name: string };
  }>;
  app.get(
    `/api/drawings/:id/tiles/:revision/${PICTURES_FOLDER}/:source/:level/:name`,
    asIs,
    async (request: OnePictureTile, reply) => {
      const id = idOf(request);
      const { revision, source, level, name } = request.params;
      const number = REVISION.exec(revision)?.[1];
      const isSound = number !== undefined && NUMBER.test(source) && NUMBER.test(level) && PICTURE_TILE.test(name);
      if (!isSound) throw new Problem('not-found');
      const path = `${PICTURES_FOLDER}/${source}/${level}/${name}`;
      void reply.type(name.endsWith('.png') ? 'image/png' : 'image/jpeg').header('cache-control', forGood);
      const etag = `"${id}-${number}-${source}-${level}-${name}"`;
      return sendBlob(request, reply, { etag }, (range) => contents.open(id, Number(number), path, range), noSuchTile);
    },
  );

  type OneTile = FastifyRequest<{ Params: { id: string; revision: string; tile: string } }>;
  app.get('/api/drawings/:id/tiles/:revision/:tile', asIs, async (request: OneTile, reply): Promise<FastifyReply> => {
    const id = idOf(request);
    const { revision, tile } = request.params;
    const number = REVISION.exec(revision)?.[1];
    if (number === undefined || !TILE_NAME.test(tile)) throw new Problem('not-found');
    void reply.type(typeOf(tile)).header('cache-control', forGood).header('vary', 'accept-encoding');
    const etag = `"${id}-${number}-${tile}`;
    const path = `tiles/${tile}.gz`;
    // as it was compressed when it was made; parts are parts of that
    if (/\bgzip\b/.test(request.headers['accept-encoding'] ?? '')) {
      return sendBlob(
        request,
        reply,
        { etag: `${etag}-gz"`, isGzip: true },
        (range) => contents.open(id, Number(number), path, range),
        noSuchTile,
      );
    }
    void reply.header('etag', `${etag}"`);
    if (request.headers['if-none-match'] === `${etag}"`) return reply.status(304).send();
    const found = await contents.open(id, Number(number), path);
    if (!found) throw noSuchTile();
    return reply.send(found.stream.pipe(createGunzip()));
  });
}
