import { stat } from 'node:fs/promises';
import type { GeoJsonSink } from '@gull-pane/importers/geojson/geometry-drawer';
import { isPdfHead } from '@gull-pane/importers/pdf/pdf-head';
import { beginsLikePicture } from '@gull-pane/importers/picture/picture-size';
import type { ReadLimits } from './import-messages.ts';
import { readBeside } from './read-beside.ts';
import { headOf, readHere, type SourceContent } from './read-here.ts';

/** From this size on a text is read in a thread of its own; smaller ones are read before one has begun. */
const LARGE_TEXT_BYTES = 1 << 21;

/**
 * Reads a file by what it holds; its name doesn't matter. A large text is read beside this thread.
 * @param onRead told how many bytes have been read
 * @throws ReadError with what is wrong and where
 */
export async function readSource(
  path: string,
  limits: ReadLimits,
  sink: GeoJsonSink,
  onRead: (bytes: number) => void,
): Promise<SourceContent> {
  const head = await headOf(path);
  const isText = !isPdfHead(head) && !beginsLikePicture(head);
  const isLargeText = isText && (await stat(path)).size >= LARGE_TEXT_BYTES;
  return (isLargeText ? readBeside : readHere)(path, limits, sink, onRead);
}
