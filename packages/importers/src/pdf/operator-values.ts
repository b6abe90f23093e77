import { colord } from 'colord';
import type { Colour } from '@gull-pane/core/drawing/model';
import { PathBuilder } from '@gull-pane/core/drawing/path';
import type { Affine } from '@gull-pane/core/geometry/affine';

/** Numbers as single precision left them: what it made of 0 is 0 again. */
export function affine(m: readonly number[]): Affine {
  const largest = Math.max(Math.abs(m[0]!), Math.abs(m[1]!), Math.abs(m[2]!), Math.abs(m[3]!));
  const clean = (value: number): number => (Math.abs(value) < 1e-9 * largest ? 0 : value);
  return { a: clean(m[0]!), b: clean(m[1]!), c: clean(m[2]!), d: clean(m[3]!), e: m[4]!, f: m[5]! };
}

/** @param rgb red, green, blue, 0 … 255 */
export const hexOf = ([r = 0, g = 0, b = 0]: readonly number[]): string => colord({ r, g, b }).toHex();

/** A dash pattern of an even length (ISO 32000-2, 8.4.3.6); none where it has no length. */
export const dashesOf = (list: unknown): readonly number[] => {
  const dashes = Array.from((list ?? []) as ArrayLike<number>, Number);
  const sum = dashes.reduce((total, length) => total + length, 0);
  if (!(sum > 0) || dashes.some((length) => !(length >= 0))) return [];
  return dashes.length % 2 === 0 ? dashes : [...dashes, ...dashes];
};

/** @returns the colour with its opacity; null where nothing of it would be seen */
export function visible(hex: string | null, alpha: number): Colour | null {
  if (hex === null || !(alpha > 0)) return null;
  const { r, g, b } = colord(hex).toRgb();
  return { r, g, b, a: Math.round(255 * Math.min(alpha, 1)) };
}

/** The parsing package's own form of a path: a code and its coordinates, one after the other. */
const Step = { move: 0, line: 1, cubic: 2, quadratic: 3, close: 4 } as const;

/** @returns the path in the parsing package's own form; null where there is none */
export function pathOf(buffer: unknown): PathBuilder | null {
  if (!(buffer instanceof Float32Array)) return null;
  const path = new PathBuilder();
  let at = 0;
  const next = (): number => buffer[at++]!;
  while (at < buffer.length) {
    switch (next()) {
      case Step.move:
        path.moveTo(next(), next());
        break;
      case Step.line:
        path.lineTo(next(), next());
        break;
      case Step.cubic:
        path.cubicTo(next(), next(), next(), next(), next(), next());
        break;
      case Step.quadratic:
        path.quadraticTo(next(), next(), next(), next());
        break;
      case Step.close:
        path.close();
        break;
      default:
        return path; // damaged: what came before it is drawn
    }
  }
  return path;
}
