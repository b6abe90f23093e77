import type { Camera, Viewport } from '../camera/camera.ts';
import { screenToWorld } from '../camera/camera.ts';
import type { Vec2 } from '../geometry/vec.ts';
import type { Hands } from '../intent/hands.ts';
import type { Intent } from '../intent/intents.ts';
import type { Sample } from '../intent/samples.ts';
import type { Placed } from '../measure/placed.ts';
import type { Snap } from '../snap/snap.ts';

/** What a tool knows of the pane that a sample comes from. */
export interface ToolView {
  readonly camera: Camera;
  readonly viewport: Viewport;
  /** What a point is drawn to at the cursor; null if nothing is near or the tool doesn't snap. */
  readonly snap: Snap | null;
  readonly hands: Hands;
  /** What lies under a place where nothing is snapped to: a face, the work plane; the plane of the view if absent. */
  readonly under?: (at: Vec2) => Placed | null;
}

export interface ToolStep<State> {
  readonly state: State;
  readonly intents: readonly Intent[];
}

/**
 * Something that the left button does until it is put away. One grammar for all: left places, Enter or a double click
 * finishes, Escape steps back once and then leaves. Navigation passes a tool by: its points stand in the drawing.
 */
export interface Tool<State> {
  readonly initial: State;
  step(state: State, sample: Sample, view: ToolView): ToolStep<State>;
  /** Whether a next point is waited for, so that the pane moves on when the cursor reaches its edge. */
  readonly isPending: (state: State) => boolean;
  readonly snaps?: boolean;
  /** Whether the wheel is the tool's. */
  readonly takesWheel?: boolean;
  /** Whether digits are the tool's. */
  readonly takesDigits?: boolean;
}

/** A left button that moves less than this clicks, it doesn't drag; CSS px. */
export const CLICK_PX = 4;

/** A step of a tool that asks for nothing. */
export const stay = <State>(state: State): ToolStep<State> => ({ state, intents: [] });
/** x and y alone. */
export const placeOf = ({ x, y }: Vec2): Vec2 => ({ x, y });
/** Whether a pointer let go so near to where it was pressed that it is a click; CSS px. */
export const isClickAt = (a: Vec2 | null, b: Vec2): boolean =>
  a !== null && Math.abs(b.x - a.x) <= CLICK_PX && Math.abs(b.y - a.y) <= CLICK_PX;

/** The point that a place on the screen means: what it snaps to, or what lies under it. */
export function pointAt(at: Vec2, { camera, viewport, snap, under }: ToolView): Placed {
  if (!snap) return under?.(at) ?? screenToWorld(camera, viewport, at);
  const { point, normal, round } = snap;
  return { ...point, ...(normal ? { normal } : {}), ...(round ? { round } : {}) };
}
