import { ChangeMarksDto, MarkDto } from '../marks.ts';
import { json, listOf, ref, type Operation } from './operation.ts';

/** Marks. */
export const marksOperations: readonly Operation[] = [
  {
    method: 'get',
    path: '/api/drawings/{id}/marks',
    needs: 'look',
    summary: 'Marks on top of it, as they were drawn',
    answer: listOf(MarkDto),
    problems: ['drawing-not-found'],
  },
  {
    method: 'patch',
    path: '/api/drawings/{id}/marks',
    needs: 'mark',
    summary: 'Draws, changes, deletes marks',
    status: 204,
    body: json(ref(ChangeMarksDto)),
    problems: ['drawing-not-found', 'bad-request'],
  },
];
