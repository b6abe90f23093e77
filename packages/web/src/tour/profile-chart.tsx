import { Chart, Filler, LineController, LineElement, LinearScale, PointElement, type ChartArea } from 'chart.js';
import { useEffect, useRef, type ReactElement } from 'react';
import type { Timeline } from '@gull-pane/core/tour/timeline';
import { usePreferences } from '../store/preferences-store';
import { clockTime } from './times';
import { shownDecimals } from '../basics/decimals';

Chart.register(Filler, LineController, LineElement, LinearScale, PointElement);

/** The speed is told at so many times. */
const SAMPLES = 400;
/** A way is a bump if its mean speed is so many times that of all. */
const BUMP = 1.6;

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

/** The curve of a tour's speed. @param onArea told where the curve lies in the chart */
export function ProfileChart({
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
            pointRadius: 0,
            borderWidth: 1.5,
            fill: true,
            borderColor: colour('--teal'),
            backgroundColor: `color-mix(in srgb, ${colour('--teal')} 22%, transparent)`,
            segment: {
              borderColor: ({ p1DataIndex }) => (samples[p1DataIndex]?.isBump ? colour('--accent') : undefined),
            },
          },
        ],
      },
      options: {
        animation: false,
        maintainAspectRatio: false,
        events: [],
        layout: { padding: { left: 10, right: 14, top: 16 } },
        scales: {
          x: {
            type: 'linear',
            min: 0,
            max: timeline.durationMs,
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

/** How quick the quickest moment is, and whether a way is a bump. */
export function SpeedTold({ timeline }: { readonly timeline: Timeline }): ReactElement {
  const samples = samplesOf(timeline);
  const most = Math.max(...samples.map(({ y }) => y));
  const hasBump = samples.some(({ isBump }) => isBump);
  return (
    <span className="tour-speed muted">
      max. speed {shownDecimals(most.toFixed(1))} pane widths/s
      {hasBump && <em>, quicker than the rest where it is orange</em>}
    </span>
  );
}
