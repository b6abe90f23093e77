import type { FastifyInstance } from 'fastify';
import { openApiDocument } from '@gull-pane/protocol/openapi/document';

/** The description of the interface for machines. */
export function openApiRoutes(app: FastifyInstance): void {
  const document = openApiDocument();
  app.get('/api/openapi.json', () => document);
}
