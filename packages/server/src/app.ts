import { constants } from 'node:zlib';
import fastifyCompress from '@fastify/compress';
import fastifyHelmet from '@fastify/helmet';
import fastifyMultipart from '@fastify/multipart';
import fastifyRateLimit from '@fastify/rate-limit';
import fastify, { type FastifyInstance } from 'fastify';
import { access, people } from './plugins/access.ts';
import { apiDocsRoutes } from './plugins/api-docs.ts';
import { arrangementRoutes } from './plugins/arrangements.ts';
import { backupRoutes } from './plugins/backups.ts';
import { cardRoutes } from './plugins/cards.ts';
import { drawingRoutes } from './plugins/drawings.ts';
import { eventRoutes } from './plugins/events.ts';
import { exportRoutes } from './plugins/exports.ts';
import { healthRoutes } from './plugins/health.ts';
import { jobRoutes } from './plugins/jobs.ts';
import { linkRoutes } from './plugins/links.ts';
import { markRoutes } from './plugins/marks.ts';
import { metricsRoutes } from './plugins/metrics.ts';
import { loopbackGuard } from './plugins/loopback-guard.ts';
import { openApiRoutes } from './plugins/openapi.ts';
import { packageRoutes } from './plugins/packages.ts';
import { problemHandling } from './plugins/problems.ts';
import { resources } from './plugins/resources.ts';
import { revisionRoutes } from './plugins/revisions.ts';
import { seenRoutes } from './plugins/seen.ts';
import type { Services } from './plugins/services.ts';
import { tileRoutes } from './plugins/tiles.ts';
import { printRoutes } from './plugins/print.ts';
import { signInRoutes } from './plugins/sign-in.ts';
import { sheetSetRoutes } from './plugins/sheet-sets.ts';
import { tourRoutes } from './plugins/tours.ts';
import { trailRoutes } from './plugins/trails.ts';
import { uploadRoutes } from './plugins/uploads.ts';
import { Problem } from './problem.ts';
import { webApp } from './plugins/web-app.ts';

/** What those need who watch a server. */
const watching = [healthRoutes, metricsRoutes];

/** A capability of the server: adds its routes. A new one is a file in plugins/ and a name here. */
const capabilities: ((app: FastifyInstance, services: Services) => void)[] = [
  openApiRoutes,
  apiDocsRoutes,
  signInRoutes,
  drawingRoutes,
  uploadRoutes,
  jobRoutes,
  tileRoutes,
  revisionRoutes,
  seenRoutes,
  trailRoutes,
  cardRoutes,
  arrangementRoutes,
  printRoutes,
  sheetSetRoutes,
  tourRoutes,
  markRoutes,
  exportRoutes,
  packageRoutes,
  backupRoutes,
  eventRoutes,
  linkRoutes,
];

/** Largest body that isn't a file. */
const MAX_JSON_BYTES = 64 * 1024;
/** A shorter answer isn't worth compressing. */
const LEAST_COMPRESSED_BYTES = 1024;
/** Of 0 to 11: nearly as small as the best, at a fiftieth of its time. */
const BROTLI_QUALITY = 5;
/** Requests a minute of one person, or of one address where people aren't known: a pane that flies over a large drawing asks for some thousand tiles. */
const REQUESTS_A_MINUTE = 12_000;

/**
 * Puts the HTTP server together; it doesn't listen yet.
 * @param onRoute told of every route below /api/
 */
export async function buildApp(services: Services, onRoute: (route: string) => void): Promise<FastifyInstance> {
  const app = fastify({
    forceCloseConnections: true,
    bodyLimit: MAX_JSON_BYTES,
    trustProxy: services.config.trustProxy,
    // lines of JSON with the id of the request; what requests and answers hold is never written
    logger: services.config.log === 'off' ? false : { level: services.config.log },
  });
  app.addHook('onRoute', ({ method, url }) => {
    if (!url.startsWith('/api/')) return;
    for (const name of [method].flat()) if (name !== 'HEAD') onRoute(`${name} ${url.replaceAll(/:(\w+)/g, '{$1}')}`);
  });
  problemHandling(app, services.config.log !== 'off');
  await app.register(fastifyHelmet, {
    strictTransportSecurity: false,
    contentSecurityPolicy: {
      useDefaults: false,
      directives: {
        defaultSrc: ["'self'"],
        scriptSrc: ["'self'", "'wasm-unsafe-eval'"],
        styleSrc: ["'self'", "'unsafe-inline'"], // the component library writes its styles at run time
        imgSrc: ["'self'", 'data:', 'blob:'],
        // a browser shows a printed file in a frame, with what it calls a plug-in
        frameSrc: ['blob:'],
        objectSrc: ['blob:'],
        baseUri: ["'self'"],
        frameAncestors: ["'none'"],
      },
    },
  });
  await people(app, services);
  await app.register(fastifyRateLimit, {
    global: true,
    // people of one office often share an address
    keyGenerator: ({ person, ip }) => (person === null || person.id === '' ? ip : `person ${person.id}`),
    max: REQUESTS_A_MINUTE,
    timeWindow: '1 minute',
    errorResponseBuilder: () => new Problem('too-many-requests'),
  });
  await resources(app);
  await app.register(fastifyCompress, {
    global: true,
    threshold: LEAST_COMPRESSED_BYTES,
    encodings: ['br', 'gzip'],
    customTypes: /^application\/(json|problem\+json)/,
    brotliOptions: { params: { [constants.BROTLI_PARAM_QUALITY]: BROTLI_QUALITY } },
  });
  loopbackGuard(app, services);
  access(app, services);
  await app.register(fastifyMultipart, { limits: { files: 1, fileSize: services.config.maxUploadBytes } });
  for (const add of watching) add(app, services);
  if (!services.config.roles.has('web')) return app;
  for (const add of capabilities) add(app, services);
  await webApp(app);
  return app;
}
