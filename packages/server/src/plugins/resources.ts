import fastifyEtag from '@fastify/etag';
import type { FastifyInstance, FastifyReply, FastifyRequest } from 'fastify';
import { Problem } from '../problem.ts';
import { etagOf } from './versions.ts';

/** Items of a list in one answer, at most. */
const MOST_PER_PAGE = 1000;

/**
 * What all resources have in common: an ETag, by which a client asks whether it has changed (RFC 9110, 8.8.3), and lists that
 * come page by page where that is asked for (`limit`, `after`; the address of the next page as RFC 8288 says).
 */
export async function resources(app: FastifyInstance): Promise<void> {
  // weak: the same content may be compressed in several ways
  await app.register(fastifyEtag, { weak: true });
  app.addHook('preSerialization', (request, reply, payload: unknown, done) => {
    const version = versionIn(payload);
    if (version !== null && reply.statusCode < 300) void reply.header('etag', etagOf(version));
    try {
      done(null, Array.isArray(payload) ? pageOf(request, reply, payload as unknown[]) : payload);
    } catch (error) {
      done(error as Error);
    }
  });
}

function versionIn(payload: unknown): number | null {
  if (typeof payload !== 'object' || payload === null || !('version' in payload) || !('id' in payload)) return null;
  return typeof payload.version === 'number' ? payload.version : null;
}

/** @throws Problem bad-request for a limit that is none, or if the item that `after` names isn't there any more */
function pageOf(request: FastifyRequest, reply: FastifyReply, items: unknown[]): unknown[] {
  const { limit, after } = request.query as Record<string, string | undefined>;
  if (request.method !== 'GET' || (limit === undefined && after === undefined)) return items;
  const count = Number(limit ?? MOST_PER_PAGE);
  if (!Number.isInteger(count) || count < 1 || count > MOST_PER_PAGE)
    throw new Problem('bad-request', { detail: `limit must be a whole number from 1 to ${MOST_PER_PAGE}.` });
  const before = after === undefined ? -1 : items.findIndex((item) => keyOf(item) === after);
  if (after !== undefined && before < 0)
    throw new Problem('bad-request', {
      detail: 'The item that after names isn’t in the list any more: start again with the first page.',
    });
  const page = items.slice(before + 1, before + 1 + count);
  if (before + 1 + count < items.length) {
    const next = new URL(request.url, 'http://here');
    next.searchParams.set('limit', String(count));
    next.searchParams.set('after', keyOf(page.at(-1)));
    void reply.header('link', `<${next.pathname}${next.search}>; rel="next"`);
  }
  return page;
}

/** By what an item is named within its list. */
function keyOf(item: unknown): string {
  const { id, number, change, person } = item as Record<string, string | number | undefined>;
  return change === undefined ? String(id ?? number) : `${change} ${person}`;
}
