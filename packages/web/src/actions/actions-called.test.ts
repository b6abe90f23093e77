import { expect, it } from 'vitest';
import { folded } from '@gull-pane/core/find/text-index';
import { actionsCalled } from './actions-called';
import { allActions } from './all-actions';
import { synonyms } from './synonyms';

/** So many are listed in the find field. */
const LISTED = 5;
const found = (words: string): string[] =>
  actionsCalled(folded(words))
    .slice(0, LISTED)
    .map(({ id }) => id);

it('every action has four other words at least, and every word belongs to an action', () => {
  expect(allActions.filter(({ id }) => (synonyms[id]?.length ?? 0) < 4).map(({ id }) => id)).toEqual([]);
  const ids = new Set(allActions.map(({ id }) => id));
  expect(Object.keys(synonyms).filter((id) => !ids.has(id))).toEqual([]);
});

it('each of them leads to its action, whatever the case', () => {
  const phrases = Object.entries(synonyms).flatMap(([id, words]) => words.map((text) => [text, id] as const));
  expect(phrases.length).toBeGreaterThan(400);
  const lost = phrases.filter(([text, id]) => !found(text.toUpperCase()).includes(id)).map(([text]) => text);
  expect(lost).toEqual([]);
});

it.each([
  ['undo', 'undo-mark'],
  ['redo', 'redo-mark'],
  ['zoom in', 'closer'],
  ['zom in', 'closer'],
  ['polyline', 'mark-chain'],
  ['poliline', 'mark-chain'],
  ['revision cloud', 'mark-cloud'],
  ['export', 'share'],
  ['dark', 'hands'],
  ['bookmark', 'keep-view'],
  ['previous view', 'back'],
  ['prevoius view', 'back'],
  ['shortcuts', 'keys'],
  ['magnifier', 'lens-tool'],
  ['perspective', 'projection'],
  ['deselect', 'clear-picks'],
  ['top view', 'look-plan'],
  ['cross section', 'section'],
])('“%s” leads to %s first', (words, id) => {
  expect(found(words)[0]).toBe(id);
});
