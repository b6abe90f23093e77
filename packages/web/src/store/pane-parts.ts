import type { FrameMaker, FrameSize } from '../render/frame-maker';
import type { Surface } from '../render/scene';
import type { ClipsStore } from './clips-store';
import type { DrawingStore } from './drawing-store';
import type { OnTopStore } from './on-top-store';
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

/** What a pane's view is made of: where it looks, what it shows of its drawing, what cuts it open. */
export interface PaneParts {
  readonly pane: PaneStore;
  readonly drawing: DrawingStore;
  readonly clips: ClipsStore;
  readonly seen: PaneSight;
  /** Which marks it shows, and its work plane. */
  readonly onTop: OnTopStore;
}
