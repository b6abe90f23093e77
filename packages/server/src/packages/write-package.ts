import { createHash } from 'node:crypto';
import { createReadStream } from 'node:fs';
import { eq } from 'drizzle-orm';
import { Zip, ZipDeflate, ZipPassThrough, strToU8 } from 'fflate';
import type { KeepArrangementDto } from '@gull-pane/protocol/arrangements';
import type { KeepCardDto } from '@gull-pane/protocol/cards';
import type { DrawingDto } from '@gull-pane/protocol/drawings';
import {
  PACKAGE_FORMAT,
  PACKAGE_VERSION,
  type PackageManifestDto,
  type PickSetDto,
} from '@gull-pane/protocol/packages';
import type { KeepSheetSetDto } from '@gull-pane/protocol/sheet-sets';
import type { KeepTourDto } from '@gull-pane/protocol/tours';
import type { Database } from '../db/database.ts';
import { arrangements, cards, sheetSets, tours } from '../db/schema.ts';
import { marksOf } from '../plugins/marks.ts';

/**
 * A drawing with all that belongs to it as a .zip, piece by piece: its source file, views, tours, arrangements of its panes
 * alone, picked sets; at the end the manifest with the size and the SHA-256 of each.
 * @param source its file
 */
export async function* writePackage(
  db: Database,
  { id, name, kind, unit, home }: DrawingDto,
  source: string,
  pickSets: readonly PickSetDto[],
): AsyncGenerator<Uint8Array> {
  const ready: Uint8Array[] = [];
  const zip = new Zip((error, bytes) => {
    if (error) throw error;
    ready.push(bytes);
  });
  const files: PackageManifestDto['files'] = [];
  const add = async function* (
    path: string,
    pieces: AsyncIterable<Uint8Array> | Iterable<Uint8Array>,
    isPacked: boolean,
  ) {
    const file = isPacked ? new ZipPassThrough(path) : new ZipDeflate(path, { level: 6 });
    zip.add(file);
    const hash = createHash('sha256');
    let bytes = 0;
    for await (const piece of pieces) {
      hash.update(piece);
      bytes += piece.length;
      file.push(piece, false);
      yield* ready.splice(0);
    }
    file.push(new Uint8Array(0), true);
    yield* ready.splice(0);
    files.push({ path, bytes, sha256: hash.digest('hex') });
  };
  yield* add('source', createReadStream(source), true);
  const lists: readonly (readonly [string, unknown])[] = [
    ['cards.json', await cardsOf(db, id)],
    ['tours.json', await toursOf(db, id)],
    ['arrangements.json', await arrangementsOf(db, id)],
    ['picked-sets.json', pickSets],
    ['marks.json', await marksOf(db, id)],
    ['sheets.json', await sheetSetsOf(db, id)],
  ];
  for (const [path, list] of lists) yield* add(path, [strToU8(JSON.stringify(list, null, 1))], false);
  const manifest: PackageManifestDto = {
    format: PACKAGE_FORMAT,
    version: PACKAGE_VERSION,
    writtenAt: new Date().toISOString(),
    files,
    drawing: { id, name, kind, unit, ...(home ? { home } : {}) },
  };
  const last = new ZipDeflate('manifest.json', { level: 6 });
  zip.add(last);
  last.push(strToU8(`${JSON.stringify(manifest, null, 2)}\n`), true);
  zip.end();
  yield* ready.splice(0);
}

async function cardsOf(db: Database, drawingId: string): Promise<KeepCardDto[]> {
  const rows = await db.select().from(cards).where(eq(cards.drawingId, drawingId)).orderBy(cards.position);
  return rows.map(({ id, position, content, picture }) => ({ ...content, id, position, picture }));
}

async function toursOf(db: Database, drawingId: string): Promise<KeepTourDto[]> {
  const rows = await db.select().from(tours).where(eq(tours.drawingId, drawingId)).orderBy(tours.position);
  return rows.map(({ id, name, position, loops, stops }) => ({ id, name, position, loops, stops }));
}

async function sheetSetsOf(db: Database, drawingId: string): Promise<KeepSheetSetDto[]> {
  const rows = await db.select().from(sheetSets).where(eq(sheetSets.drawingId, drawingId)).orderBy(sheetSets.position);
  return rows.map(({ id, name, position, fields, sheets }) => ({ id, name, position, fields, sheets }));
}

/** Those whose panes show this drawing and no other. */
async function arrangementsOf(db: Database, drawingId: string): Promise<KeepArrangementDto[]> {
  const rows = await db.select().from(arrangements).orderBy(arrangements.position);
  return rows
    .filter(({ arranged }) => arranged.panes.every((pane) => pane.drawingId === drawingId))
    .map(({ id, name, position, arranged, picture }) => ({ id, name, position, arranged, picture }));
}
