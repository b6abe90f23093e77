import { Matrix4, Quaternion, Vector4 } from 'three';
import { MOST_CLIPS, inForce, type ClipVolume } from '@gull-pane/core/clip/clip-volume';
import { sub3, type Vec3 } from '@gull-pane/core/geometry/vec';
import type { ShaderClip } from './cut-materials';

/** Farther below than anything is. */
const BOTTOMLESS = -1e30;

/** Volumes as the shaders cut by them. @param origin what the picture is drawn about */
export function shaderClips(volumes: readonly ClipVolume[], origin: Vec3): ShaderClip[] {
  return inForce(volumes)
    .slice(0, MOST_CLIPS)
    .map(({ kind, centre, orientation, half, keeps }) => {
      const { x, y, z } = sub3(origin, centre);
      const { x: qx, y: qy, z: qz, w: qw } = orientation;
      const turn = new Matrix4().makeRotationFromQuaternion(new Quaternion(-qx, -qy, -qz, qw));
      const move = new Matrix4().makeTranslation(x, y, z);
      const keepsInside = keeps === 'inside';
      if (kind === 'box') {
        const scale = new Matrix4().makeScale(1 / half.x, 1 / half.y, 1 / half.z);
        const to = scale.multiply(turn).multiply(move);
        const planes = [0, 1, 2].flatMap((axis) => [belowOne(to, axis, 1), belowOne(to, axis, -1)]);
        return { to, lowest: -1, keepsInside, planes: keepsInside ? planes : null };
      }
      // only the height above a plane counts: 1 is in it
      const height = new Matrix4().set(0, 0, 0, 0, 0, 0, 0, 0, 0, 0, 1, 1, 0, 0, 0, 1);
      const to = height.multiply(turn).multiply(move);
      const behind = belowOne(to, 2, 1);
      return { to, lowest: BOTTOMLESS, keepsInside, planes: [keepsInside ? behind : behind.negate()] };
    });
}

/** The plane before which a coordinate of the volume's measure, times a sign, is at most 1. */
function belowOne({ elements }: Matrix4, axis: number, sign: 1 | -1): Vector4 {
  const [x, y, z, w] = [0, 4, 8, 12].map((column) => -sign * elements[column + axis]!) as [
    number,
    number,
    number,
    number,
  ];
  return new Vector4(x, y, z, w + 1);
}
