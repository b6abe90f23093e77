import { letterAdvance } from '@gull-pane/core/drawing/letter-advance';
import type { MeasuredPath } from './measured-path.ts';
import type { Paint } from './paint.ts';

/** Letters that stand straight together. User units, y down. */
export interface PathPiece<Owner> {
  readonly owner: Owner;
  readonly x: number;
  readonly y: number;
  readonly angleRad: number;
  text: string;
}

/** Two letters that are turned less than this against each other stand in one piece, so that words stay words. */
const STRAIGHT_RAD = (2 * Math.PI) / 180;

/**
 * Lays text along a path as SVG 2, 11.8.3 says: each letter stands with the middle of its advance on the path, turned as
 * the path runs there; letters whose middle lies beyond the path's ends aren't drawn.
 * @param spans stretches of the text, each with the paint that says how large it is
 * @param startOffset where the text begins (or has its middle or end, by its anchor) along the path, user units
 */
export function layOnPath<Owner extends { readonly paint: Paint }>(
  path: MeasuredPath,
  startOffset: number,
  spans: readonly { readonly owner: Owner; readonly text: string }[],
): PathPiece<Owner>[] {
  const letters = foldedLetters(spans);
  const total = letters.reduce((sum, { advance }) => sum + advance, 0);
  const anchor = letters[0]?.owner.paint.textAnchor ?? 'start';
  let pen = startOffset - (anchor === 'middle' ? total / 2 : anchor === 'end' ? total : 0);
  const pieces: PathPiece<Owner>[] = [];
  let current: PathPiece<Owner> | null = null;
  for (const { owner, letter, advance } of letters) {
    const place = path.at(pen + advance / 2);
    pen += advance;
    if (!place) {
      current = null;
      continue;
    }
    const isStraightOn =
      current !== null && current.owner === owner && Math.abs(turn(current.angleRad, place.angleRad)) < STRAIGHT_RAD;
    if (isStraightOn) current!.text += letter;
    else if (letter === ' ') current = null;
    else {
      const { angleRad } = place;
      const [x, y] = [place.x - (Math.cos(angleRad) * advance) / 2, place.y - (Math.sin(angleRad) * advance) / 2];
      current = { owner, x, y, angleRad, text: letter };
      pieces.push(current);
    }
  }
  return pieces;
}

/** The letters one by one, with white space folded over all spans as XML's default asks. */
function foldedLetters<Owner extends { readonly paint: Paint }>(
  spans: readonly { readonly owner: Owner; readonly text: string }[],
): { owner: Owner; letter: string; advance: number }[] {
  const letters: { owner: Owner; letter: string; advance: number }[] = [];
  for (const { owner, text } of spans) {
    const { fontSize, isBold } = owner.paint;
    for (const letter of text.replace(/\s+/g, ' ')) {
      if (letter === ' ' && (letters.length === 0 || letters.at(-1)!.letter === ' ')) continue;
      letters.push({ owner, letter, advance: letterAdvance(letter, fontSize, isBold) });
    }
  }
  if (letters.at(-1)?.letter === ' ') letters.pop();
  return letters;
}

const turn = (from: number, to: number): number => Math.atan2(Math.sin(to - from), Math.cos(to - from));
