import { describe, expect, it } from 'vitest';
import { sheetInView } from './sheet.ts';

const sheet = (minX: number) => ({ name: `at ${minX}`, minX, minY: 0, maxX: minX + 400, maxY: 300 });
const sheets = [0, 450, 900].map(sheet);

describe('the sheet in view', () => {
  it.each([
    ['fitted with a margin', { minX: 440, minY: -20, maxX: 860, maxY: 320 }, 1],
    ['near a detail of it', { minX: 1000, minY: 100, maxX: 1010, maxY: 105 }, 2],
    ['half out of it', { minX: -180, minY: 0, maxX: 210, maxY: 300 }, 0],
    ['all of them', { minX: -10, minY: -200, maxX: 1310, maxY: 500 }, -1],
    ['from very far', { minX: -10_000, minY: -10_000, maxX: 10_000, maxY: 10_000 }, -1],
    ['between two', { minX: 402, minY: 0, maxX: 448, maxY: 40 }, -1],
    ['beside them', { minX: 0, minY: 5000, maxX: 400, maxY: 5300 }, -1],
  ])('%s', (_, seen, expected) => expect(sheetInView(sheets, seen)).toBe(expected));

  it('is none where there are none', () => {
    expect(sheetInView([], { minX: 0, minY: 0, maxX: 1, maxY: 1 })).toBe(-1);
  });
});
