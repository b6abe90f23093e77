/** Writes a drawing in an open format, in a thread of its own: the one that answers requests goes on meanwhile. */
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { parentPort, workerData } from 'node:worker_threads';
import { gunzipSync } from 'node:zlib';
import { writeGeoJson } from '@gull-pane/exporters/geojson/write-geojson';
import { writeGlb } from '@gull-pane/exporters/glb/write-glb';
import { writeSvg } from '@gull-pane/exporters/svg/write-svg';
import type { SolidTable } from '@gull-pane/protocol/solid-table';
import type { ExportOrder, FromExport } from './export-messages.ts';
import { chosenPart, exportedFlat, exportedSolids } from './exported-part.ts';
import { tilesZip } from './tiles-zip.ts';
import { FrameOverlays } from '../printing/frame-overlay.ts';
import { printedSheets } from '../printing/printed-sheets.ts';
import { writeSheets } from '../printing/write-sheets.ts';

const PIECE_LETTERS = 1 << 16;

const order = workerData as ExportOrder;
const port = parentPort!;

/** @returns the pieces of the file; null if no object is in the part */
async function piecesOf(given: ExportOrder): Promise<AsyncIterable<Uint8Array> | Iterable<Uint8Array> | null> {
  if (given.format === 'sheets') {
    const { format = 'pdf' } = given.set;
    const set = await printedSheets(given, given.set, format === 'png' || format === 'tiff');
    return writeSheets(set, given.set, (sheet, objects) => {
      port.postMessage({ kind: 'progress', sheet, objects } satisfies FromExport);
    });
  }
  if (given.format === 'overlay') return [Buffer.from(JSON.stringify(new FrameOverlays(given).of(given.frame)))];
  const { format, folder, drawing, layers, part, marks } = given;
  if (format === '3d-tiles') return tilesZip(join(folder, 'tiles'), drawing.revision);
  const chosen = chosenPart(part, drawing.counts.objects);
  if (format === 'glb') {
    const table = JSON.parse(gunzipSync(readFileSync(join(folder, 'tiles', 'solid.json.gz'))).toString()) as SolidTable;
    const solids = exportedSolids(folder, chosen);
    if (solids()[Symbol.iterator]().next().done) return null;
    return [await writeGlb({ name: drawing.name, layers, materials: table.materials, solids })];
  }
  const exported = exportedFlat(folder, drawing, layers, chosen, marks);
  return exported && inPieces(format === 'svg' ? writeSvg(exported) : writeGeoJson(exported));
}

/** Texts put together to pieces of some size. */
function* inPieces(texts: Iterable<string>): Generator<Uint8Array> {
  let piece = '';
  for (const text of texts) {
    piece += text;
    if (piece.length < PIECE_LETTERS) continue;
    yield Buffer.from(piece);
    piece = '';
  }
  if (piece !== '') yield Buffer.from(piece);
}

/** How many pieces were asked for and not yet given, and who waits for the next question. */
let asked = 0;
let wake: () => void = () => undefined;
port.on('message', () => {
  asked++;
  wake();
});

const answer = async (message: FromExport): Promise<void> => {
  while (asked === 0) await new Promise<void>((resolve) => (wake = resolve));
  asked--;
  port.postMessage(message);
};

const pieces = await piecesOf(order);
if (pieces) {
  for await (const bytes of pieces) await answer({ kind: 'piece', bytes });
  await answer({ kind: 'done' });
} else await answer({ kind: 'nothing' });
port.close();
