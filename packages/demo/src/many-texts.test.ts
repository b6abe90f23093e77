import { expect, it } from 'vitest';
import { TextIndex } from '@gull-pane/core/find/text-index';
import { manyTexts } from './many-texts.ts';

/** As many as the find field lists. */
const LISTED = 8;

it('of 200,000 texts, 200 queries, half of them mistyped, find what they mean', () => {
  const { texts, queries } = manyTexts(200_000, 200);
  const index = new TextIndex(texts);
  const missed = queries.filter(
    ({ typed, meant }) => !index.find(typed, LISTED).some(({ content }) => content === meant),
  );
  expect(missed).toEqual([]);
  expect(
    queries.filter(({ typed, meant }) => typed.toLowerCase() !== meant.toLowerCase()).length,
  ).toBeGreaterThanOrEqual(100);
  expect(queries.filter(({ meant }) => meant.startsWith('KS-'))).toHaveLength(50);
});
