import { Popover, Segmented, Slider, Switch } from 'antd';
import { Play, SlidersHorizontal, Square, X } from 'lucide-react';
import { useRef, useState, type KeyboardEvent, type PointerEvent, type ReactElement } from 'react';
import { useStore } from 'zustand';
import { roundTrace, type SixAxisSample } from '@gull-pane/core/device/six-axis';
import type { Parts } from '../actions/action';
import './puck.css';

/** The way of a cap from its middle to its rim, CSS px. */
const REACH_PX = 34;
/** How far an arrow key pushes. */
const KEY_PUSH = 0.7;

type Push = readonly [number, number, number];
const still: Push = [0, 0, 0];

/** A six-axis controller on the screen, in two parts: one slides, one turns, each with a lever for its third axis. */
export function Puck({ target }: { readonly target: Parts<'sixAxis'> }): ReactElement | null {
  const { sixAxis } = target;
  const isShown = useStore(sixAxis, (state) => state.isShown);
  const isPlaying = useStore(sixAxis, (state) => state.isPlaying);
  const pushes = useRef<{ slide: Push; turn: Push }>({ slide: still, turn: still });
  if (!isShown) return null;
  const push = (part: 'slide' | 'turn', by: Push): void => {
    pushes.current = { ...pushes.current, [part]: by };
    const { slide, turn } = pushes.current;
    // a turn cap that is pushed up turns the top away; pushed aside it turns about the upright
    const axes: SixAxisSample['axes'] = [slide[0], slide[1], slide[2], -turn[1], turn[0], -turn[2]];
    sixAxis.getState().feed({ axes, buttons: [], timeMs: performance.now() });
  };
  const { play, stop, show } = sixAxis.getState();
  return (
    <div className="puck" role="group" aria-label="Six axes">
      <Cap name="Slide" lever="Nearer" onPush={(by) => push('slide', by)} />
      <Cap name="Turn" lever="Twist" onPush={(by) => push('turn', by)} />
      <div className="puck-buttons">
        <button type="button" className="icon-button" aria-label="Put the controller away" onClick={() => show(false)}>
          <X size={15} aria-hidden />
        </button>
        <Popover trigger="click" placement="topRight" destroyOnHidden content={<Settings target={target} />}>
          <button type="button" className="icon-button" aria-label="Settings of the six axes">
            <SlidersHorizontal size={15} aria-hidden />
          </button>
        </Popover>
        <button
          type="button"
          className="icon-button"
          aria-label={isPlaying ? 'Stop the recording' : 'Play a recorded round'}
          title={isPlaying ? 'Stop the recording' : 'Play a recorded round'}
          onClick={() => (isPlaying ? stop() : play(roundTrace))}
        >
          {isPlaying ? <Square size={14} aria-hidden /> : <Play size={15} aria-hidden />}
        </button>
      </div>
    </div>
  );
}

const keyPushes: Readonly<Record<string, Push>> = {
  ArrowLeft: [-KEY_PUSH, 0, 0],
  ArrowRight: [KEY_PUSH, 0, 0],
  ArrowUp: [0, KEY_PUSH, 0],
  ArrowDown: [0, -KEY_PUSH, 0],
  PageUp: [0, 0, KEY_PUSH],
  PageDown: [0, 0, -KEY_PUSH],
};

function Cap({
  name,
  lever,
  onPush,
}: {
  readonly name: string;
  readonly lever: string;
  readonly onPush: (by: Push) => void;
}): ReactElement {
  const [by, setBy] = useState<Push>(still);
  const from = useRef<{ x: number; y: number; isLever: boolean } | null>(null);
  const tell = (next: Push): void => {
    setBy(next);
    onPush(next);
  };
  const move = (event: PointerEvent): void => {
    if (!from.current) return;
    const [dx, dy] = [event.clientX - from.current.x, event.clientY - from.current.y];
    if (from.current.isLever) {
      tell([0, 0, Math.min(Math.max(-dy / REACH_PX, -1), 1)]);
      return;
    }
    const length = Math.max(Math.hypot(dx, dy) / REACH_PX, 1);
    tell([dx / REACH_PX / length, -dy / REACH_PX / length, 0]);
  };
  const press = (event: PointerEvent, isLever: boolean): void => {
    if (event.button !== 0) return;
    event.currentTarget.setPointerCapture(event.pointerId);
    from.current = { x: event.clientX, y: event.clientY, isLever };
  };
  const letGo = (): void => {
    if (!from.current) return;
    from.current = null;
    tell(still);
  };
  const key = (event: KeyboardEvent): void => {
    const push = keyPushes[event.key];
    if (!push) return;
    event.preventDefault();
    event.stopPropagation();
    tell(event.type === 'keydown' ? push : still);
  };
  return (
    <div className="puck-part">
      <div
        className="puck-cap"
        role="button"
        tabIndex={0}
        aria-label={`${name}: drag, or arrows and page keys`}
        onKeyDown={key}
        onKeyUp={key}
        onBlur={letGo}
        onPointerDown={(event) => press(event, false)}
        onPointerMove={move}
        onPointerUp={letGo}
        onPointerCancel={letGo}
      >
        <span style={{ transform: `translate(${by[0] * REACH_PX}px, ${-by[1] * REACH_PX}px)` }} />
        <small>{name}</small>
      </div>
      <div
        className="puck-lever"
        title={lever}
        onPointerDown={(event) => press(event, true)}
        onPointerMove={move}
        onPointerUp={letGo}
        onPointerCancel={letGo}
      >
        <span style={{ transform: `translateY(${-by[2] * REACH_PX}px)` }} />
      </div>
    </div>
  );
}

const axisNames = ['Right and left', 'Up and down', 'Nearer and farther', 'Tilt', 'Turn', 'Twist'];

function Settings({ target: { sixAxis } }: { readonly target: Parts<'sixAxis'> }): ReactElement {
  const { deadZone, curve, speed, axesOn, carries } = useStore(sixAxis, (state) => state.settings);
  const { set } = sixAxis.getState();
  return (
    <div className="puck-settings">
      <Segmented
        size="small"
        block
        aria-label="The cap is"
        value={carries}
        onChange={(value: 'object' | 'me') => set({ carries: value })}
        options={[
          { value: 'object', label: 'Move the model' },
          { value: 'me', label: 'Move the viewer' },
        ]}
      />
      <label>
        Speed
        <Slider
          ariaLabelForHandle="Speed"
          {...{ min: 0.2, max: 3, step: 0.1, value: speed }}
          onChange={(value: number) => set({ speed: value })}
        />
      </label>
      <label>
        Dead zone
        <Slider
          ariaLabelForHandle="Dead zone"
          {...{ min: 0, max: 0.4, step: 0.01, value: deadZone }}
          onChange={(value: number) => set({ deadZone: value })}
        />
      </label>
      <label>
        Fine small pushes
        <Slider
          ariaLabelForHandle="Fine small pushes"
          {...{ min: 1, max: 3, step: 0.1, value: curve }}
          onChange={(value: number) => set({ curve: value })}
        />
      </label>
      {axisNames.map((name, index) => (
        <label key={name}>
          {name}
          <Switch
            size="small"
            aria-label={name}
            checked={axesOn[index]!}
            onChange={(isOn) =>
              set({ axesOn: axesOn.map((was, i) => (i === index ? isOn : was)) as unknown as typeof axesOn })
            }
          />
        </label>
      ))}
    </div>
  );
}
