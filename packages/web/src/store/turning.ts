import { sameCamera, type Camera, type ScreenPoint, type Viewport } from '@gull-pane/core/camera/camera';
import { isAlongAxis } from '@gull-pane/core/camera/directions';
import { middleIfInSight } from '@gull-pane/core/camera/middle-in-sight';
import { middleOfSeen } from '@gull-pane/core/camera/middle-of-seen';
import { directionOf, sameDirection, turnAbout } from '@gull-pane/core/camera/orbit';
import { focusedAt } from '@gull-pane/core/camera/projection';
import { ProjectionSwitch } from '@gull-pane/core/camera/projection-switch';
import type { Quaternion } from '@gull-pane/core/geometry/quaternion';
import type { Vec3 } from '@gull-pane/core/geometry/vec';
import type { PaneSurroundings } from './pane-state';

/** What a pane's view turns about, and whether it may turn. A plan never does. */
export class Turning {
  /** The last direction that was gone to rather than turned to by hand: only that is locked. */
  #gone: Quaternion | null = null;
  /** Where a direction led, and what it turned about. */
  #turned: { readonly camera: Camera; readonly about: Vec3 } | null = null;
  readonly #projections = new ProjectionSwitch();

  constructor(private readonly around: Pick<PaneSurroundings, 'solid' | 'support'>) {}

  /** The view with its target at the surface that is seen at a place; the same view where there is none. */
  readonly atSurface = (camera: Camera, viewport: Viewport, at: ScreenPoint): Camera => {
    const point = this.around.solid?.surfaceAt(camera, viewport, at);
    return point ? focusedAt(camera, viewport, point) : camera;
  };

  /** What a solid is turned about when no place was grabbed. */
  readonly pivotOf = (camera: Camera, viewport: Viewport): Vec3 =>
    this.around.solid?.middleOfPicked() ?? middleOfSeen(camera, viewport, this.around.solid?.surfaceAt ?? null);

  /** Remembers a direction that was gone to. */
  wentTo({ orientation }: Camera): void {
    this.#gone = orientation;
  }

  /** Whether the view may only be panned: a plan, or a direction that was gone to and is locked. */
  isHeld({ camera, isLocked }: { readonly camera: Camera; readonly isLocked: boolean }): boolean {
    if (!this.around.solid) return true;
    const gone = this.#gone;
    return isLocked && gone !== null && sameDirection(camera.orientation, gone) && isAlongAxis(directionOf(camera));
  }

  /** Turns to a direction about the middle of what is looked at; directions that follow one another share that point. */
  turnedTo(from: Camera, viewport: Viewport, orientation: Quaternion): Camera {
    const about = this.#middleLookedAt(from, viewport);
    const camera = turnAbout(from, about, orientation);
    this.#turned = { camera, about };
    this.wentTo(camera);
    return camera;
  }

  /** The next direction finds its own middle. */
  forgetMiddle(): void {
    this.#turned = null;
  }

  /** In the other projection, or in perspective with a field of view. */
  inOtherProjection(from: Camera, viewport: Viewport, fovRad?: number): Camera {
    return this.#projections.next(from, viewport, () => this.pivotOf(from, viewport), fovRad);
  }

  /** Of the picked, of everything if all of it is in sight, else of the surfaces seen. */
  #middleLookedAt(camera: Camera, viewport: Viewport): Vec3 {
    const { solid, support } = this.around;
    const picked = solid?.middleOfPicked();
    if (picked) return picked;
    if (this.#turned && sameCamera(this.#turned.camera, camera)) return this.#turned.about;
    return middleIfInSight(camera, viewport, support()) ?? this.pivotOf(camera, viewport);
  }
}
