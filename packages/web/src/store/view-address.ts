import { planCamera, type Camera } from '@gull-pane/core/camera/camera';
import { bearingOf, twistTo } from '@gull-pane/core/camera/twist';

/**
 * The part of a page's address that says where a pane looks: `x`, `y`, `s` (drawing units per px), `up`
 * (bearing at the top, degrees, where it isn't north), `hide` (layers).
 */
export interface ViewAddress {
  readonly camera: Camera | null;
  /** Null if it says nothing of layers. */
  readonly hidden: readonly number[] | null;
}

export function readViewAddress(search: URLSearchParams): ViewAddress {
  const numbers = ['x', 'y', 's'].map((name) => Number(search.get(name) ?? NaN));
  const [x, y, s] = numbers as [number, number, number];
  const isView = numbers.every(Number.isFinite) && s > 0;
  const hidden = search
    .get('hide')
    ?.split(',')
    .filter((part) => /^\d+$/.test(part));
  const up = Number(search.get('up') ?? 0);
  const bearingRad = Number.isFinite(up) ? (up * Math.PI) / 180 : 0;
  const camera = isView ? twistTo(planCamera({ x, y, z: 0 }, s), bearingRad) : null;
  return { camera, hidden: hidden?.map(Number) ?? null };
}

/**
 * Doubles are written in full, so that a reload brings back the very view.
 * @param hidden layers; those hidden at first if nothing is said of them
 */
export function writeViewAddress(
  camera: Camera,
  hidden: ReadonlySet<number>,
  hiddenAtFirst: ReadonlySet<number> = new Set(),
): URLSearchParams {
  const search = new URLSearchParams({
    x: String(camera.target.x),
    y: String(camera.target.y),
    s: String(camera.unitsPerPx),
  });
  const bearingRad = bearingOf(camera);
  if (bearingRad !== 0) search.set('up', String((bearingRad * 180) / Math.PI));
  const isAsAtFirst = hidden.size === hiddenAtFirst.size && [...hidden].every((layer) => hiddenAtFirst.has(layer));
  if (!isAsAtFirst) search.set('hide', [...hidden].sort((a, b) => a - b).join(','));
  return search;
}
