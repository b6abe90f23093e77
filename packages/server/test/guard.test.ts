import { request } from 'node:http';
import { OpenApi } from './open-api.ts';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { configFromEnvironment } from '../src/config.ts';
import { TestServer, problemOf, smallPlan } from './running-server.ts';

let server: TestServer;
beforeAll(async () => {
  server = await TestServer.start();
});
afterAll(() => server.stop());

/** Sends headers that `fetch` would not. */
function raw(path: string, headers: Record<string, string>, method = 'GET'): Promise<{ status: number; body: string }> {
  const { hostname, port } = new URL(server.running.url);
  return new Promise((resolve, reject) => {
    const sent = request({ hostname, port, path, method, headers }, (response) => {
      let body = '';
      response.on('data', (chunk) => (body += String(chunk)));
      response.on('end', () => resolve({ status: response.statusCode!, body }));
    });
    sent.on('error', reject);
    sent.end();
  });
}

describe('a foreign page', () => {
  it.each(['evil.example', 'evil.example:4180', '10.0.0.9', '127.0.0.1.evil.example'])(
    'can’t come by the name %s',
    async (host) => {
      const { status, body } = await raw('/api/drawings', { host });
      expect(status).toBe(403);
      expect(JSON.parse(body)).toMatchObject({ code: 'foreign-host' });
    },
  );

  it.each(['localhost:80', '127.0.0.1:4180', '[::1]:4180'])('our own name %s is answered', async (host) => {
    expect((await raw('/api/health', { host })).status).toBe(200);
  });

  it('can’t send or read anything', async () => {
    const { host } = new URL(server.running.url);
    for (const origin of ['http://evil.example', 'null', `https://evil.example:${host.split(':')[1]!}`]) {
      for (const method of ['GET', 'POST', 'DELETE']) {
        const { status, body } = await raw('/api/drawings', { host, origin }, method);
        expect(status).toBe(403);
        expect(JSON.parse(body)).toMatchObject({ code: 'foreign-origin' });
      }
    }
    expect((await raw('/api/drawings', { host, 'sec-fetch-site': 'cross-site' })).status).toBe(403);
    expect(
      (await raw('/api/drawings', { host, origin: `http://${host}`, 'sec-fetch-site': 'same-origin' })).status,
    ).toBe(200);
  });

  it('finds a policy without inline script, and nothing that lets it in', async () => {
    const { headers } = await server.fetch('/api/drawings');
    const policy = headers.get('content-security-policy')!;
    expect(policy).toContain("script-src 'self' 'wasm-unsafe-eval'");
    expect(policy).not.toMatch(/script-src[^;]*unsafe-inline/);
    expect(policy).toContain("frame-ancestors 'none'");
    expect(headers.get('access-control-allow-origin')).toBeNull();
    expect(headers.get('cross-origin-resource-policy')).toBe('same-origin');
    expect(headers.get('x-content-type-options')).toBe('nosniff');
  });
});

describe('what is sent', () => {
  it('has a limit', async () => {
    const { drawing } = await server.import(smallPlan);
    const response = await server.fetch(`/api/drawings/${drawing.id}`, {
      method: 'PATCH',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify({ name: 'x'.repeat(100_000) }),
    });
    expect(response.status).toBe(413);
  });

  it('can’t leave its folder by any name', async () => {
    for (const name of ['../../outside.svg', '..\\..\\outside.svg', '/etc/outside.svg', 'a\u0000b.svg']) {
      const { drawing } = await server.import(smallPlan, name);
      expect(drawing.name).not.toMatch(/[/\\\u0000]/);
      expect(drawing.status).toBe('ready');
    }
    for (const path of ['/..%2f..%2fpackage.json', '/assets/..%2f..%2f..%2fpackage.json', '/api/drawings/..%2f..']) {
      expect(await (await server.fetch(path)).text()).not.toContain('workspaces');
    }
  });

  it.each([
    ['a song', Uint8Array.of(0x49, 0x44, 0x33, 4, 0, 0, 0, 0)],
    ['a program', Uint8Array.of(0x7f, 0x45, 0x4c, 0x46, 2, 1, 1, 0)],
    ['plain text', 'Kelpie Sound, sheet 3'],
  ])('is refused at once where it is %s', async (_what, content) => {
    const response = await server.upload(content, 'Plan.svg');
    expect(response.status).toBe(422);
    expect((await problemOf(response)).code).toBe('not-svg');
  });
});

describe('the description of the interface', () => {
  it('is valid OpenAPI 3.1 and names every route there is, and no other', async () => {
    const { valid, errors, paths } = await OpenApi.check(await server.json('/api/openapi.json'));
    expect(errors).toEqual([]);
    expect(valid).toBe(true);
    expect(paths).toEqual([...server.running.routes].sort());
  });
});

describe('a server for other machines', () => {
  const token = 'a-secret-of-the-works';

  it('doesn’t start without a token', () => {
    for (const GULL_PANE_TOKEN of ['', 'short']) {
      expect(() => configFromEnvironment({ HOST: '0.0.0.0', GULL_PANE_TOKEN })).toThrow(/set GULL_PANE_TOKEN/);
    }
    expect(configFromEnvironment({ HOST: '0.0.0.0', GULL_PANE_TOKEN: token }).token).toBe(token);
  });

  it('answers only who has named its token', async () => {
    const guarded = await TestServer.start({ GULL_PANE_TOKEN: token });
    try {
      expect((await guarded.fetch('/api/health')).status).toBe(200);
      const refused = await guarded.fetch('/api/drawings');
      expect(refused.status).toBe(401);
      expect((await problemOf(refused)).code).toBe('token-needed');
      expect((await guarded.fetch('/api/drawings', { headers: { authorization: `Bearer ${token}` } })).status).toBe(
        200,
      );
      const name = (text: string): Promise<Response> =>
        guarded.fetch('/api/session', {
          method: 'POST',
          headers: { 'content-type': 'application/json' },
          body: JSON.stringify({ token: text }),
        });
      expect((await problemOf(await name('another'))).code).toBe('wrong-token');
      const opened = await name(token);
      expect(opened.status).toBe(204);
      const [cookie] = opened.headers.getSetCookie();
      expect(cookie).toMatch(/HttpOnly/);
      expect(cookie).toMatch(/SameSite=Strict/);
      expect((await guarded.fetch('/api/drawings', { headers: { cookie: cookie!.split(';')[0]! } })).status).toBe(200);
      for (let i = 0; i < 12; i++) await name(`guess ${i}`);
      const tired = await name(token);
      expect(tired.status).toBe(429);
      expect((await problemOf(tired)).code).toBe('too-many-requests');
    } finally {
      await guarded.stop();
    }
  });
});
