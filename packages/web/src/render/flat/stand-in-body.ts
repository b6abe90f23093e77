import { BufferAttribute, BufferGeometry, LineSegments } from 'three';
import type { StandInLines } from '@gull-pane/core/pyramid/arrange';
import { still } from './line-body';
import type { DrawingMaterials } from './materials';

/** Added to the place in the order of painting of what stands for many: it isn't hidden with one of them. */
export const STANDS_FOR_MANY = 0.5;

/** Lines for the ink of what isn't drawn, on the graphics processor. */
export class StandInBody {
  readonly hairlines: LineSegments | null;

  constructor(
    readonly content: StandInLines,
    materials: DrawingMaterials,
  ) {
    const { positions, styles, objects } = content;
    if (styles.length === 0) {
      this.hairlines = null;
      return;
    }
    const geometry = new BufferGeometry();
    geometry.setAttribute('position', new BufferAttribute(positions, 3));
    geometry.setAttribute('style', new BufferAttribute(styles, 1));
    geometry.setAttribute(
      'order',
      new BufferAttribute(
        Float32Array.from(objects, (object) => 2 * object + 1 + STANDS_FOR_MANY),
        1,
      ),
    );
    this.hairlines = still(new LineSegments(geometry, [...materials.hairlines]));
  }

  dispose(): void {
    this.hairlines?.geometry.dispose();
  }
}
