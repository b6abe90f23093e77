import type { Role } from '@gull-pane/protocol/roles';

/** Who sends a request. */
export interface Person {
  /** Of the sign-in service; of nobody in particular where there is only a token, or nothing is asked. */
  readonly id: string;
  /** Empty where people name themselves. */
  readonly name: string;
  readonly role: Role;
}

/** Where nothing is asked everybody may do everything. */
export const ANYBODY: Person = { id: '', name: '', role: 'manage' };
/** Who knows the token of the server. */
export const TOKEN_HOLDER: Person = { id: 'token', name: '', role: 'manage' };

declare module 'fastify' {
  interface FastifyRequest {
    /** Null before it is known who somebody is. */
    person: Person | null;
  }
}

/** @returns whose something is: who has signed in, else whom the request names */
export const nameOf = ({ person }: { readonly person: Person | null }, named: string): string => person?.name || named;
