import type { Vec2 } from '../geometry/vec.ts';

/** What hands do, as plain data. Positions: CSS px in the pane, y down. Times: ms on one steady clock. */
export type Sample = PointerSample | WheelSample | TouchSample | HoldSample | TimeSample | StepSample | DigitSample;

export interface PointerSample extends Vec2 {
  readonly type: 'down' | 'move' | 'up' | 'cancel';
  readonly button: PointerButton;
  /** Keys held with it, as {@link modifiersOf} writes them; absent if none. */
  readonly modifiers?: string;
  readonly timeMs: number;
}

export type PointerButton = 'left' | 'wheel' | 'right' | 'back' | 'forward' | 'none';

export interface WheelSample extends Vec2 {
  readonly type: 'wheel';
  /** Notches turned, positive towards the hand; small devices give fractions. */
  readonly notches: number;
  /** What the device means in px to the right and down, for wheels that move the view; absent if not told. */
  readonly byPx?: Vec2;
  /** Fingers moving apart on a trackpad: the factor by which they did; absent for a wheel. */
  readonly pinch?: number;
  readonly modifiers?: string;
  readonly timeMs: number;
}

/** The fingers that are on the surface now. */
export interface TouchSample {
  readonly type: 'touch';
  readonly fingers: readonly Finger[];
  readonly timeMs: number;
}

export interface Finger extends Vec2 {
  readonly id: number;
}

/** A key that borrows navigation has gone down, or, with null, up. */
export interface HoldSample {
  readonly type: 'hold';
  readonly key: string | null;
  readonly timeMs: number;
}

/** Sent when a deadline that a recogniser asked for has come. */
export interface TimeSample {
  readonly type: 'time';
  readonly timeMs: number;
}

/** Escape steps back once, then leaves; Enter finishes. */
export interface StepSample {
  readonly type: 'escape' | 'enter';
  readonly timeMs: number;
}

/** A digit, for tools that take numbers at once. */
export interface DigitSample {
  readonly type: 'digit';
  readonly digit: number;
  readonly timeMs: number;
}

/** Keys held with another input, always in the same order: `Ctrl+Shift+`, or nothing. */
export const modifiersOf = (held: { ctrl: boolean; alt: boolean; shift: boolean }): string =>
  (held.ctrl ? 'Ctrl+' : '') + (held.alt ? 'Alt+' : '') + (held.shift ? 'Shift+' : '');
