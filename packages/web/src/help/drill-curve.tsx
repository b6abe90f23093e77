import { Chart, LineController, LineElement, LinearScale, PointElement } from 'chart.js';
import { useEffect, useRef, type ReactElement } from 'react';
import { whenText } from '../basics/figures';
import { usePreferences } from '../store/preferences-store';
import type { DrillRecord } from '../store/warm-up-store';

Chart.register(LineController, LineElement, LinearScale, PointElement);

/** How long a drill took from time to time. */
export default function DrillCurve({ records }: { readonly records: readonly DrillRecord[] }): ReactElement {
  const canvas = useRef<HTMLCanvasElement>(null);
  const theme = usePreferences((state) => state.theme);
  useEffect(() => {
    const styles = getComputedStyle(canvas.current!);
    const colour = (name: string): string => styles.getPropertyValue(name).trim();
    const font = { family: colour('--figures'), size: 11 };
    const chart = new Chart(canvas.current!, {
      type: 'line',
      data: {
        datasets: [
          {
            data: records.map(({ ms }, k) => ({ x: k + 1, y: ms / 1000 })),
            borderColor: colour('--teal'),
            backgroundColor: colour('--teal'),
            borderWidth: 1.5,
            pointRadius: 2.5,
          },
        ],
      },
      options: {
        animation: false,
        maintainAspectRatio: false,
        plugins: { legend: { display: false }, tooltip: { enabled: false } },
        scales: {
          x: { type: 'linear', display: false },
          y: { beginAtZero: true, ticks: { color: colour('--muted'), font, maxTicksLimit: 4 } },
        },
      },
    });
    return () => chart.destroy();
  }, [records, theme]);
  const [first, latest] = [records[0]!, records.at(-1)!];
  return (
    <div className="warm-up-curve">
      <canvas
        ref={canvas}
        role="img"
        aria-label={`Seconds, ${records.length} times from ${whenText(first.at)} to ${whenText(latest.at)}`}
      />
    </div>
  );
}
