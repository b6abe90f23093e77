import {
  ArrangementDto,
  ArrangementHeadDto,
  type ChangeArrangementDto,
  type KeepArrangementDto,
} from '@gull-pane/protocol/arrangements';
import { CardDto, type ChangeCardDto, type KeepCardDto } from '@gull-pane/protocol/cards';
import type { CameraDto } from '@gull-pane/protocol/camera';
import { DrawingDto, type BeginDrawingDto, ImportAcceptedDto, LayerDto } from '@gull-pane/protocol/drawings';
import { readDto, readDtoList } from '@gull-pane/protocol/dto';
import { JobDto, hasEnded } from '@gull-pane/protocol/jobs';
import type { ExportFormat, ExportPartDto } from '@gull-pane/protocol/export';
import { MarkDto, type ChangeMarksDto } from '@gull-pane/protocol/marks';
import { LinkIdDto, LinkedDto } from '@gull-pane/protocol/links';
import type { PickSetDto } from '@gull-pane/protocol/packages';
import type { ObjectDto } from '@gull-pane/protocol/objects';
import type { ProblemDetails } from '@gull-pane/protocol/problems';
import type { ComparisonDto } from '@gull-pane/protocol/comparison';
import { ReviewDto, RevisionDto, SeenDto, type KeepReviewDto } from '@gull-pane/protocol/revisions';
import { TourDto, type ChangeTourDto, type KeepTourDto } from '@gull-pane/protocol/tours';
import { TrailDto } from '@gull-pane/protocol/trail';
import type { Asked, AskedOf, Method, Operation, PathOf } from './operation-types';
import { RESUMABLE_FROM, upload, type Sent } from './upload';
import { windowId } from './window-id';
import { useAccess } from './access-store';
import type { SolidTable } from '@gull-pane/protocol/solid-table';
import type { TilesetJson } from '@gull-pane/protocol/tileset';

/** A failure the server explained, or one of reaching it. */
export class ApiError extends Error {
  override readonly name = 'ApiError';

  constructor(
    readonly title: string,
    readonly hint: string,
    detail: string,
    readonly status: number,
    /** In a conflict: the version on the server. */
    readonly current?: unknown,
  ) {
    super(detail);
  }
}

const unreachable = (error: unknown): ApiError =>
  new ApiError(
    'The server can’t be reached',
    'Check that Gull Pane is still running, then try again.',
    String(error),
    0,
  );

/** Sends a request. @returns what the server answers, from JSON @throws ApiError */
export async function send(path: string, init: RequestInit = {}): Promise<unknown> {
  let response: Response;
  try {
    response = await fetch(path, init);
  } catch (error) {
    if (init.signal?.aborted) throw error;
    throw unreachable(error);
  }
  if (response.status === 204) return null;
  const isJson = /json/.test(response.headers.get('content-type') ?? '');
  const body: unknown = isJson ? await response.json() : null;
  if (response.ok) return body;
  if (response.status === 401) useAccess.getState().setNeeded(true);
  throw errorOf(body as Partial<ProblemDetails> | null, response.status);
}

export function errorOf(problem: Partial<ProblemDetails> | null, status = 500): ApiError {
  const title = problem?.title ?? 'The server gave an answer that can’t be read';
  return new ApiError(title, problem?.hint ?? 'Try again.', problem?.detail ?? '', status, problem?.current);
}

/** A request as the description of the interface has it. @returns what the server answers, from JSON @throws ApiError */
export function call<M extends Method, P extends PathOf<M>>(
  method: M,
  path: P,
  ...[asked]: AskedOf<Operation<M, P>>
): Promise<unknown> {
  const { path: values, query, body, keepalive = false }: Asked = asked ?? {};
  const filled = path.replaceAll(/\{(\w+)\}/g, (_whole, name: string) => encodeURIComponent(values![name]!));
  const address = query ? `${filled}?${String(new URLSearchParams(query as Record<string, string>))}` : filled;
  return send(address, {
    ...(body === undefined ? { method: method.toUpperCase() } : json(method.toUpperCase(), body)),
    keepalive,
  });
}

/** What is wanted of a file while it is being sent. */
export interface Sending {
  readonly signal: AbortSignal;
  readonly onSent: (sent: Sent) => void;
}

/** Sends a file. @returns what the server answers */
export async function sendFile(method: 'POST' | 'PUT', path: string, file: File, sending?: Sending): Promise<unknown> {
  const { status, body } = await upload(method, path, file, sending?.signal, sending?.onSent).catch(
    (error: unknown) => {
      if (sending?.signal.aborted === true) throw error;
      throw unreachable(error);
    },
  );
  if (status >= 200 && status < 300) return body;
  if (status === 401) useAccess.getState().setNeeded(true);
  throw errorOf(body as Partial<ProblemDetails> | null, status);
}

/** A file that the server makes. @throws ApiError */
export async function sendForFile(path: string, init: RequestInit): Promise<Blob> {
  let response: Response;
  try {
    response = await fetch(path, init);
  } catch (error) {
    if (init.signal?.aborted) throw error;
    throw unreachable(error);
  }
  if (response.ok) return response.blob();
  if (response.status === 401) useAccess.getState().setNeeded(true);
  throw errorOf((await response.json().catch(() => null)) as Partial<ProblemDetails> | null, response.status);
}

/** A request with a body in JSON. */
export const json = (method: string, body: unknown): RequestInit => ({
  method,
  headers: { 'content-type': 'application/json' },
  body: JSON.stringify(body),
});

/** The server's capabilities; every answer is checked against the protocol. */
export const api = {
  drawings: async (): Promise<DrawingDto[]> => readDtoList(DrawingDto, await call('get', '/api/drawings')),
  drawing: async (id: string): Promise<DrawingDto> =>
    readDto(DrawingDto, await call('get', '/api/drawings/{id}', { path: { id } })),
  layers: async (id: string): Promise<LayerDto[]> =>
    readDtoList(LayerDto, await call('get', '/api/drawings/{id}/layers', { path: { id } })),
  tileset: async (id: string): Promise<TilesetJson> =>
    (await call('get', '/api/drawings/{id}/tiles/tileset.json', { path: { id } })) as TilesetJson,
  solid: async (id: string, revision: number): Promise<SolidTable> =>
    (await call('get', '/api/drawings/{id}/tiles/{revision}/{tile}', {
      path: { id, revision: `r${revision}`, tile: 'solid.json' },
    })) as SolidTable,
  trail: async (id: string): Promise<TrailDto> =>
    readDto(TrailDto, await call('get', '/api/drawings/{id}/trail', { path: { id }, query: { window: windowId() } })),
  /** Goes on when the page is left meanwhile. */
  keepTrail: async (id: string, trail: TrailDto): Promise<void> => {
    await call('put', '/api/drawings/{id}/trail', {
      path: { id },
      query: { window: windowId() },
      body: trail,
      keepalive: true,
    });
  },
  setHome: async (id: string, home: CameraDto): Promise<void> => {
    await call('put', '/api/drawings/{id}/home', { path: { id }, body: home });
  },
  cards: async (id: string): Promise<CardDto[]> =>
    readDtoList(CardDto, await call('get', '/api/drawings/{id}/cards', { path: { id } })),
  keepCard: async (id: string, card: KeepCardDto): Promise<CardDto> =>
    readDto(CardDto, await call('post', '/api/drawings/{id}/cards', { path: { id }, body: card })),
  changeCard: async (id: string, change: ChangeCardDto): Promise<CardDto> =>
    readDto(CardDto, await call('patch', '/api/cards/{id}', { path: { id }, body: change })),
  removeCard: async (id: string): Promise<void> => {
    await call('delete', '/api/cards/{id}', { path: { id } });
  },
  /** A picture as a data address. */
  picture: async (path: string): Promise<string> => {
    const response = await fetch(path);
    if (!response.ok) throw errorOf(null, response.status);
    const bytes = new Uint8Array(await response.arrayBuffer());
    const type = response.headers.get('content-type') ?? 'image/webp';
    return `data:${type};base64,${btoa(Array.from(bytes, (byte) => String.fromCharCode(byte)).join(''))}`;
  },
  tours: async (id: string): Promise<TourDto[]> =>
    readDtoList(TourDto, await call('get', '/api/drawings/{id}/tours', { path: { id } })),
  keepTour: async (id: string, tour: KeepTourDto): Promise<TourDto> =>
    readDto(TourDto, await call('post', '/api/drawings/{id}/tours', { path: { id }, body: tour })),
  changeTour: async (id: string, change: ChangeTourDto): Promise<TourDto> =>
    readDto(TourDto, await call('patch', '/api/tours/{id}', { path: { id }, body: change })),
  removeTour: async (id: string): Promise<void> => {
    await call('delete', '/api/tours/{id}', { path: { id } });
  },
  marks: async (id: string): Promise<MarkDto[]> =>
    readDtoList(MarkDto, await call('get', '/api/drawings/{id}/marks', { path: { id } })),
  changeMarks: async (id: string, change: ChangeMarksDto): Promise<void> => {
    await call('patch', '/api/drawings/{id}/marks', { path: { id }, body: change });
  },
  begin: async (drawing: BeginDrawingDto): Promise<ImportAcceptedDto> =>
    readDto(ImportAcceptedDto, await call('post', '/api/drawings/begin', { body: drawing })),
  arrangements: async (): Promise<ArrangementHeadDto[]> =>
    readDtoList(ArrangementHeadDto, await call('get', '/api/arrangements')),
  arrangement: async (id: string): Promise<ArrangementDto> =>
    readDto(ArrangementDto, await call('get', '/api/arrangements/{id}', { path: { id } })),
  keepArrangement: async (arrangement: KeepArrangementDto): Promise<ArrangementDto> =>
    readDto(ArrangementDto, await call('post', '/api/arrangements', { body: arrangement })),
  changeArrangement: async (id: string, change: ChangeArrangementDto): Promise<ArrangementDto> =>
    readDto(ArrangementDto, await call('patch', '/api/arrangements/{id}', { path: { id }, body: change })),
  removeArrangement: async (id: string): Promise<void> => {
    await call('delete', '/api/arrangements/{id}', { path: { id } });
  },
  keepLink: async (linked: LinkedDto): Promise<LinkIdDto> =>
    readDto(LinkIdDto, await call('post', '/api/links', { body: linked })),
  link: async (id: string): Promise<LinkedDto> =>
    readDto(LinkedDto, await call('get', '/api/links/{id}', { path: { id } })),
  revisions: async (id: string): Promise<RevisionDto[]> =>
    readDtoList(RevisionDto, await call('get', '/api/drawings/{id}/revisions', { path: { id } })),
  renameRevision: async (id: string, number: number, name: string): Promise<RevisionDto> =>
    readDto(
      RevisionDto,
      await call('patch', '/api/drawings/{id}/revisions/{number}', { path: { id, number }, body: { name } }),
    ),
  removeRevision: async (id: string, number: number): Promise<void> => {
    await call('delete', '/api/drawings/{id}/revisions/{number}', { path: { id, number } });
  },
  /** @param tolerance coordinates that differ by less are the same, drawing units; the server's own if null */
  comparison: async (id: string, from: number, to: number, tolerance: number | null): Promise<ComparisonDto> => {
    return (await call('get', '/api/drawings/{id}/comparison', {
      path: { id },
      query: { from, to, ...(tolerance === null ? {} : { tolerance }) },
    })) as ComparisonDto;
  },
  reviews: async (id: string, from: number, to: number): Promise<ReviewDto[]> =>
    readDtoList(
      ReviewDto,
      await call('get', '/api/drawings/{id}/comparison/reviews', { path: { id }, query: { from, to } }),
    ),
  keepReview: async (id: string, from: number, to: number, review: KeepReviewDto): Promise<void> => {
    await call('put', '/api/drawings/{id}/comparison/reviews', { path: { id }, query: { from, to }, body: review });
  },
  seen: async (id: string, person: string): Promise<SeenDto> =>
    readDto(SeenDto, await call('get', '/api/drawings/{id}/seen', { path: { id }, query: { person } })),
  keepSeen: async (id: string, person: string, seen: SeenDto): Promise<void> => {
    await call('put', '/api/drawings/{id}/seen', { path: { id }, query: { person }, body: seen });
  },
  export: (id: string, format: ExportFormat, part: ExportPartDto): Promise<Blob> =>
    sendForFile(`/api/drawings/${id}/export/${format}`, json('POST', part)),
  package: (id: string, pickSets: readonly PickSetDto[]): Promise<Blob> =>
    sendForFile(`/api/drawings/${id}/package`, json('POST', { pickSets })),
  object: async (id: string, objectId: number): Promise<ObjectDto> =>
    (await call('get', '/api/drawings/{id}/objects/{objectId}', { path: { id, objectId } })) as ObjectDto,
  rename: async (id: string, name: string): Promise<DrawingDto> =>
    readDto(DrawingDto, await call('patch', '/api/drawings/{id}', { path: { id }, body: { name } })),
  remove: async (id: string): Promise<void> => {
    await call('delete', '/api/drawings/{id}', { path: { id } });
  },
  openSession: async (token: string): Promise<void> => {
    await call('post', '/api/session', { body: { token } });
  },
  job: async (id: string): Promise<JobDto> => readDto(JobDto, await call('get', '/api/jobs/{id}', { path: { id } })),
  cancelJob: async (id: string): Promise<JobDto> =>
    readDto(JobDto, await call('post', '/api/jobs/{id}/cancel', { path: { id } })),
  import: async (file: File, sending?: Sending): Promise<ImportAcceptedDto> =>
    file.size >= RESUMABLE_FROM
      ? sendPieces(file, null, sending)
      : readDto(ImportAcceptedDto, await sendFile('POST', '/api/drawings', file, sending)),
  importAnew: async (id: string, file: File, sending?: Sending): Promise<ImportAcceptedDto> =>
    file.size >= RESUMABLE_FROM
      ? sendPieces(file, id, sending)
      : readDto(ImportAcceptedDto, await sendFile('PUT', `/api/drawings/${id}/source`, file, sending)),
};

/** Sends a large file so that a lost connection costs a piece of it only. @param drawing whose next content it is */
async function sendPieces(file: File, drawing: string | null, sending?: Sending): Promise<ImportAcceptedDto> {
  // most files are small: this is fetched for large ones
  const { UploadRefused, resumableUpload } = await import('./resumable-upload').catch((error: unknown) => {
    throw unreachable(error);
  });
  const jobId = await resumableUpload(file, drawing, sending?.signal, sending?.onSent).catch((error: unknown) => {
    if (sending?.signal.aborted === true) throw error;
    if (!(error instanceof UploadRefused)) throw unreachable(error);
    if (error.status === 401) useAccess.getState().setNeeded(true);
    throw errorOf(error.body as Partial<ProblemDetails> | null, error.status);
  });
  const { drawingId } = await api.job(jobId);
  return { drawingId, jobId };
}

/**
 * Follows a job until it has ended.
 * @returns a function that stops following
 */
export function followJob(id: string, take: (job: JobDto) => void): () => void {
  const source = new EventSource(`/api/jobs/${id}/events`);
  source.addEventListener('job', (event: MessageEvent<string>) => {
    const job = readDto(JobDto, JSON.parse(event.data));
    take(job);
    if (hasEnded(job.state)) source.close();
  });
  return () => source.close();
}
