import type { Vec2, Vec3 } from '../geometry/vec.ts';
import { DOUBLE_PRESS_MS } from '../intent/button-gestures.ts';
import { isClickAt, placeOf, pointAt, stay, type Tool, type ToolView } from './tool.ts';

export interface DistanceState {
  /** In the drawing, with all digits of their doubles. */
  readonly points: readonly Vec3[];
  /** It stays to be read until the next one begins. */
  readonly isDone: boolean;
  /** The cursor, CSS px. */
  readonly at: Vec2 | null;
  /** The last press, and whether the button is still down: another tool may have come in between. */
  readonly pressed: { readonly at: Vec2; readonly timeMs: number; readonly isHeld: boolean } | null;
}

const empty: DistanceState = { points: [], isDone: false, at: null, pressed: null };

/** Measures along points that are placed by clicks, or from where a drag begins to where it ends. */
export const distanceTool: Tool<DistanceState> = {
  initial: empty,
  isPending: ({ points, isDone }) => points.length > 0 && !isDone,
  snaps: true,
  step(state, sample, view) {
    switch (sample.type) {
      case 'move':
        return stay({ ...state, at: placeOf(sample) });
      case 'down': {
        if (sample.button !== 'left') return stay(state);
        const { pressed } = state;
        const isDouble = isClickAt(pressed?.at ?? null, sample) && sample.timeMs - pressed!.timeMs <= DOUBLE_PRESS_MS;
        if (isDouble) return stay(finished(state));
        const next = place(state, placeOf(sample), view);
        return stay({ ...next, pressed: { at: placeOf(sample), timeMs: sample.timeMs, isHeld: true } });
      }
      case 'up': {
        if (sample.button !== 'left' || !state.pressed?.isHeld) return stay(state);
        if (isClickAt(state.pressed.at, sample))
          return stay({ ...state, pressed: { ...state.pressed, isHeld: false } });
        return stay({ ...place(state, placeOf(sample), view), pressed: null });
      }
      case 'enter':
        return stay(finished(state));
      case 'escape':
        if (state.points.length === 0) return { state, intents: [{ kind: 'leaveTool' }] };
        return stay({ ...state, points: state.isDone ? [] : state.points.slice(0, -1), isDone: false, pressed: null });
      default:
        return stay(state);
    }
  },
};

function place(state: DistanceState, at: Vec2, view: ToolView): DistanceState {
  const point = pointAt(at, view);
  return { ...state, at, points: state.isDone ? [point] : [...state.points, point], isDone: false };
}

/** One point alone measures nothing: it is taken back. */
const finished = (state: DistanceState): DistanceState =>
  state.points.length < 2 ? { ...state, points: [], pressed: null } : { ...state, isDone: true, pressed: null };

/** What is told of a leg from one point to the next. Drawing units; the bearing clockwise from north. */
export interface Leg {
  readonly length: number;
  readonly east: number;
  readonly north: number;
  readonly bearingRad: number;
}

export function legBetween(from: Vec3, to: Vec3): Leg {
  const [east, north] = [to.x - from.x, to.y - from.y];
  const bearing = Math.atan2(east, north);
  return { length: Math.hypot(east, north), east, north, bearingRad: bearing < 0 ? bearing + 2 * Math.PI : bearing };
}

/** The length of the whole way, drawing units. */
export const lengthOf = (points: readonly Vec3[]): number =>
  points.slice(1).reduce((sum, point, index) => sum + legBetween(points[index]!, point).length, 0);
