import type { Camera, Viewport } from '@gull-pane/core/camera/camera';
import type { ClipVolume } from '@gull-pane/core/clip/clip-volume';
import type { Colour } from '@gull-pane/core/drawing/model';
import type { Vec3 } from '@gull-pane/core/geometry/vec';
import type { Object3D } from 'three';
import type { WorkPlane } from '@gull-pane/core/plane/work-plane';
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
  /** The plane that the grid lies in; the ground if absent. */
  readonly plane?: WorkPlane;
  /** Whether the picture at rest is drawn several times to smooth its edges. */
  readonly smoothEdges: boolean;
  /** A plan on the ground of a solid. */
  readonly sheet: Underlay | null;
}

/** What lies on the ground of a solid. */
export interface Underlay {
  /** The box of the part that is pictured; null while there is none. */
  readonly box: { readonly centre: Vec3; readonly halfSize: Vec3 } | null;
  /** Makes the picture for a view, unless the one that is there does. */
  update(camera: Camera, viewport: Viewport, ground: Colour): void;
  /** The picture where it lies, about an origin; null while there is none. */
  placed(origin: Vec3): Object3D | null;
}

/** Which kinds of things a pane shows, and how. */
export interface PaneLooks {
  readonly fills: boolean;
  readonly texts: boolean;
  /** Lines in their colours; black hairlines if false. */
  readonly lineStyles: boolean;
  /** Lines as wide as the drawing says; hairlines if false. */
  readonly weights: boolean;
  /** Broken lines; unbroken if false. */
  readonly dashes: boolean;
  /** What is seen through; everything covers if false. */
  readonly transparency: boolean;
}

export const allLooks: PaneLooks = {
  ...{ fills: true, texts: true, lineStyles: true, weights: true, dashes: true, transparency: true },
};
