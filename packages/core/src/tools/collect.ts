import type { Vec2 } from '../geometry/vec.ts';
import { DOUBLE_PRESS_MS } from '../intent/button-gestures.ts';
import type { Placed } from '../measure/placed.ts';
import { isClickAt, placeOf, pointAt, stay, type Tool, type ToolStep, type ToolView } from './tool.ts';

export interface CollectState {
  /** In the drawing, with all digits of their doubles. */
  readonly points: readonly Placed[];
  /** It stays to be read until the next one begins. */
  readonly isDone: boolean;
  /** The cursor, CSS px. */
  readonly at: Vec2 | null;
  /** The last press, and whether the button is still down: another tool may have come in between. */
  readonly pressed: { readonly at: Vec2; readonly timeMs: number; readonly isHeld: boolean } | null;
}

/** How many points something is made of. */
export interface Collecting {
  readonly least: number;
  /** With so many it is finished. */
  readonly most: number;
  /** Whether it is finished earlier than that. */
  readonly isEnough?: (points: readonly Placed[]) => boolean;
  /** Hands its points over and begins anew; else they stay to be read. */
  readonly handsOver: boolean;
}

const empty: CollectState = { points: [], isDone: false, at: null, pressed: null };

export interface CollectTool extends Tool<CollectState> {
  /** Takes a point that was typed. */
  readonly add: (state: CollectState, point: Placed) => ToolStep<CollectState>;
}

/** Collects points that are placed by clicks, or from where a drag begins to where it ends. */
export function collectTool(collecting: Collecting): CollectTool {
  const { least, most, isEnough, handsOver } = collecting;
  const finished = (state: CollectState): ToolStep<CollectState> => {
    const { points } = state;
    if (points.length === 0 || state.isDone) return stay({ ...state, pressed: null });
    // too few mean nothing: they are taken back
    if (points.length < least) return stay({ ...state, points: [], pressed: null });
    if (!handsOver) return stay({ ...state, isDone: true, pressed: null });
    return { state: { ...empty, at: state.at, pressed: state.pressed }, intents: [{ kind: 'collected', points }] };
  };
  const add = (state: CollectState, point: Placed): ToolStep<CollectState> => {
    const points = state.isDone ? [point] : [...state.points, point];
    const next = { ...state, points, isDone: false };
    return points.length >= most || isEnough?.(points) ? finished(next) : stay(next);
  };
  const place = (state: CollectState, at: Vec2, view: ToolView): ToolStep<CollectState> =>
    add({ ...state, at }, pointAt(at, view));
  return {
    initial: empty,
    isPending: ({ points, isDone }) => points.length > 0 && !isDone,
    snaps: true,
    add,
    step(state, sample, view) {
      switch (sample.type) {
        case 'move':
          return stay({ ...state, at: placeOf(sample) });
        case 'down': {
          if (sample.button !== 'left') return stay(state);
          const { pressed } = state;
          const isDouble = isClickAt(pressed?.at ?? null, sample) && sample.timeMs - pressed!.timeMs <= DOUBLE_PRESS_MS;
          if (isDouble && (state.points.length > 0 || !handsOver)) return finished(state);
          const held = { at: placeOf(sample), timeMs: sample.timeMs, isHeld: true };
          return place({ ...state, pressed: held }, placeOf(sample), view);
        }
        case 'up': {
          if (sample.button !== 'left' || !state.pressed?.isHeld) return stay(state);
          const isClick = isClickAt(state.pressed.at, sample);
          const released = { ...state, pressed: { ...state.pressed, isHeld: false } };
          // what was finished by the press is not begun anew by letting go
          if (isClick || state.points.length === 0 || state.isDone) return stay(released);
          return place({ ...released, pressed: null }, placeOf(sample), view);
        }
        case 'enter':
          return finished(state);
        case 'escape':
          if (state.points.length === 0) return { state, intents: [{ kind: 'leaveTool' }] };
          return stay({
            ...state,
            points: state.isDone ? [] : state.points.slice(0, -1),
            isDone: false,
            pressed: null,
          });
        default:
          return stay(state);
      }
    },
  };
}
