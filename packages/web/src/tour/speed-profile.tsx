import { Chart, Filler, LineController, LineElement, LinearScale, PointElement, type ChartArea } from 'chart.js';
import { useEffect, useRef, useState, type KeyboardEvent, type PointerEvent, type ReactElement } from 'react';
import { useStore } from 'zustand';
import { TIME_STEP_MS, dragEdge } from '@gull-pane/core/tour/retime';
import type { Timeline } from '@gull-pane/core/tour/timeline';
import type { StopDto } from '@gull-pane/protocol/tours';
import type { ActionTarget } from '../actions/action';
import { captionOf, planOf, type TourPlan } from '../store/tour-plan';
import { usePreferences } from '../store/preferences-store';
import { clockTime, spokenTime } from './times';

Chart.register(Filler, LineController, LineElement, LinearScale, PointElement);

/** The speed is told at so many times. */
const SAMPLES = 400;
/** A way is a bump if its mean speed is so many times that of all. */
const BUMP = 1.6;

type Edge = 'arrive' | 'leave';
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
  readonly target: ActionTarget;
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

interface Sample {
  readonly x: number;
  readonly y: number;
  readonly isBump: boolean;
}

function samplesOf(timeline: Timeline): Sample[] {
  const { durationMs, legs, lengths } = timeline;
  const travelMs = legs.reduce((sum, { startMs, endMs }) => sum + endMs - startMs, 0);
  const mean = legs.reduce((sum, { to }) => sum + lengths[to]!, 0) / Math.max(travelMs, 1);
  const bumps = legs.filter(({ startMs, endMs, to }) => lengths[to]! > BUMP * mean * (endMs - startMs));
  return Array.from({ length: SAMPLES + 1 }, (_, k) => {
    const x = (durationMs * k) / SAMPLES;
    return {
      x,
      y: timeline.speedAt(Math.min(x, durationMs - 1e-6)),
      isBump: bumps.some(({ startMs, endMs }) => x > startMs && x < endMs),
    };
  });
}

function ProfileChart({
  timeline,
  onArea,
}: {
  readonly timeline: Timeline;
  readonly onArea: (area: ChartArea) => void;
}): ReactElement {
  const canvas = useRef<HTMLCanvasElement>(null);
  const chart = useRef<Chart | null>(null);
  const theme = usePreferences((state) => state.theme);
  const told = useRef(onArea);
  useEffect(() => {
    const styles = getComputedStyle(canvas.current!);
    const colour = (name: string): string => styles.getPropertyValue(name).trim();
    const samples = samplesOf(timeline);
    const own = new Chart(canvas.current!, {
      type: 'line',
      data: {
        datasets: [
          {
            data: samples.map(({ x, y }) => ({ x, y })),
            ...{ pointRadius: 0, borderWidth: 1.5, fill: true },
            borderColor: colour('--teal'),
            backgroundColor: `color-mix(in srgb, ${colour('--teal')} 22%, transparent)`,
            segment: {
              borderColor: ({ p1DataIndex }) => (samples[p1DataIndex]?.isBump ? colour('--accent') : undefined),
            },
          },
        ],
      },
      options: {
        ...{ animation: false, maintainAspectRatio: false, events: [] },
        layout: { padding: { left: 10, right: 14, top: 16 } },
        scales: {
          x: {
            type: 'linear',
            ...{ min: 0, max: timeline.durationMs },
            ticks: {
              color: colour('--ink'),
              font: { family: colour('--figures') },
              maxRotation: 0,
              callback: (value) => clockTime(Number(value)).replace(/\.\d$/, ''),
            },
            grid: { display: false },
          },
          y: { display: false, min: 0, suggestedMax: 0.05 },
        },
      },
      plugins: [
        {
          id: 'stays',
          beforeDatasetsDraw({ ctx, chartArea: { left, right, top, bottom } }) {
            const perMs = (right - left) / timeline.durationMs;
            ctx.fillStyle = colour('--raised');
            for (const { arriveMs, leaveMs } of timeline.stays)
              ctx.fillRect(left + arriveMs * perMs, top, Math.max((leaveMs - arriveMs) * perMs, 1), bottom - top);
          },
          afterLayout: ({ chartArea }) => told.current({ ...chartArea }),
        },
      ],
    });
    chart.current = own;
    return () => own.destroy();
  }, [timeline, theme]);
  return (
    <div className="tour-chart">
      <canvas ref={canvas} aria-hidden />
    </div>
  );
}

/** A place to drag along for any moment of the tour. */
function TimeAxis({
  target,
  area,
  durationMs,
}: {
  readonly target: ActionTarget;
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
  readonly target: ActionTarget;
  readonly xOf: (timeMs: number) => number;
  readonly area: ChartArea;
}): ReactElement {
  const timeMs = useStore(target.player, (state) => state.timeMs);
  return (
    <i className="tour-cursor" style={{ left: xOf(timeMs), top: area.top - 10, height: area.bottom - area.top + 10 }} />
  );
}

interface EdgeProps {
  readonly name: string;
  readonly edge: Edge;
  readonly x: number;
  readonly area: ChartArea;
  readonly valueMs: number;
  readonly msPerPx: number;
  readonly onDrag: (byMs: number) => void;
  readonly onDrop: (byMs: number) => void;
}

/** One edge of a stay: dragged, or moved by the arrow keys. */
function EdgeHandle({ name, edge, x, area, valueMs, msPerPx, onDrag, onDrop }: EdgeProps): ReactElement {
  const [from, setFrom] = useState<{ readonly x: number; readonly msPerPx: number } | null>(null);
  const byOf = (event: PointerEvent): number => {
    const byMs = from ? (event.clientX - from.x) * from.msPerPx : 0;
    return Math.round(byMs / TIME_STEP_MS) * TIME_STEP_MS;
  };
  return (
    <button
      type="button"
      className="tour-edge"
      role="slider"
      data-edge={edge}
      aria-label={edge === 'arrive' ? `Way to ${name}` : `Stay at ${name}`}
      aria-valuemin={0}
      aria-valuemax={600}
      aria-valuenow={valueMs / 1000}
      aria-valuetext={`${valueMs / 1000} seconds`}
      title={edge === 'arrive' ? `Way to ${name}: ${valueMs / 1000} s` : `Stay at ${name}: ${valueMs / 1000} s`}
      style={{ left: x, top: area.top - 12, height: area.bottom - area.top + 12 }}
      onPointerDown={(event) => {
        event.currentTarget.setPointerCapture(event.pointerId);
        setFrom({ x: event.clientX, msPerPx });
      }}
      onPointerMove={(event) => {
        if (from) onDrag(byOf(event));
      }}
      onPointerUp={(event) => {
        if (from) onDrop(byOf(event));
        setFrom(null);
      }}
      onPointerCancel={() => {
        if (from) onDrop(0);
        setFrom(null);
      }}
      onKeyDown={(event) => {
        const by = { ArrowLeft: -TIME_STEP_MS, ArrowRight: TIME_STEP_MS }[event.key];
        if (by === undefined) return;
        event.preventDefault();
        event.stopPropagation();
        onDrop(by);
      }}
    />
  );
}

/** How quick the quickest moment is, and whether a way is a bump. */
export function SpeedTold({ timeline }: { readonly timeline: Timeline }): ReactElement {
  const samples = samplesOf(timeline);
  const most = Math.max(...samples.map(({ y }) => y));
  const hasBump = samples.some(({ isBump }) => isBump);
  return (
    <span className="tour-speed muted">
      max. speed {most.toFixed(1)} pane widths/s{hasBump && <em>, quicker than the rest where it is orange</em>}
    </span>
  );
}
