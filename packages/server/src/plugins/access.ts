import { createHash, timingSafeEqual } from 'node:crypto';
import cookie from '@fastify/cookie';
import type { FastifyInstance, FastifyRequest } from 'fastify';
import { readDto } from '@gull-pane/protocol/dto';
import { operations } from '@gull-pane/protocol/openapi/operations';
import { allows, type Need } from '@gull-pane/protocol/roles';
import { OpenSessionDto, type SessionDto } from '@gull-pane/protocol/session';
import { signingSecret } from '../db/shared-settings.ts';
import { ANYBODY, TOKEN_HOLDER, type Person } from '../people/person.ts';
import { closeSession, openSession, readSession } from '../people/sessions.ts';
import { Problem } from '../problem.ts';
import { checked } from './checked.ts';
import type { Services } from './services.ts';

/** Tries to name the token, a minute. */
const TRIES_A_MINUTE = 10;

/** Finds out who sends a request. */
export async function people(app: FastifyInstance, { config, db }: Services): Promise<void> {
  await app.register(cookie, { secret: await signingSecret(db), algorithm: 'sha256' });
  app.decorateRequest('person', null);
  app.addHook('onRequest', (request: FastifyRequest, _reply, done) => {
    request.person = personOf(request);
    done();
  });

  const personOf = (request: FastifyRequest): Person | null => {
    const { token, openId } = config;
    if (token === null && openId === null) return ANYBODY;
    const bearer = /^Bearer (.+)$/.exec(request.headers.authorization ?? '')?.[1];
    if (token !== null && bearer !== undefined && isSame(bearer, token)) return TOKEN_HOLDER;
    return readSession(request);
  };
}

/** Where an access token or a sign-in service is set, each request needs a person whose role allows it. */
export function access(app: FastifyInstance, { config }: Services): void {
  const { token, openId } = config;
  const needs = new Map(operations.map(({ method, path, needs: need }) => [`${method.toUpperCase()} ${path}`, need]));
  app.addHook('onRequest', (request: FastifyRequest, _reply, done) => {
    const { method, url = '' } = request.routeOptions;
    const need = url.startsWith('/api/') ? needOf(needs, [method].flat()[0] ?? 'GET', url) : 'nothing';
    done(refusalOf(request.person, need) ?? undefined);
  });

  app.get('/api/session', (request): SessionDto => {
    const { person } = request;
    const ways = [...(openId === null ? [] : (['open-id'] as const)), ...(token === null ? [] : (['token'] as const))];
    return { ways, ...(person ? { person: { name: person.name, role: person.role } } : {}) };
  });

  const options = { config: { rateLimit: { max: TRIES_A_MINUTE, timeWindow: '1 minute' } } };
  app.post('/api/session', options, async (request, reply) => {
    const { token: named } = checked(() => readDto(OpenSessionDto, request.body));
    if (token !== null) {
      if (!isSame(named, token)) throw new Problem('wrong-token');
      openSession(request, reply, TOKEN_HOLDER);
    }
    return reply.status(204).send();
  });

  app.delete('/api/session', async (request, reply) => {
    closeSession(request, reply);
    return reply.status(204).send();
  });
}

/** @param url with parameters as the server's own routes have them */
function needOf(needs: ReadonlyMap<string, Need>, method: string, url: string): Need {
  const path = url.replaceAll(/:(\w+)/g, '{$1}');
  // HEAD needs what GET needs; tus asks for the offset of an upload with it
  const asked = method === 'HEAD' ? (needs.has(`GET ${path}`) ? 'GET' : 'PATCH') : method;
  // a route without an entry needs the highest role
  return needs.get(`${asked} ${path}`) ?? 'manage';
}

function refusalOf(person: Person | null, need: Need): Problem | null {
  if (need === 'nothing') return null;
  if (!person) return new Problem('token-needed');
  if (allows(person.role, need)) return null;
  return new Problem('not-allowed', { detail: `Your role is “${person.role}”; this needs the role “${need}”.` });
}

/** Compares in a time that tells nothing about where they differ. */
function isSame(a: string, b: string): boolean {
  const digest = (text: string): Buffer => createHash('sha256').update(text).digest();
  return timingSafeEqual(digest(a), digest(b));
}
