import type { Camera, Viewport } from '@gull-pane/core/camera/camera';
import type { ClipVolume } from '@gull-pane/core/clip/clip-volume';
import type { GroundSheet } from './ground-sheet';
import type { SolidLook } from '@gull-pane/core/solid/solid-looks';

/** What a pane shows; whoever changes any of it hands in a new object. */
export interface PaneView {
  readonly camera: Camera;
  readonly viewport: Viewport;
  /** Ids of hidden layers. */
  readonly hidden: ReadonlySet<number>;
  readonly looks: PaneLooks;
  /** Of solids. */
  readonly look: SolidLook;
  /** What cuts a solid open. */
  readonly clips: readonly ClipVolume[];
  /** A plan on the ground of a solid. */
  readonly sheet: GroundSheet | null;
}

/** Which kinds of things a pane shows, and how. */
export interface PaneLooks {
  readonly fills: boolean;
  readonly texts: boolean;
  /** Lines as wide, dashed and coloured as the drawing says; black hairlines if false. */
  readonly lineStyles: boolean;
}

export const allLooks: PaneLooks = { fills: true, texts: true, lineStyles: true };
