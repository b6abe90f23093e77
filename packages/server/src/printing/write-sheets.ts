import { Zip, ZipDeflate, ZipPassThrough } from 'fflate';
import type { OnSheetProgress } from '@gull-pane/exporters/sheets/draw-sheet';
import type { PrintedSet } from '@gull-pane/exporters/sheets/printed-set';
import { USUAL_DPI, type PrintDto, type SheetFormat } from '@gull-pane/protocol/sheet-sets';
import { shippedFaces, shippedFonts } from './shipped-fonts.ts';

/** Writes sheets in a format, piece by piece. The packages of other formats aren't loaded. */
export async function* writeSheets(
  set: PrintedSet,
  { format = 'pdf', dpi = USUAL_DPI }: Pick<PrintDto, 'format' | 'dpi'>,
  onProgress: OnSheetProgress,
): AsyncGenerator<Uint8Array> {
  if (format === 'pdf') {
    const { writePdf } = await import('@gull-pane/exporters/pdf/write-pdf');
    yield* writePdf(set, shippedFonts(), onProgress);
  } else if (format === 'tiff') {
    const { writeTiff } = await import('@gull-pane/exporters/raster/write-tiff');
    const pages = [];
    for (let index = 0; index < set.sheets.length; index++) pages.push(await rowsOf(set, index, dpi, onProgress));
    yield* writeTiff(pages, pages.length, dpi);
  } else if (set.sheets.length === 1) yield* oneSheet(set, 0, format, dpi, onProgress);
  else yield* zipped(set, format, dpi, onProgress);
}

/** What a sheet of a set is called as a file of its own. */
export function sheetFile({ sheets }: Pick<PrintedSet, 'sheets'>, index: number, format: SheetFormat): string {
  const name = sheets[index]!.name.replaceAll(/[\\/:*?"<>|\0-\x1f]/g, '_').trim();
  return `${String(index + 1).padStart(String(sheets.length).length, '0')} ${name}.${format}`;
}

async function* oneSheet(
  set: PrintedSet,
  index: number,
  format: 'svg' | 'png',
  dpi: number,
  onProgress: OnSheetProgress,
): AsyncGenerator<Uint8Array> {
  if (format === 'png') {
    const { writePng } = await import('@gull-pane/exporters/raster/write-png');
    yield* writePng(await rowsOf(set, index, dpi, onProgress), dpi);
    return;
  }
  const { sheetSvg } = await import('@gull-pane/exporters/svg/sheet-svg');
  const fileOf = (sheet: number): string => sheetFile(set, sheet, 'svg');
  let piece: string[] = [];
  for (const text of sheetSvg(set, index, shippedFaces(), fileOf, onProgress)) {
    piece.push(text);
    if (piece.length < 500) continue;
    yield Buffer.from(piece.join(''));
    piece = [];
  }
  yield Buffer.from(piece.join(''));
}

async function rowsOf(set: PrintedSet, index: number, dpi: number, onProgress: OnSheetProgress) {
  const { loadPictures } = await import('@gull-pane/exporters/raster/canvas-surface');
  const { sheetRows } = await import('@gull-pane/exporters/raster/sheet-rows');
  const hrefs = set.sheets[index]!.frames.flatMap((_, frame) => set.contentIn(index, frame)?.hrefs() ?? []);
  return sheetRows(set, index, dpi, shippedFonts(), await loadPictures(hrefs), onProgress);
}

async function* zipped(
  set: PrintedSet,
  format: 'svg' | 'png',
  dpi: number,
  onProgress: OnSheetProgress,
): AsyncGenerator<Uint8Array> {
  const ready: Uint8Array[] = [];
  const zip = new Zip((error, bytes) => {
    if (error) throw error;
    ready.push(bytes);
  });
  for (let index = 0; index < set.sheets.length; index++) {
    const name = sheetFile(set, index, format);
    const file = format === 'svg' ? new ZipDeflate(name) : new ZipPassThrough(name);
    zip.add(file);
    for await (const bytes of oneSheet(set, index, format, dpi, onProgress)) {
      file.push(bytes);
      yield* ready.splice(0);
    }
    file.push(new Uint8Array(0), true);
    yield* ready.splice(0);
  }
  zip.end();
  yield* ready.splice(0);
}
