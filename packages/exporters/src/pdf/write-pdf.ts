import PDFDocument from 'pdfkit';
import { borderOf, type MatchLine, type Sheet } from '@gull-pane/core/sheets/sheet';
import { FontChooser, type PdfFonts } from './fonts.ts';
import { POINTS_PER_MM, drawFrame, type Page } from './frame-content.ts';
import { PdfLayers } from './layered-page.ts';
import { pdfNumber } from './path-operators.ts';
import type { PrintedSet } from './printed-set.ts';
import { drawStrip, rule, write } from './sheet-strip.ts';

const [INK, ACCENT] = ['0.086 0.196 0.29', '0.851 0.325 0.173'] as const;
/** Lines of the border (ISO 5457:1999), mm. */
const BORDER_MM = 0.7;
/** Dash, gap, dot, gap of match lines, points. */
const MATCH_DASHES = '17 4 3 4';

/**
 * Sheets as a PDF 1.7 that keeps to PDF/A-2b: vectors at their scale, widths in mm, layers as optional content, texts that
 * can be searched, match lines that lead to the sheets that they name, an outline of the sheets.
 * @returns the pieces of the file, in order
 * @throws RangeError if there is no sheet
 */
export async function* writePdf(set: PrintedSet, fonts: PdfFonts): AsyncGenerator<Uint8Array> {
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
      const drawing = set.drawingIn(index, frame);
      if (drawing) drawFrame(page, own, drawing, set.unit);
      drawEdge(page, own);
    }
    for (const line of sheet.matchLines) drawMatchLine(page, line, set.sheets);
    drawEdge(page, borderOf(sheet.paper));
    drawStrip(page, sheet, { index, count: set.sheets.length }, set.fields, set.unit);
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

const destinationOf = (index: number): string => `sheet-${index + 1}`;

function drawEdge({ layers }: Page, rect: { leftMm: number; topMm: number; widthMm: number; heightMm: number }): void {
  const numbers = [rect.leftMm, rect.topMm, rect.widthMm, rect.heightMm].map((mm) => pdfNumber(mm * POINTS_PER_MM));
  layers.begin('Sheet');
  layers.write(`q ${INK} RG ${pdfNumber(BORDER_MM * POINTS_PER_MM)} w ${numbers.join(' ')} re S Q`);
  layers.end();
}

/** With the name of the sheet that goes on beyond it, which a click goes to. */
function drawMatchLine(page: Page, { from, to, sheet }: MatchLine, sheets: readonly Sheet[]): void {
  const { document, fonts, layers } = page;
  layers.begin('Match lines');
  rule(page, ...from, ...to, ACCENT, 0.35, MATCH_DASHES);
  const label = `Match line: see ${sheets[sheet]?.name ?? `sheet ${sheet + 1}`}`;
  const isUpright = from[0] === to[0];
  const sizeMm = 2.5;
  const widthMm = fonts.widthOf(label, sizeMm * POINTS_PER_MM, 'normal') / POINTS_PER_MM;
  const [xMm, yMm] = [(from[0] + to[0]) / 2, (from[1] + to[1]) / 2];
  document.save();
  if (isUpright) document.rotate(-90, { origin: [xMm * POINTS_PER_MM, yMm * POINTS_PER_MM] });
  write(page, label, xMm - widthMm / 2, yMm - 1, sizeMm, ACCENT, Infinity);
  document.restore();
  layers.end();
  const [width, height] = isUpright ? [sizeMm + 2, widthMm] : [widthMm, sizeMm + 2];
  const [left, top] = isUpright ? [xMm - sizeMm - 1, yMm - widthMm / 2] : [xMm - widthMm / 2, yMm - sizeMm - 1];
  const [x, y, w, h] = [left, top, width, height].map((mm) => mm * POINTS_PER_MM) as [number, number, number, number];
  document.goTo(x, y, w, h, destinationOf(sheet));
}

/** What the document has ready. */
function* piecesOf(document: InstanceType<typeof PDFDocument>): Generator<Uint8Array> {
  for (let piece = document.read() as Uint8Array | null; piece; piece = document.read() as Uint8Array | null)
    yield piece;
}
