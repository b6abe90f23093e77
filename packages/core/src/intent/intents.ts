import type { Vec2 } from '../geometry/vec.ts';

/** What the hand wants, independent of the device. Positions: CSS px in the pane, y down. */
export type Intent =
  | { readonly kind: 'zoom'; readonly at: Vec2; readonly factor: number }
  | { readonly kind: 'pan'; readonly dx: number; readonly dy: number }
  /** The drag is over: what it did is one step. */
  | { readonly kind: 'dragEnd' }
  | { readonly kind: 'fitAll' }
  | { readonly kind: 'centre'; readonly at: Vec2 }
  /** The first corner of a frame stands here: whoever knows the camera keeps its world point. */
  | { readonly kind: 'frameBegin'; readonly at: Vec2 }
  /** The other corner, while it is being chosen. */
  | { readonly kind: 'frameMove'; readonly at: Vec2 }
  | { readonly kind: 'frameEnd'; readonly at: Vec2 }
  | { readonly kind: 'frameDrop' }
  | { readonly kind: 'leaveTool' };

/** What a recogniser makes of one sample. */
export interface Recognised<State> {
  readonly state: State;
  readonly intents: readonly Intent[];
  /** The recogniser wants a {@link TimeSample} then; absent if it waits for nothing. */
  readonly deadlineMs?: number;
}

/** One gesture: remembers what it must, says what it understood, knows no camera. */
export interface Recogniser<State, Event> {
  readonly initial: State;
  step(state: State, sample: Event): Recognised<State>;
}

const nothing: readonly Intent[] = [];
export const silent = <State>(state: State): Recognised<State> => ({ state, intents: nothing });
