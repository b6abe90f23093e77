import { length3, sub3, unit3, type Vec3 } from '@gull-pane/core/geometry/vec';
import type { Placed } from '@gull-pane/core/measure/placed';
import {
  fromPlane,
  offsetPlane,
  onPlane,
  planeByEdge,
  planeByFace,
  planeByPoints,
  type WorkPlane,
} from '@gull-pane/core/plane/work-plane';
import { collectableOf } from '@gull-pane/core/tools/collectables';
import { isWorldPlane } from '@gull-pane/core/view/shown';
import type { Parts } from '../actions/action';
import { layPlane } from '../store/lay-plane';
import { useNotes } from '../store/notes-store';
import { hatch } from './hatch';

/** What becomes of points that a tool has collected. */
export function collected(
  target: Parts<'pane' | 'drawing' | 'areas' | 'marks' | 'tools'>,
  points: readonly Placed[],
): void {
  const { tools, marks, pane } = target;
  const { collecting } = tools.getState();
  const { way } = collectableOf(collecting);
  const { plane } = pane.getState().shown.workPlane;
  const ids = [...marks.getState().chosen];
  const [a, b, c] = points;
  if (way?.id === 'hatch') void hatch(target, a!);
  else if (way) {
    // what is drawn begins on the plane that its first point was placed on
    const own = planeOfMark(target, points);
    if (!marks.getState().draw(way.id, points, own))
      tellNothing('These places make nothing: they lie on one line, or all in one place.');
  } else if (collecting === 'move-marks' || collecting === 'copy-marks')
    marks.getState().move(ids, sub3(b!, a!), collecting === 'copy-marks');
  else if (collecting === 'turn-marks') marks.getState().turn(ids, plane, a!, b!, c!);
  else layPlaneBy(target, collecting, points);
  // marks are drawn one after the other; the rest is done once
  if (!way) tools.getState().leave();
}

const tellNothing = (what: string): void => useNotes.getState().tell('failed', what);

/** On a face that the first point snapped to, else the work plane. */
function planeOfMark({ pane }: Parts<'pane'>, [first]: readonly Placed[]): WorkPlane {
  const { shown } = pane.getState();
  const { plane } = shown.workPlane;
  return isWorldPlane(shown) && first?.normal && Math.abs(first.normal.z) < 0.999999
    ? planeByFace(first, first.normal)
    : plane;
}

function layPlaneBy({ pane }: Parts<'pane'>, how: string, [a, b, c]: readonly Placed[]): void {
  const { plane, name } = pane.getState().shown.workPlane;
  const next = ((): WorkPlane | null => {
    if (how === 'plane-points') return planeByPoints(a!, b!, c!);
    if (how === 'plane-edge') return planeByEdge(a!, b!, sub3(c!, a!));
    if (how === 'plane-face') return a!.normal ? planeByFace(a!, unit3(a!.normal)) : null;
    return offsetPlane(plane, onPlane(plane, a!).z);
  })();
  if (next) layPlane(pane, next, how === 'plane-offset' ? name : '');
  else tellNothing(how === 'plane-face' ? 'There is no face there.' : 'These points lie on one line: no plane.');
}

/** The place that a typed way leads to. @param from the point before; null if there is none */
export function typedPlace(
  plane: WorkPlane,
  from: Vec3 | null,
  typed: { readonly kind: 'by' | 'place'; readonly x: number; readonly y: number; readonly z: number | null },
): Vec3 | null {
  if (typed.kind === 'place') return fromPlane(plane, { x: typed.x, y: typed.y, z: typed.z ?? 0 });
  if (!from) return null;
  const own = onPlane(plane, from);
  const to = { x: own.x + typed.x, y: own.y + typed.y, z: own.z + (typed.z ?? 0) };
  const isPlain = plane.origin.x === 0 && plane.origin.y === 0 && plane.x.x === 1 && plane.y.y === 1;
  return isPlain ? { x: from.x + typed.x, y: from.y + typed.y, z: from.z + (typed.z ?? 0) } : fromPlane(plane, to);
}

/** So far from one place towards another. */
export function towards(from: Vec3, to: Vec3, length: number): Vec3 | null {
  const way = sub3(to, from);
  const size = length3(way);
  if (size === 0) return null;
  return {
    x: from.x + (way.x * length) / size,
    y: from.y + (way.y * length) / size,
    z: from.z + (way.z * length) / size,
  };
}
