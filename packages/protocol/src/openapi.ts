/// <reference path="./class-transformer-storage.d.ts" />
import 'reflect-metadata/lite';
import { defaultMetadataStorage } from 'class-transformer/cjs/storage.js';
import { validationMetadatasToSchemas } from 'class-validator-jsonschema';
import { ArrangementDto, ArrangementHeadDto, ChangeArrangementDto, KeepArrangementDto } from './arrangements.ts';
import { RestoringDto } from './backups.ts';
import { CameraDto } from './camera.ts';
import { CardDto, ChangeCardDto, KeepCardDto } from './cards.ts';
import { BeginDrawingDto, DrawingDto, ImportAcceptedDto, LayerDto, RenameDrawingDto } from './drawings.ts';
import { ExportPartDto } from './export.ts';
import { JobDto } from './jobs.ts';
import { problemCatalogue, type ProblemCode } from './problems.ts';
import { LinkIdDto, LinkedDto } from './links.ts';
import { PackageTakenDto, ReceivedPackageDto, TakePackageDto, WritePackageDto } from './packages.ts';
import { ChangeMarksDto, MarkDto } from './marks.ts';
import { KeepReviewDto, RenameRevisionDto, ReviewDto, RevisionDto, SeenDto } from './revisions.ts';
import { OpenSessionDto } from './session.ts';
import {
  ChangeSheetSetDto,
  KeepSheetSetDto,
  PrintDto,
  PrintProgressDto,
  SheetFrameDto,
  SheetSetDto,
} from './sheet-sets.ts';
import { ChangeTourDto, KeepTourDto, TourDto } from './tours.ts';
import { TrailDto } from './trail.ts';

type Dto = new () => object;
type Json = Readonly<Record<string, unknown>>;

interface Operation {
  readonly method: 'get' | 'post' | 'patch' | 'put' | 'delete';
  /** With parameters in braces. */
  readonly path: string;
  readonly summary: string;
  readonly body?: Json;
  readonly status?: number;
  /** Content of the answer, by media type; none for an empty one. */
  readonly answer?: Json;
  readonly problems?: readonly ProblemCode[];
}

const ref = (dto: Dto): Json => ({ $ref: `#/components/schemas/${dto.name}` });
const json = (schema: Json): Json => ({ 'application/json': { schema } });
const listOf = (dto: Dto): Json => json({ type: 'array', items: ref(dto) });
const bytes = (type: string): Json => ({ [type]: {} });
const file: Json = {
  'multipart/form-data': {
    schema: { type: 'object', required: ['file'], properties: { file: { type: 'string', format: 'binary' } } },
  },
};

/** Every route of the server; a test holds it against the routes that there are. */
export const operations: readonly Operation[] = [
  {
    method: 'get',
    path: '/api/health',
    summary: 'Whether the server lives',
    answer: json({ type: 'object' }),
  },
  {
    method: 'get',
    path: '/api/ready',
    summary: 'Whether database, files and imports are there: whether to send it requests',
    answer: json({ type: 'object' }),
    problems: ['not-ready'],
  },
  {
    method: 'get',
    path: '/api/metrics',
    summary: 'What the server has done, in the text format of Prometheus',
    answer: bytes('text/plain'),
  },
  { method: 'get', path: '/api/openapi.json', summary: 'This document', answer: json({ type: 'object' }) },
  {
    method: 'post',
    path: '/api/session',
    summary: 'Names the access token; the answer sets a cookie',
    status: 204,
    body: json(ref(OpenSessionDto)),
    problems: ['wrong-token', 'too-many-requests'],
  },
  { method: 'get', path: '/api/drawings', summary: 'All drawings, newest first', answer: listOf(DrawingDto) },
  {
    method: 'post',
    path: '/api/drawings',
    summary: 'Imports a file as a new drawing',
    body: file,
    status: 202,
    answer: json(ref(ImportAcceptedDto)),
    problems: [
      'file-missing',
      'empty-file',
      'file-too-large',
      'not-svg',
      'not-geojson',
      'malformed-pdf',
      'locked-file',
    ],
  },
  {
    method: 'post',
    path: '/api/uploads',
    summary: 'Begins to send a large file piece by piece (tus 1.0.0); its id is that of the job that will import it',
    answer: {},
    problems: ['file-too-large'],
  },
  {
    method: 'patch',
    path: '/api/uploads/{upload}',
    summary: 'Sends the next piece; the last one is answered as the import of a file is',
    body: bytes('application/offset+octet-stream'),
    answer: json(ref(ImportAcceptedDto)),
    problems: ['not-svg', 'empty-file', 'import-running', 'drawing-not-found'],
  },
  {
    method: 'delete',
    path: '/api/uploads/{upload}',
    summary: 'Gives up sending it',
    answer: {},
  },
  {
    method: 'get',
    path: '/api/drawings/{id}',
    summary: 'One drawing; with `~N` behind the id, as its revision N is',
    answer: json(ref(DrawingDto)),
    problems: ['drawing-not-found'],
  },
  {
    method: 'patch',
    path: '/api/drawings/{id}',
    summary: 'Renames a drawing',
    body: json(ref(RenameDrawingDto)),
    answer: json(ref(DrawingDto)),
    problems: ['drawing-not-found', 'bad-request'],
  },
  {
    method: 'delete',
    path: '/api/drawings/{id}',
    summary: 'Deletes a drawing with all that belongs to it',
    status: 204,
    problems: ['drawing-not-found'],
  },
  {
    method: 'put',
    path: '/api/drawings/{id}/source',
    summary: 'Imports a file in place of the content',
    body: file,
    status: 202,
    answer: json(ref(ImportAcceptedDto)),
    problems: ['drawing-not-found', 'import-running', 'not-svg', 'not-geojson', 'malformed-pdf', 'locked-file'],
  },
  {
    method: 'get',
    path: '/api/drawings/{id}/layers',
    summary: 'Its layers',
    answer: listOf(LayerDto),
    problems: ['drawing-not-found'],
  },
  {
    method: 'get',
    path: '/api/drawings/{id}/objects/{objectId}',
    summary: 'The exact doubles of one object',
    answer: json({ type: 'object' }),
    problems: ['drawing-not-found', 'object-not-found'],
  },
  {
    method: 'get',
    path: '/api/drawings/{id}/picture.png',
    summary: 'A small picture of the whole',
    answer: bytes('image/png'),
    problems: ['drawing-not-found', 'drawing-not-ready'],
  },
  {
    method: 'get',
    path: '/api/drawings/{id}/tiles/tileset.json',
    summary: 'The display pyramid, 3D Tiles 1.1',
    answer: json({ type: 'object' }),
    problems: ['drawing-not-found', 'drawing-not-ready'],
  },
  {
    method: 'get',
    path: '/api/drawings/{id}/tiles/{revision}/{tile}',
    summary: 'A tile, or the detail of one',
    answer: { ...bytes('model/gltf-binary'), ...bytes('application/octet-stream') },
    problems: ['not-found'],
  },
  {
    method: 'get',
    path: '/api/drawings/{id}/tiles/{revision}/pictures/{source}/{level}/{name}',
    summary: 'A tile of a raster picture',
    answer: { ...bytes('image/png'), ...bytes('image/jpeg') },
    problems: ['not-found'],
  },
  {
    method: 'get',
    path: '/api/drawings/{id}/trail',
    summary: 'Where a window’s pane has been, with the views of other windows',
    answer: json(ref(TrailDto)),
    problems: ['drawing-not-found'],
  },
  {
    method: 'put',
    path: '/api/drawings/{id}/trail',
    summary: 'Keeps where a window’s pane has been',
    status: 204,
    body: json(ref(TrailDto)),
    problems: ['drawing-not-found', 'bad-request'],
  },
  {
    method: 'delete',
    path: '/api/drawings/{id}/trail',
    summary: 'Forgets where all windows have been',
    status: 204,
    problems: ['drawing-not-found'],
  },
  {
    method: 'get',
    path: '/api/drawings/{id}/cards',
    summary: 'Views that are kept, in their order',
    answer: listOf(CardDto),
    problems: ['drawing-not-found'],
  },
  {
    method: 'post',
    path: '/api/drawings/{id}/cards',
    summary: 'Keeps a view',
    status: 201,
    body: json(ref(KeepCardDto)),
    answer: json(ref(CardDto)),
    problems: ['drawing-not-found', 'bad-request', 'version-conflict'],
  },
  {
    method: 'patch',
    path: '/api/cards/{id}',
    summary: 'Changes a view card, if it is still as it was told',
    body: json(ref(ChangeCardDto)),
    answer: json(ref(CardDto)),
    problems: ['card-not-found', 'bad-request', 'version-conflict'],
  },
  {
    method: 'delete',
    path: '/api/cards/{id}',
    summary: 'Deletes a view card',
    status: 204,
    problems: ['card-not-found'],
  },
  {
    method: 'get',
    path: '/api/cards/{id}/picture',
    summary: 'The picture of a view card',
    answer: { ...bytes('image/webp'), ...bytes('image/png') },
    problems: ['card-not-found', 'not-found'],
  },
  {
    method: 'post',
    path: '/api/drawings/{id}/export/{format}',
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
    summary: 'The drawing with all that belongs to it',
    body: json(ref(WritePackageDto)),
    answer: bytes('application/zip'),
    problems: ['drawing-not-found', 'drawing-not-ready', 'bad-request', 'source-not-kept'],
  },
  {
    method: 'post',
    path: '/api/packages',
    summary: 'Receives a package and tells what is in it',
    status: 201,
    body: file,
    answer: json(ref(ReceivedPackageDto)),
    problems: ['file-missing', 'file-too-large', 'package-damaged', 'package-too-new'],
  },
  {
    method: 'post',
    path: '/api/packages/{id}/take',
    summary: 'Takes a package over that was received',
    body: json(ref(TakePackageDto)),
    answer: json(ref(PackageTakenDto)),
    problems: ['package-not-found', 'bad-request', 'drawing-not-found', 'import-running'],
  },
  {
    method: 'get',
    path: '/api/backup',
    summary: 'Everything that the server keeps',
    answer: bytes('application/x-tar'),
  },
  {
    method: 'post',
    path: '/api/restore',
    summary: 'Starts anew with what a backup holds',
    status: 202,
    body: file,
    answer: json(ref(RestoringDto)),
    problems: ['file-missing', 'backup-refused', 'restore-running'],
  },
  {
    method: 'get',
    path: '/api/drawings/{id}/revisions',
    summary: 'Its imports that are kept, newest first',
    answer: listOf(RevisionDto),
    problems: ['drawing-not-found'],
  },
  {
    method: 'patch',
    path: '/api/drawings/{id}/revisions/{number}',
    summary: 'Names a revision',
    body: json(ref(RenameRevisionDto)),
    answer: json(ref(RevisionDto)),
    problems: ['drawing-not-found', 'revision-not-found', 'bad-request'],
  },
  {
    method: 'delete',
    path: '/api/drawings/{id}/revisions/{number}',
    summary: 'Removes a former revision',
    status: 204,
    problems: ['drawing-not-found', 'revision-not-found', 'revision-in-use'],
  },
  {
    method: 'get',
    path: '/api/drawings/{id}/comparison',
    summary: 'What differs between two revisions: `from`, `to`, `tolerance`; the newest two if absent',
    answer: json({ type: 'object' }),
    problems: ['drawing-not-found', 'drawing-not-ready', 'revision-not-found'],
  },
  {
    method: 'get',
    path: '/api/drawings/{id}/comparison/reviews',
    summary: 'What people said of the changes',
    answer: listOf(ReviewDto),
    problems: ['drawing-not-found', 'drawing-not-ready', 'revision-not-found'],
  },
  {
    method: 'put',
    path: '/api/drawings/{id}/comparison/reviews',
    summary: 'Says something of a change',
    body: json(ref(KeepReviewDto)),
    status: 204,
    problems: ['drawing-not-found', 'drawing-not-ready', 'revision-not-found', 'bad-request'],
  },
  {
    method: 'get',
    path: '/api/drawings/{id}/seen',
    summary: 'What somebody, `person`, has seen of the revision that is shown',
    answer: json(ref(SeenDto)),
    problems: ['drawing-not-found', 'drawing-not-ready'],
  },
  {
    method: 'put',
    path: '/api/drawings/{id}/seen',
    summary: 'Keeps what somebody has seen',
    status: 204,
    body: json(ref(SeenDto)),
    problems: ['drawing-not-found', 'drawing-not-ready', 'bad-request'],
  },
  {
    method: 'get',
    path: '/api/drawings/{id}/tours',
    summary: 'Tours through its views, in their order',
    answer: listOf(TourDto),
    problems: ['drawing-not-found'],
  },
  {
    method: 'post',
    path: '/api/drawings/{id}/tours',
    summary: 'Keeps a tour',
    status: 201,
    body: json(ref(KeepTourDto)),
    answer: json(ref(TourDto)),
    problems: ['drawing-not-found', 'bad-request', 'version-conflict'],
  },
  {
    method: 'patch',
    path: '/api/tours/{id}',
    summary: 'Changes a tour, if it is still as it was told',
    body: json(ref(ChangeTourDto)),
    answer: json(ref(TourDto)),
    problems: ['tour-not-found', 'bad-request', 'version-conflict'],
  },
  {
    method: 'delete',
    path: '/api/tours/{id}',
    summary: 'Deletes a tour',
    status: 204,
    problems: ['tour-not-found'],
  },
  {
    method: 'get',
    path: '/api/drawings/{id}/sheet-sets',
    summary: 'Sets of sheets that are laid out for paper, in their order',
    answer: listOf(SheetSetDto),
    problems: ['drawing-not-found'],
  },
  {
    method: 'post',
    path: '/api/drawings/{id}/sheet-sets',
    summary: 'Keeps a set of sheets',
    status: 201,
    body: json(ref(KeepSheetSetDto)),
    answer: json(ref(SheetSetDto)),
    problems: ['drawing-not-found', 'bad-request', 'version-conflict'],
  },
  {
    method: 'patch',
    path: '/api/sheet-sets/{id}',
    summary: 'Changes a set of sheets, if it is still as it was told',
    body: json(ref(ChangeSheetSetDto)),
    answer: json(ref(SheetSetDto)),
    problems: ['sheet-set-not-found', 'bad-request', 'version-conflict'],
  },
  {
    method: 'delete',
    path: '/api/sheet-sets/{id}',
    summary: 'Deletes a set of sheets',
    status: 204,
    problems: ['sheet-set-not-found'],
  },
  {
    method: 'post',
    path: '/api/drawings/{id}/print',
    summary: 'Sheets with views of the drawing at their exact scale, as PDF, SVG, PNG or TIFF',
    body: json(ref(PrintDto)),
    answer: {
      ...bytes('application/pdf'),
      ...bytes('image/svg+xml'),
      ...bytes('image/png'),
      ...bytes('image/tiff'),
      ...bytes('application/zip'),
    },
    problems: ['drawing-not-found', 'drawing-not-ready', 'revision-not-found', 'bad-request'],
  },
  {
    method: 'get',
    path: '/api/prints/{run}',
    summary: 'How far the writing of sheets has come, by the name that the client gave it',
    answer: json(ref(PrintProgressDto)),
    problems: ['not-found'],
  },
  {
    method: 'post',
    path: '/api/drawings/{id}/frame-overlay',
    summary: 'What lies on top of a frame of a sheet: marks, changes, what has not been seen yet; mm on the sheet',
    body: json(ref(SheetFrameDto)),
    answer: json({ type: 'array', items: { type: 'object' } }),
    problems: ['drawing-not-found', 'drawing-not-ready', 'revision-not-found', 'bad-request'],
  },
  {
    method: 'get',
    path: '/api/drawings/{id}/marks',
    summary: 'Marks on top of it, as they were drawn',
    answer: listOf(MarkDto),
    problems: ['drawing-not-found'],
  },
  {
    method: 'patch',
    path: '/api/drawings/{id}/marks',
    summary: 'Draws, changes, deletes marks',
    status: 204,
    body: json(ref(ChangeMarksDto)),
    problems: ['drawing-not-found', 'bad-request'],
  },
  {
    method: 'post',
    path: '/api/drawings/begin',
    summary: 'Begins an empty drawing',
    status: 202,
    body: json(ref(BeginDrawingDto)),
    answer: json(ref(ImportAcceptedDto)),
    problems: ['bad-request'],
  },
  {
    method: 'get',
    path: '/api/arrangements',
    summary: 'Arrangements of panes that are kept, in their order',
    answer: listOf(ArrangementHeadDto),
  },
  {
    method: 'post',
    path: '/api/arrangements',
    summary: 'Keeps an arrangement',
    status: 201,
    body: json(ref(KeepArrangementDto)),
    answer: json(ref(ArrangementDto)),
    problems: ['bad-request', 'version-conflict'],
  },
  {
    method: 'get',
    path: '/api/arrangements/{id}',
    summary: 'An arrangement with all its panes',
    answer: json(ref(ArrangementDto)),
    problems: ['arrangement-not-found'],
  },
  {
    method: 'patch',
    path: '/api/arrangements/{id}',
    summary: 'Changes one, if it is still as it was told',
    body: json(ref(ChangeArrangementDto)),
    answer: json(ref(ArrangementDto)),
    problems: ['arrangement-not-found', 'bad-request', 'version-conflict'],
  },
  {
    method: 'delete',
    path: '/api/arrangements/{id}',
    summary: 'Deletes an arrangement',
    status: 204,
    problems: ['arrangement-not-found'],
  },
  {
    method: 'get',
    path: '/api/arrangements/{id}/picture',
    summary: 'The picture of an arrangement',
    answer: { ...bytes('image/webp'), ...bytes('image/png') },
    problems: ['arrangement-not-found', 'not-found'],
  },
  {
    method: 'post',
    path: '/api/links',
    summary: 'Keeps what a short link opens; the same has the same id',
    status: 201,
    body: json(ref(LinkedDto)),
    answer: json(ref(LinkIdDto)),
    problems: ['bad-request'],
  },
  {
    method: 'get',
    path: '/api/links/{id}',
    summary: 'What a short link opens',
    answer: json(ref(LinkedDto)),
    problems: ['link-not-found'],
  },
  {
    method: 'get',
    path: '/api/events',
    summary: 'Every change of cards, tours, arrangements and drawings, as it is made',
    answer: bytes('text/event-stream'),
  },
  {
    method: 'put',
    path: '/api/drawings/{id}/home',
    summary: 'Sets the view that Home goes to',
    status: 204,
    body: json(ref(CameraDto)),
    problems: ['drawing-not-found', 'bad-request'],
  },
  {
    method: 'get',
    path: '/api/jobs/{id}',
    summary: 'An import job',
    answer: json(ref(JobDto)),
    problems: ['job-not-found'],
  },
  {
    method: 'post',
    path: '/api/jobs/{id}/cancel',
    summary: 'Cancels an import',
    answer: json(ref(JobDto)),
    problems: ['job-not-found', 'job-ended'],
  },
  {
    method: 'get',
    path: '/api/jobs/{id}/events',
    summary: 'The job at every change, until it has ended',
    answer: bytes('text/event-stream'),
    problems: ['job-not-found'],
  },
];

/** The interface as an OpenAPI 3.1 document. */
export function openApiDocument(): Json {
  const schemas = validationMetadatasToSchemas({
    refPointerPrefix: '#/components/schemas/',
    classTransformerMetadataStorage: defaultMetadataStorage,
  });
  const paths: Record<string, Record<string, unknown>> = {};
  for (const operation of operations) {
    const { method, path, summary, body, status = 200, answer, problems = [] } = operation;
    const parameters = [...path.matchAll(/\{(\w+)\}/g)].map(([, name]) => ({
      name,
      in: 'path',
      required: true,
      schema: { type: 'string' },
    }));
    (paths[path] ??= {})[method] = {
      operationId: operationIdOf(method, path),
      summary,
      ...(parameters.length > 0 ? { parameters } : {}),
      ...(body ? { requestBody: { required: true, content: body } } : {}),
      responses: {
        [status]: { description: 'Done', ...(answer ? { content: answer } : {}) },
        ...problemResponses(problems),
      },
    };
  }
  return {
    openapi: '3.1.0',
    info: { title: 'Gull Pane', version: '0.1.0', license: { name: 'MIT', identifier: 'MIT' } },
    paths,
    components: { schemas: { ...schemas, Problem: problemSchema } },
  };
}

/** A name for an operation that generated clients can call it by: `getDrawingsByIdLayers`. */
function operationIdOf(method: string, path: string): string {
  const words = path.split(/[/.-]/).flatMap((word) => {
    const parameter = /^\{(\w+)\}$/.exec(word);
    if (parameter) return ['By', parameter[1]!];
    return word === '' || word === 'api' ? [] : [word];
  });
  return method + words.map((word) => word.charAt(0).toUpperCase() + word.slice(1)).join('');
}

const problemSchema: Json = {
  type: 'object',
  description: 'RFC 9457 problem details',
  required: ['type', 'title', 'status', 'code', 'hint'],
  properties: {
    type: { type: 'string' },
    title: { type: 'string' },
    status: { type: 'integer' },
    detail: { type: 'string' },
    instance: { type: 'string' },
    code: { enum: Object.keys(problemCatalogue) },
    hint: { type: 'string' },
    line: { type: 'integer' },
    column: { type: 'integer' },
    current: { description: 'In a conflict: the version on the server' },
  },
};

function problemResponses(codes: readonly ProblemCode[]): Json {
  const byStatus = new Map<number, ProblemCode[]>();
  for (const code of codes) {
    const { status } = problemCatalogue[code];
    byStatus.set(status, [...(byStatus.get(status) ?? []), code]);
  }
  return Object.fromEntries(
    [...byStatus].map(([status, list]) => {
      const content = { 'application/problem+json': { schema: { $ref: '#/components/schemas/Problem' } } };
      return [String(status), { description: list.map((code) => problemCatalogue[code].title).join('; '), content }];
    }),
  );
}
