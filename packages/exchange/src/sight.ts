import { USUAL_FOV_RAD, cameraAxes, eyeOf, type Camera, type Viewport } from '@gull-pane/core/camera/camera';
import { quaternionOfAxes } from '@gull-pane/core/geometry/quaternion';
import { along3, dot3, scale3, sub3, type Vec3 } from '@gull-pane/core/geometry/vec';
import type { CameraDto } from '@gull-pane/protocol/camera';

/** A camera as most formats tell it. Drawing units. */
export interface Sight {
  readonly eye: Vec3;
  /** Unit vectors: where it looks, what is up. */
  readonly direction: Vec3;
  readonly up: Vec3;
  /** Of a perspective camera: the vertical field of view, rad; of a parallel one the height that it shows. */
  readonly fovRad?: number;
  readonly height?: number;
  /** Width by height of the picture. */
  readonly aspect: number;
}

/** The camera that a kept view describes. */
export const cameraOf = ({ x, y, z, unitsPerPx, qx, qy, qz, qw, fovRad }: CameraDto): Camera => ({
  ...(fovRad === undefined ? { projection: 'parallel' } : { projection: 'perspective', fovRad }),
  target: { x, y, z },
  orientation: { x: qx, y: qy, z: qz, w: qw },
  unitsPerPx,
});

/** A kept view as viewpoint, directions and height of the picture; drawing units. @param viewport CSS px */
export function sightOf(dto: CameraDto, viewport: Viewport): Sight {
  const camera = cameraOf(dto);
  const { up, back } = cameraAxes(camera);
  const height = camera.unitsPerPx * viewport.heightPx;
  return {
    eye: eyeOf(camera, viewport),
    direction: scale3(back, -1),
    up,
    aspect: viewport.widthPx / viewport.heightPx,
    ...(camera.projection === 'perspective' ? { fovRad: camera.fovRad ?? USUAL_FOV_RAD } : { height }),
  };
}

/** Views that come from elsewhere are so wide, CSS px. */
const WIDTH_PX = 1200;

export interface Framed {
  readonly camera: CameraDto;
  readonly widthPx: number;
  readonly heightPx: number;
}

/**
 * The view of a camera that looks along a direction with something up, which needn't be exactly upright to it.
 * @param distance from the eye to what it looks at; of perspective cameras
 * @param viewport the pane that it is for, if that is known
 * @throws RangeError if up and direction are parallel, or the picture has no size
 */
export function framedBy(
  { eye, direction, up, fovRad, height, aspect }: Sight,
  distance: number,
  viewport?: Viewport,
): Framed {
  const heightPx = viewport?.heightPx ?? WIDTH_PX / aspect;
  const widthPx = viewport?.widthPx ?? WIDTH_PX;
  const back = unit(scale3(direction, -1));
  const upright = unit(sub3(up, scale3(back, dot3(up, back))));
  const right = cross(upright, back);
  const q = quaternionOfAxes(right, upright, back);
  const unitsPerPx = (fovRad === undefined ? height! : 2 * distance * Math.tan(fovRad / 2)) / heightPx;
  if (!(unitsPerPx > 0 && Number.isFinite(unitsPerPx))) throw new RangeError('the camera shows nothing');
  // a parallel view has its eye as far off as it is wide
  const target = along3(eye, back, -(fovRad === undefined ? unitsPerPx * widthPx : distance));
  return {
    camera: {
      x: target.x,
      y: target.y,
      z: target.z,
      unitsPerPx,
      qx: q.x + 0,
      qy: q.y + 0,
      qz: q.z + 0,
      qw: q.w, // zero has no sign
      ...(fovRad === undefined ? {} : { fovRad }),
    },
    widthPx,
    heightPx,
  };
}

function unit(v: Vec3): Vec3 {
  const length = Math.hypot(v.x, v.y, v.z);
  if (!(length > 1e-9 && Number.isFinite(length))) throw new RangeError('the camera has no direction');
  return scale3(v, 1 / length);
}

const cross = (a: Vec3, b: Vec3): Vec3 => ({
  x: a.y * b.z - a.z * b.y,
  y: a.z * b.x - a.x * b.z,
  z: a.x * b.y - a.y * b.x,
});
