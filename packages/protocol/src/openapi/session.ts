import { OpenSessionDto, SessionDto } from '../session.ts';
import { json, query, ref, type Operation } from './operation.ts';

/** Signing in and out. */
export const sessionOperations: readonly Operation[] = [
  {
    method: 'get',
    path: '/api/session',
    needs: 'nothing',
    summary: 'Who one is, and the ways to say so',
    answer: json(ref(SessionDto)),
  },
  {
    method: 'post',
    path: '/api/session',
    needs: 'nothing',
    summary: 'Names the access token; the answer sets a cookie',
    status: 204,
    body: json(ref(OpenSessionDto)),
    problems: ['wrong-token', 'too-many-requests'],
  },
  {
    method: 'delete',
    path: '/api/session',
    needs: 'nothing',
    summary: 'Signs out: the cookie goes',
    status: 204,
  },
  {
    method: 'get',
    path: '/api/session/sign-in',
    needs: 'nothing',
    summary: 'Leads to the sign-in service',
    parameters: [query('to', 'Where in the application to come back to', { type: 'string' })],
    status: 302,
    problems: ['not-found', 'sign-in-failed'],
  },
  {
    method: 'get',
    path: '/api/session/callback',
    needs: 'nothing',
    summary: 'Where the sign-in service leads back to',
    status: 302,
    problems: ['sign-in-failed', 'not-allowed'],
  },
];
