import { open, readFile } from 'node:fs/promises';
import { createRequire } from 'node:module';
import { dirname, join, sep } from 'node:path';
import type { DrawingSink, ReadResult } from '@gull-pane/core/drawing/model';
import type { GeoJsonSink } from '@gull-pane/importers/geojson/geometry-drawer';
import { GeoJsonReader } from '@gull-pane/importers/geojson/read-geojson';
import { PDF_HEAD_BYTES, isPdfHead } from '@gull-pane/importers/pdf/pdf-head';
import { beginsLikePicture } from '@gull-pane/importers/picture/picture-size';
import { ReadError } from '@gull-pane/importers/read-error';
import { ReferenceScan } from '@gull-pane/importers/svg/definitions';
import { defaultSvgLimits } from '@gull-pane/importers/svg/limits';
import { PreparationReader, needsPreparation } from '@gull-pane/importers/svg/preparation';
import { SvgReader } from '@gull-pane/importers/svg/read-svg';
import { forEachPiece, mayRefer } from './file-text.ts';
import { checkSize } from '../pyramid/write-pictures.ts';
import type { ReadLimits } from './import-messages.ts';

/** What is known at the end of any file. */
export interface SourceContent extends ReadResult {
  /** The layer of each number that elements and styles were given as `layer` while the file was read. */
  readonly layerOfNode: readonly number[];
}

/**
 * Reads a file by what it holds; its name doesn't matter.
 * @param onRead told how many bytes have been read
 * @throws ReadError with what is wrong and where
 */
export async function readHere(
  path: string,
  limits: ReadLimits,
  sink: DrawingSink & GeoJsonSink,
  onRead: (bytes: number) => void,
): Promise<SourceContent> {
  const head = await headOf(path);
  if (isPdfHead(head)) return readPdfFile(path, limits, sink, onRead);
  if (beginsLikePicture(head)) return readPictureFile(path, limits, sink);
  const reader = await textReaderFor(path, limits, sink);
  await forEachPiece(path, limits, (text, bytesRead) => {
    reader.write(text);
    onRead(bytesRead);
  });
  return reader.end();
}

/** The bytes that tell what a file is. */
export async function headOf(path: string): Promise<Buffer> {
  const file = await open(path);
  try {
    const { buffer, bytesRead } = await file.read(Buffer.alloc(PDF_HEAD_BYTES), 0, PDF_HEAD_BYTES, 0);
    return buffer.subarray(0, bytesRead);
  } finally {
    await file.close();
  }
}

async function readPdfFile(
  path: string,
  { maxElements }: ReadLimits,
  sink: DrawingSink,
  onRead: (bytes: number) => void,
): Promise<SourceContent> {
  const bytes = new Uint8Array(await readFile(path));
  const size = bytes.length;
  // a large package, loaded only for files that need it
  const { defaultPdfLimits, readPdf } = await import('@gull-pane/importers/pdf/read-pdf');
  const assets = dirname(createRequire(import.meta.url).resolve('pdfjs-dist/package.json'));
  return readPdf(bytes, sink, {
    limits: { ...defaultPdfLimits, maxElements },
    cMapUrl: join(assets, 'cmaps') + sep,
    standardFontDataUrl: join(assets, 'standard_fonts') + sep,
    onPage: (page, pages) => onRead(Math.floor((size * page) / pages)),
  });
}

async function readPictureFile(path: string, limits: ReadLimits, sink: DrawingSink): Promise<SourceContent> {
  const bytes = new Uint8Array(await readFile(path));
  const [{ default: sharp }, { readPicture }] = await Promise.all([
    import('sharp'),
    import('@gull-pane/importers/picture/read-picture'),
  ]);
  const facts = await sharp(bytes, { limitInputPixels: false })
    .metadata()
    .catch((error: unknown) => {
      const reason = error instanceof Error ? error.message : String(error);
      throw new ReadError('damaged-file', `The picture can't be unpacked: ${reason}.`);
    });
  const { width, height } = facts.autoOrient;
  checkSize(width, height, limits);
  return readPicture(bytes, { widthPx: width, heightPx: height, pxPerInch: facts.density ?? null }, sink);
}

async function textReaderFor(
  path: string,
  limits: ReadLimits,
  sink: DrawingSink & GeoJsonSink,
): Promise<SvgReader | GeoJsonReader> {
  const svgLimits = { ...defaultSvgLimits, maxElements: limits.maxElements };
  if (!(await mayRefer(path))) return new SvgReader(sink, undefined, svgLimits);
  const scan = new ReferenceScan();
  let isJson: boolean | undefined;
  await forEachPiece(path, limits, (text) => {
    if (isJson === undefined && text.trim() !== '') isJson = text.trimStart().startsWith('{');
    if (isJson !== true) scan.write(text);
  });
  if (isJson === true) return new GeoJsonReader(sink, svgLimits);
  if (!needsPreparation(scan)) return new SvgReader(sink, undefined, svgLimits);
  const first = new PreparationReader(scan.references, svgLimits);
  await forEachPiece(path, limits, (text) => first.write(text));
  return new SvgReader(sink, first.end(), svgLimits);
}
