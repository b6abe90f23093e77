import type { Vec2 } from '../geometry/vec.ts';
import type { PointerSample, Sample } from './samples.ts';
import { TAP_PX } from './touch.ts';

interface FingerState {
  readonly id: number;
  readonly from: Vec2;
  readonly last: Vec2;
  readonly isDown: boolean;
}

/**
 * A single finger as the left button of the tool in hand. It presses only once it drags or is lifted, so that a second
 * finger, which navigates, never places anything.
 * @returns a function from what fingers do to what the tool sees
 */
export function createFingerPointer(): (sample: Sample) => readonly PointerSample[] {
  let state: FingerState | 'many' | null = null;
  return (sample) => {
    if (sample.type !== 'touch') return [];
    const { fingers, timeMs } = sample;
    const say = (type: 'down' | 'move' | 'up' | 'cancel', { x, y }: Vec2): PointerSample => {
      return { type, button: type === 'move' ? 'none' : 'left', x, y, timeMs };
    };
    if (fingers.length > 1) {
      const before = state;
      state = 'many';
      return before !== null && before !== 'many' && before.isDown ? [say('cancel', before.last)] : [];
    }
    if (fingers.length === 0) {
      const before = state;
      state = null;
      if (before === null || before === 'many') return [];
      const { last, isDown } = before;
      return isDown ? [say('up', last)] : [say('move', last), say('down', last), say('up', last)];
    }
    const finger = fingers[0]!;
    const here = { x: finger.x, y: finger.y };
    if (state === 'many') return [];
    if (state === null) {
      state = { id: finger.id, from: here, last: here, isDown: false };
      return [];
    }
    const { from, isDown } = state;
    if (isDown) {
      state = { ...state, last: here };
      return [say('move', here)];
    }
    if (Math.hypot(here.x - from.x, here.y - from.y) <= TAP_PX) {
      state = { ...state, last: here };
      return [];
    }
    state = { ...state, last: here, isDown: true };
    return [say('move', from), say('down', from), say('move', here)];
  };
}
