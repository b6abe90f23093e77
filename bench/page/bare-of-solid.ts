import { Matrix4 } from 'three';
import { cameraAxes, type Camera, type Viewport } from '@gull-pane/core/camera/camera';
import type { Vec3 } from '@gull-pane/core/geometry/vec';
import type { SolidScene } from '../../packages/web/src/render/solid/solid-scene.ts';

/** Every triangle of a whole solid, as far as it is loaded: x, y, z of three corners each, about a place. */
export function cornersOf(scene: SolidScene, about: Vec3): Float32Array<ArrayBuffer> {
  const chunks: Float32Array[] = [];
  let length = 0;
  scene.tileset.tiles.forEach(({ origin, coarseness }, tile) => {
    if (coarseness !== undefined) return;
    const content = scene.body(tile)?.content;
    if (!content) return;
    const corners = new Float32Array(3 * content.triangles.length);
    content.triangles.forEach((vertex, i) => {
      corners[3 * i] = content.positions[3 * vertex]! + origin.x - about.x;
      corners[3 * i + 1] = content.positions[3 * vertex + 1]! + origin.y - about.y;
      corners[3 * i + 2] = content.positions[3 * vertex + 2]! + origin.z - about.z;
    });
    chunks.push(corners);
    length += corners.length;
  });
  const all = new Float32Array(length);
  let at = 0;
  for (const chunk of chunks) {
    all.set(chunk, at);
    at += chunk.length;
  }
  return all;
}

/** From places about the target of a parallel view to the frame that runs from −1 to 1, column by column. */
export function bareMatrix(camera: Camera, { widthPx, heightPx }: Viewport): Float32Array {
  const { right, up, back } = cameraAxes(camera);
  const turn = new Matrix4().set(
    right.x,
    right.y,
    right.z,
    0,
    up.x,
    up.y,
    up.z,
    0,
    back.x,
    back.y,
    back.z,
    0,
    0,
    0,
    0,
    1,
  );
  const { unitsPerPx } = camera;
  const depth = unitsPerPx * 4 * widthPx;
  const scale = new Matrix4().makeScale(2 / (unitsPerPx * widthPx), 2 / (unitsPerPx * heightPx), -1 / depth);
  return Float32Array.from(scale.multiply(turn).elements);
}
