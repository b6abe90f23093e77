import type { FastifyRequest } from 'fastify';
import type { ProblemCode } from '@gull-pane/protocol/problems';
import { Problem } from '../problem.ts';
import { idOf } from './drawings.ts';

type OneThing = FastifyRequest<{ Params: { id: string } }>;

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

/** A change to a version that is no longer the newest. @param current the version on the server */
export const conflict = (name: string, version: number, madeOf: number, current: unknown): Problem =>
  new Problem('version-conflict', {
    detail: `“${name}” is at version ${version}, the change was made of ${madeOf}.`,
    current,
  });
