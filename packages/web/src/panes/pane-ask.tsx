import { X } from 'lucide-react';
import { useEffect, useState, type ReactElement } from 'react';
import { useStore } from 'zustand';
import { standardDirections, type StandardDirection } from '@gull-pane/core/camera/directions';
import type { Parts } from '../actions/action';
import { goToDirection } from '../actions/solid-actions';
import './pane-ask.css';

/** So many of the views that are kept are offered. */
const MOST_VIEWS = 3;
const offered = ['Plan', 'From south', 'From east', 'From south-east, above'].map((name): StandardDirection =>
  standardDirections.find((one) => one.name === name)!,
);

/** Asks what a pane of a new arrangement shall show; whatever is done in it is an answer, too. */
export function PaneAsk({ target }: { readonly target: Parts<'pane' | 'drawing' | 'cards' | 'panes'> }): ReactElement {
  const { pane, panes, cards, drawing } = target;
  const [id] = useState(() => pane.getState().id);
  const views = useStore(cards, (state) => state.cards) ?? [];
  const isSolid = drawing.getState().solid !== null;
  useEffect(
    () =>
      pane.subscribe(({ camera, shown }, before) => {
        if (camera !== before.camera || shown !== before.shown) panes.getState().answer(id);
      }),
    [pane, panes, id],
  );
  const choose = (act: () => void) => (): void => {
    panes.getState().activate(id);
    act();
    panes.getState().answer(id);
  };
  return (
    <div className="pane-ask" role="group" aria-label="What this pane shows">
      <span>Show here:</span>
      {isSolid ? (
        offered.map((direction) => (
          <button key={direction.name} type="button" onClick={choose(() => goToDirection(target, direction, true))}>
            {direction.name}
          </button>
        ))
      ) : (
        <button type="button" onClick={choose(() => pane.getState().fitAll())}>
          Everything
        </button>
      )}
      {views.slice(0, MOST_VIEWS).map((card) => (
        <button key={card.id} type="button" onClick={choose(() => cards.getState().restore(card.id, 'all'))}>
          {card.name}
        </button>
      ))}
      <button
        type="button"
        className="icon-button"
        aria-label="Leave this pane as it is"
        onClick={() => panes.getState().answer(id)}
      >
        <X size={14} aria-hidden />
      </button>
    </div>
  );
}
