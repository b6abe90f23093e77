import { TextIndex } from '@gull-pane/core/find/text-index';
import type { Action } from './action';
import { allActions } from './all-actions';
import { synonyms } from './synonyms';

/** So many texts are looked at: an action may be found by several. */
const MOST_TEXTS = 40;

let called: { readonly index: TextIndex; readonly actions: readonly Action[] } | null = null;

function indexed(): NonNullable<typeof called> {
  if (called) return called;
  const names = allActions.map((action) => [action.name, action] as const);
  const others = allActions.flatMap((action) => (synonyms[action.id] ?? []).map((text) => [text, action] as const));
  const all = [...names, ...others];
  called = { index: new TextIndex(all.map(([text]) => text)), actions: all.map(([, action]) => action) };
  return called;
}

/** The actions that people call so, by their names and by other words for them; the likeliest first. */
export function actionsCalled(words: string): Action[] {
  const { index, actions } = indexed();
  const found = index.find(words, MOST_TEXTS).flatMap(({ places }) => places.map((place) => actions[place]!));
  return [...new Set(found)];
}
