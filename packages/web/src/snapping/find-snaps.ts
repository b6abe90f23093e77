import { screenToWorld, worldToScreen } from '@gull-pane/core/camera/camera';
import { sightThrough, type Sight } from '@gull-pane/core/camera/projection';
import { inForce, isKept } from '@gull-pane/core/clip/clip-volume';
import { length3, along3, dot3, sub3, type Vec2, type Vec3 } from '@gull-pane/core/geometry/vec';
import type { Placed } from '@gull-pane/core/measure/placed';
import { fromPlane, meetPlane, normalOf, onPlane } from '@gull-pane/core/plane/work-plane';
import { gridPoint, isPlace, rankSnaps, type Snap, type SnapKind, type SnapOffer } from '@gull-pane/core/snap/snap';
import type { Mark } from '@gull-pane/core/marks/mark';
import { isMarkShown, isWorldPlane } from '@gull-pane/core/view/shown';
import type { ActionTarget, Parts } from '../actions/action';
import { featuresOfMark, levelPathsOf } from '../marks/mark-features';
import type { Surface } from '@gull-pane/core/pick/surface';
import { usePreferences } from '../store/preferences-store';
import { isFaceAsked, toolInHand, wayInHand, type ToolState } from '../store/tool-store';
import type { ExactFeatures } from './exact-features';

/** How near on the screen something must be to draw the cursor, CSS px. */
const SNAP_PX = 12;
/** Places this near to each other are one, px. */
const SAME_PX = 1e-3;
/** Around the cursor the line of sight is asked, too, what it meets: edges stand against the sky. */
const AROUND: readonly (readonly [number, number])[] = [
  [0, 0],
  ...[0, 1, 2, 3, 4, 5, 6, 7].map((k) => {
    const angle = (k * Math.PI) / 4;
    return [0.8 * SNAP_PX * Math.cos(angle), 0.8 * SNAP_PX * Math.sin(angle)] as const;
  }),
];

/** The point that was placed before, which feet and tangents begin at. */
export function pointBefore({ states, ...tools }: ToolState): Vec3 | null {
  const inHand = toolInHand(tools);
  if (inHand === 'collect') return states.collect.isDone ? null : (states.collect.points.at(-1) ?? null);
  return inHand === 'level' ? states.level.from : null;
}

const shownMarks = ({ pane, marks }: Parts<'pane' | 'marks'>): readonly Mark[] =>
  marks.getState().marks.filter((mark) => isMarkShown(pane.getState().shown, mark));

/** All that the cursor may be drawn to in a pane, the likeliest first. @param at CSS px */
export async function findSnaps(
  target: Parts<'pane' | 'drawing' | 'seen' | 'asked' | 'marks' | 'tools'>,
  features: ExactFeatures,
  at: Vec2,
): Promise<readonly Snap[]> {
  const { pane, drawing, tools } = target;
  const { snapKinds } = usePreferences.getState();
  // an area is shown by a place within it, not by one on its edge
  if (isFaceAsked(tools.getState()) || wayInHand(tools.getState())?.id === 'hatch') return [];
  // a height is told by places alone: there is always a face somewhere below the cursor
  const isHeight = footOfHeight(tools.getState()) !== null;
  // on a plane that was laid marks lie on it, not on faces that happen to be behind
  const isOnPlane = !isWorldPlane(pane.getState().shown) && wayInHand(tools.getState()) !== null;
  const isMeant = (kind: SnapKind): boolean => (!isHeight || isPlace(kind)) && !(isOnPlane && kind === 'foot on face');
  const asksLine = toolInHand(tools.getState()) === 'level' && !tools.getState().states.level.from;
  const kinds = new Set<SnapKind>(asksLine ? ['end', 'nearest'] : snapKinds.filter(isMeant));
  if (kinds.size === 0) return [];
  const { camera, viewport } = pane.getState();
  const from = pointBefore(tools.getState());
  const shown = shownMarks(target);
  const isSolid = drawing.getState().solid !== null;
  const offers: SnapOffer[] = [];
  if (isSolid) {
    offers.push(...(await solidOffers(target, features, at, kinds, from)));
  } else {
    const place = screenToWorld(camera, viewport, at);
    const radius = SNAP_PX * camera.unitsPerPx;
    const question = { at: { x: place.x, y: place.y }, radius, from };
    const inPx = (offer: SnapOffer): SnapOffer => ({ ...offer, distance: offer.distance / camera.unitsPerPx });
    if (shown.length > 0) {
      const { flatSnaps } = await import('@gull-pane/core/snap/flat-snaps');
      offers.push(...flatSnaps(shown.flatMap(levelPathsOf), { ...question, kinds }).map(inPx));
    }
    const drawn = await target.asked.ask('snap', { ...question, kinds: [...kinds] }).catch(() => []);
    offers.push(...drawn.map(inPx));
  }
  if (kinds.has('grid')) offers.push(...gridOffer(target, at));
  const same = SAME_PX * camera.unitsPerPx;
  return asksLine ? rankLines(offers, camera.unitsPerPx, same) : rankSnaps(offers, same);
}

/** Shorter lines aren't meant where there is a longer one, px. */
const SHORT_PX = 24;

/** Where a line is asked for it is meant anywhere along it; ends come after all lines. */
function rankLines(offers: readonly SnapOffer[], unitsPerPx: number, same: number): readonly Snap[] {
  const lines = offers.filter(({ line }) => line);
  const long = lines.filter(({ line }) => length3(sub3(line![1], line![0])) >= SHORT_PX * unitsPerPx);
  const ends = offers.filter(({ kind }) => kind === 'end');
  return [...rankSnaps(long.length > 0 ? long : lines, same), ...rankSnaps(ends, same)];
}

async function solidOffers(
  target: Parts<'pane' | 'seen' | 'marks'>,
  features: ExactFeatures,
  at: Vec2,
  kinds: ReadonlySet<SnapKind>,
  from: Vec3 | null,
): Promise<SnapOffer[]> {
  const { camera, viewport, shown } = target.pane.getState();
  const { surface } = target.seen;
  const hits = surface ? AROUND.map(([dx, dy]) => surface.hit(camera, viewport, { x: at.x + dx, y: at.y + dy })) : [];
  const objects = new Set(hits.flatMap((hit) => (hit && !hit.isPoint ? [hit.object] : [])));
  const exact = await Promise.all([...objects].map((object) => features.of(object)));
  const cuts = inForce(shown.clips);
  const isSeen = (place: Vec3): boolean =>
    isKept(cuts, place) && (surface === null || isUncovered(surface, place, camera, viewport));
  const [under = null] = hits;
  const question = { camera, viewport, at, radiusPx: SNAP_PX, from, kinds, hit: under?.isPoint ? null : under };
  const { solidSnaps } = await import('@gull-pane/core/snap/solid-snaps');
  return [
    ...(kinds.has('point') ? pointOffers(hits, camera, viewport, at) : []),
    ...solidSnaps(
      exact.filter((each) => each !== null),
      { ...question, isSeen },
    ),
    // marks lie on top of everything
    ...solidSnaps(shownMarks(target).map(featuresOfMark), { ...question, hit: null, isSeen: () => true }),
  ];
}

/** Points that are met near the cursor; they tell their place themselves. */
function pointOffers(
  hits: readonly ReturnType<Surface['hit']>[],
  camera: Parameters<Surface['hit']>[0],
  viewport: Parameters<Surface['hit']>[1],
  at: Vec2,
): SnapOffer[] {
  return hits.flatMap((hit): SnapOffer[] => {
    if (!hit?.isPoint) return [];
    const seen = worldToScreen(camera, viewport, hit.point);
    const distance = Math.hypot(seen.x - at.x, seen.y - at.y);
    return distance <= SNAP_PX ? [{ kind: 'point', point: hit.point, distance }] : [];
  });
}

/** So much nearer to the eye than a place something must be to cover it, px. */
const COVER_PX = 3;

function isUncovered(
  surface: Surface,
  place: Vec3,
  camera: Parameters<Surface['hit']>[0],
  viewport: Parameters<Surface['hit']>[1],
): boolean {
  const seen = worldToScreen(camera, viewport, place);
  const hit = surface.hit(camera, viewport, seen);
  if (!hit) return true;
  const { along } = sightThrough(camera, viewport, seen);
  return dot3(sub3(place, hit.point), along) <= COVER_PX * camera.unitsPerPx;
}

function gridOffer(target: Parts<'pane' | 'drawing' | 'seen' | 'tools'>, at: Vec2): SnapOffer[] {
  const { camera, viewport, shown } = target.pane.getState();
  const step = gridStepOf(target);
  const under = placeUnder(target, at);
  if (step === null || !under) return [];
  const { plane } = shown.workPlane;
  const own = onPlane(plane, under);
  const point = fromPlane(plane, { ...gridPoint(own, step), z: 0 });
  const seen = worldToScreen(camera, viewport, point);
  const distance = Math.hypot(seen.x - at.x, seen.y - at.y);
  return distance <= SNAP_PX ? [{ kind: 'grid', point, distance }] : [];
}

/** Where a height stands on while it is drawn; null if none is. */
function footOfHeight(tools: ToolState): Vec3 | null {
  const way = wayInHand(tools)?.id;
  const isRaised = way === 'box' || way === 'cylinder';
  const { points } = tools.states.collect;
  return isRaised && points.length === 2 ? points[1]! : null;
}

/** The place of an upright that comes nearest to a line of sight; its foot where that is seen from above. */
function nearestOnAxis(foot: Vec3, axis: Vec3, { from, along }: Sight): Vec3 {
  const out = sub3(foot, from);
  const slope = dot3(axis, along);
  const turn = 1 - slope * slope;
  if (turn < 1e-6) return foot;
  return along3(foot, axis, (slope * dot3(out, along) - dot3(out, axis)) / turn);
}

/** Between the lines of the grid that is snapped to, drawing units; null if there is none. */
export const gridStepOf = ({ drawing }: Pick<ActionTarget, 'drawing'>): number | null => {
  const { id, begun } = drawing.getState().drawing;
  const own = usePreferences.getState().gridSteps[id] ?? begun?.gridStep ?? 0;
  return own > 0 ? own : null;
};

/** What lies under a place of a pane where nothing is snapped to: in a solid the work plane, or the face that is seen. */
export function placeUnder(
  { pane, seen, drawing, tools }: Parts<'pane' | 'drawing' | 'seen' | 'tools'>,
  at: Vec2,
): Placed | null {
  const { camera, viewport, shown } = pane.getState();
  const { plane } = shown.workPlane;
  const foot = footOfHeight(tools.getState());
  if (foot) return nearestOnAxis(foot, normalOf(plane), sightThrough(camera, viewport, at));
  if (drawing.getState().solid === null) return screenToWorld(camera, viewport, at);
  const isParallel = camera.projection === 'parallel';
  const hit = seen.surface?.hit(camera, viewport, at);
  if ((isWorldPlane(shown) || isFaceAsked(tools.getState())) && hit) return { ...hit.point, normal: hit.normal };
  return meetPlane(plane, sightThrough(camera, viewport, at), isParallel) ?? screenToWorld(camera, viewport, at);
}
