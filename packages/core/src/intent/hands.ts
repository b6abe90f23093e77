import type { ActId, Input } from './inputs.ts';

/** What recognisers must know about the person: habits and settings. */
export interface Hands {
  readonly actOf: (input: Input) => ActId | undefined;
  /** Enlargement of one notch of the wheel, per cent. */
  readonly percentPerNotch: number;
  /** Whether turning towards the hand brings closer. */
  readonly isWheelReversed: boolean;
  /** Whether a tool is in hand: the left button and a single finger are the tool's then. */
  readonly hasTool: boolean;
}

/** Sane limits of {@link Hands.percentPerNotch}, and what it is at first. */
export const notchPercent = { min: 2, max: 100, usual: 20 } as const;
