import { Readable } from 'node:stream';
import type { FastifyInstance, FastifyRequest } from 'fastify';
import { and, eq, inArray } from 'drizzle-orm';
import { USUAL_TOLERANCE } from '@gull-pane/core/compare/match-objects';
import { idOfAddress, type DrawingDto } from '@gull-pane/protocol/drawings';
import { readDto } from '@gull-pane/protocol/dto';
import { markOf } from '@gull-pane/protocol/marks';
import { PrintDto, SheetFrameDto, type PrintProgressDto, type SheetFormat } from '@gull-pane/protocol/sheet-sets';
import { seen } from '../db/schema.ts';
import { runExport } from '../exports/run-export.ts';
import { FrameOverlays, type OverlaySources } from '../printing/frame-overlay.ts';
import { Problem } from '../problem.ts';
import { Comparisons } from '../revisions/comparisons.ts';
import { Revisions } from '../revisions/revisions.ts';
import { checked } from './checked.ts';
import { contentOf } from './drawings.ts';
import { DrawingsRepository } from './drawings-repository.ts';
import { marksOf } from './marks.ts';
import type { Services } from './services.ts';

type OneDrawing = FastifyRequest<{ Params: { id: string } }>;

const types: Readonly<Record<SheetFormat, string>> = {
  pdf: 'application/pdf',
  svg: 'image/svg+xml',
  png: 'image/png',
  tiff: 'image/tiff',
};
const options = { bodyLimit: 4 * 1024 * 1024 };
/** Progress is kept for so many prints at a time; the oldest are dropped. */
const MOST_RUNS = 200;

/** Sheets go to paper, sheet by sheet: little is held at a time. */
export function printRoutes(app: FastifyInstance, { db, contents, removed }: Services): void {
  const repository = new DrawingsRepository(db);
  const revisions = new Revisions(db, contents, removed);
  const comparisons = new Comparisons(contents);
  const runs = new Map<string, PrintProgressDto>();

  /** What lies on top of these frames. @throws Problem revision-not-found */
  const sourcesOf = async (drawing: DrawingDto, frames: readonly SheetFrameDto[]): Promise<OverlaySources> => {
    const id = idOfAddress(drawing.id);
    const own = await contents.revision(id, drawing.revision);
    const people = [...new Set(frames.flatMap(({ shows }) => (shows.unseenBy === undefined ? [] : [shows.unseenBy])))];
    const since = new Set(frames.flatMap(({ shows }) => shows.changesSince ?? []));
    const files: Record<number, string> = {};
    for (const number of since) {
      const [from, to] = [await revisions.find(id, number), await revisions.find(id, drawing.revision)];
      files[number] = await comparisons.file(from, to, USUAL_TOLERANCE);
    }
    const ofDrawing = and(eq(seen.drawingId, id), eq(seen.revision, drawing.revision), inArray(seen.person, people));
    const rows = people.length > 0 ? await db.select().from(seen).where(ofDrawing) : [];
    return {
      folder: own,
      drawing,
      marks: (await marksOf(db, id)).map(markOf),
      comparisons: files,
      seen: Object.fromEntries(rows.map(({ person, bits }) => [person, bits])),
    };
  };

  app.post('/api/drawings/:id/print', options, async (request: OneDrawing, reply) => {
    const drawing = await contentOf(repository, request);
    const set = checked(() => readDto(PrintDto, request.body));
    const { format = 'pdf', run } = set;
    const frames = set.sheets.flatMap((sheet) => sheet.frames);
    if (drawing.kind === 'solid' && frames.some(({ view }) => !view.solid))
      throw new Problem('bad-request', {
        detail: 'A frame of a model must say from where it is looked at (view.solid).',
      });
    const layers = await repository.layersOf(drawing);
    const sources = await sourcesOf(drawing, frames);
    const tell = (sheet: number, objects: number): void => {
      if (run === undefined) return;
      const [oldest] = runs.keys();
      if (!runs.has(run) && runs.size >= MOST_RUNS && oldest !== undefined) runs.delete(oldest);
      runs.set(run, { sheet: sheet + 1, sheets: set.sheets.length, objects });
    };
    tell(0, 0);
    const pieces = await runExport({ format: 'sheets', layers, set, ...sources }, ({ sheet, objects }) =>
      tell(sheet, objects),
    );
    const isZip = set.sheets.length > 1 && (format === 'svg' || format === 'png');
    const name = encodeURIComponent(`${set.fields.title || drawing.name}.${isZip ? 'zip' : format}`);
    void reply
      .type(isZip ? 'application/zip' : types[format])
      .header('content-disposition', `inline; filename*=UTF-8''${name}`);
    const untilEnd = async function* (): AsyncGenerator<Uint8Array> {
      try {
        yield* pieces;
      } finally {
        if (run !== undefined) runs.delete(run);
      }
    };
    return reply.send(Readable.from(untilEnd()));
  });

  app.get('/api/prints/:run', (request: FastifyRequest<{ Params: { run: string } }>): PrintProgressDto => {
    const progress = runs.get(request.params.run);
    if (!progress) throw new Problem('not-found', { detail: 'No such sheets are being written.' });
    return progress;
  });

  app.post('/api/drawings/:id/frame-overlay', options, async (request: OneDrawing, reply) => {
    const drawing = await contentOf(repository, request);
    const frame = checked(() => readDto(SheetFrameDto, request.body));
    const sources = await sourcesOf(drawing, [frame]);
    const { changesSince, unseenBy } = frame.shows;
    // marks are at hand; what has changed or was seen is found out of files, which would hold up others
    if (changesSince === undefined && unseenBy === undefined) return new FrameOverlays(sources).of(frame);
    const pieces = await runExport({ format: 'overlay', frame, ...sources });
    return reply.type('application/json').send(Readable.from(pieces));
  });
}
