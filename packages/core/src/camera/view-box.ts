import type { Box2 } from '../geometry/clip.ts';
import { cameraAxes, type Camera, type Viewport } from './camera.ts';

/**
 * The box, along the drawing's axes, around what a plan view sees at any twist; drawing units.
 * @param offset what is taken off each coordinate, so that those relative to it keep their digits
 */
export function viewBox(camera: Camera, viewport: Viewport, offset = { x: 0, y: 0 }): Box2 {
  const { right, up } = cameraAxes(camera);
  const [w, h] = [(viewport.widthPx / 2) * camera.unitsPerPx, (viewport.heightPx / 2) * camera.unitsPerPx];
  const reachX = w * Math.abs(right.x) + h * Math.abs(up.x);
  const reachY = w * Math.abs(right.y) + h * Math.abs(up.y);
  const [x, y] = [camera.target.x - offset.x, camera.target.y - offset.y];
  return { minX: x - reachX, minY: y - reachY, maxX: x + reachX, maxY: y + reachY };
}
