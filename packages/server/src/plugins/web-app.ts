import { existsSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import fastifyStatic from '@fastify/static';
import type { FastifyInstance } from 'fastify';
import { Problem } from '../problem.ts';

/** The built front end, and its page for every address that isn't the API's. */
export async function webApp(app: FastifyInstance): Promise<void> {
  const root = ['../../web/dist', '../../../web/dist']
    .map((path) => fileURLToPath(new URL(path, import.meta.url)))
    .find((path) => existsSync(path));
  if (root === undefined) return; // `npm run dev` serves it itself
  await app.register(fastifyStatic, {
    root,
    wildcard: false,
    preCompressed: true, // the build leaves .br and .gz beside the files
    setHeaders: (reply, path) => {
      const isHashed = path.includes('/assets/');
      void reply.header('cache-control', isHashed ? 'public, max-age=31536000, immutable' : 'no-cache');
    },
  });
  app.get('/*', (request, reply) => {
    if (request.url.startsWith('/api/')) throw new Problem('not-found');
    return reply.sendFile('index.html');
  });
}
