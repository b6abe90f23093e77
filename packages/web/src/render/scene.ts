import type { Camera, Viewport } from '@gull-pane/core/camera/camera';
import type { Colour } from '@gull-pane/core/drawing/model';
import type { ObjectMask } from '@gull-pane/core/drawing/object-mask';
import type { Vec2, Vec3 } from '@gull-pane/core/geometry/vec';
import type { ScreenBox } from '@gull-pane/core/pick/solid-box';
import type { PaneView } from './pane-view';
import type { Work } from './turns';

export interface DrawnCounts {
  readonly segments: number;
  readonly triangles: number;
  readonly tiles: number;
  readonly texts: number;
}

/** The picture of one pane, drawn step by step: a coarse one at once, then what is missing, then smooth edges. */
export interface Picture {
  readonly counts: DrawnCounts;
  readonly frameMs: number;
  readonly pendingTiles: number;
  readonly isSettled: boolean;
  /** Draws again from the beginning, though the view is the same. */
  invalidate(): void;
  /** What drawing a view now would be. */
  workOn(view: PaneView): Work;
  /**
   * Does the next piece of work.
   * @param nowMs one steady clock
   * @returns whether a further frame is wanted; false while waiting for tiles, too: their coming calls for one
   */
  draw(view: PaneView, nowMs: number): { readonly didDraw: boolean; readonly wantsMore: boolean };
  /**
   * Draws everything that has arrived of the view at rest in one go, as one pass.
   * @param mostWeight segments and triangles that may be drawn
   */
  drawOnePass(view: PaneView, mostWeight?: number): DrawnCounts;
  dispose(): void;
}

/** The pane that a picture is of: `1/lens` is one of pane 1. */
export const paneOf = (picture: string): string => picture.split('/', 1)[0]!;

/** Everything of one drawing that its panes share. */
export interface Scene {
  readonly kind: 'flat' | 'solid';
  /** Bytes of decoded tiles. */
  readonly cachedBytes: number;
  /** @param listener called when something looks different now @returns a function that ends that */
  onChange(listener: () => void): () => void;
  setGround(ground: Colour): void;
  /** What one pane hides. @param mask null if every object is shown */
  hideObjects(pane: string, mask: ObjectMask | null): void;
  /** A pane shows it no more: what was kept for it goes. */
  leave(pane: string): void;
  /** What a pane wants to show, best first; tiles that any pane wants are kept and fetched. */
  want(pane: string, tiles: readonly number[]): void;
  dispose(): void;
}

/** What a line of sight meets. */
export interface Hit {
  readonly object: number;
  readonly point: Vec3;
  /** Turned to the viewer. */
  readonly normal: Vec3;
}

/** What a line of sight of a pane meets. */
export interface Surface {
  /** The nearest surface at a place of the pane, CSS px; null on empty ground or while nothing is loaded. */
  hit(camera: Camera, viewport: Viewport, at: Vec2): Hit | null;
  /** The nearest surface on a way of at most so many drawing units. @param along unit vector */
  meet(from: Vec3, along: Vec3, most: number): { readonly distance: number; readonly normal: Vec3 } | null;
  /** Which of some objects a box of the pane holds wholly, and which it touches, by their faces as they are seen. */
  within(
    camera: Camera,
    viewport: Viewport,
    box: ScreenBox,
    objects: ReadonlySet<number>,
  ): { readonly inside: ReadonlySet<number>; readonly touching: ReadonlySet<number> };
  /** All corners of objects, x, y, z triples, as far as they are loaded. */
  cornersOf(objects: ReadonlySet<number>): number[];
}
