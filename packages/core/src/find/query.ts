import type { DrawingUnit } from '../drawing/units.ts';
import { readBearing, readScale } from '../typed/typed-number.ts';
import { parseTyped } from '../typed/typed-place.ts';

/**
 * The small language of the find field. What is no command is looked for as a text.
 *
 *   412600500, 7208400250     a place; this and the next by the rules of typed-place.ts
 *   by 1500, −200             so far from what is in the middle; also “1500 at 30”, “1500 bearing 30”
 *   1:200 · scale 200         an exact scale
 *   bearing 30                what lies at the top, degrees clockwise from north
 *   back · back 3 · forward 2 steps along the trail
 *   sheet 3                   that sheet of a set
 *   layer pipe                the layers whose names have these words
 */
export type Query =
  | { readonly kind: 'nothing' }
  | { readonly kind: 'place'; readonly x: number; readonly y: number }
  /** So far east and north of the middle of the view. */
  | { readonly kind: 'moved'; readonly x: number; readonly y: number }
  | { readonly kind: 'scale'; readonly denominator: number }
  | { readonly kind: 'bearing'; readonly degrees: number }
  | { readonly kind: 'steps'; readonly steps: number }
  | { readonly kind: 'sheet'; readonly number: number }
  | { readonly kind: 'layer'; readonly name: string }
  | { readonly kind: 'text'; readonly text: string }
  /** A command was begun, but the rest isn't understood. */
  | { readonly kind: 'unclear'; readonly expected: string };

/** One example of each command, for those who look for what can be said. */
export const queryExamples: readonly (readonly [example: string, meaning: string])[] = [
  ['412600500, 7208400250', 'goes to a place, east and north'],
  ['by 1500, -200', 'goes so far east and north; also “1500 bearing 30”'],
  ['1:200', 'sets the scale; also “scale 200”'],
  ['bearing 30', 'turns what lies there to the top'],
  ['back 3', 'goes three views back; also “forward 2”'],
  ['sheet 3', 'goes to that sheet of a set'],
  ['layer pipe', 'shows which layers are named so'],
];

const WHOLE = /^\d+$/;
const MOST_STEPS = 1000;

/**
 * @param input as it was typed
 * @param unit of the drawing: what lengths without one are in
 */
export function parseQuery(input: string, unit: DrawingUnit = 'none'): Query {
  const text = input.trim().replace(/\s+/g, ' ');
  if (text === '') return { kind: 'nothing' };
  const typed = parseTyped(text, unit);
  if (typed?.kind === 'place') return { kind: 'place', x: typed.x, y: typed.y };
  if (typed?.kind === 'by') return { kind: 'moved', x: typed.x, y: typed.y };
  if (/^\d+ ?:(?: ?[\d+−-]|$)/.test(text)) return scaleOf(text);
  const [, verb = '', rest = ''] = /^(\p{L}+)(?: (.*))?$/u.exec(text) ?? [];
  switch (verb.toLowerCase()) {
    case 'scale':
      return rest === '' ? { kind: 'text', text } : scaleOf(rest);
    case 'bearing': {
      if (rest === '') return { kind: 'text', text };
      const read = readBearing(rest);
      return 'trouble' in read
        ? { kind: 'unclear', expected: 'a bearing in degrees, as in “bearing 30” or “bearing N30E”' }
        : { kind: 'bearing', degrees: read.value };
    }
    case 'back':
    case 'forward': {
      const steps = rest === '' ? 1 : numberIn(rest);
      const isCount = steps !== null && Number.isInteger(steps) && steps >= 1 && steps <= MOST_STEPS;
      if (!isCount) return { kind: 'unclear', expected: 'how many views, as in “back 3”' };
      return { kind: 'steps', steps: verb.toLowerCase() === 'back' ? -steps : steps };
    }
    case 'sheet': {
      const number = numberIn(rest);
      // a title block has texts such as “Sheet 3 of 5”, too
      return number !== null && Number.isInteger(number) && number >= 1
        ? { kind: 'sheet', number }
        : { kind: 'text', text };
    }
    case 'layer':
      return rest === ''
        ? { kind: 'unclear', expected: 'a part of the layer’s name, as in “layer pipe”' }
        : { kind: 'layer', name: rest };
    default:
      return { kind: 'text', text };
  }
}

function scaleOf(text: string): Query {
  const read = readScale(text);
  return 'trouble' in read
    ? { kind: 'unclear', expected: 'a scale, as in “1:200” or “scale 200”' }
    : { kind: 'scale', denominator: read.value };
}

const numberIn = (text: string): number | null => (WHOLE.test(text) ? Number(text) : null);
