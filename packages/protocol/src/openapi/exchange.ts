import { RestoringDto } from '../backups.ts';
import { ExportPartDto } from '../export.ts';
import { PackageTakenDto, ReceivedPackageDto, TakePackageDto, WritePackageDto } from '../packages.ts';
import { bytes, file, json, ref, type Operation } from './operation.ts';

/** What goes out and comes back. */
export const exchangeOperations: readonly Operation[] = [
  {
    method: 'post',
    path: '/api/drawings/{id}/export/{format}',
    needs: 'look',
    summary: 'The drawing, or a part of it, as svg, geojson, glb or 3d-tiles',
    body: json(ref(ExportPartDto)),
    answer: {
      ...bytes('image/svg+xml'),
      ...bytes('application/geo+json'),
      ...bytes('model/gltf-binary'),
      ...bytes('application/zip'),
    },
    problems: ['drawing-not-found', 'drawing-not-ready', 'bad-request', 'not-found', 'nothing-to-export'],
  },
  {
    method: 'post',
    path: '/api/drawings/{id}/package',
    needs: 'look',
    summary: 'The drawing with all that belongs to it',
    body: json(ref(WritePackageDto)),
    answer: bytes('application/zip'),
    problems: ['drawing-not-found', 'drawing-not-ready', 'bad-request', 'source-not-kept'],
  },
  {
    method: 'post',
    path: '/api/packages',
    needs: 'manage',
    summary: 'Receives a package and tells what is in it',
    status: 201,
    body: file,
    answer: json(ref(ReceivedPackageDto)),
    problems: ['file-missing', 'file-too-large', 'package-damaged', 'package-too-new'],
  },
  {
    method: 'post',
    path: '/api/packages/{id}/take',
    needs: 'manage',
    summary: 'Takes a package over that was received',
    body: json(ref(TakePackageDto)),
    answer: json(ref(PackageTakenDto)),
    problems: ['package-not-found', 'bad-request', 'drawing-not-found', 'import-running'],
  },
  {
    method: 'get',
    path: '/api/backup',
    needs: 'manage',
    summary: 'Everything that the server keeps',
    answer: bytes('application/x-tar'),
  },
  {
    method: 'post',
    path: '/api/restore',
    needs: 'manage',
    summary: 'Starts anew with what a backup holds',
    status: 202,
    body: file,
    answer: json(ref(RestoringDto)),
    problems: ['file-missing', 'backup-refused', 'restore-running'],
  },
];
