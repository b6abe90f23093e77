import PDFDocument from 'pdfkit';
import { drawSheet, type OnSheetProgress } from '../sheets/draw-sheet.ts';
import type { PrintedSet } from '../sheets/printed-set.ts';
import { FontChooser, type PdfFonts } from './fonts.ts';
import { PdfLayers } from './layered-page.ts';
import { PdfSurface } from './pdf-surface.ts';

/**
 * Sheets as a PDF 1.7 that keeps to PDF/A-2b: vectors at their scale, widths in mm, layers as optional content, texts that
 * can be searched, match lines and tags that lead to other sheets, an outline of the sheets.
 * @returns the pieces of the file, in order
 * @throws RangeError if there is no sheet
 */
export function* writePdf(set: PrintedSet, fonts: PdfFonts, onProgress?: OnSheetProgress): Generator<Uint8Array> {
  if (set.sheets.length === 0) throw new RangeError('writePdf: there is no sheet');
  const document = new PDFDocument({
    autoFirstPage: false,
    // the package would load a font of its own
    font: '',
    pdfVersion: '1.7',
    subset: 'PDF/A-2b',
    info: { Title: set.fields.title, Author: set.fields.author, Creator: 'Gull Pane', Producer: 'Gull Pane' },
  });
  const layers = new PdfLayers(document);
  const surface = new PdfSurface(document, layers, new FontChooser(document, fonts));
  for (let index = 0; index < set.sheets.length; index++) {
    drawSheet(surface, set, index, onProgress);
    yield* piecesOf(document);
  }
  layers.finish();
  document.end();
  yield* piecesOf(document);
}

/** What the document has ready. */
function* piecesOf(document: InstanceType<typeof PDFDocument>): Generator<Uint8Array> {
  for (let piece = document.read() as Uint8Array | null; piece; piece = document.read() as Uint8Array | null)
    yield piece;
}
