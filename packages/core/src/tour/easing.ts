/** How a way is shared out over its time. All begin and end at rest; none jerks. */
export const easings = ['gentle', 'even', 'slow-arrival', 'slow-departure'] as const;
export type Easing = (typeof easings)[number];

/** A share of the way by a share of the time, both 0 … 1, and its slope. */
export interface EasingCurve {
  readonly at: (time: number) => number;
  readonly slope: (time: number) => number;
}

/** Of an even way, so much of the time is spent on getting up to speed, and as much on slowing down. */
export const RAMP = 0.15;
/** The speed of an even way between its ramps, times the mean. */
const TOP_SPEED = 1 / (1 - RAMP);

/** Speed rises and falls in straight lines, with even speed in between. */
const even: EasingCurve = {
  at(t) {
    if (t < RAMP) return (TOP_SPEED * t * t) / (2 * RAMP);
    if (t > 1 - RAMP) return 1 - (TOP_SPEED * (1 - t) ** 2) / (2 * RAMP);
    return TOP_SPEED * (t - RAMP / 2);
  },
  slope: (t) => TOP_SPEED * Math.min(t / RAMP, 1, (1 - t) / RAMP),
};

/**
 * Where speed follows t^a (1 − t)^b, the way is the regularized incomplete beta function I_t(a + 1, b + 1); these are its
 * polynomials for (1, 1), the smooth step, and for (1, 3) and (3, 1). NIST Digital Library of Mathematical Functions, 8.17.
 */
const curves: Record<Easing, EasingCurve> = {
  gentle: { at: (t) => t * t * (3 - 2 * t), slope: (t) => 6 * t * (1 - t) },
  even,
  'slow-arrival': { at: (t) => 1 - (1 - t) ** 4 * (1 + 4 * t), slope: (t) => 20 * t * (1 - t) ** 3 },
  'slow-departure': { at: (t) => t ** 4 * (5 - 4 * t), slope: (t) => 20 * t ** 3 * (1 - t) },
};

/** The curve of an easing: share of the way by share of the time, both 0 to 1. */
export const easingCurve = (easing: Easing): EasingCurve => curves[easing];
