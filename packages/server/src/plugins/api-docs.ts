import { createReadStream } from 'node:fs';
import { join } from 'node:path';
import type { FastifyInstance, FastifyRequest } from 'fastify';
import { absolutePath } from 'swagger-ui-dist';
import { Problem } from '../problem.ts';

/** What the page consists of; the rest of the package isn't served. */
const assets: Readonly<Record<string, string>> = {
  'swagger-ui.css': 'text/css',
  'swagger-ui-bundle.js': 'text/javascript',
};

const page = `<!doctype html>
<html lang="en">
<head>
<meta charset="utf-8">
<meta name="viewport" content="width=device-width">
<title>Interface · Gull Pane</title>
<link rel="stylesheet" href="/api/docs/swagger-ui.css">
</head>
<body>
<main id="interface"></main>
<script src="/api/docs/swagger-ui-bundle.js"></script>
<script src="/api/docs/begin.js"></script>
</body>
</html>
`;

const begin = `SwaggerUIBundle({ url: '/api/openapi.json', dom_id: '#interface', deepLinking: true, docExpansion: 'list', defaultModelsExpandDepth: -1 });
`;

/** The interface as a page to read and try out; all of it comes with the server. */
export function apiDocsRoutes(app: FastifyInstance): void {
  app.get('/api/docs', (_request, reply) => reply.type('text/html; charset=utf-8').send(page));

  app.get('/api/docs/:asset', (request: FastifyRequest<{ Params: { asset: string } }>, reply) => {
    const { asset } = request.params;
    if (asset === 'begin.js') return reply.type('text/javascript').send(begin);
    const type = assets[asset];
    if (type === undefined) throw new Problem('not-found');
    return reply.type(type).send(createReadStream(join(absolutePath(), asset)));
  });
}
