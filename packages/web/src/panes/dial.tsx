import { ChevronDown } from 'lucide-react';
import { Select } from 'antd';
import { useRef, type KeyboardEvent, type PointerEvent, type ReactElement } from 'react';
import { useStore } from 'zustand';
import { directionInWords, standardDirections, standardOf } from '@gull-pane/core/camera/directions';
import { directionOf, orientationOf, turnAbout, type Direction } from '@gull-pane/core/camera/orbit';
import { orbitModes, type OrbitMode } from '@gull-pane/core/camera/orbit-drag';
import type { Vec3 } from '@gull-pane/core/geometry/vec';
import { readBearing, readDegrees } from '@gull-pane/core/typed/typed-number';
import type { ActionTarget, Parts } from '../actions/action';
import { ActionTip } from '../actions/action-tip';
import { dialAction, goToDirection } from '../actions/solid-actions';
import { FigureField } from '../controls/figure-field';
import { isDialOpen, makesWayFor } from '../store/dial';
import { usePreferences } from '../store/preferences-store';
import { toolInHand } from '../store/tool-store';
import './dial.css';

/** The chart's size, CSS px: where one looks from round the horizon, and how high. */
const [WIDTH, HEIGHT, BAR] = [232, 90, 8];
const TURN = 2 * Math.PI;
const STEP_RAD = (5 * Math.PI) / 180;
const FINE_RAD = Math.PI / 180;

const modeNames: Readonly<Record<OrbitMode, string>> = {
  level: 'Level orbit',
  open: 'Open orbit',
  across: 'Screen horizontal axis',
  upright: 'Screen vertical axis',
  sight: 'About the line of sight',
  x: 'About X',
  y: 'About Y',
  z: 'About Z',
};

/** The bearing from the target to the viewer, opposite to the viewing direction. */
const standpointOf = ({ bearingRad }: Direction): number => (bearingRad + Math.PI) % TURN;
const xOf = (standpointRad: number): number => (standpointRad / TURN) * WIDTH;
const yOf = (tiltRad: number): number => BAR + (0.5 - tiltRad / Math.PI) * (HEIGHT - 2 * BAR);

function useIsDialOpen({ pane, tools, picked }: Parts<'pane' | 'picked' | 'tools'>): boolean {
  usePreferences((state) => state.isDialOpen);
  const hasTool = useStore(tools, (state) => makesWayFor(toolInHand(state)));
  const hasPicks = useStore(picked, (state) => state.picked.size > 0);
  return useStore(pane, (state) => isDialOpen(state, hasTool || hasPicks));
}

/** The sky chart of directions: drag the mark, press a dot, type the numbers, or use the arrow keys. */
export function Dial({ target }: { readonly target: ActionTarget }): ReactElement {
  const isOpen = useIsDialOpen(target);
  const orbitMode = useStore(target.pane, (state) => state.orbitMode);
  if (!isOpen)
    return (
      <div className="dial dial-folded">
        <ActionTip name={dialAction.name} sentence={dialAction.sentence} actionId={dialAction.id} placement="top">
          <button
            type="button"
            className="icon-button"
            aria-label="Show the dial"
            onClick={() => dialAction.run(target)}
          >
            <CompassRose target={target} />
          </button>
        </ActionTip>
      </div>
    );
  return (
    <div className="dial" role="group" aria-label="Dial">
      <div className="dial-row">
        <Select
          size="small"
          variant="borderless"
          aria-label="Kind of orbit"
          value={orbitMode}
          popupMatchSelectWidth={false}
          options={orbitModes.map((value) => ({ value, label: modeNames[value] }))}
          onChange={(mode: OrbitMode) => target.pane.getState().setOrbitMode(mode)}
        />
        <button type="button" className="icon-button" aria-label="Fold the dial" onClick={() => dialAction.run(target)}>
          <ChevronDown size={16} aria-hidden />
        </button>
      </div>
      <Chart target={target} />
      <Numbers target={target} />
    </div>
  );
}

/** Where north is, while the dial is folded. */
function CompassRose({ target }: { readonly target: Parts<'pane'> }): ReactElement {
  const bearing = useStore(target.pane, ({ camera }) => directionOf(camera).bearingRad);
  return (
    <svg width={34} height={34} viewBox="-17 -17 34 34" aria-hidden>
      <circle className="dial-ring" r={15} />
      <g transform={`rotate(${(-bearing * 360) / TURN})`}>
        <path className="dial-north" d="M0 -13L4.5 0H-4.5Z" />
        <path className="dial-south" d="M0 13L4.5 0H-4.5Z" />
      </g>
    </svg>
  );
}

function Chart({ target }: { readonly target: Parts<'pane'> }): ReactElement {
  const { pane } = target;
  const camera = useStore(pane, (state) => state.camera);
  const svg = useRef<SVGSVGElement>(null);
  const pivot = useRef<Vec3 | null>(null);
  const direction = directionOf(camera);
  const present = standardOf(camera);
  const turnTo = (next: Direction): void => {
    const { camera: from, viewport, lookAlong, pivotOf } = pane.getState();
    pivot.current ??= pivotOf(from, viewport);
    lookAlong(turnAbout(from, pivot.current, orientationOf(next)), pivot.current);
  };
  const drag = (event: PointerEvent): void => {
    if (!svg.current?.hasPointerCapture(event.pointerId)) return;
    const { left, top } = svg.current.getBoundingClientRect();
    const standpoint = (((event.clientX - left) / WIDTH) * TURN + TURN) % TURN;
    const tilt = (0.5 - (event.clientY - top - BAR) / (HEIGHT - 2 * BAR)) * Math.PI;
    turnTo({
      bearingRad: (standpoint + Math.PI) % TURN,
      tiltRad: Math.min(Math.max(tilt, -Math.PI / 2), Math.PI / 2),
    });
  };
  const letGo = (): void => {
    if (pivot.current) pane.getState().apply({ kind: 'dragEnd' }, performance.now());
    pivot.current = null;
  };
  const onKey = (event: KeyboardEvent): void => {
    const step = event.shiftKey ? FINE_RAD : STEP_RAD;
    const [round, up] = ({
      ArrowLeft: [-step, 0],
      ArrowRight: [step, 0],
      ArrowUp: [0, step],
      ArrowDown: [0, -step],
    }[event.key] ?? []) as [number?, number?];
    if (round === undefined || up === undefined) return;
    event.preventDefault();
    event.stopPropagation();
    const tiltRad = Math.min(Math.max(direction.tiltRad + up, -Math.PI / 2), Math.PI / 2);
    goToDirection(target, { bearingRad: direction.bearingRad + round, tiltRad });
  };
  return (
    <svg
      ref={svg}
      className="dial-chart"
      width={WIDTH}
      height={HEIGHT + 16}
      onPointerDown={(event) => {
        event.stopPropagation();
        if (event.button === 0 && (event.target as Element).getAttribute('role') !== 'button')
          event.currentTarget.setPointerCapture(event.pointerId);
        drag(event);
      }}
      onPointerMove={drag}
      onPointerUp={letGo}
      onPointerCancel={letGo}
    >
      <rect className="dial-sky" width={WIDTH} height={HEIGHT} rx={4} />
      <line className="dial-horizon" x1={0} x2={WIDTH} y1={HEIGHT / 2} y2={HEIGHT / 2} />
      {standardDirections.map((one) => {
        const isPole = Math.abs(one.tiltRad) === Math.PI / 2;
        const props = {
          className: one === present ? 'dial-dot dial-present' : 'dial-dot',
          role: 'button',
          'aria-label': one.name,
          tabIndex: -1,
          onClick: ({ shiftKey }: { readonly shiftKey: boolean }) =>
            goToDirection(target, isPole ? { ...one, bearingRad: 0 } : one, shiftKey),
        } as const;
        return isPole ? (
          <rect
            key={one.name}
            {...props}
            x={3}
            width={WIDTH - 6}
            height={BAR - 3}
            y={one.tiltRad > 0 ? 2 : HEIGHT - BAR + 1}
            rx={3}
          >
            <title>{one.name}</title>
          </rect>
        ) : (
          <circle key={one.name} {...props} cx={dotX(one)} cy={yOf(one.tiltRad)} r={4.5}>
            <title>{one.name}</title>
          </circle>
        );
      })}
      <g
        className="dial-mark"
        role="slider"
        tabIndex={0}
        aria-label="Direction"
        aria-valuemin={0}
        aria-valuemax={360}
        aria-valuenow={Math.round((direction.bearingRad * 360) / TURN)}
        aria-valuetext={directionInWords(camera)}
        transform={`translate(${xOf(standpointOf(direction))} ${yOf(direction.tiltRad)})`}
        onKeyDown={onKey}
      >
        <circle r={8} />
        <circle r={2} className="dial-pin" />
      </g>
      {['N', 'E', 'S', 'W', 'N'].map((letter, quarter) => (
        <text
          key={quarter}
          className="dial-letter"
          x={Math.min(Math.max((quarter * WIDTH) / 4, 6), WIDTH - 6)}
          y={HEIGHT + 13}
        >
          {letter}
        </text>
      ))}
    </svg>
  );
}

/** North stands at both ends of the chart; its dots at the left. */
const dotX = (one: Direction): number => Math.max(xOf(standpointOf(one)), 7);

function Numbers({ target }: { readonly target: Parts<'pane'> }): ReactElement {
  const bearing = useStore(target.pane, ({ camera }) => degreesOf(directionOf(camera).bearingRad));
  const tilt = useStore(target.pane, ({ camera }) => degreesOf(directionOf(camera).tiltRad));
  const go = (to: { readonly bearing: number; readonly tilt: number }): void =>
    goToDirection(target, {
      bearingRad: (to.bearing * TURN) / 360,
      tiltRad: (Math.min(Math.max(to.tilt, -90), 90) * TURN) / 360,
    });
  return (
    <div className="dial-row figures" onKeyDown={(event) => event.stopPropagation()}>
      <label>
        Bearing
        <FigureField
          label="Bearing of the look"
          value={bearing}
          read={readBearing}
          suffix="°"
          onSet={(typed) => go({ bearing: typed, tilt })}
        />
      </label>
      <label>
        Tilt
        <FigureField
          label="Tilt"
          value={tilt}
          read={readDegrees}
          min={-90}
          max={90}
          suffix="°"
          onSet={(typed) => go({ bearing, tilt: typed })}
        />
      </label>
    </div>
  );
}

const degreesOf = (angleRad: number): number => Number(((angleRad * 360) / TURN).toFixed(1));
