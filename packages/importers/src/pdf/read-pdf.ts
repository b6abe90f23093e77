import type { DrawingSink, ReadResult } from '@gull-pane/core/drawing/model';
import { PathBuilder } from '@gull-pane/core/drawing/path';
import { OPS, getDocument, type PDFDocumentProxy, type PDFPageProxy } from 'pdfjs-dist/legacy/build/pdf.mjs';
import { ReadError } from '../read-error.ts';
import { StyleTable } from '../style-table.ts';
import { Warnings } from '../warnings.ts';
import { ContentLayers } from './content-layers.ts';
import { pageOperators } from './page-operators.ts';
import { PageDrawer } from './page-drawer.ts';
import type { PageOperators, PageTools } from './page-state.ts';
import { pictureNames } from './page-pictures.ts';
import { layOutSheets, type PlacedSheet } from './sheet-grid.ts';

export interface PdfLimits {
  readonly maxElements: number;
  readonly maxSteps: number;
  readonly maxPages: number;
}

export const defaultPdfLimits: PdfLimits = { maxElements: 2_000_000, maxSteps: 30_000_000, maxPages: 2000 };

export interface PdfOptions {
  readonly limits?: PdfLimits;
  /** Folders of the parsing package's character maps and of the widths of the standard fonts, each ending in a slash. */
  readonly cMapUrl?: string;
  readonly standardFontDataUrl?: string;
  /** Told after each page. */
  readonly onPage?: (page: number, pages: number) => void;
}

/** An element is made of so many operators at most, colours and widths included, where a file is sane. */
const OPERATORS_PER_ELEMENT = 6;
/** A form holds so many elements at least, on the whole. */
const ELEMENTS_PER_FORM = 8;
/** A picture of more px isn't unpacked. */
const MOST_PICTURE_PX = 1 << 26;
const EDGE_LAYER = 'Sheet edges';
const EDGE_COLOUR = { r: 128, g: 136, b: 144, a: 255 };

/** Names of operators by their number. */
const operatorNames: ReadonlyMap<number, string> = new Map(Object.entries(OPS).map(([name, code]) => [code, name]));

/**
 * Reads a PDF (ISO 32000). Its pages become sheets that lie side by side in one drawing, in millimetres on paper, each
 * with its edge; optional content becomes layers. Coordinates are as exact as single precision on paper.
 * @param bytes the whole file; taken over
 * @throws ReadError if it isn't one, is locked, or goes beyond a limit
 */
export async function readPdf(
  bytes: Uint8Array,
  sink: DrawingSink,
  { limits = defaultPdfLimits, onPage, ...places }: PdfOptions = {},
): Promise<ReadResult & { readonly layerOfNode: readonly number[] }> {
  const task = getDocument({
    data: bytes,
    ...places,
    cMapPacked: true,
    verbosity: 0,
    // nothing of the file is run, and nothing is fetched for it
    isEvalSupported: false,
    enableXfa: false,
    disableFontFace: true,
    maxImageSize: MOST_PICTURE_PX,
    isOffscreenCanvasSupported: false,
    isImageDecoderSupported: false,
    useSystemFonts: false,
    useWorkerFetch: false,
  });
  try {
    const document = await task.promise.catch((error: unknown) => {
      throw asReadError(error);
    });
    return await readPages(document, sink, limits, onPage);
  } finally {
    await task.destroy();
  }
}

async function readPages(
  document: PDFDocumentProxy,
  sink: DrawingSink,
  limits: PdfLimits,
  onPage: PdfOptions['onPage'],
): Promise<ReadResult & { readonly layerOfNode: readonly number[] }> {
  const { numPages } = document;
  if (numPages > limits.maxPages)
    throw new ReadError('limit-exceeded', `The file has ${numPages} pages; up to ${limits.maxPages} are read.`);
  const warnings = new Warnings('page');
  const styles = new StyleTable();
  const layers = new ContentLayers(await document.getOptionalContentConfig());
  const [elements, steps] = [{ count: 0 }, { count: 0 }];
  const count = (own: number): void => {
    elements.count++;
    steps.count += own;
    if (elements.count > limits.maxElements)
      throw new ReadError(
        'limit-exceeded',
        `The file draws more than ${limits.maxElements} elements (GULL_PANE_MAX_ELEMENTS).`,
      );
    if (steps.count > limits.maxSteps)
      throw new ReadError('limit-exceeded', `The file draws more than ${limits.maxSteps} lines and curves.`);
  };
  const pages: (PDFPageProxy | null)[] = [];
  for (let number = 1; number <= numPages; number++) {
    pages.push(await document.getPage(number).catch(() => missing(warnings, number)));
  }
  const blank = { view: [0, 0, 595.276, 841.89], rotate: 0, userUnit: 1 };
  const placed = layOutSheets(pages.map((page) => page ?? blank));
  const pageLimits = {
    mostOperators: OPERATORS_PER_ELEMENT * limits.maxElements,
    mostForms: Math.ceil(limits.maxElements / ELEMENTS_PER_FORM),
  };
  const edge = styles.index('line', layers.named(EDGE_LAYER), EDGE_COLOUR, 0, []);
  for (const [index, page] of pages.entries()) {
    const sheet = placed[index]!;
    drawEdge(sink, sheet, edge, layers.named(EDGE_LAYER));
    const operators = page ? await pageOperators(page, pageLimits) : null;
    if (page && !operators) missing(warnings, index + 1);
    if (page && operators) {
      const isBold = (font: string): boolean => isBoldFont(page, font);
      const pictures = await picturesOn(page, operators);
      const objectOf = (name: string): unknown => pictures.get(name);
      const tools: PageTools = { sink, styles, warnings, layers, operatorNames, count, isBold, objectOf };
      new PageDrawer(tools, index + 1, sheet.toDrawing, sheet).draw(operators);
    }
    page?.cleanup();
    onPage?.(index + 1, numPages);
  }
  if (elements.count === 0 && warnings.list().length === 0)
    throw new ReadError('nothing-to-draw', 'The pages hold no visible line, fill or text.');
  const names = (await document.getPageLabels().catch(() => null)) ?? [];
  return {
    unit: 'mm',
    layers: layers.layers.map(({ name, isOff }) => ({ name, isOff })),
    layerOfNode: layers.layers.map((_, index) => index),
    styles: styles.styles,
    warnings: warnings.list(),
    sheets: placed.map(({ minX, minY, maxX, maxY }, index) => {
      const label = names[index]?.trim();
      const name = label && label !== String(index + 1) ? `Sheet ${index + 1} · ${label}` : `Sheet ${index + 1}`;
      return { name, minX, minY, maxX, maxY };
    }),
  };
}

/** The pictures of a page by their names. The parser hands them on when they are unpacked. */
async function picturesOn(
  page: PDFPageProxy,
  { fnArray, argsArray }: PageOperators,
): Promise<ReadonlyMap<string, unknown>> {
  const names = new Set<string>();
  fnArray.forEach((operator, i) => {
    for (const name of pictureNames(operatorNames.get(operator) ?? '', (argsArray[i] ?? []) as readonly unknown[]))
      names.add(name);
  });
  const pictures = new Map<string, unknown>();
  for (const name of names) {
    const objects = name.startsWith('g_') ? page.commonObjs : page.objs;
    const object = await new Promise((resolve) => {
      objects.get(name, resolve);
    });
    pictures.set(name, object);
  }
  return pictures;
}

function missing(warnings: Warnings, page: number): null {
  warnings.add('damaged-page', 'a page can’t be read; its sheet is empty', page);
  return null;
}

function drawEdge(sink: DrawingSink, { minX, minY, maxX, maxY }: PlacedSheet, lineStyle: number, layer: number): void {
  const path = new PathBuilder().moveTo(minX, minY).lineTo(maxX, minY).lineTo(maxX, maxY).lineTo(minX, maxY).close();
  sink.path({ layer, lineStyle, fillStyle: -1, fillRule: 'nonzero', path });
}

function isBoldFont(page: PDFPageProxy, name: string): boolean {
  if (!page.commonObjs.has(name)) return false;
  const font = page.commonObjs.get(name) as { bold?: boolean; black?: boolean; name?: string } | null;
  return font?.bold === true || font?.black === true || /bold|black|heavy/i.test(font?.name ?? '');
}

function asReadError(error: unknown): ReadError {
  if (error instanceof ReadError) return error;
  const { name, message } = error as Error;
  if (name === 'PasswordException') return new ReadError('locked-file', 'The file can’t be read without its password.');
  return new ReadError('malformed-pdf', `The file begins as a PDF but can’t be read as one (${message || name}).`);
}
