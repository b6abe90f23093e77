import type { ChartArea } from 'chart.js';
import { useState, type KeyboardEvent, type PointerEvent, type ReactElement } from 'react';
import { useStore } from 'zustand';
import { dragEdge } from '@gull-pane/core/tour/retime';
import type { StopDto } from '@gull-pane/protocol/tours';
import type { ActionTarget, Parts } from '../actions/action';
import { captionOf, planOf, type TourPlan } from '../store/tour-plan';
import { EdgeHandle, type Edge } from './edge-handle';
import { ProfileChart } from './profile-chart';
import { spokenTime } from './times';

interface Drag {
  readonly stop: number;
  readonly edge: Edge;
  readonly byMs: number;
}

/** The speed of a tour over its time: drag the edges of a stay to retime it, anywhere else to see that moment. */
export function SpeedProfile({
  target,
  plan: kept,
}: {
  readonly target: Parts<'pane' | 'cards' | 'player' | 'tours'>;
  readonly plan: TourPlan;
}): ReactElement {
  const { player, tours, cards, pane } = target;
  const [area, setArea] = useState<ChartArea | null>(null);
  const [drag, setDrag] = useState<Drag | null>(null);
  const plan = drag ? draggedPlan(kept, drag, cards.getState().cards ?? [], pane.getState().viewport) : kept;
  const { timeline } = plan;
  if (!timeline || timeline.durationMs === 0) return <div className="tour-profile" />;
  const { durationMs, stays } = timeline;
  const xOf = (timeMs: number): number => (area ? area.left + ((area.right - area.left) * timeMs) / durationMs : 0);
  const keep = ({ stop, edge, byMs }: Drag): void => {
    const stops = draggedStops(kept, { stop, edge, byMs });
    void tours.getState().change(kept.tour.id, { stops: [...stops] }, edge === 'arrive' ? 'travel time' : 'stay');
  };
  const edges = stays.flatMap(({ arriveMs, leaveMs }, stop) => [
    ...(stop > 0 ? [{ stop, edge: 'arrive' as const, atMs: arriveMs }] : []),
    { stop, edge: 'leave' as const, atMs: leaveMs },
  ]);
  return (
    <div className="tour-profile">
      <ProfileChart timeline={timeline} onArea={setArea} />
      {area && (
        <>
          <TimeAxis target={target} area={area} durationMs={durationMs} />
          {edges.map(({ stop, edge, atMs }) => (
            <EdgeHandle
              key={`${plan.stops[stop]!.stop.id} ${edge}`}
              name={captionOf(plan.stops[stop]!)}
              edge={edge}
              x={xOf(atMs)}
              area={area}
              valueMs={plan.stops[stop]!.stop[edge === 'arrive' ? 'travelMs' : 'stayMs']}
              msPerPx={kept.timeline!.durationMs / (area.right - area.left)}
              onDrag={(byMs) => setDrag({ stop, edge, byMs })}
              onDrop={(byMs) => {
                setDrag(null);
                if (byMs !== 0) keep({ stop, edge, byMs });
              }}
            />
          ))}
          <Cursor target={target} xOf={xOf} area={area} />
        </>
      )}
      <p className="unseen" role="status" aria-label="Playing at">
        <PlayedStop player={player} plan={plan} />
      </p>
    </div>
  );
}

function PlayedStop({ player, plan }: { readonly player: ActionTarget['player']; readonly plan: TourPlan }): string {
  const nearest = useStore(player, (state) => state.nearest);
  const stop = plan.stops[nearest];
  return stop ? `Stop ${nearest + 1} of ${plan.stops.length}, ${captionOf(stop)}` : '';
}

/** The tour's stops with an edge dragged: those whose cards are gone stay as they are. */
function draggedStops({ tour, stops }: TourPlan, { stop, edge, byMs }: Drag): readonly StopDto[] {
  const id = stops[stop]!.stop.id;
  return dragEdge(
    tour.stops,
    tour.stops.findIndex((own) => own.id === id),
    edge,
    byMs,
  );
}

const draggedPlan = (
  plan: TourPlan,
  drag: Drag,
  ...around: [Parameters<typeof planOf>[1], Parameters<typeof planOf>[2]]
): TourPlan => planOf({ ...plan.tour, stops: [...draggedStops(plan, drag)] }, ...around);

/** A place to drag along for any moment of the tour. */
function TimeAxis({
  target,
  area,
  durationMs,
}: {
  readonly target: Parts<'player'>;
  readonly area: ChartArea;
  readonly durationMs: number;
}): ReactElement {
  const { player } = target;
  const timeMs = useStore(player, (state) => state.timeMs);
  const seekTo = (event: PointerEvent<HTMLElement>): void => {
    const { left, width } = event.currentTarget.getBoundingClientRect();
    player.getState().seek((durationMs * (event.clientX - left)) / width);
  };
  const step = (event: KeyboardEvent): void => {
    const by = { ArrowLeft: -500, ArrowRight: 500, PageDown: 5000, PageUp: -5000 }[event.key];
    if (by === undefined) return;
    event.preventDefault();
    event.stopPropagation();
    player.getState().seek(timeMs + by);
    player.getState().endSeek();
  };
  return (
    <div
      className="tour-axis"
      role="slider"
      tabIndex={0}
      aria-label="Moment of the tour"
      aria-valuemin={0}
      aria-valuemax={Math.round(durationMs)}
      aria-valuenow={Math.round(timeMs)}
      aria-valuetext={`${spokenTime(timeMs)} of ${spokenTime(durationMs)}`}
      style={{ left: area.left, width: area.right - area.left }}
      onKeyDown={step}
      onPointerDown={(event) => {
        event.currentTarget.setPointerCapture(event.pointerId);
        seekTo(event);
      }}
      onPointerMove={(event) => {
        if (event.buttons === 1) seekTo(event);
      }}
      onPointerUp={() => player.getState().endSeek()}
    />
  );
}

function Cursor({
  target,
  xOf,
  area,
}: {
  readonly target: Parts<'player'>;
  readonly xOf: (timeMs: number) => number;
  readonly area: ChartArea;
}): ReactElement {
  const timeMs = useStore(target.player, (state) => state.timeMs);
  return (
    <i className="tour-cursor" style={{ left: xOf(timeMs), top: area.top - 10, height: area.bottom - area.top + 10 }} />
  );
}
