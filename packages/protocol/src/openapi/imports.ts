import { ImportAcceptedDto } from '../drawings.ts';
import { JobDto } from '../jobs.ts';
import { bytes, json, ref, type Operation } from './operation.ts';

/** Files on their way in. */
export const importsOperations: readonly Operation[] = [
  {
    method: 'post',
    path: '/api/uploads',
    needs: 'manage',
    summary: 'Begins to send a large file piece by piece (tus 1.0.0); its id is that of the job that will import it',
    answer: {},
    problems: ['file-too-large'],
  },
  {
    method: 'patch',
    path: '/api/uploads/{upload}',
    needs: 'manage',
    summary: 'Sends the next piece; the last one is answered as the import of a file is',
    body: bytes('application/offset+octet-stream'),
    answer: json(ref(ImportAcceptedDto)),
    problems: ['not-svg', 'empty-file', 'import-running', 'drawing-not-found'],
  },
  {
    method: 'delete',
    path: '/api/uploads/{upload}',
    needs: 'manage',
    summary: 'Gives up sending it',
    answer: {},
  },
  {
    method: 'get',
    path: '/api/jobs/{id}',
    needs: 'look',
    summary: 'An import job',
    answer: json(ref(JobDto)),
    problems: ['job-not-found'],
  },
  {
    method: 'post',
    path: '/api/jobs/{id}/cancel',
    needs: 'manage',
    summary: 'Cancels an import',
    answer: json(ref(JobDto)),
    problems: ['job-not-found', 'job-ended'],
  },
  {
    method: 'get',
    path: '/api/jobs/{id}/events',
    needs: 'look',
    summary: 'The job at every change, until it has ended',
    answer: bytes('text/event-stream'),
    problems: ['job-not-found'],
  },
];
