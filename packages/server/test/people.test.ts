/** Who may do what: people sign in at a service, have a role, and each route says which it needs. */
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { operations } from '@gull-pane/protocol/openapi/operations';
import { allows, roles, type Role } from '@gull-pane/protocol/roles';
import type { SessionDto } from '@gull-pane/protocol/session';
import { configFromEnvironment } from '../src/config.ts';
import { TestServer, problemOf, smallPlan } from './running-server.ts';
import { OpenIdStandIn } from './stand-ins/open-id-stand-in.ts';

let provider: OpenIdStandIn;
let server: TestServer;
const TOKEN = 'kelpie-sound-programs';
beforeAll(async () => {
  provider = await OpenIdStandIn.start();
  server = await TestServer.start({ ...provider.env, GULL_PANE_TOKEN: TOKEN });
});
afterAll(async () => {
  await server.stop();
  await provider.stop();
});

const cookiesOf = (response: Response): string =>
  response.headers
    .getSetCookie()
    .map((one) => one.split(';')[0]!)
    .join('; ');
const follow = { redirect: 'manual' } as const;

/** Goes through the whole sign-in, as a browser does. */
async function comeBack(to = '/'): Promise<Response> {
  const begun = await server.fetch(`/api/session/sign-in?to=${encodeURIComponent(to)}`, follow);
  expect(begun.status).toBe(302);
  const atService = await fetch(begun.headers.get('location')!, follow);
  expect(atService.status).toBe(302);
  return fetch(atService.headers.get('location')!, { ...follow, headers: { cookie: cookiesOf(begun) } });
}

async function signIn(claims: Record<string, unknown>): Promise<{ cookie: string }> {
  provider.claims = claims;
  const back = await comeBack();
  expect(back.status).toBe(302);
  return { cookie: cookiesOf(back) };
}

describe('people who sign in', () => {
  it('come back to where they were, with their name and role', async () => {
    provider.claims = { sub: 'rike', name: 'Rike Holm', roles: ['office', 'gull-pane-mark'] };
    const back = await comeBack('/d/0417?at=1,2');
    expect(back.headers.get('location')).toBe('/d/0417?at=1,2');
    const cookie = cookiesOf(back);
    const session = await server.fetch('/api/session', { headers: { cookie } });
    expect(await session.json()).toEqual({
      ways: ['open-id', 'token'],
      person: { name: 'Rike Holm', role: 'mark' },
    } satisfies SessionDto);
    expect((await server.fetch('/api/drawings', { headers: { cookie } })).status).toBe(200);
  });

  it('aren’t led anywhere else', async () => {
    for (const to of ['https://evil.example/', '//evil.example/x', '/\\evil.example', 'javascript:alert(1)'])
      expect((await comeBack(to)).headers.get('location')).toMatch(/^\/(?![/\\])/);
  });

  it('have the most that their claim allows; else what is usual', async () => {
    const roleOf = async (claims: Record<string, unknown>): Promise<Role> => {
      const { cookie } = await signIn(claims);
      const session = (await (await server.fetch('/api/session', { headers: { cookie } })).json()) as SessionDto;
      return session.person!.role;
    };
    expect(await roleOf({ sub: 'a', roles: ['look', 'manage'] })).toBe('manage');
    expect(await roleOf({ sub: 'a', roles: 'gull-pane:mark' })).toBe('mark');
    expect(await roleOf({ sub: 'a', roles: ['manager', 7, null] })).toBe('look');
    expect(await roleOf({ sub: 'a' })).toBe('look');
  });

  it('are told why where it fails: another browser, a used code, a forged token, a wrong state', async () => {
    const begun = await server.fetch('/api/session/sign-in', follow);
    const atService = await fetch(begun.headers.get('location')!, follow);
    const back = atService.headers.get('location')!;
    const failed = async (response: Response): Promise<void> => {
      expect(response.status).toBe(401);
      expect(await problemOf(response)).toMatchObject({ code: 'sign-in-failed' });
      expect(response.headers.getSetCookie().join()).not.toContain('gull_pane_session');
    };
    await failed(await fetch(back, follow));
    const cookie = cookiesOf(begun);
    await failed(await fetch(back.replace(/state=[^&]*/, 'state=other'), { ...follow, headers: { cookie } }));
    expect((await fetch(back, { ...follow, headers: { cookie } })).status).toBe(302);
    await failed(await fetch(back, { ...follow, headers: { cookie } }));
    provider.isForging = true;
    await failed(await comeBack());
    provider.isForging = false;
  });

  it('sign out; a cookie that was changed counts for nothing', async () => {
    const { cookie } = await signIn({ sub: 'b', roles: ['look'] });
    const gone = await server.fetch('/api/session', { method: 'DELETE', headers: { cookie } });
    expect(gone.headers.getSetCookie().join()).toMatch(/gull_pane_session=;/);
    const [name, value] = cookie.split('=') as [string, string];
    const [content, signature] = decodeURIComponent(value).split('.') as [string, string];
    const more = Buffer.from(Buffer.from(content, 'base64url').toString().replace('"look"', '"manage"'));
    const forged = `${name}=${encodeURIComponent(`${more.toString('base64url')}.${signature}`)}`;
    expect((await server.fetch('/api/drawings', { headers: { cookie: forged } })).status).toBe(401);
  });

  it('what they say of changes is theirs, whatever name a request gives', async () => {
    const manage = { authorization: `Bearer ${TOKEN}` };
    const body = new FormData();
    body.append('file', new File([smallPlan], 'Plan.svg'));
    const sent = await server.fetch('/api/drawings', { method: 'POST', headers: manage, body });
    const { drawingId, jobId } = (await sent.json()) as { drawingId: string; jobId: string };
    const state = async (): Promise<string> =>
      ((await (await server.fetch(`/api/jobs/${jobId}`, { headers: manage })).json()) as { state: string }).state;
    await expect.poll(state, { timeout: 400_000 }).toBe('done');
    const rike = await signIn({ sub: 'rike', name: 'Rike Holm', roles: ['look'] });
    const ole = await signIn({ sub: 'ole', name: 'Ole Brandt', roles: ['look'] });
    const put = await server.fetch(`/api/drawings/${drawingId}/seen?person=Ole%20Brandt`, {
      method: 'PUT',
      headers: { ...rike, 'content-type': 'application/json' },
      body: JSON.stringify({ bits: 'BQ==' }),
    });
    expect(put.status).toBe(204);
    const seen = async (headers: Record<string, string>): Promise<unknown> =>
      (await server.fetch(`/api/drawings/${drawingId}/seen?person=Rike%20Holm`, { headers })).json();
    expect(await seen(ole)).toEqual({ bits: '' });
    expect(await seen(rike)).toEqual({ bits: 'BQ==' });
  });
});

it('limits count for each person, not for the address that they share', async () => {
  const [rike, ole] = [await signIn({ sub: 'rike' }), await signIn({ sub: 'ole' })];
  const left = async (headers: Record<string, string>): Promise<number> =>
    Number((await server.fetch('/api/drawings', { headers })).headers.get('x-ratelimit-remaining'));
  const before = await left(ole);
  for (let k = 0; k < 5; k++) await left(rike);
  expect(await left(ole)).toBe(before - 1);
});

describe('every route', () => {
  const headersOf: Partial<Record<Role | 'nobody', Record<string, string>>> = { nobody: {} };
  beforeAll(async () => {
    for (const role of roles) headersOf[role] = await signIn({ sub: `of ${role}`, name: role, roles: [role] });
  });

  it('says what it needs', () => {
    const named = operations.map(({ method, path }) => `${method.toUpperCase()} ${path}`);
    const unnamed = server.running.routes.filter((route) => !named.includes(route));
    expect(unnamed).toEqual([]);
  });

  it.each(operations.map((operation) => [`${operation.method.toUpperCase()} ${operation.path}`, operation] as const))(
    '%s is allowed for the roles that it names, and no others',
    async (_name, { method, path, needs }) => {
      // an id that doesn't exist: an allowed request gets another error
      const url = path.replaceAll(/\{\w+\}/g, '00000000-0000-4000-8000-000000000000');
      for (const [who, headers] of Object.entries(headersOf)) {
        if (path === '/api/restore' && who === 'manage') continue; // an empty restore would be begun
        const abort = new AbortController();
        const answer = await server.fetch(url, {
          ...follow,
          method: method.toUpperCase(),
          headers,
          signal: abort.signal,
        });
        const code = answer.headers.get('content-type')?.includes('problem+json')
          ? (await problemOf(answer)).code
          : undefined;
        abort.abort();
        const isRefused = code === 'not-allowed' || code === 'token-needed';
        const isLetIn = who === 'nobody' ? needs === 'nothing' : allows(who as Role, needs);
        expect(isRefused, `${who}: ${answer.status} ${code ?? ''}`).toBe(!isLetIn);
        if (isRefused) expect(answer.status).toBe(who === 'nobody' ? 401 : 403);
      }
    },
  );

  it('that asks for the head of an answer needs the same', async () => {
    const head = (headers = {}): Promise<Response> => server.fetch('/api/drawings', { method: 'HEAD', headers });
    expect((await head()).status).toBe(401);
    expect((await head(headersOf.look)).status).toBe(200);
    const upload = '/api/uploads/00000000-0000-4000-8000-000000000000';
    expect((await server.fetch(upload, { method: 'HEAD', headers: headersOf.look! })).status).toBe(403);
  });
});

it('behind a proxy with TLS cookies are for TLS only, and the service leads back to the address that people know', async () => {
  const TRUSTED = { GULL_PANE_TRUST_PROXY: 'yes', GULL_PANE_PUBLIC_URL: 'https://drawings.kelpie.example' };
  const office = await TestServer.start({ ...provider.env, ...TRUSTED });
  try {
    const headers = { 'x-forwarded-proto': 'https' };
    const begun = await office.fetch('/api/session/sign-in', { ...follow, headers });
    expect(begun.headers.getSetCookie().join()).toMatch(/; Secure/);
    const { searchParams } = new URL(begun.headers.get('location')!);
    expect(searchParams.get('redirect_uri')).toBe('https://drawings.kelpie.example/api/session/callback');
    const plain = await office.fetch('/api/session/sign-in', follow);
    expect(plain.headers.getSetCookie().join()).not.toMatch(/; Secure/);
  } finally {
    await office.stop();
  }
});

it('settings that don’t fit together end the start with one line', () => {
  const start = (env: NodeJS.ProcessEnv) => (): unknown => configFromEnvironment(env);
  expect(start({ GULL_PANE_OIDC_ISSUER: 'https://sign-in.example' })).toThrow(/needs GULL_PANE_OIDC_CLIENT_ID and/);
  expect(start({ ...provider.env, GULL_PANE_OIDC_ISSUER: 'http://sign-in.example' })).toThrow(/https:\/\//);
  expect(start({ ...provider.env, GULL_PANE_OIDC_USUAL_ROLE: 'all' })).toThrow(/one of none, look, mark, manage/);
  expect(start({ GULL_PANE_PUBLIC_URL: 'drawings.example' })).toThrow(/GULL_PANE_PUBLIC_URL/);
  // people sign in: a token, which programs use, needn't be there
  expect(start({ ...provider.env, HOST: '0.0.0.0' })).not.toThrow();
});

it('people without a role are refused where that is set', async () => {
  const strict = await TestServer.start({ ...provider.env, GULL_PANE_OIDC_USUAL_ROLE: 'none' });
  try {
    provider.claims = { sub: 'c', roles: [] };
    const begun = await strict.fetch('/api/session/sign-in', follow);
    const atService = await fetch(begun.headers.get('location')!, follow);
    const back = await fetch(atService.headers.get('location')!, { ...follow, headers: { cookie: cookiesOf(begun) } });
    expect(back.status).toBe(403);
    expect(await problemOf(back)).toMatchObject({ code: 'not-allowed' });
  } finally {
    await strict.stop();
  }
});
