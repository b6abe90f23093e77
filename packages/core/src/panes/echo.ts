import { cameraAxes, eyeOf, worldToScreen, type ScreenPoint } from '../camera/camera.ts';
import { sightThrough, type Sight } from '../camera/projection.ts';
import type { Box3 } from '../geometry/box.ts';
import { add3, dot3, scale3, sub3, type Vec3 } from '../geometry/vec.ts';
import type { TiedView } from './tie.ts';

/** Where another pane's cursor points, CSS px: a point, or a line where its depth isn't known. */
export type Echo =
  | { readonly kind: 'point'; readonly at: ScreenPoint }
  | { readonly kind: 'line'; readonly from: ScreenPoint; readonly to: ScreenPoint };

/** What a cursor points at: a point of a surface, or all that lies on a line. */
export type Pointed = { readonly point: Vec3 } | { readonly from: Vec3; readonly to: Vec3 };

/** A line shorter than this is a point, CSS px. */
const POINT_PX = 3;
/** A line is drawn only before the eye, at least at this share of the view's height. */
const NEAREST = 1e-3;

/**
 * What the cursor of a pane points at, in drawing coordinates.
 * @param surface where its line of sight meets a solid; null if it doesn't, or isn't known
 * @param heights the lowest and the highest z of any pane: on a plan's place everything at that height may be meant
 * @returns null if the line of sight passes everything
 */
export function pointedAt(
  view: TiedView,
  at: ScreenPoint,
  surface: Vec3 | null,
  heights: { readonly low: number; readonly high: number },
): Pointed | null {
  if (surface) return { point: surface };
  const sight = sightThrough(view.camera, view.viewport, at);
  if (view.kind === 'flat') {
    const { x, y } = sight.from;
    return { from: { x, y, z: heights.low }, to: { x, y, z: heights.high } };
  }
  return view.extents && within(sight, view.extents, view.camera.projection === 'perspective' ? 0 : -Infinity);
}

/** The part of a line of sight in a box. @param least from where on, drawing units along it */
function within({ from, along }: Sight, { min, max }: Box3, least: number): Pointed | null {
  let [first, last] = [least, Infinity];
  for (const axis of ['x', 'y', 'z'] as const) {
    const [low, high] = [min[axis] - from[axis], max[axis] - from[axis]];
    if (along[axis] === 0) {
      if (low > 0 || high < 0) return null;
      continue;
    }
    const [a, b] = [low / along[axis], high / along[axis]];
    first = Math.max(first, Math.min(a, b));
    last = Math.min(last, Math.max(a, b));
  }
  if (!(first <= last)) return null;
  return { from: add3(from, scale3(along, first)), to: add3(from, scale3(along, last)) };
}

/** How another pane shows what a cursor points at; null if nothing of it can be seen from there. */
export function echoIn(view: TiedView, pointed: Pointed): Echo | null {
  const { camera, viewport } = view;
  const seen = (point: Vec3): ScreenPoint => worldToScreen(camera, viewport, point);
  if ('point' in pointed) {
    const at = seen(view.kind === 'flat' ? { ...pointed.point, z: camera.target.z } : pointed.point);
    return Number.isFinite(at.x) ? { kind: 'point', at } : null;
  }
  const { from: low, to: high } = withinHeights(view, pointed);
  const ends = beforeEye(view, low, high);
  if (!ends) return null;
  const [from, to] = ends.map(seen) as [ScreenPoint, ScreenPoint];
  if (Math.hypot(from.x - to.x, from.y - to.y) < POINT_PX) return { kind: 'point', at: from };
  return { kind: 'line', from, to };
}

/** What stands upright is as high as the solid: a line of a thousand kilometres tells nothing. */
function withinHeights({ kind, extents }: TiedView, line: { from: Vec3; to: Vec3 }): { from: Vec3; to: Vec3 } {
  const { from, to } = line;
  if (kind !== 'solid' || !extents || from.x !== to.x || from.y !== to.y) return line;
  return { from: { ...from, z: extents.min.z }, to: { ...to, z: extents.max.z } };
}

function beforeEye({ camera, viewport }: TiedView, from: Vec3, to: Vec3): readonly [Vec3, Vec3] | null {
  if (camera.projection === 'parallel') return [from, to];
  const eye = eyeOf(camera, viewport);
  const { back } = cameraAxes(camera);
  const nearest = NEAREST * camera.unitsPerPx * viewport.heightPx;
  const [a, b] = [from, to].map((end) => -dot3(sub3(end, eye), back)) as [number, number];
  if (a < nearest && b < nearest) return null;
  const at = (share: number): Vec3 => add3(from, scale3(sub3(to, from), share));
  const share = (nearest - a) / (b - a);
  if (a < nearest) return [at(share), to];
  return b < nearest ? [from, at(share)] : [from, to];
}
