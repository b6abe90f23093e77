import type { FillRule } from '@gull-pane/core/drawing/model';
import type { SolidDto } from '@gull-pane/protocol/objects';

/**
 * The exact doubles of every object, in two files: `objects.bin` holds the records one after another, `objects.index`
 * holds two doubles an object, where its record begins and which layer it is on.
 *
 * A record: kind (uint32; 0 path, 1 text, 2 solid), number of steps or of text bytes (uint32), number of doubles
 * (uint32), its style (uint32; see packStyle); the steps, or the text or solid as JSON, padded to eight bytes; the
 * doubles. Triangles that an object before has, too, are not written again: the JSON says where they are. Little-endian.
 */
export const HEADER_BYTES = 16;
/** What the source says of its objects, where it goes out again as it was: a number, a blank and JSON a line. */
export const TOLD_FILE = 'told.txt';
/** Records and their parts begin at whole eights. */
export const padded = (length: number): number => (length + 7) & ~7;

const MOST_STYLES = 0x7ffe;

/** Doubles of a record. @param at their first byte */
export function numbersIn(bytes: Buffer, at: number, count: number): Float64Array {
  const numbers = new Float64Array(count);
  for (let i = 0; i < count; i++) numbers[i] = bytes.readDoubleLE(at + 8 * i);
  return numbers;
}

/** How an object is drawn, in one number: the style of its lines or letters, that of its area, its rule. 0 for unknown. */
export function packStyle(line: number, fill: number, rule: FillRule): number {
  if (line > MOST_STYLES || fill > MOST_STYLES) return 0;
  return (((rule === 'evenodd' ? 1 : 0) << 30) | ((fill + 1) << 15) | (line + 1)) >>> 0;
}

/** Numbers of styles, −1 for none or unknown. */
export interface PackedStyle {
  readonly line: number;
  readonly fill: number;
  readonly fillRule: FillRule;
}

export const unpackStyle = (packed: number): PackedStyle => ({
  line: (packed & 0x7fff) - 1,
  fill: ((packed >>> 15) & 0x7fff) - 1,
  fillRule: packed >>> 30 === 1 ? 'evenodd' : 'nonzero',
});

/** What of a solid stands before its numbers: how many of them each part has. */
export interface SolidHead {
  readonly name: string;
  readonly id?: string;
  readonly facts: readonly string[];
  readonly parts: readonly {
    readonly material: number;
    readonly positions: number;
    readonly triangles: number;
    /** Where they stand, if another object had the same before: a byte of `objects.bin`. */
    readonly facesAt?: number;
    readonly edges: number;
    /** Of sets of points. */
    readonly colours?: number;
  }[];
}

/** Triangles that several objects have: where the first has them. */
export interface KnownFaces {
  /** Byte of `objects.bin`. */
  readonly at: number;
  /** Doubles, three a triangle. */
  readonly length: number;
}

/** The parts of a solid. @param numbers all that its record has @param faces reads triangles that stand in another */
export function solidOf(
  { name, id, facts, parts }: SolidHead,
  numbers: readonly number[],
  faces: (known: KnownFaces) => readonly number[],
): SolidDto {
  let at = 0;
  const take = (count: number): number[] => numbers.slice(at, (at += count));
  return {
    name,
    ...(id === undefined ? {} : { id }),
    facts,
    parts: parts.map(({ material, positions, triangles, facesAt, edges, colours }) => ({
      material,
      positions: take(positions),
      triangles: facesAt === undefined ? take(triangles) : [...faces({ at: facesAt, length: triangles })],
      edges: take(edges),
      ...(colours === undefined ? {} : { points: { count: positions / 3, colours: take(colours) } }),
    })),
  };
}
