import { open, readFile, rename, rm } from 'node:fs/promises';
import { join } from 'node:path';
import type { Sharp } from 'sharp';
import { PICTURE_OVERLAP_PX, PICTURE_TILE_PX, pictureLevels } from '@gull-pane/core/pictures/picture-tiles';
import { ReadError } from '@gull-pane/importers/read-error';
import type { TilesetPicture } from '@gull-pane/protocol/tileset';
import type { FileTextLimits } from '../jobs/file-text.ts';
import { mediaTypeOf, type PictureStore, type StoredPicture, type StoredSource } from './picture-store.ts';

/** Bytes that a px takes when it is unpacked. */
const BYTES_PER_PX = 4;

/** @throws ReadError if a picture has more px than may be unpacked */
export function checkSize(width: number, height: number, { maxUnpackedBytes }: FileTextLimits): void {
  if (width * height * BYTES_PER_PX <= maxUnpackedBytes) return;
  const most = Math.floor(maxUnpackedBytes / BYTES_PER_PX);
  throw new ReadError('limit-exceeded', `A picture has more than ${most} px (GULL_PANE_MAX_UNPACKED_MB).`);
}

/** Of a photo that was packed with losses before, the pyramid keeps so much, per cent. */
const QUALITY = 92;

/** Opens what is kept of a picture, turned as its camera was held, red green blue with or without alpha. */
export async function openSource({ path, raw }: StoredSource): Promise<Sharp> {
  const { default: sharp } = await import('sharp');
  // its size has been looked at before
  const options = { limitInputPixels: false as const, failOn: 'error' as const };
  // bare px are read as a whole: the package takes no path for them
  const image = raw ? sharp(await readFile(path), { ...options, raw }) : sharp(path, options);
  return image.autoOrient().toColourspace('srgb');
}

/** What became of a drawing's pictures. */
export interface WrittenPictures {
  readonly placed: readonly TilesetPicture[];
  /** Why others are left out. */
  readonly faults: readonly ReadError[];
}

/**
 * Makes the pyramid of each picture: `pictures/<source>/<level>/<column>_<row>`, PNG or, of photos, JPEG.
 * @param limits what may be unpacked
 * @param layerOf the layer of a node
 * @param onPicture told how many are done
 */
export async function writePictures(
  store: PictureStore,
  limits: FileTextLimits,
  layerOf: (node: number) => number,
  onPicture: (done: number) => void,
): Promise<WrittenPictures> {
  const sizes: ({ widthPx: number; heightPx: number } | null)[] = [];
  const faults: ReadError[] = [];
  for (const [number, source] of store.sources.entries()) {
    sizes.push(
      await writePyramid(source, join(store.folder, String(number)), limits).catch((error: unknown) => {
        if (!(error instanceof ReadError)) throw error;
        faults.push(error);
        return null;
      }),
    );
    onPicture(number + 1);
  }
  const placed = store.pictures.flatMap((picture): TilesetPicture[] => {
    const size = sizes[picture.source];
    if (!size) return [];
    const ending = store.sources[picture.source]!.isLossy ? ('jpeg' as const) : ('png' as const);
    return [{ ...placedPicture(picture, size, layerOf), ending }];
  });
  return { placed, faults };
}

async function writePyramid(
  source: StoredSource,
  target: string,
  limits: FileTextLimits,
): Promise<{ widthPx: number; heightPx: number }> {
  try {
    const image = await openSource(source);
    const { width, height } = await sizeOf(image);
    checkSize(width, height, limits);
    const packed = source.isLossy
      ? image.clone().jpeg({ quality: QUALITY, chromaSubsampling: '4:4:4' })
      : image.clone().png({ compressionLevel: 3 });
    await packed
      .tile({ size: PICTURE_TILE_PX, overlap: PICTURE_OVERLAP_PX, layout: 'dz', depth: 'onetile', skipBlanks: -1 })
      .toFile(`${target}.dz`);
    await rm(`${target}.dzi`, { force: true });
    await rename(`${target}_files`, target);
    await keepAsFile(source, image);
    return { widthPx: width, heightPx: height };
  } catch (error) {
    if (error instanceof ReadError) throw error;
    const reason = error instanceof Error ? error.message.split('\n')[0] : String(error);
    throw new ReadError('damaged-file', `A picture can't be unpacked: ${reason}.`);
  }
}

/** What a browser can't show as it is, bare px or TIFF, is kept as PNG: it goes out again so. */
async function keepAsFile({ path, raw }: StoredSource, image: Sharp): Promise<void> {
  if (!raw && mediaTypeOf(await headOf(path)) !== 'image/tiff') return;
  await image.clone().png({ compressionLevel: 6 }).toFile(`${path}.png`);
  await rename(`${path}.png`, path);
}

async function headOf(path: string): Promise<Uint8Array> {
  const file = await open(path);
  try {
    return (await file.read(Buffer.alloc(16), 0, 16, 0)).buffer;
  } finally {
    await file.close();
  }
}

async function sizeOf(image: Sharp): Promise<{ width: number; height: number }> {
  return (await image.metadata()).autoOrient;
}

function placedPicture(
  { object, layer, source, place, clip, opacity }: StoredPicture,
  { widthPx, heightPx }: { readonly widthPx: number; readonly heightPx: number },
  layerOf: (node: number) => number,
): Omit<TilesetPicture, 'ending'> {
  const { a, b, c, d, e, f } = place;
  return {
    object,
    layer: layerOf(layer),
    source,
    widthPx,
    heightPx,
    levels: pictureLevels(widthPx, heightPx),
    place: [a, b, c, d, e, f],
    ...(clip ? { clip: [clip.minX, clip.minY, clip.maxX, clip.maxY] as const } : {}),
    opacity,
  };
}
