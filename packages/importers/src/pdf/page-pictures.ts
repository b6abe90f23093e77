import { applyX, applyY, identityAffine, type Affine } from '@gull-pane/core/geometry/affine';
import type { Colour, PictureSource } from '@gull-pane/core/drawing/model';
import { affine } from './operator-values.ts';

/** A picture of a page before it is placed. */
export interface PagePicture {
  readonly source: PictureSource;
  /** Where it stands on the page, from the unit square of the page, y up; the identity for most. */
  readonly at: Affine;
}

/** A picture as the parsing package hands it on. */
interface ParsedPicture {
  readonly width: number;
  readonly height: number;
  readonly kind?: number;
  readonly data?: Uint8Array | Uint8ClampedArray | string;
}

/** Kinds of data of the parsing package. */
const GREY_1BIT = 1;
const RGB = 2;
const RGBA = 3;

/** The operators that paint pictures. */
const pictureOperators: ReadonlySet<string> = new Set([
  'paintImageXObject',
  'paintImageXObjectRepeat',
  'paintInlineImageXObject',
  'paintImageMaskXObject',
  'paintImageMaskXObjectRepeat',
  'paintImageMaskXObjectGroup',
]);

/** Whether an operator paints pictures that are taken over. */
export const paintsPicture = (name: string): boolean => pictureOperators.has(name);

/** Names of pictures and shadings that the arguments of an operator refer to: they have to be there before it is drawn. */
export function pictureNames(name: string, args: readonly unknown[]): string[] {
  if (name === 'shadingFill') return [String(args[0])];
  if (name === 'setFillColorN' && args[0] === 'Shading') return [String(args[1])];
  if (!paintsPicture(name)) return [];
  const [first] = args;
  if (typeof first === 'string') return [first];
  const masks = (Array.isArray(first) ? first : [first]) as readonly (ParsedPicture | undefined)[];
  return masks.flatMap((mask) => (typeof mask?.data === 'string' ? [mask.data] : []));
}

/**
 * The pictures that an operator paints.
 * @param objectOf gets what a name refers to
 * @param colour that masks are painted in; null if they can't be seen
 * @returns null in place of each that can't be read
 */
export function picturesOf(
  name: string,
  args: readonly unknown[],
  objectOf: (name: string) => unknown,
  colour: Colour | null,
): readonly (PagePicture | null)[] {
  const number = (index: number): number => Number(args[index]);
  const resolved = (told: unknown): ParsedPicture | null => {
    const picture = (typeof told === 'string' ? objectOf(told) : told) as ParsedPicture | null | undefined;
    if (!picture) return null;
    return typeof picture.data === 'string' ? { ...picture, ...(objectOf(picture.data) as ParsedPicture) } : picture;
  };
  const placed = (source: PictureSource | null, places: readonly Affine[]): (PagePicture | null)[] =>
    places.map((at) => source && { source, at });
  const positions = (list: unknown, a: number, b: number, c: number, d: number): Affine[] => {
    const numbers = Array.from((list ?? []) as ArrayLike<number>);
    return Array.from({ length: numbers.length >> 1 }, (_, i) =>
      affine([a, b, c, d, numbers[2 * i]!, numbers[2 * i + 1]!]),
    );
  };
  switch (name) {
    case 'paintImageXObject':
    case 'paintInlineImageXObject':
      return placed(pixelsOf(resolved(args[0])), [identityAffine]);
    case 'paintImageXObjectRepeat':
      return placed(pixelsOf(resolved(args[0])), positions(args[3], number(1), 0, 0, number(2)));
    case 'paintImageMaskXObject':
      return placed(maskOf(resolved(args[0]), colour), [identityAffine]);
    case 'paintImageMaskXObjectRepeat':
      return placed(maskOf(resolved(args[0]), colour), positions(args[5], number(1), number(2), number(3), number(4)));
    case 'paintImageMaskXObjectGroup':
      return ((args[0] ?? []) as readonly (ParsedPicture & { readonly transform: readonly number[] })[]).flatMap(
        (mask) => placed(maskOf(resolved(mask), colour), [affine(mask.transform)]),
      );
    default:
      return [];
  }
}

/** A picture without what a place's test takes away. @param place from the unit square, y down, to the drawing */
export function cutOut(source: PictureSource, place: Affine, isSeen: (x: number, y: number) => boolean): PictureSource {
  if (source.kind !== 'pixels') return source;
  const { widthPx, heightPx, channels, bytes } = source;
  const cut = new Uint8Array(4 * widthPx * heightPx);
  for (let row = 0; row < heightPx; row++)
    for (let column = 0; column < widthPx; column++) {
      const [u, v] = [(column + 0.5) / widthPx, (row + 0.5) / heightPx];
      if (!isSeen(applyX(place, u, v), applyY(place, u, v))) continue;
      const from = channels * (row * widthPx + column);
      const grey = channels === 1;
      const [r, g, b] = [bytes[from]!, bytes[grey ? from : from + 1]!, bytes[grey ? from : from + 2]!];
      cut.set([r, g, b, channels === 4 ? bytes[from + 3]! : 255], 4 * (row * widthPx + column));
    }
  return { kind: 'pixels', bytes: cut, widthPx, heightPx, channels: 4 };
}

function pixelsOf(picture: ParsedPicture | null): PictureSource | null {
  const { width: widthPx = 0, height: heightPx = 0, kind, data } = picture ?? {};
  if (!(data instanceof Uint8Array || data instanceof Uint8ClampedArray) || !(widthPx > 0 && heightPx > 0)) return null;
  const bytes = new Uint8Array(data.buffer, data.byteOffset, data.byteLength);
  if (kind === GREY_1BIT) {
    const grey = new Uint8Array(widthPx * heightPx);
    eachBit(bytes, widthPx, heightPx, (at, bit) => {
      grey[at] = bit ? 255 : 0;
    });
    return { kind: 'pixels', bytes: grey, widthPx, heightPx, channels: 1 };
  }
  const channels = kind === RGB ? 3 : kind === RGBA ? 4 : null;
  if (!channels || bytes.length < channels * widthPx * heightPx) return null;
  return { kind: 'pixels', bytes: bytes.slice(0, channels * widthPx * heightPx), widthPx, heightPx, channels };
}

/** A stencil (ISO 32000-2, 8.9.6.2): where its bits are 0 the page is painted. */
function maskOf(picture: ParsedPicture | null, colour: Colour | null): PictureSource | null {
  const { width: widthPx = 0, height: heightPx = 0, data } = picture ?? {};
  if (!(data instanceof Uint8Array || data instanceof Uint8ClampedArray) || !colour) return null;
  const bytes = new Uint8Array(4 * widthPx * heightPx);
  eachBit(data, widthPx, heightPx, (at, bit) => {
    if (!bit) bytes.set([colour.r, colour.g, colour.b, 255], 4 * at);
  });
  return { kind: 'pixels', bytes, widthPx, heightPx, channels: 4 };
}

/** Rows begin at whole bytes; the highest bit comes first. */
function eachBit(
  bytes: Uint8Array | Uint8ClampedArray,
  width: number,
  height: number,
  take: (at: number, bit: boolean) => void,
): void {
  const stride = (width + 7) >> 3;
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) take(y * width + x, ((bytes[y * stride + (x >> 3)]! >> (7 - (x & 7))) & 1) === 1);
}
