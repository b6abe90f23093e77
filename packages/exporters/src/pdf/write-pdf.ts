import PDFDocument from 'pdfkit';
import type { PaperRect, Sheet } from '@gull-pane/core/sheets/sheet';
import { sheetParts } from '@gull-pane/core/sheets/sheet-parts';
import { drawParts } from './draw-parts.ts';
import { FontChooser, type PdfFonts } from './fonts.ts';
import { POINTS_PER_MM, drawFrame, type Page } from './frame-content.ts';
import { PdfLayers } from './layered-page.ts';
import { pdfNumber } from './path-operators.ts';
import type { PrintedSet } from './printed-set.ts';

/**
 * Sheets as a PDF 1.7 that keeps to PDF/A-2b: vectors at their scale, widths in mm, layers as optional content, texts that
 * can be searched, match lines that lead to the sheets that they name, an outline of the sheets.
 * @returns the pieces of the file, in order
 * @throws RangeError if there is no sheet
 */
export function* writePdf(set: PrintedSet, fonts: PdfFonts): Generator<Uint8Array> {
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
  const page: Page = { document, layers, fonts: new FontChooser(document, fonts) };
  for (const [index, sheet] of set.sheets.entries()) {
    beginPage(page, sheet, index);
    for (const [frame, own] of sheet.frames.entries()) {
      // what lies below a view doesn't show through it
      if (sheet.frames.slice(0, frame).some((before) => overlap(before, own))) coverWithPaper(page, own);
      const drawing = set.drawingIn(index, frame);
      if (drawing) drawFrame(page, own, drawing, set.unit);
    }
    drawParts(page, sheetParts(set.sheets, index, set.fields, set.unit), destinationOf);
    yield* piecesOf(document);
  }
  layers.finish();
  document.end();
  yield* piecesOf(document);
}

function beginPage({ document }: Page, { name, paper }: Sheet, index: number): void {
  const size = [paper.widthMm, paper.heightMm].map((mm) => mm * POINTS_PER_MM) as [number, number];
  document.addPage({ size, margin: 0 });
  document.addNamedDestination(destinationOf(index), 'Fit');
  document.outline.addItem(name);
}

function coverWithPaper({ layers }: Page, { leftMm, topMm, widthMm, heightMm }: PaperRect): void {
  const rect = [leftMm, topMm, widthMm, heightMm].map((mm) => pdfNumber(mm * POINTS_PER_MM)).join(' ');
  layers.begin('Sheet');
  layers.write(`1 1 1 rg ${rect} re f`);
  layers.end();
}

const overlap = (a: PaperRect, b: PaperRect): boolean =>
  a.leftMm < b.leftMm + b.widthMm &&
  b.leftMm < a.leftMm + a.widthMm &&
  a.topMm < b.topMm + b.heightMm &&
  b.topMm < a.topMm + a.heightMm;

const destinationOf = (index: number): string => `sheet-${index + 1}`;

/** What the document has ready. */
function* piecesOf(document: InstanceType<typeof PDFDocument>): Generator<Uint8Array> {
  for (let piece = document.read() as Uint8Array | null; piece; piece = document.read() as Uint8Array | null)
    yield piece;
}
