import { useEffect, useRef, useState, type ReactElement } from 'react';
import { notchesOf, pinchOf } from '@gull-pane/core/intent/wheel-notches';
import { factorOfNotches } from '@gull-pane/core/intent/wheel';
import { usePreferences } from '../store/preferences-store';

const SIZE_PX = 132;
const MOST = 60;

/** A piece of drawing beside the setting: turning the wheel over it shows what one notch does. */
export function WheelSample(): ReactElement {
  const area = useRef<SVGSVGElement>(null);
  const [view, setView] = useState({ x: 0, y: 0, scale: 1 });
  useEffect(() => {
    const svg = area.current!;
    const turn = (event: WheelEvent): void => {
      event.preventDefault();
      const { percentPerNotch, isWheelReversed } = usePreferences.getState();
      const factor = event.ctrlKey
        ? pinchOf(event.deltaY)
        : factorOfNotches(notchesOf(event.deltaY, event.deltaMode), { percentPerNotch, isWheelReversed });
      const box = svg.getBoundingClientRect();
      const [cx, cy] = [event.clientX - box.left, event.clientY - box.top];
      setView(({ x, y, scale }) => {
        const next = Math.min(Math.max(scale * factor, 1 / MOST), MOST);
        return { x: cx - ((cx - x) * next) / scale, y: cy - ((cy - y) * next) / scale, scale: next };
      });
    };
    svg.addEventListener('wheel', turn, { passive: false });
    return () => svg.removeEventListener('wheel', turn);
  }, []);
  return (
    <figure className="wheel-sample">
      <svg
        ref={area}
        width={SIZE_PX}
        height={SIZE_PX}
        role="img"
        aria-label={`Sample, enlarged ${view.scale.toFixed(2)} times`}
        onDoubleClick={() => setView({ x: 0, y: 0, scale: 1 })}
      >
        <g transform={`translate(${view.x} ${view.y}) scale(${view.scale})`}>
          {[10, 22, 34, 46, 58].map((r) => (
            <circle key={r} cx={66} cy={66} r={r} />
          ))}
          {Array.from({ length: 12 }, (_, i) => (
            <line
              key={i}
              x1={66}
              y1={66}
              x2={66 + 58 * Math.cos((i * Math.PI) / 6)}
              y2={66 + 58 * Math.sin((i * Math.PI) / 6)}
            />
          ))}
        </g>
      </svg>
      <figcaption className="muted">Try the wheel here</figcaption>
    </figure>
  );
}
