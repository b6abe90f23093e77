import type { Vec3 } from '../geometry/vec.ts';
import { USUAL_FOV_RAD, sameCamera, type Camera, type Viewport } from './camera.ts';
import { focusedAt, toParallel, toPerspective } from './projection.ts';

/** Angles nearer than this are one, radians. */
const SAME_RAD = 1e-9;

/**
 * Goes from one projection to the other and between fields of view, so that going back leads back exactly: each is made
 * from the view that was there first, not from what the last one led to.
 */
export class ProjectionSwitch {
  #last: { readonly from: Camera; readonly focus: Vec3; readonly to: Camera } | null = null;

  /**
   * @param focus what keeps its size; asked for only where a view was reached in another way than by this switch
   * @param fovRad the vertical field of view of the perspective that is wanted; absent for the other projection
   */
  next(camera: Camera, viewport: Viewport, focus: () => Vec3, fovRad?: number): Camera {
    const last = this.#last && sameCamera(this.#last.to, camera) ? this.#last : { from: camera, focus: focus() };
    const isOther = fovRad === undefined;
    const isBack = isOther
      ? last.from.projection !== camera.projection
      : last.from.projection === 'perspective' && Math.abs((last.from.fovRad ?? USUAL_FOV_RAD) - fovRad) < SAME_RAD;
    if (isBack) {
      this.#last = { ...last, to: last.from };
      return last.from;
    }
    // the other projection of a view whose field of view was changed is that of the view as it is now
    const from = isOther ? camera : last.from;
    const focused = focusedAt(from, viewport, last.focus);
    const to = isOther && from.projection === 'perspective' ? toParallel(focused) : toPerspective(focused, fovRad);
    this.#last = { from, focus: last.focus, to };
    return to;
  }
}
