import { worldToScreen, type Camera, type Viewport } from '../camera/camera.ts';
import { sightThrough, type Sight } from '../camera/projection.ts';
import { add3, along3, dot3, scale3, sub3, type Vec2, type Vec3 } from '../geometry/vec.ts';
import type { SolidFace, SolidFeatures } from '../solid/features.ts';
import type { SnapKind, SnapOffer } from './snap.ts';

export interface SolidQuestion {
  readonly camera: Camera;
  readonly viewport: Viewport;
  /** CSS px in the pane. */
  readonly at: Vec2;
  readonly radiusPx: number;
  /** The point before, for feet. */
  readonly from: Vec3 | null;
  readonly kinds: ReadonlySet<SnapKind>;
  /** What the line of sight meets first; null on empty ground. */
  readonly hit: { readonly point: Vec3; readonly normal: Vec3 } | null;
  /** Whether a place is seen: nothing covers it, no clip takes it away. */
  readonly isSeen: (place: Vec3) => boolean;
}

/** Crossings are looked for among no more edges than this. */
const MOST_CROSSING = 60;

/** All places of objects that a point near a place of the screen may be drawn to. Distances in CSS px. */
export function solidSnaps(objects: Iterable<SolidFeatures>, question: SolidQuestion): SnapOffer[] {
  const { camera, viewport, at, radiusPx, from, kinds, hit, isSeen } = question;
  const sight = sightThrough(camera, viewport, at);
  const offers: SnapOffer[] = [];
  const offer = (kind: SnapKind, point: Vec3, normal?: Vec3): void => {
    if (!kinds.has(kind)) return;
    const seen = worldToScreen(camera, viewport, point);
    const distance = Math.hypot(seen.x - at.x, seen.y - at.y);
    if (!(distance <= radiusPx) || !isSeen(point)) return;
    offers.push({ kind, point, distance, ...(normal ? { normal } : {}) });
  };
  const near: (readonly [Vec3, Vec3])[] = [];
  for (const { corners, edges, faces } of objects) {
    for (let i = 0; i < corners.length; i += 3) offer('corner', placeAt(corners, i));
    for (let i = 0; i < edges.length; i += 6) {
      const [a, b] = [placeAt(edges, i), placeAt(edges, i + 3)];
      const nearest = nearestToSight(a, b, sight);
      const seen = worldToScreen(camera, viewport, nearest);
      if (!(Math.hypot(seen.x - at.x, seen.y - at.y) <= radiusPx)) continue;
      near.push([a, b]);
      offer('nearest', nearest);
      offer('edge middle', { x: (a.x + b.x) / 2, y: (a.y + b.y) / 2, z: (a.z + b.z) / 2 });
      if (from) {
        const foot = footOnEdge(a, b, from);
        if (foot) offer('perpendicular foot', foot);
      }
    }
    const under = hit && faceOf(faces, hit);
    for (const face of faces) offer('face centre', face.centre, towards(face.normal, sight));
    if (!under) continue;
    const normal = towards(under.normal, sight);
    // where the sight goes through the face's own plane
    const share = dot3(sub3(under.centre, sight.from), under.normal) / dot3(sight.along, under.normal);
    if (Number.isFinite(share)) offer('foot on face', along3(sight.from, sight.along, share), normal);
    if (from) offer('perpendicular foot', footOnPlane(under, from), normal);
  }
  const few = near.slice(0, MOST_CROSSING);
  if (kinds.has('apparent crossing') || kinds.has('crossing'))
    few.forEach(([a, b], index) => {
      for (const [c, d] of few.slice(index + 1)) {
        const crossing = seenCrossing(question, [a, b], [c, d]);
        if (crossing) offer(crossing.isReal ? 'crossing' : 'apparent crossing', crossing.point);
      }
    });
  return offers;
}

const placeAt = (numbers: ArrayLike<number>, i: number): Vec3 => ({
  x: numbers[i]!,
  y: numbers[i + 1]!,
  z: numbers[i + 2]!,
});

const towards = (normal: Vec3, { along }: Sight): Vec3 => (dot3(normal, along) > 0 ? scale3(normal, -1) : normal);

/** So far from a face's plane a place may lie, as a share of the face's size, single precision's. */
const ON_PLANE = 1e-4;

/** The plane face that a place met by a line of sight lies on. */
export function faceOf(
  faces: readonly SolidFace[],
  { point, normal }: { readonly point: Vec3; readonly normal: Vec3 },
): SolidFace | null {
  let best: SolidFace | null = null;
  let least = Infinity;
  for (const face of faces) {
    if (Math.abs(dot3(face.normal, normal)) < 0.9999) continue;
    const size = Math.sqrt(face.area);
    const away = Math.abs(dot3(sub3(point, face.centre), face.normal));
    const aside = Math.hypot(...(Object.values(sub3(point, face.centre)) as [number, number, number]));
    if (away > ON_PLANE * Math.max(size, aside) || aside / size >= least) continue;
    [best, least] = [face, aside / size];
  }
  return best;
}

/** The point of a face’s plane that is nearest to a point; drawing units. */
export const footOnPlane = ({ centre, normal }: Pick<SolidFace, 'centre' | 'normal'>, p: Vec3): Vec3 =>
  along3(p, normal, -dot3(sub3(p, centre), normal));

function footOnEdge(a: Vec3, b: Vec3, p: Vec3): Vec3 | null {
  const way = sub3(b, a);
  const share = dot3(sub3(p, a), way) / dot3(way, way);
  return share >= 0 && share <= 1 ? along3(a, way, share) : null;
}

/**
 * The place of an edge that comes nearest to a line of sight (D. Eberly, "Robust computation of distance between line
 * segments", 2015: the case of a line and a segment).
 */
function nearestToSight(a: Vec3, b: Vec3, { from, along }: Sight): Vec3 {
  const way = sub3(b, a);
  const out = sub3(a, from);
  const [ww, wd, dd] = [dot3(way, way), dot3(way, along), dot3(along, along)];
  const turn = ww * dd - wd * wd;
  if (turn <= 1e-15 * ww * dd) return a;
  const share = (wd * dot3(out, along) - dd * dot3(out, way)) / turn;
  return share <= 0 ? a : share >= 1 ? b : along3(a, way, share);
}

/** Where two edges cross as they are seen: the place on the one that is nearer to the eye. */
function seenCrossing(
  { camera, viewport }: SolidQuestion,
  first: readonly [Vec3, Vec3],
  second: readonly [Vec3, Vec3],
): { readonly point: Vec3; readonly isReal: boolean } | null {
  const [a, b, c, d] = [...first, ...second].map((place) => worldToScreen(camera, viewport, place)) as [
    Vec2,
    Vec2,
    Vec2,
    Vec2,
  ];
  const [ux, uy, vx, vy] = [b.x - a.x, b.y - a.y, d.x - c.x, d.y - c.y];
  const turn = ux * vy - uy * vx;
  if (!(Math.abs(turn) > 1e-9 * Math.hypot(ux, uy) * Math.hypot(vx, vy))) return null;
  const [wx, wy] = [c.x - a.x, c.y - a.y];
  const s = (wx * vy - wy * vx) / turn;
  const t = (wx * uy - wy * ux) / turn;
  if (!(s >= 0 && s <= 1 && t >= 0 && t <= 1)) return null;
  const crossing = { x: a.x + s * ux, y: a.y + s * uy };
  const sight = sightThrough(camera, viewport, crossing);
  const [p, q] = [nearestToSight(...first, sight), nearestToSight(...second, sight)];
  const depth = (place: Vec3): number => dot3(sub3(place, sight.from), sight.along);
  const apart = sub3(p, q);
  const isReal = Math.hypot(apart.x, apart.y, apart.z) <= 1e-6 * camera.unitsPerPx;
  return { point: isReal ? scale3(add3(p, q), 0.5) : depth(p) <= depth(q) ? p : q, isReal };
}
