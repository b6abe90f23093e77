import { idleButtons, isForNavigation, stepButtons } from './button-gestures.ts';
import type { Hands } from './hands.ts';
import { isLasting } from './inputs.ts';
import type { Intent } from './intents.ts';
import type { PointerSample, Sample } from './samples.ts';
import { noFingers, stepTouch } from './touch.ts';
import { restingWheel, stepWheel } from './wheel.ts';

export interface Understood {
  readonly intents: readonly Intent[];
  /** When a time sample is wanted, if anything waits for one. */
  readonly deadlineMs?: number;
  /** Navigation has taken the sample: the tool in hand doesn't see it. */
  readonly isTaken: boolean;
}

/** Understands what a hand does to the view. @param hands asked at each sample, since habits and tools change */
export function createNavigation(hands: () => Hands): (sample: Sample) => Understood {
  let buttons = idleButtons;
  let wheel = restingWheel;
  let touch = noFingers;
  let held: string | null = null;
  /** The left button is down for navigation. */
  let hasLeft = false;

  const owns = (sample: PointerSample, now: Hands): boolean => {
    if (sample.type === 'down' && sample.button === 'left') hasLeft = isForNavigation(sample, held, now);
    const isTaken = hasLeft && (sample.button === 'left' || sample.type === 'move' || sample.type === 'cancel');
    if (sample.type === 'cancel' || (sample.type === 'up' && sample.button === 'left')) hasLeft = false;
    return isTaken;
  };

  return (sample) => {
    const now = hands();
    const intents: Intent[] = [];
    if (sample.type === 'hold') {
      const act = sample.key === null ? undefined : now.actOf(`hold:${sample.key}`);
      const next = isLasting(act) ? sample.key : null;
      if (next !== held) intents.push({ kind: 'borrow', act: next === null ? null : act! });
      held = next;
    }
    const isPointer =
      sample.type === 'down' || sample.type === 'move' || sample.type === 'up' || sample.type === 'cancel';
    const isTaken = isPointer && owns(sample, now);
    const results = [
      stepWheel(wheel, sample, now),
      stepButtons(buttons, sample, held, now),
      stepTouch(touch, sample, now),
    ] as const;
    [wheel, buttons, touch] = [results[0].state, results[1].state, results[2].state];
    for (const result of results) intents.push(...result.intents);
    const deadlineMs = results[1].deadlineMs;
    return { intents, isTaken, ...(deadlineMs === undefined ? {} : { deadlineMs }) };
  };
}
