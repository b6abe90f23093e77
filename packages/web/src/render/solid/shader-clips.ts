import { Matrix4, Quaternion } from 'three';
import { inForce, type ClipVolume } from '@gull-pane/core/clip/clip-volume';
import { sub3, type Vec3 } from '@gull-pane/core/geometry/vec';
import type { ShaderClip } from './solid-materials';

/** Farther below than anything is. */
const BOTTOMLESS = -1e30;

/** Volumes as the shaders cut by them. @param origin what the picture is drawn about */
export function shaderClips(volumes: readonly ClipVolume[], origin: Vec3): ShaderClip[] {
  return inForce(volumes).map(({ kind, centre, orientation, half, keeps }) => {
    const { x, y, z } = sub3(origin, centre);
    const { x: qx, y: qy, z: qz, w: qw } = orientation;
    const turn = new Matrix4().makeRotationFromQuaternion(new Quaternion(-qx, -qy, -qz, qw));
    const move = new Matrix4().makeTranslation(x, y, z);
    if (kind === 'box') {
      const scale = new Matrix4().makeScale(1 / half.x, 1 / half.y, 1 / half.z);
      return { to: scale.multiply(turn).multiply(move), lowest: -1, keepsInside: keeps === 'inside' };
    }
    // only the height above a plane counts: 1 is in it
    const height = new Matrix4().set(0, 0, 0, 0, 0, 0, 0, 0, 0, 0, 1, 1, 0, 0, 0, 1);
    return { to: height.multiply(turn).multiply(move), lowest: BOTTOMLESS, keepsInside: keeps === 'inside' };
  });
}
