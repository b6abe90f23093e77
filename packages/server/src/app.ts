import fastifyHelmet from '@fastify/helmet';
import fastifyMultipart from '@fastify/multipart';
import fastify, { type FastifyInstance } from 'fastify';
import { drawingRoutes } from './plugins/drawings.ts';
import { healthRoutes } from './plugins/health.ts';
import { jobRoutes } from './plugins/jobs.ts';
import { problemHandling } from './plugins/problems.ts';
import type { Services } from './plugins/services.ts';
import { tileRoutes } from './plugins/tiles.ts';
import { webApp } from './plugins/web-app.ts';

/** A capability of the server: adds its routes. A new one is a file in plugins/ and a name here. */
const capabilities: ((app: FastifyInstance, services: Services) => void)[] = [
  healthRoutes,
  drawingRoutes,
  jobRoutes,
  tileRoutes,
];

/** Puts the HTTP server together; it doesn't listen yet. */
export async function buildApp(services: Services): Promise<FastifyInstance> {
  const app = fastify({ forceCloseConnections: true });
  problemHandling(app);
  await app.register(fastifyHelmet, {
    strictTransportSecurity: false,
    contentSecurityPolicy: {
      useDefaults: false,
      directives: {
        defaultSrc: ["'self'"],
        scriptSrc: ["'self'", "'wasm-unsafe-eval'"],
        styleSrc: ["'self'", "'unsafe-inline'"], // the component library writes its styles at run time
        imgSrc: ["'self'", 'data:', 'blob:'],
        objectSrc: ["'none'"],
        baseUri: ["'self'"],
        frameAncestors: ["'none'"],
      },
    },
  });
  await app.register(fastifyMultipart, { limits: { files: 1, fileSize: services.config.maxUploadBytes } });
  for (const add of capabilities) add(app, services);
  await webApp(app);
  return app;
}
