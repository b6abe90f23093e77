import type { Vec2, Vec3 } from '../geometry/vec.ts';

/** What the hand wants, independent of the device. Positions: CSS px in the pane, y down; `Vec3`: drawing units. */
export type Intent =
  /** In bursts, steps that follow closely are one; in a drag all is one step until its end. */
  | { readonly kind: 'zoom'; readonly at: Vec2; readonly factor: number; readonly within: 'burst' | 'drag' }
  | {
      readonly kind: 'pan';
      readonly dx: number;
      readonly dy: number;
      readonly within: 'burst' | 'drag';
      /** Two fingers do it, about this place: a model that may turn turns. */
      readonly about?: Vec2;
    }
  /** Turns a model as a hand moves that grabbed it at a place; a plan is panned. */
  | { readonly kind: 'orbit'; readonly from: Vec2; readonly last: Vec2; readonly to: Vec2 }
  /** Turns the paper about the middle of the pane, as a hand that moves from one place to the other turns it. */
  | { readonly kind: 'twist'; readonly from: Vec2; readonly to: Vec2 }
  /** Turns the paper about a place, counterclockwise. */
  | { readonly kind: 'twistBy'; readonly at: Vec2; readonly angleRad: number }
  /** The drag is over: what it did is one step. With a velocity, px a ms, it glides on. */
  | { readonly kind: 'dragEnd'; readonly velocity?: Vec2 }
  /** An action by its id, done at a place. */
  | { readonly kind: 'act'; readonly id: string; readonly at: Vec2 }
  /** A navigation that is borrowed while a key is held; null gives the hand back to the tool. */
  | { readonly kind: 'borrow'; readonly act: string | null }
  /** Frames the area between two corners as they are seen. */
  | { readonly kind: 'frame'; readonly corner: Vec3; readonly at: Vec2 }
  /** Goes where the lens looks. */
  | { readonly kind: 'dive'; readonly at: Vec2; readonly ratio: number }
  /** Twists the view so that the line lies level. */
  | { readonly kind: 'level'; readonly from: Vec3; readonly to: Vec3 }
  /** Picks what lies at a place. @param changes adds to what is picked or takes from it */
  | { readonly kind: 'pick'; readonly at: Vec2; readonly changes: boolean }
  /** Picks by a box between two corners as they are seen. */
  | { readonly kind: 'pickBox'; readonly corner: Vec3; readonly at: Vec2; readonly changes: boolean }
  | { readonly kind: 'clearPicks' }
  /** Stands where a floor is seen. */
  | { readonly kind: 'stand'; readonly at: Vec2 }
  /** A person standing in the model looks around, or is led as if by a leash. @param isOther what such a drag doesn't do usually */
  | { readonly kind: 'tow'; readonly from: Vec2; readonly last: Vec2; readonly to: Vec2; readonly isOther: boolean }
  | { readonly kind: 'towEnd' }
  /** Some steps ahead, or back. */
  | { readonly kind: 'pace'; readonly steps: number }
  /** Cuts a model open by the face that is seen at a place. */
  | { readonly kind: 'cutBy'; readonly use: 'section' | 'box'; readonly at: Vec2 }
  /** A tool has all its points. */
  | { readonly kind: 'collected'; readonly points: readonly Vec3[] }
  | { readonly kind: 'leaveTool' };

/** What a recogniser makes of one sample. */
export interface Recognised<State> {
  readonly state: State;
  readonly intents: readonly Intent[];
  /** The recogniser wants a {@link TimeSample} then; absent if it waits for nothing. */
  readonly deadlineMs?: number;
}

const nothing: readonly Intent[] = [];
/** A step of a recogniser that asks for nothing. */
export const silent = <State>(state: State): Recognised<State> => ({ state, intents: nothing });
