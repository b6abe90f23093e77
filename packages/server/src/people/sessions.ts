import type { FastifyReply, FastifyRequest } from 'fastify';
import { roles, type Role } from '@gull-pane/protocol/roles';
import type { Person } from './person.ts';

const COOKIE = 'gull_pane_session';
export const SESSION_S = 30 * 24 * 3600;

interface Session extends Person {
  /** Since the epoch, s. */
  readonly until: number;
}

/** Opens a session: what it says is in a signed cookie, which any server of the same database can read. */
export function openSession(request: FastifyRequest, reply: FastifyReply, person: Person): void {
  const session: Session = { ...person, until: Math.floor(Date.now() / 1000) + SESSION_S };
  void reply.setCookie(COOKIE, Buffer.from(JSON.stringify(session)).toString('base64url'), {
    ...cookieOptions(request),
    sameSite: 'strict',
    maxAge: SESSION_S,
  });
}

export function closeSession(request: FastifyRequest, reply: FastifyReply): void {
  void reply.clearCookie(COOKIE, { ...cookieOptions(request), sameSite: 'strict' });
}

/** @returns who opened the session of a request; null without one, or if it is over or forged */
export function readSession(request: FastifyRequest): Person | null {
  const session = readSigned(request, COOKIE) as Partial<Session> | null;
  if (!session || typeof session.until !== 'number' || session.until * 1000 < Date.now()) return null;
  const { id, name, role } = session;
  if (typeof id !== 'string' || typeof name !== 'string' || !roles.includes(role as Role)) return null;
  return { id, name, role: role as Role };
}

/** @returns what a signed cookie holds; null if there is none or its signature is wrong */
export function readSigned(request: FastifyRequest, name: string): unknown {
  const cookie = request.cookies[name];
  if (cookie === undefined) return null;
  const { valid, value } = request.unsignCookie(cookie);
  if (!valid) return null;
  try {
    return JSON.parse(Buffer.from(value, 'base64url').toString()) as unknown;
  } catch {
    return null;
  }
}

/** Sent back over TLS only where it came over TLS. */
export const cookieOptions = ({ protocol }: FastifyRequest) => ({
  httpOnly: true,
  path: '/',
  signed: true,
  secure: protocol === 'https',
});
