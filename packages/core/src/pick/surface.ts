import type { Camera, Viewport } from '../camera/camera';
import type { Vec2, Vec3 } from '../geometry/vec';
import type { ScreenBox } from './solid-box';

/** What a line of sight meets. Drawing units. */
export interface Hit {
  readonly object: number;
  readonly point: Vec3;
  /** Turned to the viewer; a unit vector. */
  readonly normal: Vec3;
  /** It is a point of its own, told to the source's last digit. */
  readonly isPoint?: true;
}

/** What a line of sight of a pane meets, as it shows its solid. */
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
  /** Corners of objects, x, y, z triples in drawing units. An object that isn't fully loaded gives the corners of its box. */
  cornersOf(objects: ReadonlySet<number>): number[];
  /** Of some objects those whose exact shapes are all loaded. */
  loadedOf(objects: ReadonlySet<number>): ReadonlySet<number>;
}
