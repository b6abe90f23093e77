import { createHash, randomBytes, timingSafeEqual } from 'node:crypto';
import cookie from '@fastify/cookie';
import type { FastifyInstance, FastifyRequest } from 'fastify';
import { readDto } from '@gull-pane/protocol/dto';
import { OpenSessionDto } from '@gull-pane/protocol/session';
import { Problem } from '../problem.ts';
import { checked } from './checked.ts';
import type { Services } from './services.ts';

const COOKIE = 'gull_pane_session';
/** Tries to name the token, a minute. */
const TRIES_A_MINUTE = 10;

/** Where an access token is set, nothing is answered before it was named; without one, this does nothing. */
export async function access(app: FastifyInstance, { config }: Services): Promise<void> {
  await app.register(cookie);
  const { token } = config;
  const sessions = new Set<string>();
  const free = new Set(['/api/health', '/api/ready', '/api/session']);
  const isFree = (url: string): boolean => free.has(url) || !url.startsWith('/api/');
  app.addHook('onRequest', (request: FastifyRequest, _reply, done) => {
    const [path = ''] = request.url.split('?');
    if (token === null || isFree(path)) {
      done();
      return;
    }
    const bearer = /^Bearer (.+)$/.exec(request.headers.authorization ?? '')?.[1];
    const isKnown = (bearer !== undefined && isSame(bearer, token)) || sessions.has(request.cookies[COOKIE] ?? '');
    done(isKnown ? undefined : new Problem('token-needed'));
  });

  const options = { config: { rateLimit: { max: TRIES_A_MINUTE, timeWindow: '1 minute' } } };
  app.post('/api/session', options, async (request, reply) => {
    const { token: named } = checked(() => readDto(OpenSessionDto, request.body));
    if (token !== null) {
      if (!isSame(named, token)) throw new Problem('wrong-token');
      const session = randomBytes(32).toString('base64url');
      sessions.add(session);
      void reply.setCookie(COOKIE, session, { httpOnly: true, sameSite: 'strict', path: '/', maxAge: 30 * 24 * 3600 });
    }
    return reply.status(204).send();
  });
}

/** Compares in a time that tells nothing about where they differ. */
function isSame(a: string, b: string): boolean {
  const digest = (text: string): Buffer => createHash('sha256').update(text).digest();
  return timingSafeEqual(digest(a), digest(b));
}
