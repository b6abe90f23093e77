import { BarController, BarElement, CategoryScale, Chart, LogarithmicScale, Tooltip } from 'chart.js';
import { useEffect, useRef, type ReactElement } from 'react';
import type { StrayReport } from '@gull-pane/core/spatial/strays';
import { grouped } from '../basics/figures';

Chart.register(BarController, BarElement, CategoryScale, LogarithmicScale, Tooltip);

interface StrayChartProps {
  readonly report: StrayReport;
  readonly far: (length: number) => string;
}

/** How many objects lie how far from the middle of the drawing; strays in the accent colour. */
export default function StrayChart({ report, far }: StrayChartProps): ReactElement {
  const canvas = useRef<HTMLCanvasElement>(null);
  useEffect(() => {
    const styles = getComputedStyle(canvas.current!);
    const colour = (name: string): string => styles.getPropertyValue(name).trim();
    const { histogram } = report;
    const ticks = { color: colour('--ink'), font: { family: colour('--figures') } };
    const chart = new Chart(canvas.current!, {
      type: 'bar',
      data: {
        labels: histogram.map(({ upTo }) => `to ${far(upTo)}`),
        datasets: [
          {
            data: histogram.map(({ count }) => count || null),
            backgroundColor: histogram.map(({ strays }) => colour(strays > 0 ? '--accent' : '--teal')),
          },
        ],
      },
      options: {
        animation: false,
        responsive: false,
        plugins: { tooltip: { callbacks: { label: ({ parsed }) => `${grouped(parsed.y ?? 0)} objects` } } },
        scales: {
          x: { ticks: { ...ticks, maxRotation: 45, autoSkip: true }, grid: { display: false } },
          y: { type: 'logarithmic', ticks, grid: { color: colour('--line') } },
        },
      },
    });
    return () => chart.destroy();
  }, [report, far]);
  const told = report.histogram.filter(({ count }) => count > 0);
  return (
    <figure className="stray-chart">
      <figcaption>Objects by their distance from the middle of the drawing</figcaption>
      <canvas ref={canvas} width={460} height={220} aria-hidden />
      <ul className="unseen" aria-label="Objects by distance">
        {told.map(({ upTo, count }) => (
          <li key={upTo}>
            {grouped(count)} up to {far(upTo)}
          </li>
        ))}
      </ul>
    </figure>
  );
}
