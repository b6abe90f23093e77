import { KeepReviewDto, RenameRevisionDto, ReviewDto, RevisionDto, SeenDto } from '../revisions.ts';
import { json, listOf, ref, query, type Operation } from './operation.ts';

/** Former revisions, what differs, what was seen. */
export const revisionsOperations: readonly Operation[] = [
  {
    method: 'get',
    path: '/api/drawings/{id}/revisions',
    needs: 'look',
    summary: 'Its imports that are kept, newest first',
    answer: listOf(RevisionDto),
    problems: ['drawing-not-found'],
  },
  {
    method: 'patch',
    path: '/api/drawings/{id}/revisions/{number}',
    needs: 'manage',
    summary: 'Names a revision',
    body: json(ref(RenameRevisionDto)),
    answer: json(ref(RevisionDto)),
    problems: ['drawing-not-found', 'revision-not-found', 'bad-request'],
  },
  {
    method: 'delete',
    path: '/api/drawings/{id}/revisions/{number}',
    needs: 'manage',
    summary: 'Removes a former revision',
    status: 204,
    problems: ['drawing-not-found', 'revision-not-found', 'revision-in-use'],
  },
  {
    method: 'get',
    path: '/api/drawings/{id}/comparison',
    needs: 'look',
    summary: 'What differs between two revisions: `from`, `to`, `tolerance`; the newest two if absent',
    parameters: [
      query('from', 'The earlier revision; the one before if left out', { type: 'integer', minimum: 1 }),
      query('to', 'The later revision; the current one if left out', { type: 'integer', minimum: 1 }),
      query('tolerance', 'Coordinates that differ by less are the same, drawing units', {
        type: 'number',
        exclusiveMinimum: 0,
      }),
    ],
    answer: json({ type: 'object' }),
    problems: ['drawing-not-found', 'drawing-not-ready', 'revision-not-found'],
  },
  {
    method: 'get',
    path: '/api/drawings/{id}/comparison/reviews',
    needs: 'look',
    summary: 'What people said of the changes',
    parameters: [
      query('from', 'The earlier revision; the one before if left out', { type: 'integer', minimum: 1 }),
      query('to', 'The later revision; the current one if left out', { type: 'integer', minimum: 1 }),
    ],
    answer: listOf(ReviewDto),
    problems: ['drawing-not-found', 'drawing-not-ready', 'revision-not-found'],
  },
  {
    method: 'put',
    path: '/api/drawings/{id}/comparison/reviews',
    needs: 'mark',
    summary: 'Says something of a change',
    parameters: [
      query('from', 'The earlier revision; the one before if left out', { type: 'integer', minimum: 1 }),
      query('to', 'The later revision; the current one if left out', { type: 'integer', minimum: 1 }),
    ],
    body: json(ref(KeepReviewDto)),
    status: 204,
    problems: ['drawing-not-found', 'drawing-not-ready', 'revision-not-found', 'bad-request'],
  },
  {
    method: 'get',
    path: '/api/drawings/{id}/seen',
    needs: 'look',
    summary: 'What the person `person` has seen of the revision that is shown',
    parameters: [
      query('person', 'Whose; where people sign in it is always who sends it', { type: 'string', maxLength: 80 }),
    ],
    answer: json(ref(SeenDto)),
    problems: ['drawing-not-found', 'drawing-not-ready'],
  },
  {
    method: 'put',
    path: '/api/drawings/{id}/seen',
    needs: 'look',
    summary: 'Keeps what a person has seen',
    parameters: [
      query('person', 'Whose; where people sign in it is always who sends it', { type: 'string', maxLength: 80 }),
    ],
    status: 204,
    body: json(ref(SeenDto)),
    problems: ['drawing-not-found', 'drawing-not-ready', 'bad-request'],
  },
];
