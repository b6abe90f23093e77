import type { FastifyInstance, FastifyRequest } from 'fastify';
import { isLoopback } from '../config.ts';
import { Problem } from '../problem.ts';
import type { Services } from './services.ts';

/**
 * A page of another site, open in the same browser, must neither read nor drive this server. Names that are not ours
 * are refused (they could be pointed here after the browser's checks), and so is what another site's page sends.
 */
export function loopbackGuard(app: FastifyInstance, { config }: Services): void {
  const own = config.publicUrl === null ? null : new URL(config.publicUrl).host;
  const isOurs = (host: string): boolean =>
    !isLoopback(config.host) || isLoopback(hostName(host)) || (own !== null && host === own);
  app.addHook('onRequest', (request: FastifyRequest, _reply, done) => {
    const { host = '', origin, 'sec-fetch-site': site } = request.headers;
    if (!isOurs(host)) {
      done(new Problem('foreign-host', { detail: `The request was sent to “${host.slice(0, 100)}”.` }));
      return;
    }
    const isForeign = origin !== undefined && origin !== `http://${host}` && origin !== `https://${host}`;
    // the sign-in service leads people back with a link; everything about it is checked there
    const isCrossSite =
      (site === 'cross-site' || site === 'same-site') &&
      request.url.startsWith('/api/') &&
      request.routeOptions.url !== '/api/session/callback';
    if (isForeign || isCrossSite) {
      done(
        new Problem('foreign-origin', { detail: `The request came from ${(origin ?? 'another site').slice(0, 100)}.` }),
      );
      return;
    }
    done();
  });
}

/** The name in a Host header, without the port. */
function hostName(host: string): string {
  const bracketed = /^\[([^\]]+)\](?::\d+)?$/.exec(host);
  return bracketed ? bracketed[1]! : host.replace(/:\d+$/, '');
}
