import { FAST_FRAME_MS, LONGEST_FRAME_MS, SLOW_FRAME_MS, WEIGHT_MOVING } from '../budgets';

/** How much may be drawn in one frame while moving, so that frames come at a steady pace. */
export interface FrameBudget {
  /** Segments and triangles. */
  readonly weight: number;
  /** Smoothed time of a full frame, ms. */
  readonly frameMs: number;
}

const SMOOTHING = 0.3;
/** How far one frame may change the budget. */
const LEAST_STEP = 0.7;
const MOST_STEP = 1.15;

export const startBudget: FrameBudget = { weight: WEIGHT_MOVING.start, frameMs: 16 };

/**
 * Learns from one frame. A frame that drew less than the budget says nothing about more, so it only ever lowers it.
 * @param drawn segments and triangles of the frame
 * @param ms how long it took
 */
export function learn(budget: FrameBudget, drawn: number, ms: number): FrameBudget {
  const frameMs = budget.frameMs + (Math.min(ms, LONGEST_FRAME_MS) - budget.frameMs) * SMOOTHING;
  let { weight } = budget;
  if (frameMs > SLOW_FRAME_MS)
    weight = Math.min(weight, Math.max(drawn, WEIGHT_MOVING.least)) * Math.max(SLOW_FRAME_MS / frameMs, LEAST_STEP);
  else if (frameMs < FAST_FRAME_MS && drawn > 0.7 * weight) weight *= MOST_STEP;
  return { frameMs, weight: Math.min(Math.max(weight, WEIGHT_MOVING.least), WEIGHT_MOVING.most) };
}
