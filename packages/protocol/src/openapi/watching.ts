import { bytes, json, header, type Operation } from './operation.ts';

/** What tells those who watch the server, and windows that stay in step. */
export const watchingOperations: readonly Operation[] = [
  {
    method: 'get',
    path: '/api/health',
    needs: 'nothing',
    summary: 'Whether the server lives',
    answer: json({ type: 'object' }),
  },
  {
    method: 'get',
    path: '/api/ready',
    needs: 'nothing',
    summary: 'Whether database, files and imports are there: whether to send it requests',
    answer: json({ type: 'object' }),
    problems: ['not-ready'],
  },
  {
    method: 'get',
    path: '/api/metrics',
    needs: 'look',
    summary: 'What the server has done, in the text format of Prometheus',
    answer: bytes('text/plain'),
  },
  {
    method: 'get',
    path: '/api/openapi.json',
    needs: 'look',
    summary: 'This document',
    answer: json({ type: 'object' }),
  },
  {
    method: 'get',
    path: '/api/events',
    needs: 'look',
    summary: 'Every change of cards, tours, arrangements and drawings, as it is made',
    parameters: [
      header('last-event-id', 'The last change that was heard of: those after it come first', { type: 'integer' }),
    ],
    answer: bytes('text/event-stream'),
  },
  {
    method: 'get',
    path: '/api/docs',
    needs: 'nothing',
    summary: 'This document as a page to read',
    answer: bytes('text/html'),
  },
  {
    method: 'get',
    path: '/api/docs/{asset}',
    needs: 'nothing',
    summary: 'What that page consists of',
    answer: bytes('text/javascript'),
    problems: ['not-found'],
  },
];
