import type { Camera, Viewport } from '@gull-pane/core/camera/camera';
import type { Surface } from '@gull-pane/core/pick/surface';
import type { DrawingStore } from './drawing-store';
import type { PaneStore } from './pane-state';

/** What makes whole pictures of a pane's views, one after the other. */
export interface FrameSource {
  /**
   * @param write puts more over the picture, as a caption
   * @returns the picture as PNG
   * @throws DOMException AbortError if it was called off; Error if the tiles don't come or the picture is too large
   */
  frame(
    camera: Camera,
    signal: AbortSignal,
    write?: (paper: CanvasRenderingContext2D, size: Viewport) => void,
  ): Promise<Uint8Array>;
  dispose(): void;
}

/** What a pane draws, while it does. */
export interface PaneSight {
  /** Of a solid. */
  surface: Surface | null;
  /** A small picture of it as a data address. */
  picture: (() => string) | null;
  /** Starts a source of whole pictures of this pane's views in another size; the caller disposes of it. */
  startFrames: ((size: Viewport) => FrameSource) | null;
  /** What it is drawn on, from below to above. */
  canvases: readonly HTMLCanvasElement[];
}

/** A pane with its drawing, and what it draws. */
export interface PaneParts {
  readonly pane: PaneStore;
  readonly drawing: DrawingStore;
  readonly seen: PaneSight;
}
