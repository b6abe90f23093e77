import type { FastifyInstance, FastifyReply, FastifyRequest } from 'fastify';
import { OpenId, type SignInBegun } from '../people/open-id.ts';
import { cookieOptions, openSession, readSigned } from '../people/sessions.ts';
import { Problem } from '../problem.ts';
import type { Services } from './services.ts';

const COOKIE = 'gull_pane_sign_in';
/** How long somebody may take at the service, s. */
const PATIENCE_S = 15 * 60;
const CALLBACK = '/api/session/callback';

/** People sign in at a service that is set, and come back to where they were. */
export function signInRoutes(app: FastifyInstance, { config }: Services): void {
  const openId = config.openId === null ? null : new OpenId(config.openId);
  const baseOf = ({ protocol, host }: FastifyRequest): string => config.publicUrl ?? `${protocol}://${host}`;

  type WithTarget = FastifyRequest<{ Querystring: { to?: string } }>;
  app.get('/api/session/sign-in', async (request: WithTarget, reply): Promise<FastifyReply> => {
    if (!openId) throw new Problem('not-found', { detail: 'No sign-in service is set.' });
    const { url, begun } = await openId
      .begin(new URL(CALLBACK, baseOf(request)), pathWithin(request.query.to))
      .catch((error: unknown) => {
        throw unreachable(error);
      });
    void reply.setCookie(COOKIE, Buffer.from(JSON.stringify(begun)).toString('base64url'), {
      ...cookieOptions(request),
      // it has to come along when the service sends people back
      sameSite: 'lax',
      maxAge: PATIENCE_S,
    });
    return reply.header('cache-control', 'no-store').redirect(url.href);
  });

  app.get(CALLBACK, async (request, reply): Promise<FastifyReply> => {
    const begun = readSigned(request, COOKIE) as SignInBegun | null;
    if (!openId || !begun)
      throw new Problem('sign-in-failed', { detail: 'It was begun in another browser, or long ago.' });
    void reply.clearCookie(COOKIE, cookieOptions(request)).header('cache-control', 'no-store');
    const person = await openId.end(new URL(request.url, baseOf(request)), begun).catch((error: unknown) => {
      throw new Problem('sign-in-failed', { detail: error instanceof Error ? error.message : String(error) });
    });
    if (!person) throw new Problem('not-allowed', { detail: 'The sign-in service gives you no role here.' });
    openSession(request, reply, person);
    return reply.redirect(begun.to);
  });
}

/** @returns an address within this application, whatever is asked for */
function pathWithin(to: string | undefined): string {
  const url = URL.canParse(to ?? '', 'http://here') ? new URL(to!, 'http://here') : null;
  return url?.host === 'here' && !url.pathname.startsWith('//') ? `${url.pathname}${url.search}${url.hash}` : '/';
}

const unreachable = (error: unknown): Problem =>
  new Problem('sign-in-failed', {
    detail: `The sign-in service doesn’t answer as it should: ${error instanceof Error ? error.message : String(error)}.`,
  });
