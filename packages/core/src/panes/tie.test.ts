import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { eyeOf, planCamera, screenToWorld, worldToScreen, type Camera } from '../camera/camera.ts';
import { directionOf, orientationOf } from '../camera/orbit.ts';
import { sightThrough, toPerspective } from '../camera/projection.ts';
import { bearingOf, twistTo } from '../camera/twist.ts';
import { echoIn, pointedAt } from './echo.ts';
import { followed, groundPlace, sharesGrid, type TiedView, type TieHolds } from './tie.ts';

// the works stand at large coordinates of the grid
const [E, N] = [412_000_000, 7_204_000_000];
const extents = { min: { x: E, y: N, z: -8_000 }, max: { x: E + 300_000, y: N + 200_000, z: 24_000 } };
const limits = { minUnitsPerPx: 1e-3, maxUnitsPerPx: 1e6 };
const viewport = { widthPx: 800, heightPx: 600 };
const places = fc.record({
  x: fc.double({ min: extents.min.x, max: extents.max.x, noNaN: true }),
  y: fc.double({ min: extents.min.y, max: extents.max.y, noNaN: true }),
  z: fc.double({ min: extents.min.z, max: extents.max.z, noNaN: true }),
});
const bearings = fc.double({ min: 0, max: 2 * Math.PI, maxExcluded: true, noNaN: true });
const scales = fc.double({ min: 0.5, max: 2000, noNaN: true });
const plans: fc.Arbitrary<TiedView> = fc.tuple(places, scales, bearings).map(([target, unitsPerPx, bearing]) => ({
  camera: twistTo(planCamera({ ...target, z: 0 }, unitsPerPx), bearing),
  viewport,
  kind: 'flat',
  extents,
}));
/** @param least tilt in degrees */
const solids = (least: number): fc.Arbitrary<TiedView> =>
  fc
    .tuple(places, scales, bearings, fc.integer({ min: least, max: 89 }), fc.boolean())
    .map(([target, unitsPerPx, bearingRad, tilt, isPerspective]) => {
      const orientation = orientationOf({ bearingRad, tiltRad: (tilt * Math.PI) / 180 });
      const parallel: Camera = { projection: 'parallel', target, orientation, unitsPerPx };
      return { camera: isPerspective ? toPerspective(parallel) : parallel, viewport, kind: 'solid', extents };
    });
const all: TieHolds = { place: true, scale: true, direction: 'same' };
const turn = (a: number, b: number): number => Math.abs(Math.atan2(Math.sin(a - b), Math.cos(a - b)));

describe('a plan and a model that are tied', () => {
  it('show the same place in their middles, whichever leads, and it comes back the same', () => {
    fc.assert(
      fc.property(plans, solids(15), (plan, solid) => {
        const model = { ...solid, camera: followed(plan, solid, all, limits) };
        const middle = worldToScreen(model.camera, viewport, { ...plan.camera.target, z: 0 });
        expect(Math.hypot(middle.x - 400, middle.y - 300)).toBeLessThan(1e-3);
        expect(model.camera.unitsPerPx).toBe(plan.camera.unitsPerPx);
        expect(turn(directionOf(model.camera).bearingRad, bearingOf(plan.camera))).toBeLessThan(1e-7);
        expect(directionOf(model.camera).tiltRad).toBeCloseTo(directionOf(solid.camera).tiltRad, 7);
        const back = followed(model, plan, all, limits);
        expect(Math.hypot(back.target.x - plan.camera.target.x, back.target.y - plan.camera.target.y)).toBeLessThan(
          1e-4,
        );
        expect(turn(bearingOf(back), bearingOf(plan.camera))).toBeLessThan(1e-7);
      }),
    );
  });

  it('keep the plan at the ground that is seen in the middle of the model', () => {
    fc.assert(
      fc.property(solids(15), plans, (solid, plan) => {
        const camera = followed(solid, plan, { ...all, direction: 'free' }, limits);
        const onGround = { ...camera.target, z: 0 };
        const { x, y } = worldToScreen(solid.camera, viewport, onGround);
        // in a perspective view the ground may lie behind the eye
        fc.pre(Number.isFinite(x));
        expect(Math.hypot(x - 400, y - 300)).toBeLessThan(1e-2);
        expect(camera.orientation).toBe(plan.camera.orientation);
      }),
    );
  });

  it('look where the target is if the sight is too flat to meet the ground', () => {
    const camera: Camera = {
      projection: 'parallel',
      unitsPerPx: 10,
      target: { x: E, y: N, z: 2000 },
      orientation: orientationOf({ bearingRad: 1, tiltRad: 0.05 }),
    };
    expect(groundPlace({ camera, viewport, kind: 'solid', extents })).toBe(camera.target);
  });
});

describe('two panes of one model', () => {
  it('from the opposite side look the other way at the same tilt, and twice opposite is the same', () => {
    fc.assert(
      fc.property(solids(-80), solids(-80), (leader, follower) => {
        const camera = followed(leader, follower, { ...all, direction: 'opposite' }, limits);
        const [from, to] = [directionOf(leader.camera), directionOf(camera)];
        expect(turn(from.bearingRad + Math.PI, to.bearingRad)).toBeLessThan(1e-6);
        expect(to.tiltRad).toBeCloseTo(from.tiltRad, 6);
        expect(camera.target).toEqual(leader.camera.target);
        expect(camera.projection).toBe(follower.camera.projection);
        const again = followed({ ...follower, camera }, leader, { ...all, direction: 'opposite' }, limits);
        expect(turn(directionOf(again).bearingRad, from.bearingRad)).toBeLessThan(1e-6);
      }),
    );
  });

  it('change only what the tie holds, within the limits of the one that follows', () => {
    fc.assert(
      fc.property(solids(-80), solids(-80), (leader, follower) => {
        const onlyPlace = followed(leader, follower, { place: true, scale: false, direction: 'free' }, limits);
        expect(onlyPlace).toEqual({ ...follower.camera, target: leader.camera.target });
        const onlyScale = followed(
          leader,
          follower,
          { place: false, scale: true, direction: 'free' },
          { minUnitsPerPx: 40, maxUnitsPerPx: 50 },
        );
        expect(onlyScale.target).toBe(follower.camera.target);
        expect(onlyScale.unitsPerPx).toBe(Math.min(Math.max(leader.camera.unitsPerPx, 40), 50));
        const nothing = followed(leader, follower, { place: false, scale: false, direction: 'free' }, limits);
        expect(nothing).toBe(follower.camera);
      }),
    );
  });
});

const screens = fc.record({ x: fc.integer({ min: 0, max: 800 }), y: fc.integer({ min: 0, max: 600 }) });
const heights = { low: extents.min.z, high: extents.max.z };

describe('the echo of a cursor', () => {
  it('of a known point stands where that point is seen', () => {
    fc.assert(
      fc.property(solids(-80), plans, places, screens, (solid, plan, point, at) => {
        const pointed = pointedAt(solid, at, point, heights)!;
        const echo = echoIn(plan, pointed);
        expect(echo?.kind).toBe('point');
        const place = screenToWorld(plan.camera, viewport, (echo as { at: typeof at }).at);
        expect(Math.hypot(place.x - point.x, place.y - point.y)).toBeLessThan(1e-4);
      }),
    );
  });

  it('of a plan’s place stands upright in a model, as a line through every height there', () => {
    fc.assert(
      fc.property(plans, solids(-60), screens, (plan, solid, at) => {
        fc.pre(solid.camera.projection === 'parallel');
        const echo = echoIn(solid, pointedAt(plan, at, null, heights)!);
        const { x, y } = screenToWorld(plan.camera, viewport, at);
        const middle = worldToScreen(solid.camera, viewport, { x, y, z: 0 });
        if (echo?.kind === 'line') {
          const { from, to } = echo;
          const length = Math.hypot(to.x - from.x, to.y - from.y);
          const off = Math.abs((to.x - from.x) * (middle.y - from.y) - (to.y - from.y) * (middle.x - from.x)) / length;
          expect(off).toBeLessThan(1e-3);
        } else expect(Math.hypot(echo!.at.x - middle.x, echo!.at.y - middle.y)).toBeLessThan(4);
      }),
    );
  });

  it('of a line of sight holds each of its points, as the other pane sees them', () => {
    fc.assert(
      fc.property(
        solids(10),
        plans,
        screens,
        fc.double({ min: 0.05, max: 1, noNaN: true }),
        (solid, plan, at, share) => {
          const pointed = pointedAt(solid, at, null, heights);
          fc.pre(pointed !== null && 'from' in pointed);
          const { from, to } = pointed as { from: typeof extents.min; to: typeof extents.min };
          const point = {
            x: from.x + share * (to.x - from.x),
            y: from.y + share * (to.y - from.y),
            z: from.z + share * (to.z - from.z),
          };
          // at the eye itself nothing is seen
          const eye = eyeOf(solid.camera, viewport);
          fc.pre(Math.hypot(point.x - eye.x, point.y - eye.y, point.z - eye.z) > 10 * solid.camera.unitsPerPx);
          const seen = worldToScreen(solid.camera, viewport, point);
          expect(Math.hypot(seen.x - at.x, seen.y - at.y)).toBeLessThan(0.05);
          expect(point.z).toBeGreaterThanOrEqual(heights.low - 1e-3);
          const echo = echoIn(plan, pointed)!;
          const own = worldToScreen(plan.camera, viewport, { ...point, z: 0 });
          const ends = echo.kind === 'line' ? [echo.from, echo.to] : [echo.at, echo.at];
          const way = Math.hypot(ends[0]!.x - ends[1]!.x, ends[0]!.y - ends[1]!.y);
          const sum = ends.reduce((total, end) => total + Math.hypot(end.x - own.x, end.y - own.y), 0);
          expect(sum - way).toBeLessThan(7);
        },
      ),
    );
  });

  it('is none where the sight passes everything', () => {
    const camera = planCamera({ x: E - 9e6, y: N, z: 0 }, 1);
    expect(pointedAt({ camera, viewport, kind: 'solid', extents }, { x: 400, y: 300 }, null, heights)).toBeNull();
  });

  it('ends before the eye of a perspective view', () => {
    const level: Camera = {
      projection: 'parallel',
      unitsPerPx: 20,
      target: { x: E + 150_000, y: N + 100_000, z: 1600 },
      orientation: orientationOf({ bearingRad: 0, tiltRad: 0 }),
    };
    const view: TiedView = { camera: toPerspective(level), viewport, kind: 'solid', extents };
    const { from } = sightThrough(view.camera, viewport, { x: 400, y: 300 });
    const passing = {
      from: { ...from, y: from.y - 50_000, x: from.x + 900 },
      to: { ...from, y: from.y + 50_000, x: from.x + 900 },
    };
    const echo = echoIn(view, passing);
    expect(echo?.kind).toBe('line');
    expect(
      Object.values(echo!)
        .flatMap((end) => (typeof end === 'object' ? [end.x, end.y] : []))
        .every(Number.isFinite),
    ).toBe(true);
    expect(echoIn(view, { from: passing.from, to: { ...from, y: from.y - 10 } })).toBeNull();
  });
});

describe('sharesGrid', () => {
  it('wants the same unit and extents that meet', () => {
    const works = { unit: 'mm', extents };
    expect(sharesGrid(works, works)).toBe(true);
    expect(sharesGrid(works, { ...works, unit: 'none' })).toBe(false);
    expect(sharesGrid(works, { ...works, extents: null })).toBe(false);
    const far = { min: { x: 0, y: 0, z: 0 }, max: { x: 10, y: 10, z: 0 } };
    expect(sharesGrid(works, { unit: 'mm', extents: far })).toBe(false);
  });
});
