/** A small provider of OpenID Connect that signs everybody in at once, as whom a test says. For tests. */
import { createHash, createSign, generateKeyPairSync, randomUUID } from 'node:crypto';
import { createServer, type IncomingMessage, type Server, type ServerResponse } from 'node:http';
import { once } from 'node:events';
import type { AddressInfo } from 'node:net';

export const CLIENT = { id: 'gull-pane', secret: 'made-up-for-tests' } as const;

interface Code {
  readonly nonce: string;
  readonly challenge: string;
  readonly redirectUri: string;
}

export class OpenIdStandIn {
  /** Claims of who signs in next. */
  claims: Record<string, unknown> = { sub: 'rike', name: 'Rike Holm', roles: ['gull-pane-mark'] };
  /** The token that is handed out is signed with another key than the one that is published. */
  isForging = false;
  readonly #codes = new Map<string, Code>();
  readonly #keys = generateKeyPairSync('rsa', { modulusLength: 2048 });
  readonly #otherKeys = generateKeyPairSync('rsa', { modulusLength: 2048 });

  private constructor(private readonly server: Server) {}

  static async start(): Promise<OpenIdStandIn> {
    const server = createServer();
    const provider = new OpenIdStandIn(server);
    server.on('request', (request, response) => {
      provider.#answer(request, response).catch(() => response.destroy());
    });
    server.listen(0, '127.0.0.1');
    await once(server, 'listening');
    return provider;
  }

  get issuer(): string {
    return `http://127.0.0.1:${(this.server.address() as AddressInfo).port}`;
  }

  /** What a server under test needs in its environment. */
  get env(): Record<string, string> {
    return {
      GULL_PANE_OIDC_ISSUER: this.issuer,
      GULL_PANE_OIDC_CLIENT_ID: CLIENT.id,
      GULL_PANE_OIDC_CLIENT_SECRET: CLIENT.secret,
    };
  }

  async stop(): Promise<void> {
    this.server.closeAllConnections();
    this.server.close();
    await once(this.server, 'close');
  }

  async #answer(request: IncomingMessage, response: ServerResponse): Promise<void> {
    const url = new URL(request.url ?? '/', this.issuer);
    const pieces: Buffer[] = [];
    for await (const piece of request) pieces.push(piece as Buffer);
    const form = new URLSearchParams(Buffer.concat(pieces).toString());
    const { issuer } = this;
    if (url.pathname === '/.well-known/openid-configuration')
      send(response, 200, {
        issuer,
        authorization_endpoint: `${issuer}/authorize`,
        token_endpoint: `${issuer}/token`,
        jwks_uri: `${issuer}/keys`,
        response_types_supported: ['code'],
        subject_types_supported: ['public'],
        id_token_signing_alg_values_supported: ['RS256'],
        code_challenge_methods_supported: ['S256'],
      });
    else if (url.pathname === '/keys')
      send(response, 200, {
        keys: [{ ...this.#keys.publicKey.export({ format: 'jwk' }), kid: 'one', alg: 'RS256', use: 'sig' }],
      });
    else if (url.pathname === '/authorize') this.#authorize(url, response);
    else if (url.pathname === '/token') this.#token(request, form, response);
    else send(response, 404, {});
  }

  #authorize({ searchParams }: URL, response: ServerResponse): void {
    const asked = (name: string): string => searchParams.get(name) ?? '';
    const isSound =
      asked('client_id') === CLIENT.id &&
      asked('response_type') === 'code' &&
      asked('code_challenge_method') === 'S256' &&
      asked('scope').split(' ').includes('openid');
    if (!isSound) {
      send(response, 400, { error: 'invalid_request' });
      return;
    }
    const code = randomUUID();
    this.#codes.set(code, {
      nonce: asked('nonce'),
      challenge: asked('code_challenge'),
      redirectUri: asked('redirect_uri'),
    });
    const back = new URL(asked('redirect_uri'));
    back.searchParams.set('code', code);
    back.searchParams.set('state', asked('state'));
    response.writeHead(302, { location: back.href }).end();
  }

  #token({ headers }: IncomingMessage, form: URLSearchParams, response: ServerResponse): void {
    const basic = Buffer.from(/^Basic (.+)$/.exec(headers.authorization ?? '')?.[1] ?? '', 'base64').toString();
    const [id, secret] = basic === '' ? [form.get('client_id'), form.get('client_secret')] : basic.split(':');
    if (id !== CLIENT.id || secret !== CLIENT.secret) {
      send(response, 401, { error: 'invalid_client' });
      return;
    }
    const code = this.#codes.get(form.get('code') ?? '');
    this.#codes.delete(form.get('code') ?? ''); // each is good for once
    const challenge = createHash('sha256')
      .update(form.get('code_verifier') ?? '')
      .digest('base64url');
    if (!code || code.challenge !== challenge || code.redirectUri !== form.get('redirect_uri')) {
      send(response, 400, { error: 'invalid_grant' });
      return;
    }
    const now = Math.floor(Date.now() / 1000);
    const claims = { iss: this.issuer, aud: CLIENT.id, iat: now, exp: now + 300, nonce: code.nonce, ...this.claims };
    send(response, 200, {
      access_token: randomUUID(),
      token_type: 'bearer',
      expires_in: 300,
      id_token: this.#sign(claims),
    });
  }

  #sign(claims: object): string {
    const text = [{ alg: 'RS256', kid: 'one', typ: 'JWT' }, claims]
      .map((part) => Buffer.from(JSON.stringify(part)).toString('base64url'))
      .join('.');
    const { privateKey } = this.isForging ? this.#otherKeys : this.#keys;
    return `${text}.${createSign('RSA-SHA256').update(text).sign(privateKey, 'base64url')}`;
  }
}

function send(response: ServerResponse, status: number, body: object): void {
  response.writeHead(status, { 'content-type': 'application/json', 'cache-control': 'no-store' });
  response.end(JSON.stringify(body));
}
