import type { ChartArea } from 'chart.js';
import { useState, type PointerEvent, type ReactElement } from 'react';
import { TIME_STEP_MS } from '@gull-pane/core/tour/retime';

/** Which end of a stay. */
export type Edge = 'arrive' | 'leave';

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
export function EdgeHandle({ name, edge, x, area, valueMs, msPerPx, onDrag, onDrop }: EdgeProps): ReactElement {
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
