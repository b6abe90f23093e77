import { Button, Segmented, Slider, Switch } from 'antd';
import { LogOut } from 'lucide-react';
import type { ReactElement } from 'react';
import { useStore } from 'zustand';
import { readLength } from '@gull-pane/core/typed/typed-number';
import type { Parts } from '../actions/action';
import { FigureField } from '../controls/figure-field';
import './stance.css';
import { shownDecimals } from '../basics/decimals';

/** Range of the eye height, m. */
const EYE_M = { min: 0.1, max: 20, step: 0.05 } as const;

/** How one stands: eye height, what a drag does, walls, field of view, and the way back. */
export function StanceBar({
  target: { stance, tools },
}: {
  readonly target: Parts<'stance' | 'tools'>;
}): ReactElement | null {
  const isStanding = useStore(stance, (state) => state.walker !== null);
  const { eyeHeight, fovRad, flies, doWallsStop, dragDoes, refusal } = useStore(stance);
  const told = refusal !== null && (
    <p role="alert" className="stance-refusal">
      {refusal} Click a floor, a stair or a roof.
    </p>
  );
  if (!isStanding) return refusal === null ? null : <div className="stance-bar">{told}</div>;
  const { set, setEyeHeight, setFov } = stance.getState();
  return (
    <div className="stance-bar" role="group" aria-label="Stance">
      <Segmented
        size="small"
        aria-label="A drag"
        value={dragDoes}
        onChange={(value: 'look' | 'walk') => set({ dragDoes: value })}
        options={[
          { value: 'look', label: 'Drag looks' },
          { value: 'walk', label: 'Drag walks' },
        ]}
      />
      <label>
        Eye
        <FigureField
          className="eye-height"
          label="Eye height"
          {...EYE_M}
          value={eyeHeight / 1000}
          read={(text) => readLength(text, 'm')}
          suffix="m"
          onSet={(metres) => setEyeHeight(metres * 1000)}
        />
      </label>
      <label>
        <Switch size="small" checked={flies} onChange={(checked) => set({ flies: checked })} aria-label="Fly" />
        Fly
      </label>
      <label>
        <Switch
          size="small"
          checked={doWallsStop}
          disabled={flies}
          onChange={(checked) => set({ doWallsStop: checked })}
          aria-label="Walls stop"
        />
        Walls stop
      </label>
      <label>
        <Slider
          ariaLabelForHandle="Field of view"
          style={{ width: 70, margin: '0 4px' }}
          {...{ min: 20, max: 110, value: Math.round((fovRad * 180) / Math.PI) }}
          tooltip={{ formatter: (value) => `${value ?? 0}°` }}
          onChange={(degrees: number) => setFov((degrees * Math.PI) / 180)}
        />
        {Math.round((fovRad * 180) / Math.PI)}°
      </label>
      <Button size="small" icon={<LogOut size={13} aria-hidden />} onClick={() => tools.getState().leave()}>
        Leave
      </Button>
      {told}
    </div>
  );
}

/** The leash while it pulls, and how fast. */
export function LeashMark({
  target: { stance, pane },
}: {
  readonly target: Parts<'pane' | 'stance'>;
}): ReactElement | null {
  const leash = useStore(stance, (state) => state.leash);
  const viewport = useStore(pane, (state) => state.viewport);
  if (!leash) return null;
  const { from, to, metresPerSecond } = leash;
  const speed = Math.abs(metresPerSecond);
  return (
    <svg className="leash-mark" width={viewport.widthPx} height={viewport.heightPx} aria-hidden>
      <circle cx={from.x} cy={from.y} r={6} />
      <path d={`M${from.x} ${from.y}L${to.x} ${to.y}`} />
      <circle className="leash-hand" cx={to.x} cy={to.y} r={4} />
      <text x={to.x + 14} y={to.y + 4}>
        {speed < 0.05 ? 'turning' : `${shownDecimals(speed.toFixed(1))} m/s${metresPerSecond < 0 ? ' back' : ''}`}
      </text>
    </svg>
  );
}
