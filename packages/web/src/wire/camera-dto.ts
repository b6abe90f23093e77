import { USUAL_FOV_RAD, type Camera } from '@gull-pane/core/camera/camera';
import type { CameraDto } from '@gull-pane/protocol/camera';

/** A view as it is kept on the server. */
export function cameraToDto({ target, orientation, unitsPerPx, projection, fovRad }: Camera): CameraDto {
  const { x: qx, y: qy, z: qz, w: qw } = orientation;
  return {
    x: target.x,
    y: target.y,
    z: target.z,
    unitsPerPx,
    qx,
    qy,
    qz,
    qw,
    ...(projection === 'perspective' ? { fovRad: fovRad ?? USUAL_FOV_RAD } : {}),
  };
}

export const cameraFromDto = ({ x, y, z, unitsPerPx, qx, qy, qz, qw, fovRad }: CameraDto): Camera => ({
  ...(fovRad === undefined ? { projection: 'parallel' } : { projection: 'perspective', fovRad }),
  target: { x, y, z },
  orientation: { x: qx, y: qy, z: qz, w: qw },
  unitsPerPx,
});
