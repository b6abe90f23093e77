import type { FrameMaker, FrameSize } from '../render/frame-maker';
import type { Surface } from '../render/scene';
import type { DrawingStore } from './drawing-store';
import type { PaneStore } from './pane-store';

/** What a pane draws, while it does. */
export interface PaneSight {
  /** Of a solid. */
  surface: Surface | null;
  /** A small picture of it as a data address. */
  picture: (() => string) | null;
  /** Something that makes whole pictures of this pane's views in another size; whoever asks disposes of it. */
  startFrames: ((size: FrameSize) => FrameMaker) | null;
  /** What it is drawn on, from below to above. */
  canvases: readonly HTMLCanvasElement[];
}

/** A pane with its drawing, and what it draws. */
export interface PaneParts {
  readonly pane: PaneStore;
  readonly drawing: DrawingStore;
  readonly seen: PaneSight;
}
