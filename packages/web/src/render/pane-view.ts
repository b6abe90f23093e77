import type { Camera, Viewport } from '@gull-pane/core/camera/camera';

/** What a pane shows; whoever changes any of it hands in a new object. */
export interface PaneView {
  readonly camera: Camera;
  readonly viewport: Viewport;
  /** Ids of hidden layers. */
  readonly hidden: ReadonlySet<number>;
}
