import type { PaneView } from './pane-view';
import type { Work } from './turns';

export interface DrawnCounts {
  readonly segments: number;
  readonly triangles: number;
  readonly tiles: number;
  readonly texts: number;
}

export interface Drawn {
  readonly didDraw: boolean;
  /** A further frame is wanted; false while waiting for tiles, too: their coming calls for one. */
  readonly wantsMore: boolean;
}

/** The picture of one pane, drawn step by step: a coarse one at once, then what is missing, then smooth edges. */
export interface Picture {
  /** What the picture has drawn. */
  readonly counts: DrawnCounts;
  /** Smoothed time of a moving frame, ms. */
  readonly frameMs: number;
  readonly pendingTiles: number;
  readonly isSettled: boolean;
  /** Everything is drawn, though its edges may still become smooth. */
  readonly isWhole: boolean;
  /** Draws again from the beginning, though the view is the same. */
  invalidate(): void;
  /** What drawing a view now would be. */
  workOn(view: PaneView): Work;
  /** Does the next piece of work. @param nowMs one steady clock */
  draw(view: PaneView, nowMs: number): Drawn;
  /**
   * Draws everything that has arrived of the view at rest in one go, as one pass.
   * @param mostWeight what may be drawn, in segments of a plan
   */
  drawOnePass(view: PaneView, mostWeight?: number): DrawnCounts;
  dispose(): void;
}
