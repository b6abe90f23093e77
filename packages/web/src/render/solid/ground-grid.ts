import { BufferAttribute, BufferGeometry, LineBasicMaterial, LineSegments } from 'three';
import { gridSpacing } from '@gull-pane/core/camera/ground-grid';
import { quaternionOfAxes } from '@gull-pane/core/geometry/quaternion';
import { fromPlane, normalOf, onPlane, worldPlane } from '@gull-pane/core/plane/work-plane';
import { luminance } from '@gull-pane/core/drawing/colour';
import type { Colour } from '@gull-pane/core/drawing/model';
import type { Vec3 } from '@gull-pane/core/geometry/vec';
import type { PaneView } from '../picture/pane-view';

/** Lines in each direction, at most. */
const MOST_LINES = 160;
/** So much farther than the model the grid reaches, as a share of its size. */
const BEYOND = 0.35;

/** The grid on the work plane, the ground at first, under and about a model. */
export class GroundGrid {
  readonly #material = new LineBasicMaterial({ transparent: true, depthWrite: false });
  readonly #lines = new LineSegments(new BufferGeometry(), this.#material);
  #made = '';

  constructor() {
    this.#lines.frustumCulled = false;
    this.#lines.matrixAutoUpdate = false;
    this.#lines.matrixWorldAutoUpdate = false;
  }

  /** @param whole the box of the model */
  within(
    { camera, plane = worldPlane }: PaneView,
    { centre, halfSize }: { readonly centre: Vec3; readonly halfSize: Vec3 },
    ground: Colour,
  ): LineSegments {
    const isNight = luminance(ground) < 0.18;
    this.#material.color.set(isNight ? 0x9fc0d8 : 0x16324a);
    this.#material.opacity = isNight ? 0.16 : 0.13;
    const isTurned = plane.x.x !== 1 || plane.y.y !== 1;
    const sides = isTurned ? [halfSize.x, halfSize.y, halfSize.z] : [halfSize.x, halfSize.y];
    const reach = (1 + BEYOND) * Math.max(...sides, 1);
    let spacing = gridSpacing(camera.unitsPerPx);
    // close views keep lines about what is looked at
    const half = Math.min(reach, (MOST_LINES / 2) * spacing);
    const { x, y } = onPlane(plane, half < reach ? camera.target : centre);
    while (half / spacing > MOST_LINES / 2) spacing *= 2;
    const own = { x: Math.round(x / spacing) * spacing, y: Math.round(y / spacing) * spacing, z: 0 };
    const origin = fromPlane(plane, own);
    const count = Math.ceil(half / spacing);
    const key = `${spacing} ${count}`;
    if (key !== this.#made) {
      this.#made = key;
      const ends: number[] = [];
      for (let i = -count; i <= count; i++) {
        const [at, end] = [i * spacing, count * spacing];
        ends.push(at, -end, 0, at, end, 0, -end, at, 0, end, at, 0);
      }
      this.#lines.geometry.dispose();
      this.#lines.geometry = new BufferGeometry();
      this.#lines.geometry.setAttribute('position', new BufferAttribute(new Float32Array(ends), 3));
    }
    this.#lines.quaternion.copy(quaternionOfAxes(plane.x, plane.y, normalOf(plane)));
    this.#lines.userData.origin = origin;
    return this.#lines;
  }

  dispose(): void {
    this.#lines.geometry.dispose();
    this.#material.dispose();
  }
}
