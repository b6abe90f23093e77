import { createHash } from 'node:crypto';
import { mkdirSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import type { PictureElement, PictureSource } from '@gull-pane/core/drawing/model';

/** Below a revision's folder: each picture's own file, and its pyramid. */
export const PICTURES_FOLDER = 'pictures';

/** A picture that was met, by the number of its source. */
export interface StoredPicture extends Omit<PictureElement, 'source'> {
  readonly object: number;
  readonly source: number;
}

/** How the px of a source are read. */
export interface StoredSource {
  readonly path: string;
  /** Of bare px. */
  readonly raw: { readonly width: number; readonly height: number; readonly channels: 1 | 3 | 4 } | null;
  /** Whether small losses were there already: then the pyramid may be as lossy. */
  readonly isLossy: boolean;
}

/** What a picture's file is written in. */
export function mediaTypeOf(bytes: Uint8Array): string {
  const begin = String.fromCharCode(...bytes.subarray(0, 12));
  if (begin.startsWith('\x89PNG')) return 'image/png';
  if (begin.startsWith('\xff\xd8')) return 'image/jpeg';
  if (begin.startsWith('GIF8')) return 'image/gif';
  return begin.startsWith('RIFF') ? 'image/webp' : 'image/tiff';
}

/** Keeps the pictures of a drawing as files while it is read; the same px are kept once. */
export class PictureStore {
  readonly pictures: StoredPicture[] = [];
  readonly sources: StoredSource[] = [];
  readonly #byHash = new Map<string, number>();

  /** @param outFolder of the revision */
  constructor(private readonly outFolder: string) {}

  get folder(): string {
    return join(this.outFolder, PICTURES_FOLDER);
  }

  add({ source, ...picture }: PictureElement, object: number): void {
    this.pictures.push({ ...picture, object, source: this.#numberOf(source) });
  }

  #numberOf(source: PictureSource): number {
    const { bytes } = source;
    const size = source.kind === 'pixels' ? `${source.widthPx} ${source.channels} ` : '';
    const hash = size + createHash('sha256').update(bytes).digest('base64');
    let number = this.#byHash.get(hash);
    if (number !== undefined) return number;
    number = this.sources.length;
    this.#byHash.set(hash, number);
    if (number === 0) mkdirSync(this.folder, { recursive: true });
    const path = join(this.folder, `${number}.source`);
    writeFileSync(path, bytes);
    this.sources.push({
      path,
      raw:
        source.kind === 'pixels' ? { width: source.widthPx, height: source.heightPx, channels: source.channels } : null,
      isLossy: source.kind === 'file' && mediaTypeOf(bytes) === 'image/jpeg',
    });
    return number;
  }
}
