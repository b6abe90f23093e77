import { Button } from 'antd';
import { ListPlus } from 'lucide-react';
import { useMemo, type KeyboardEvent, type ReactElement, type ReactNode } from 'react';
import { useStore } from 'zustand';
import type { StopDto } from '@gull-pane/protocol/tours';
import type { Parts } from '../actions/action';
import { bothRefs, useDragged, useDropPlace } from '../controls/drag';
import type { Dragged } from '../controls/dragged';
import { ActionTip } from '../actions/action-tip';
import { captionOf, type TourPlan } from '../store/tour-plan';
import { stopAt } from '../store/tours-store';

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
  const dropBefore = ({ kind, id }: Dragged, before: string | null): void =>
    kind === 'stop' ? move(id, before) : add(id, before);
  const { ref, isOver } = useDropPlace('stop view', (dragged) => dropBefore(dragged, null));
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
    <div className="tour-stops" role="group" aria-label="Stops" ref={ref} data-over={isOver}>
      {stops.map((own, k) => {
        const { stop, card } = own;
        return (
          <StopButton
            key={stop.id}
            id={stop.id}
            name={`Stop ${k + 1}, ${captionOf(own)}`}
            title={`${captionOf(own)} · Alt and arrows move it`}
            isChosen={stop.id === chosen}
            isNearest={k === nearest}
            onPress={() => {
              onChoose(stop.id);
              player.getState().toStop(k);
            }}
            onKeyDown={(event) => shift(event, k)}
            onDropped={(dragged) => dropBefore(dragged, stop.id)}
          >
            {card.picture === '' ? (
              <span className="view-blank" />
            ) : (
              <img src={card.picture} alt="" draggable={false} />
            )}
            <span className="tour-stop-name">
              <b className="figures">{k + 1}</b> {captionOf(own)}
            </span>
          </StopButton>
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

interface StopButtonProps {
  readonly id: string;
  readonly name: string;
  readonly title: string;
  readonly isChosen: boolean;
  readonly isNearest: boolean;
  readonly onPress: () => void;
  readonly onKeyDown: (event: KeyboardEvent) => void;
  /** Something is to come before it. */
  readonly onDropped: (dragged: Dragged) => void;
  readonly children: ReactNode;
}

/** One stop; dragged to another place, and something dropped on it comes before it. */
function StopButton(props: StopButtonProps): ReactElement {
  const draggedRef = useDragged('stop', props.id);
  const { ref: placeRef, isOver } = useDropPlace('stop view', props.onDropped, true);
  const ref = useMemo(() => bothRefs(draggedRef, placeRef), [draggedRef, placeRef]);
  return (
    <button
      ref={ref}
      type="button"
      className="tour-stop"
      aria-label={props.name}
      aria-pressed={props.isChosen}
      aria-current={props.isNearest ? 'step' : undefined}
      title={props.title}
      data-over={isOver}
      onClick={props.onPress}
      onKeyDown={props.onKeyDown}
    >
      {props.children}
    </button>
  );
}

/** Stops with one placed before another, or at the end. */
function placedBefore(stops: readonly StopDto[], own: StopDto, before: string | null): readonly StopDto[] {
  const others = stops.filter(({ id }) => id !== own.id);
  const at = before === null ? -1 : others.findIndex(({ id }) => id === before);
  return at < 0 ? [...others, own] : [...others.slice(0, at), own, ...others.slice(at)];
}
