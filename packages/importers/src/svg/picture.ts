import { compose, identityAffine } from '@gull-pane/core/geometry/affine';
import type { PictureElement } from '@gull-pane/core/drawing/model';
import { transformPath } from '@gull-pane/core/drawing/path';
import { clipOf, intersectClips, rectangle } from '../clip-path.ts';
import { bytesOfDataUri } from '../picture/data-uri.ts';
import { pictureSize } from '../picture/picture-size.ts';
import { lengthReader, type Attributes, type Frame } from './frame.ts';
import { viewBoxTransform } from './view-box.ts';

/** What of an `image` element can't be shown, in words. */
export type PictureFault = string;

/**
 * A raster picture that stands in the file itself (SVG 2, 12.3 "The image element").
 * @returns what is wrong with it, if it can't be shown; null if nothing of it would be seen
 */
export function pictureOf(attributes: Attributes, frame: Frame): PictureElement | PictureFault | null {
  const href = (attributes.href ?? attributes['xlink:href'] ?? '').trim();
  if (!/^data:/i.test(href)) return 'pictures that lie outside the file are not fetched: put them into it';
  const content = bytesOfDataUri(href);
  if (content?.mediaType.startsWith('image/svg')) return 'drawings within pictures are not drawn';
  const size = content && pictureSize(content.bytes);
  if (!size) return 'a picture that can’t be read is left out';
  const length = lengthReader(attributes, frame);
  const [ownWidth, ownHeight] = [length('width', 'x'), length('height', 'y')];
  const ratio = size.widthPx / size.heightPx;
  const width = ownWidth ?? (ownHeight === undefined ? size.widthPx : ownHeight * ratio);
  const height = ownHeight ?? width / ratio;
  const opacity = frame.paint.opacity;
  if (!(width > 0 && height > 0) || !(opacity > 0) || !frame.paint.isVisible) return null;
  const box = { x: 0, y: 0, width: size.widthPx, height: size.heightPx };
  const preserve = attributes.preserveAspectRatio;
  const corner = compose(frame.matrix, { ...identityAffine, e: length('x', 'x') ?? 0, f: length('y', 'y') ?? 0 });
  const perPx = compose(corner, viewBoxTransform(box, width, height, preserve));
  const place = compose(perPx, { ...identityAffine, a: size.widthPx, d: size.heightPx });
  const { a, b, c, d, e, f } = place;
  if (![a, b, c, d, e, f].every((value) => Math.abs(value) < 1e15)) return 'a picture that lies nowhere is left out';
  let { clip } = frame;
  if (/\bslice\b/.test(preserve ?? '')) {
    const seen = clipOf(transformPath(rectangle([0, 0, width, height]), corner), 'nonzero');
    clip = intersectClips(clip, seen.clip);
  }
  return {
    layer: frame.layer,
    place,
    clip: clip?.box ?? null,
    opacity,
    source: { kind: 'file', bytes: content.bytes },
  };
}
