import { withLook } from '@gull-pane/core/view/shown';
import { Button, Slider } from 'antd';
import { Box, Lock, LockOpen, SunDim } from 'lucide-react';
import type { ReactElement } from 'react';
import { useStore } from 'zustand';
import { USUAL_FOV_RAD, cameraAxes } from '@gull-pane/core/camera/camera';
import { directionInWords, gazeInWords, isAlongAxis, planTilt } from '@gull-pane/core/camera/directions';
import { gridSpacing } from '@gull-pane/core/camera/ground-grid';
import { directionOf } from '@gull-pane/core/camera/orbit';
import type { Action, ActionTarget, Parts } from '../actions/action';
import { ActionTip, KeyCaps } from '../actions/action-tip';
import { PopoverButton } from '../controls/popover-button';
import { shownKey, useBindings } from '../actions/bindings';
import { dialAction, lockAction, lookAction, projectionAction } from '../actions/solid-actions';
import { squareUpAction } from '../actions/twist-actions';
import { solidLooks } from '@gull-pane/core/solid/solid-looks';
import { lengthText } from '../basics/figures';
import { usePreferences } from '../store/preferences-store';
import { lookNames } from '../words/look-names';
import { letterPlaces } from './axis-letters';

/** The parts of a foot that only solids have: direction, lock, projection, look, grid. */
export function SolidFoot({ target }: { readonly target: ActionTarget }): ReactElement {
  return (
    <>
      <DirectionPart target={target} />
      <LockPart target={target} />
      <ProjectionPart target={target} />
      <LookPart target={target} />
    </>
  );
}

function FootButton({
  action,
  target,
  label,
  className = '',
  children,
}: {
  readonly action: Action;
  readonly target: ActionTarget;
  readonly label: string;
  readonly className?: string;
  readonly children: ReactElement | readonly (ReactElement | string)[];
}): ReactElement {
  return (
    <ActionTip name={action.name} sentence={action.sentence} actionId={action.id} placement="top">
      <button
        type="button"
        className={`foot-button ${className}`}
        aria-label={label}
        onClick={() => action.run(target)}
      >
        {children}
      </button>
    </ActionTip>
  );
}

function DirectionPart({ target }: { readonly target: ActionTarget }): ReactElement {
  const isStanding = useStore(target.stance, (state) => state.walker !== null);
  const words = useStore(target.pane, ({ camera }) => (isStanding ? gazeInWords(camera) : directionInWords(camera)));
  const isTilted = useStore(target.pane, ({ camera }) => (planTilt(camera) ?? 0) > 0);
  return (
    <>
      <AxisLetters target={target} />
      <FootButton action={dialAction} target={target} label={`Direction, ${words}`} className="foot-direction">
        <span className="foot-view">{words}</span>
      </FootButton>
      {isTilted && (
        <FootButton action={squareUpAction} target={target} label="Square up">
          <span>square up</span>
        </FootButton>
      )}
    </>
  );
}

/** Letters of the axes that turn with the view. */
function AxisLetters({ target }: { readonly target: Parts<'pane'> }): ReactElement {
  const camera = useStore(target.pane, (state) => state.camera);
  const { right, up, back } = cameraAxes(camera);
  return (
    <svg className="axis-letters" width={48} height={28} viewBox="-24 -14 48 28" role="img" aria-label="Axes">
      {letterPlaces(right, up).map(({ axis, x, y }) => (
        <g key={axis} className={back[axis] < -0.01 ? 'axis-away' : undefined}>
          <line x2={9 * right[axis]} y2={-7 * up[axis]} />
          <text x={x} y={y + 3.5}>
            {axis.toUpperCase()}
          </text>
        </g>
      ))}
    </svg>
  );
}

function LockPart({ target }: { readonly target: ActionTarget }): ReactElement | null {
  const isLocked = useStore(target.pane, (state) => state.isLocked);
  const isFace = useStore(target.pane, ({ camera }) => isAlongAxis(directionOf(camera)));
  if (!isFace) return null;
  return (
    <FootButton action={lockAction} target={target} label={isLocked ? 'Plan lock, locked' : 'Plan lock, open'}>
      {isLocked ? <Lock size={13} aria-hidden /> : <LockOpen size={13} aria-hidden />}
    </FootButton>
  );
}

function ProjectionPart({ target }: { readonly target: ActionTarget }): ReactElement {
  const fov = useStore(target.pane, ({ camera }) => Math.round(((camera.fovRad ?? USUAL_FOV_RAD) * 180) / Math.PI));
  const isParallel = useStore(target.pane, ({ camera }) => camera.projection === 'parallel');
  const text = isParallel ? 'Parallel' : `Perspective ${fov}°`;
  return (
    <PopoverButton
      className="foot-button foot-projection"
      label={`Projection, ${text}`}
      tip={{ name: 'Projection', sentence: projectionAction.sentence, actionId: projectionAction.id }}
      content={() => (
        <div className="foot-panel">
          <div className="foot-panel-row" role="group" aria-label="Projection">
            {(['Parallel', 'Perspective'] as const).map((name) => {
              const isOn = (name === 'Parallel') === isParallel;
              return (
                <Button
                  key={name}
                  type={isOn ? 'primary' : 'default'}
                  aria-pressed={isOn}
                  onClick={() => !isOn && projectionAction.run(target)}
                >
                  {name}
                </Button>
              );
            })}
          </div>
          <label>
            Field of view
            <Slider
              ariaLabelForHandle="Field of view"
              style={{ width: 150 }}
              {...{ min: 10, max: 110, value: fov }}
              disabled={isParallel}
              tooltip={{ formatter: (value) => `${value ?? 0}°` }}
              onChange={(degrees: number) => target.pane.getState().setFieldOfView((degrees * Math.PI) / 180)}
            />
          </label>
        </div>
      )}
    >
      <Box size={14} aria-hidden />
      <span className="foot-text">{text}</span>
    </PopoverButton>
  );
}

function LookPart({ target }: { readonly target: Parts<'pane' | 'drawing'> }): ReactElement {
  const hasPoints = useStore(target.drawing, ({ drawing }) => (drawing.counts.points ?? 0) > 0);
  const look = useStore(target.pane, ({ shown }) => shown.look);
  return (
    <PopoverButton
      className="foot-button foot-look"
      label={`Look, ${lookNames[look]}`}
      tip={{ name: 'Look', sentence: 'How the model is shown.', actionId: lookAction.id }}
      content={() => (
        <div className="look-list" role="group" aria-label="Looks">
          {solidLooks.map((one) => (
            <Button
              key={one}
              type={one === look ? 'primary' : 'text'}
              aria-pressed={one === look}
              onClick={() => target.pane.getState().update((shown) => withLook(shown, one), 'look')}
            >
              {lookNames[one]}
            </Button>
          ))}
          {hasPoints && <PointSize />}
        </div>
      )}
    >
      <SunDim size={14} aria-hidden />
      <span className="foot-text">{lookNames[look]}</span>
    </PopoverButton>
  );
}

/** How large the points of a model are drawn. */
function PointSize(): ReactElement {
  const { pointPx, set } = usePreferences();
  return (
    <label className="point-size">
      Points {pointPx} px
      <Slider
        ariaLabelForHandle="Size of points"
        {...{ min: 1, max: 10, value: pointPx }}
        tooltip={{ open: false }}
        onChange={(px: number) => set({ pointPx: px })}
      />
    </label>
  );
}

/** The spacing of the ground grid. */
export function GridPart({ target }: { readonly target: Parts<'pane' | 'drawing'> }): ReactElement {
  const { unit } = useStore(target.drawing, (state) => state.drawing);
  const spacing = useStore(target.pane, ({ camera }) => gridSpacing(camera.unitsPerPx));
  return (
    <span className="figures foot-grid" role="note" aria-label="Ground grid">
      Grid {lengthText(spacing, unit)}
    </span>
  );
}

/** After a hand has tried to turn a locked view: how to unlock it. */
export function LockHint({ target }: { readonly target: Parts<'pane'> }): ReactElement | null {
  const wantsUnlock = useStore(target.pane, (state) => state.wantsUnlock);
  const key = shownKey(useBindings()[lockAction.id] ?? []);
  if (!wantsUnlock) return null;
  return (
    <div className="lock-hint" role="status" aria-label="Plan lock">
      Locked to its axis, so that nothing tilts it by a slip.
      <Button size="small" onClick={() => target.pane.getState().setLocked(false)}>
        Unlock {key !== undefined && <KeyCaps keyName={key} />}
      </Button>
    </div>
  );
}
