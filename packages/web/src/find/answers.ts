import { withLayers } from '@gull-pane/core/view/shown';
import type { LucideIcon } from 'lucide-react';
import { Bookmark, CornerDownRight, Layers, Type } from 'lucide-react';
import { fitSupport } from '@gull-pane/core/camera/fit-support';
import { formatBearing } from '@gull-pane/core/camera/twist';
import { TextIndex, folded } from '@gull-pane/core/find/text-index';
import type { Query } from '@gull-pane/core/find/query';
import { canRun, type ActionTarget, type Parts } from '../actions/action';
import { actionsCalled } from '../actions/actions-called';
import { goToSheet } from '../actions/sheet-actions';
import { exactText, grouped, scaleText } from '../basics/figures';
import { runQuery } from '../store/find-store';
import { unitsOfScreenPx } from '../words/figure-style';
import type { FoundText } from '../finding/find-calls';
import { MOST_TEXTS } from './most-texts';

/** One row of what was found. */
export interface Answer {
  readonly id: string;
  readonly group: 'Go' | 'Views' | 'Texts' | 'Layers' | 'Actions';
  readonly title: string;
  readonly detail: string;
  readonly icon: LucideIcon;
  /** The action whose keys are shown. */
  readonly actionId?: string;
  run(): void;
}

const MOST_LAYERS = 6;
const MOST_CARDS = 6;
const MOST_ACTIONS = 5;

/** Everything that what is typed may mean, the likeliest first. */
export function answersTo(target: ActionTarget, query: Query, typed: string, texts: readonly FoundText[]): Answer[] {
  const command = commandAnswer(target, query);
  const words = folded(query.kind === 'layer' ? query.name : typed);
  if (words === '') return [];
  const layers = layerAnswers(target, words, query.kind === 'layer');
  const actions =
    query.kind === 'text' || query.kind === 'unclear' || query.kind === 'sheet' ? actionAnswers(target, words) : [];
  const found = texts.slice(0, MOST_TEXTS).map((text) => textAnswer(target, text));
  return [
    ...(command ? [command] : []),
    ...cardAnswers(target, words),
    ...(query.kind === 'layer' ? [...layers, ...found] : [...found, ...layers]),
    ...actions,
  ];
}

function commandAnswer(target: Parts<'pane' | 'drawing'>, query: Query): Answer | null {
  const { pane } = target;
  const { sheets } = target.drawing.getState().drawing;
  const title = ((): string | null => {
    switch (query.kind) {
      case 'place':
        return `Go to E ${exactText(query.x)}, N ${exactText(query.y)}`;
      case 'moved':
        return `Go E ${exactText(query.x)}, N ${exactText(query.y)} from here`;
      case 'scale':
        return `Set the scale to ${scaleText(query.denominator)}`;
      case 'bearing':
        return `Turn ${formatBearing((query.degrees * Math.PI) / 180)} to the top`;
      case 'steps':
        return query.steps < 0 ? `Go ${-query.steps} back` : `Go ${query.steps} forward`;
      case 'sheet':
        return query.number <= sheets.length ? `Go to sheet ${query.number} of ${sheets.length}` : null;
      default:
        return null;
    }
  })();
  if (title === null) return null;
  const run = (): void => {
    if (query.kind === 'sheet') goToSheet(target, query.number - 1);
    else runQuery(query, pane, unitsOfScreenPx(target.drawing));
  };
  return { id: 'command', group: 'Go', title, detail: '', icon: CornerDownRight, run };
}

function textAnswer({ finds, drawing, pane }: Parts<'pane' | 'drawing' | 'finds'>, text: FoundText): Answer {
  const { layers } = drawing.getState();
  const hidden = pane.getState().shown.hiddenLayers;
  const [first] = text.places;
  const layer = layers.find(({ id }) => id === first?.layer);
  const where = layer ? `${layer.name}${hidden.has(layer.id) ? ', hidden' : ''}` : '';
  return {
    id: `text ${text.content}`,
    group: 'Texts',
    title: text.content,
    icon: Type,
    detail: text.count > 1 ? `${grouped(text.count)} places · ${where}` : where,
    run: () => finds.getState().goTo(text),
  };
}

function cardAnswers({ cards }: Parts<'cards'>, words: string): Answer[] {
  const { cards: all, restore } = cards.getState();
  return namedLike(all ?? noCards, words, MOST_CARDS).map(({ id, name, group }) => ({
    id: `view ${id}`,
    group: 'Views',
    title: name,
    detail: group,
    icon: Bookmark,
    run: () => restore(id, 'all'),
  }));
}

const noCards: readonly { readonly id: string; readonly name: string; readonly group: string }[] = [];

function layerAnswers({ drawing, pane }: Parts<'pane' | 'drawing'>, words: string, isAsked: boolean): Answer[] {
  const { layers } = drawing.getState();
  const hidden = pane.getState().shown.hiddenLayers;
  const found = namedLike(layers, words, isAsked ? layers.length : MOST_LAYERS);
  return found.map(({ id, name, objects, support }) => ({
    id: `layer ${id}`,
    group: 'Layers',
    title: name,
    icon: Layers,
    detail: `${grouped(objects)} objects${hidden.has(id) ? ', hidden' : ''}`,
    run: () => {
      pane.getState().update((shown) => withLayers(shown, [id], true), 'layers');
      pane.getState().travel((from, viewport, limits) => fitSupport(from, viewport, support, limits));
    },
  }));
}

function actionAnswers(target: ActionTarget, words: string): Answer[] {
  return actionsCalled(words)
    .filter((action) => canRun(action, target))
    .slice(0, MOST_ACTIONS)
    .map((action) => ({
      id: `action ${action.id}`,
      group: 'Actions',
      title: action.name,
      detail: action.sentence,
      icon: action.icon,
      actionId: action.id,
      run: () => action.run(target),
    }));
}

const indexes = new WeakMap<object, TextIndex>();

/** Things by their names, slips forgiven; the likeliest first. */
function namedLike<Named extends { readonly name: string }>(
  all: readonly Named[],
  words: string,
  most: number,
): Named[] {
  let index = indexes.get(all);
  if (!index) indexes.set(all, (index = new TextIndex(all.map(({ name }) => name))));
  return index.find(words, most).flatMap(({ places }) => places.map((place) => all[place]!));
}
