import type { BcfLimits } from './bcf/read-bcf.ts';
import { readBcf } from './bcf/read-bcf.ts';
import { writeBcf } from './bcf/write-bcf.ts';
import { readCsvViews, writeCsvViews } from './csv-views.ts';
import { readGltfViews, writeGltfViews } from './gltf-views.ts';
import { VIEWS_FORMAT, readJsonViews, writeJsonViews } from './json-views.ts';
import {
  ExchangeError,
  type Circumstances,
  type ExchangedDrawing,
  type ExchangedView,
  type ReadViews,
  type WrittenViews,
} from './view.ts';

export interface ViewFormat {
  readonly id: string;
  /** As a list tells it. */
  readonly name: string;
  readonly extension: string;
  readonly mediaType: string;
  /** Whether pictures go with it. */
  readonly hasPictures: boolean;
  readonly write: (
    views: readonly ExchangedView[],
    drawing: ExchangedDrawing,
    circumstances: Circumstances,
  ) => WrittenViews;
}

/** What views are written as; another format is an entry here and a file beside it. */
export const viewFormats: readonly ViewFormat[] = [
  {
    id: 'json',
    name: 'JSON, everything',
    extension: 'json',
    mediaType: 'application/json',
    hasPictures: true,
    write: writeJsonViews,
  },
  {
    id: 'bcf-3.0',
    name: 'BCF 3.0',
    extension: 'bcf',
    mediaType: 'application/zip',
    hasPictures: true,
    write: (views, drawing, around) => writeBcf(views, drawing, '3.0', around),
  },
  {
    id: 'bcf-2.1',
    name: 'BCF 2.1',
    extension: 'bcfzip',
    mediaType: 'application/zip',
    hasPictures: true,
    write: (views, drawing, around) => writeBcf(views, drawing, '2.1', around),
  },
  {
    id: 'gltf',
    name: 'glTF cameras',
    extension: 'gltf',
    mediaType: 'model/gltf+json',
    hasPictures: false,
    write: writeGltfViews,
  },
  {
    id: 'csv',
    name: 'CSV table',
    extension: 'csv',
    mediaType: 'text/csv',
    hasPictures: false,
    write: writeCsvViews,
  },
];

/** Reads views of any format that there is, told by what the file holds. @throws ExchangeError in words for the user */
export function readViews(bytes: Uint8Array, drawing: ExchangedDrawing, limits: BcfLimits): ReadViews {
  if (bytes.length === 0) throw new ExchangeError('The file is empty.', 'Choose another one.');
  const head = String.fromCharCode(...bytes.subarray(0, 4096));
  if (head.startsWith('PK')) return readBcf(bytes, drawing, limits);
  if (/^\s*\{/.test(head.replace(/^\u00EF\u00BB\u00BF/, '')))
    return head.includes(VIEWS_FORMAT) ? readJsonViews(bytes) : readGltfViews(bytes, drawing, limits.depth);
  if (/^[^\n]*\bunitsPerPx\b/.test(head)) return readCsvViews(bytes, drawing.revision);
  throw new ExchangeError(
    'No views can be read from this file.',
    'Views come in as JSON, BCF 2.1 or 3.0, glTF cameras or CSV.',
  );
}
