import { cameraAxes, type Camera } from '../camera/camera.ts';
import { orientationAtBearing } from '../camera/twist.ts';
import type { DrawingUnit } from '../drawing/units.ts';
import { identityQuaternion, multiply } from '../geometry/quaternion.ts';
import { add3, dot3, scale3, sub3, type Vec3 } from '../geometry/vec.ts';
import { unitsPerPaperMm, type FramedView, type PaperRect, type SheetFrame } from './sheet.ts';

/**
 * The camera of a frame, as if a millimetre of paper were a CSS px.
 * @param pxPerMm of another picture of the frame
 */
export function frameCamera({ view, heightMm }: SheetFrame, unit: DrawingUnit, pxPerMm = 1): Camera {
  const { x, y, solid } = view;
  const unitsPerMm = unitsPerPaperMm(view.denominator, unit);
  const camera: Camera = {
    projection: 'parallel',
    target: { x, y, z: solid?.z ?? 0 },
    orientation: multiply(solid?.orientation ?? identityQuaternion, orientationAtBearing(view.bearingRad)),
    unitsPerPx: unitsPerMm / pxPerMm,
  };
  if (solid?.eyeDistance === undefined) return camera;
  const fovRad = 2 * Math.atan((heightMm * unitsPerMm) / 2 / solid.eyeDistance);
  return { ...camera, projection: 'perspective', fovRad };
}

/** Takes places in space to paper. */
export interface FrameProjection {
  /**
   * @returns mm on the sheet, and how near it is: a number that is linear on paper and larger for what is nearer; in mm of
   * paper towards the viewer in parallel views, as a share of the middle's distance in perspective, 0 or less at the eye and behind it
   */
  readonly toPaper: (place: Vec3) => readonly [xMm: number, yMm: number, nearness: number];
  /** How much nearness changes at a place of some nearness over a length in mm of paper at the middle. */
  readonly nearnessPerMm: (nearness: number) => number;
  readonly right: Vec3;
  readonly up: Vec3;
  readonly back: Vec3;
  readonly target: Vec3;
  /** From the middle to the eye, drawing units; infinite in parallel views. */
  readonly eyeDistance: number;
}

/** Where a frame shows places of its model. */
export function projectionOf(frame: SheetFrame, unit: DrawingUnit): FrameProjection {
  const camera = frameCamera(frame, unit);
  const { right, up, back } = cameraAxes(camera);
  const { target, unitsPerPx: units } = camera;
  const eyeDistance = frame.view.solid?.eyeDistance ?? Infinity;
  const [middleX, middleY] = [frame.leftMm + frame.widthMm / 2, frame.topMm + frame.heightMm / 2];
  const axes = { right, up, back, target, eyeDistance };
  if (eyeDistance === Infinity)
    return {
      ...axes,
      toPaper: (place) => {
        const away = sub3(place, target);
        return [middleX + dot3(away, right) / units, middleY - dot3(away, up) / units, dot3(away, back) / units];
      },
      nearnessPerMm: () => 1,
    };
  return {
    ...axes,
    toPaper: (place) => {
      const away = sub3(place, target);
      const nearness = eyeDistance / (eyeDistance - dot3(away, back));
      const scale = nearness / units;
      return [middleX + dot3(away, right) * scale, middleY - dot3(away, up) * scale, nearness];
    },
    // n = d / depth, so that |dn| = n² / d · |d depth|
    nearnessPerMm: (nearness) => (nearness * nearness * units) / eyeDistance,
  };
}

/** A view moved so that what is shown moves with the hand over the paper. */
export function movedView<View extends FramedView>(
  frame: SheetFrame & { readonly view: View },
  unit: DrawingUnit,
  rightMm: number,
  downMm: number,
): View {
  const { right, up } = cameraAxes(frameCamera(frame, unit));
  const units = unitsPerPaperMm(frame.view.denominator, unit);
  const { view } = frame;
  const way = add3(scale3(right, -rightMm * units), scale3(up, downMm * units));
  return {
    ...view,
    x: view.x + way.x,
    y: view.y + way.y,
    ...(view.solid ? { solid: { ...view.solid, z: view.solid.z + way.z } } : {}),
  };
}

/** The view of a frame that is given another place or size on paper, so that what is shown stays where it was on the paper. */
export function standingView(before: SheetFrame, rect: PaperRect, unit: DrawingUnit): FramedView {
  const [fromX, fromY] = [before.leftMm + before.widthMm / 2, before.topMm + before.heightMm / 2];
  const [toX, toY] = [rect.leftMm + rect.widthMm / 2, rect.topMm + rect.heightMm / 2];
  return movedView(before, unit, fromX - toX, fromY - toY);
}
