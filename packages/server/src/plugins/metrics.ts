import type { FastifyInstance } from 'fastify';
import { Counter, Gauge, Histogram, Registry, collectDefaultMetrics } from 'prom-client';
import type { Services } from './services.ts';

/** Upper bounds of times that requests are counted by, s. */
const BUCKETS_S = [0.005, 0.02, 0.1, 0.5, 2, 10, 60];

/** What the server has done, in the text format of Prometheus 0.0.4. */
export function metricsRoutes(app: FastifyInstance, { imports }: Services): void {
  const registry = new Registry();
  collectDefaultMetrics({ register: registry, prefix: 'gull_pane_' });
  const registers = [registry];
  const requests = new Histogram({
    name: 'gull_pane_request_seconds',
    help: 'Time of requests by route, method and status.',
    labelNames: ['route', 'method', 'status'],
    buckets: BUCKETS_S,
    registers,
  });
  const tiles = new Counter({ name: 'gull_pane_tiles_total', help: 'Tiles that were sent.', registers });
  const ended = new Counter({
    name: 'gull_pane_imports_total',
    help: 'Imports that have ended, by format and outcome.',
    labelNames: ['format', 'outcome'],
    registers,
  });
  registry.registerMetric(queueGauge(imports));
  imports.onEnded = (outcome, format) => ended.inc({ format, outcome });

  app.addHook('onResponse', (request, reply, done) => {
    // what has no route goes together: addresses that people make up don't become rows
    const route = request.routeOptions.url ?? 'none';
    const labels = { route, method: request.method, status: String(reply.statusCode) };
    requests.observe(labels, reply.elapsedTime / 1000);
    if (route.includes('/tiles/') && reply.statusCode === 200) tiles.inc();
    done();
  });

  app.get('/api/metrics', async (_request, reply) => reply.type(registry.contentType).send(await registry.metrics()));
}

/** Imports that wait, and that run: counted when the metrics are read. */
const queueGauge = (imports: Services['imports']): Gauge =>
  new Gauge({
    name: 'gull_pane_import_jobs',
    help: 'Imports that wait, and that run.',
    labelNames: ['state'],
    registers: [],
    async collect() {
      for (const [state, count] of Object.entries(await imports.counts())) this.set({ state }, count);
    },
  });
