/** What pictures may take of memory, work and time: every limit in one place. */
const MIB = 1024 * 1024;

/** With less memory than this a device keeps fewer tiles, GB; browsers tell of no more. */
const AMPLE_GB = 8;

/**
 * How much of {@link CACHED_BYTES} a device keeps.
 * @param memoryGb as the browser tells it (W3C Device Memory): rounded to a power of two; undefined where it doesn't
 */
export const cacheShare = (memoryGb: number | undefined): number =>
  Math.min(Math.max((memoryGb ?? AMPLE_GB) / AMPLE_GB, 1 / 8), 1);

const share = cacheShare(
  typeof navigator === 'undefined' ? undefined : (navigator as { readonly deviceMemory?: number }).deviceMemory,
);

/** Decoded tiles that a drawing keeps, bytes: what isn't in sight any more. */
export const CACHED_BYTES = { flat: 512 * MIB * share, solid: 768 * MIB * share, pictures: 256 * MIB * share } as const;

/**
 * What may be drawn in all at rest: every object of a px in all but absurd views. Segments and triangles of a plan;
 * triangles and edges of a solid.
 */
export const WEIGHT_AT_REST = { flat: 3_000_000, solid: 8_000_000 } as const;
/** Coarse forms of a solid may be off by so much at rest, device px. */
export const COARSE_AT_REST_PX = 0.45;
/** Of very large ones, of which more would be drawn than this, they may be off further: triangles and edges. */
export const ENOUGH_AT_REST = 1_000_000;
/** More lines of a plan than this can't be told apart: of each CSS px of a pane, and in all at least. */
export const [LINES_PER_PX_AT_REST, LEAST_LINES_AT_REST] = [0.2, 30_000] as const;
/**
 * Where a picture at rest would hold more than that: how far the coarse forms of a solid may be off, device px, and from
 * which size on the things of a plan are always drawn themselves, CSS px.
 */
export const COARSEST_AT_REST_PX = { flat: 4, solid: 1 } as const;

/** So many triangles of a solid cost what a segment of a plan does. */
export const TRIANGLES_PER_SEGMENT = 8;

/** Time without a move after which a picture is at rest, ms; on a slow machine so many frames. */
export const QUIET_MS = 140;
export const QUIET_FRAMES = 3;

/** While tiles arrive that replace others, what is at hand is drawn so often at most, ms: drawing it keeps them waiting. */
export const REPLACE_EVERY_MS = 200;

/** Frames slower than this lose detail, faster than {@link FAST_FRAME_MS} win some; between the two nothing changes. */
export const SLOW_FRAME_MS = 50;
export const FAST_FRAME_MS = 28;
/** A frame that seems to take longer was held up by something else: the page was hidden, or the machine slept. */
export const LONGEST_FRAME_MS = 1000;
/** What a moving frame may draw: where every pane begins, and what it never goes below or above. */
export const WEIGHT_MOVING = { start: 60_000, least: 30_000, most: 1_500_000 } as const;

/** A picture whose pass takes longer than this gets fewer of them, ms: pause and look comes before perfect edges. */
export const QUICK_PASS_MS = 80;
export const SLOW_PASS_MS = 240;

/** Time for making lines with width in one moving frame, ms. */
export const STROKE_BUILD_MS = 6;
/** Cut surfaces that are made so quickly follow the hand, ms. */
export const QUICK_CAPS_MS = 40;

/** A picture off the screen that isn't complete by then is given up, ms. */
export const OFF_SCREEN_PATIENCE_MS = 60_000;
