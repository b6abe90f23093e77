import { expect, it } from 'vitest';
import { parseTyped } from '@gull-pane/core/typed/typed-place';
import { typedInWords } from './typed-words';

const extents = { min: { x: 412_000_000, y: 7_208_000_000 }, max: { x: 413_000_000, y: 7_209_000_000 } };
const told = (text: string): string => typedInWords(parseTyped(text, 'mm')!, 'mm', extents).replaceAll('\u202f', ' ');

it('tells what was understood before it holds', () => {
  expect(told('412600500,5 7208400250,25')).toBe('E 412 600 500.5, N 7 208 400 250.25 mm');
  expect(told('412600, 7208400')).toBe('E 412 600, N 7 208 400 mm, outside the drawing');
  expect(told('12,5 m')).toBe('12 500 mm');
  expect(told('by 1500; -200')).toBe('+1 500 mm east, −200 mm north');
  expect(told('at 30')).toBe('30° from east');
  expect(told('12,5')).toBe('“12,5” can mean the place 12, 5 or 12.5: write one of these.');
});
