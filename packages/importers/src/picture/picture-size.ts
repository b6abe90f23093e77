import { imageSize } from 'image-size';

/** Formats of raster pictures that are taken over. */
const formats: ReadonlySet<string> = new Set(['png', 'jpg', 'webp', 'gif', 'tiff']);

/** Side of a picture beyond which it isn't taken over, px. */
const MOST_SIDE_PX = 1 << 17;

/**
 * How large a picture is as it is shown, turned as its camera was held.
 * @returns null if it is in no known format
 */
export function pictureSize(bytes: Uint8Array): { readonly widthPx: number; readonly heightPx: number } | null {
  try {
    const { width, height, type = '', orientation = 1 } = imageSize(bytes);
    if (!formats.has(type) || !(width > 0 && height > 0) || Math.max(width, height) > MOST_SIDE_PX) return null;
    // EXIF 2.3, 4.6.4: from 5 on the picture lies on its side
    return orientation >= 5 ? { widthPx: height, heightPx: width } : { widthPx: width, heightPx: height };
  } catch {
    return null;
  }
}

/** Whether a file begins as a raster picture that is a drawing of its own: PNG, JPEG, WebP, GIF or TIFF. */
export function beginsLikePicture(head: Uint8Array): boolean {
  const text = String.fromCharCode(...head.subarray(0, 12));
  return (
    text.startsWith('\x89PNG\r\n\x1a\n') ||
    text.startsWith('\xff\xd8\xff') ||
    /^GIF8[79]a/.test(text) ||
    /^RIFF[^]{4}WEBP/.test(text) ||
    ['II*\0', 'MM\0*', 'II+\0', 'MM\0+'].some((begin) => text.startsWith(begin))
  );
}
