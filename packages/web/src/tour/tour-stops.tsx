import { Button } from 'antd';
import { ListPlus } from 'lucide-react';
import { useState, type DragEvent, type KeyboardEvent, type ReactElement } from 'react';
import { useStore } from 'zustand';
import type { StopDto } from '@gull-pane/protocol/tours';
import type { Parts } from '../actions/action';
import { ActionTip } from '../actions/action-tip';
import { captionOf, type TourPlan } from '../store/tour-plan';
import { stopAt } from '../store/tours-store';

const DRAGGED_STOP = 'application/x-tour-stop';
const DRAGGED_CARD = 'application/x-view-card';

interface StopsProps {
  readonly target: Parts<'cards' | 'player' | 'tours'>;
  readonly plan: TourPlan;
  readonly chosen: string | null;
  readonly onChoose: (stop: string) => void;
}

/** The stops in their order: view cards are dropped among them, and they are dragged to another place. */
export function TourStops({ target, plan, chosen, onChoose }: StopsProps): ReactElement {
  const { tours, cards, player } = target;
  const nearest = useStore(player, (state) => state.nearest);
  const current = useStore(cards, (state) => state.current);
  const { tour, stops } = plan;
  const [over, setOver] = useState<string | null>(null);
  const set = (next: readonly StopDto[], what: string): void =>
    void tours.getState().change(tour.id, { stops: [...next] }, what);
  const add = (cardId: string, before: string | null): void => {
    const own = stopAt(cardId);
    set(placedBefore(tour.stops, own, before), 'new stop');
    onChoose(own.id);
  };
  const move = (id: string, before: string | null): void => {
    const own = tour.stops.find((stop) => stop.id === id);
    if (own && id !== before) set(placedBefore(tour.stops, own, before), 'order of stops');
  };
  const dropTarget = (before: string | null) => ({
    'data-over': over === (before ?? 'end'),
    onDragOver: (event: DragEvent) => {
      const { types } = event.dataTransfer;
      if (!types.includes(DRAGGED_STOP) && !types.includes(DRAGGED_CARD)) return;
      event.preventDefault();
      event.stopPropagation();
      setOver(before ?? 'end');
    },
    onDragLeave: () => setOver(null),
    onDrop: (event: DragEvent) => {
      event.stopPropagation();
      setOver(null);
      const [stop, card] = [event.dataTransfer.getData(DRAGGED_STOP), event.dataTransfer.getData(DRAGGED_CARD)];
      if (stop !== '') move(stop, before);
      else if (card !== '') add(card, before);
    },
  });
  const shift = (event: KeyboardEvent, k: number): void => {
    const by = { ArrowLeft: -1, ArrowRight: 1 }[event.key];
    if (by === undefined || !event.altKey) return;
    event.preventDefault();
    event.stopPropagation();
    const before = by < 0 ? stops[k - 1] : stops[k + 2];
    if (by > 0 || before) move(stops[k]!.stop.id, before?.stop.id ?? null);
  };
  const gone = tour.stops.length - stops.length;
  return (
    <div className="tour-stops" role="group" aria-label="Stops" {...dropTarget(null)}>
      {stops.map((own, k) => {
        const { stop, card } = own;
        return (
          <button
            key={stop.id}
            type="button"
            className="tour-stop"
            draggable
            aria-label={`Stop ${k + 1}, ${captionOf(own)}`}
            aria-pressed={stop.id === chosen}
            aria-current={k === nearest ? 'step' : undefined}
            title={`${captionOf(own)} · Alt and arrows move it`}
            onClick={() => {
              onChoose(stop.id);
              player.getState().toStop(k);
            }}
            onKeyDown={(event) => shift(event, k)}
            onDragStart={(event) => event.dataTransfer.setData(DRAGGED_STOP, stop.id)}
            {...dropTarget(stop.id)}
          >
            {card.picture === '' ? (
              <span className="view-blank" />
            ) : (
              <img src={card.picture} alt="" draggable={false} />
            )}
            <span className="tour-stop-name">
              <b className="figures">{k + 1}</b> {captionOf(own)}
            </span>
          </button>
        );
      })}
      <ActionTip
        name="Add a stop"
        sentence="At the view that was gone to last; or drag view cards here from the shelf."
        placement="top"
      >
        <Button
          size="small"
          icon={<ListPlus size={14} aria-hidden />}
          onClick={() => {
            const known = cards.getState().cards ?? [];
            const card = known.find(({ id }) => id === current) ?? known.at(-1);
            if (card) add(card.id, null);
          }}
        >
          Add a stop
        </Button>
      </ActionTip>
      {stops.length === 0 && <span className="muted">Drag view cards here.</span>}
      {gone > 0 && (
        <span className="muted">
          {gone === 1 ? '1 stop’s view was deleted' : `The views of ${gone} stops were deleted`}
        </span>
      )}
    </div>
  );
}

/** Stops with one placed before another, or at the end. */
function placedBefore(stops: readonly StopDto[], own: StopDto, before: string | null): readonly StopDto[] {
  const others = stops.filter(({ id }) => id !== own.id);
  const at = before === null ? -1 : others.findIndex(({ id }) => id === before);
  return at < 0 ? [...others, own] : [...others.slice(0, at), own, ...others.slice(at)];
}
