import type { WebGLRenderTarget } from 'three';
import type { Colour } from '@gull-pane/core/drawing/model';
import type { PaneView } from './pane-view';

/** Tiles to draw, and how: all that a painter needs to know, so that nothing is left over from another picture. */
export interface Batch {
  readonly view: PaneView;
  readonly tiles: readonly number[];
  /** All that the view wants, loaded or not. */
  readonly selection: readonly number[];
  /** The tiles of the whole picture: what isn't among them has stand-ins. */
  readonly all: readonly number[];
  /** Things smaller than this have stand-ins, drawing units. */
  readonly smallest: number;
  /** Of a tile: things of this size and more are in the picture already; infinite if none are. Drawing units. */
  readonly below: (tile: number) => number;
  /** Where to; null is the canvas. */
  readonly target: WebGLRenderTarget | null;
  /** Of the view, device px to the right and up. */
  readonly shiftPx: readonly [right: number, up: number];
  /** Nothing but the ground is there yet. */
  readonly isFirst: boolean;
  /** Which time the tiles are gone through in a pass, from 0. */
  readonly round: number;
  /** The part of the canvas that is drawn, device px from its upper left corner; null is all of it. */
  readonly within: readonly [left: number, top: number, width: number, height: number] | null;
}

export interface PaintedCounts {
  readonly segments: number;
  readonly triangles: number;
  readonly tiles: number;
}

/** Which tiles a frame draws, down to which size of things, drawing units. */
export interface Share {
  readonly tiles: readonly number[];
  readonly smallest: number;
}

/**
 * How one kind of drawing is painted in one picture. When what is drawn is for `ProgressivePicture` to say. Depth tells
 * what covers what, so that tiles may be drawn in any order and over a kept picture.
 */
export interface PanePainter {
  readonly ground: Colour;
  /** How much of a tile's weight costs what one segment of a plan does. */
  readonly weightPerSegment: number;
  /** Whether a pan may move the picture by whole pixels. */
  readonly mayShift: boolean;
  /** Texts on the canvas since it was cleared. */
  readonly texts: number;
  /** What else than camera and size the picture depends on: if any of it changes, it begins anew. */
  looks(view: PaneView): readonly unknown[];
  /** If any of this changes, the picture at rest stays until it is drawn over. */
  restyles(): readonly unknown[];
  /** The tiles of a view at rest, best first. */
  select(view: PaneView): readonly number[];
  want(tiles: readonly number[]): void;
  isThere(tile: number): boolean;
  isAwaited(tile: number): boolean;
  /** What else is still to come. */
  readonly pending: number;
  weightOf(tile: number): number;
  /** Of the tiles that are there, those that are drawn at rest. */
  atRest(view: PaneView, selection: readonly number[]): Share;
  /** As much of the view as a weight allows; never more than at rest. */
  within(view: PaneView, selection: readonly number[], mostWeight: number): Share;
  /** Whether tiles take the place of others: a picture that lacks some is drawn afresh as they come. */
  readonly replaces: boolean;
  /** A tile that can't be drawn over a picture that is there. */
  needsAfresh(view: PaneView, tile: number): boolean;
  /** How many times a pass goes through all tiles. */
  rounds(view: PaneView): number;
  /** A view has changed and is about to be drawn for the first time. */
  begin(view: PaneView, selection: readonly number[]): void;
  /** Makes what belongs to a picture beside its tiles. @param isWhole whether all of these are there */
  prepare(view: PaneView, selection: readonly number[], isWhole: boolean): void;
  /** Orders exact forms where coarse ones would show. @returns whether all are there */
  refine(view: PaneView, selection: readonly number[]): boolean;
  clearTexts(view: PaneView): void;
  /** Moves texts by whole device px. */
  shiftTexts(right: number, down: number): void;
  /** Writes all texts anew at their exact places, after they were shifted by whole px. */
  rewriteTexts(view: PaneView, selection: readonly number[]): void;
  draw(batch: Batch): PaintedCounts;
  /** Draws what comes last in a pass at rest. */
  finish(view: PaneView, target: WebGLRenderTarget): void;
  dispose(): void;
}
