import type { FastifyRequest } from 'fastify';
import type { ProblemCode } from '@gull-pane/protocol/problems';
import { Problem } from '../problem.ts';
import { idOf } from './drawings.ts';

type OneThing = FastifyRequest<{ Params: { id: string } }>;

/** Of a resource whose version rises with each change. */
export const etagOf = (version: number): string => `"v${version}"`;

/**
 * The version that a change is made of: as `If-Match` says, or the body.
 * @returns null if nothing says it
 * @throws Problem bad-request for what is no version
 */
export function versionOf({ headers }: FastifyRequest): number | null {
  const header = headers['if-match'];
  if (header === undefined || header.trim() === '*') return null;
  const [, version] = /^"v(\d{1,9})"$/.exec(header.trim()) ?? [];
  if (version === undefined) throw new Problem('bad-request', { detail: 'If-Match must be an ETag such as "v3".' });
  return Number(version);
}

/** The body of a change with the version that `If-Match` says, if it does. */
export function changeIn(request: FastifyRequest): unknown {
  const version = versionOf(request);
  const { body } = request;
  return version === null || typeof body !== 'object' || body === null ? body : { ...body, version };
}

/** The id that a request names. @throws Problem the code if it is none */
export function idOr(code: ProblemCode, request: OneThing): string {
  try {
    return idOf(request);
  } catch {
    throw new Problem(code);
  }
}

/** Of a change only the fields that are told; those that aren't are there, but undefined. */
export function toldOf<T extends object>(change: T): Partial<T> {
  const fields: readonly (readonly [string, unknown])[] = Object.entries(change);
  return Object.fromEntries(fields.filter(([, value]) => value !== undefined)) as Partial<T>;
}

/** A change to a version that is no longer the newest (RFC 9110, 13.1.1). @param current the version on the server */
export const conflict = (
  { headers }: FastifyRequest,
  { name, version }: { readonly name: string; readonly version: number },
  madeOf: number,
  current: unknown,
): Problem =>
  new Problem(headers['if-match'] === undefined ? 'version-conflict' : 'precondition-failed', {
    detail: `“${name}” is at version ${version}, the change was made of ${madeOf}.`,
    current,
  });
