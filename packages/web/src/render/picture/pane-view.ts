import type { Camera, Viewport } from '@gull-pane/core/camera/camera';
import type { Colour } from '@gull-pane/core/drawing/model';
import type { Vec3 } from '@gull-pane/core/geometry/vec';
import type { Object3D } from 'three';
import type { WorkPlane } from '@gull-pane/core/plane/work-plane';
import type { Shown } from '@gull-pane/core/view/shown';

/** What of a view changes how its lines and surfaces are drawn. */
type DrawnAs = Pick<Shown, 'look' | 'kinds' | 'hiddenLayers' | 'clips'>;

/** What a pane draws. Immutable: a change is a new object. */
export interface PaneView extends DrawnAs {
  readonly camera: Camera;
  readonly viewport: Viewport;
  /** Size of the whole pane, where this is a part of one. */
  readonly pane?: Viewport;
  /** The plane that the grid lies in; the ground if absent. */
  readonly plane?: WorkPlane;
  /** Models are drawn without their grid, as on paper. */
  readonly withoutGrid?: boolean;
  /** Whether the picture at rest is drawn several times to smooth its edges. */
  readonly smoothEdges: boolean;
  /** Side of a point of a model, CSS px; the usual one if absent. */
  readonly pointPx?: number;
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
