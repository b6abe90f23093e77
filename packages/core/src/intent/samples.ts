import type { Vec2 } from '../geometry/vec.ts';

/** What hands do, as plain data. Positions: CSS px in the pane, y down. Times: ms on one steady clock. */
export type Sample = PointerSample | WheelSample | TimeSample | EscapeSample;

export interface PointerSample extends Vec2 {
  readonly type: 'down' | 'move' | 'up' | 'cancel';
  readonly button: PointerButton;
  readonly timeMs: number;
}

export type PointerButton = 'left' | 'wheel' | 'right' | 'none';

export interface WheelSample extends Vec2 {
  readonly type: 'wheel';
  /** Notches turned, positive towards the hand; small devices give fractions. */
  readonly notches: number;
  readonly timeMs: number;
}

/** Sent when a deadline that a recogniser asked for has come. */
export interface TimeSample {
  readonly type: 'time';
  readonly timeMs: number;
}

export interface EscapeSample {
  readonly type: 'escape';
  readonly timeMs: number;
}
