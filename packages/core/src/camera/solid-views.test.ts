import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { eyeOf, planCamera, worldToScreen, type Camera } from './camera.ts';
import { depthRange } from './depth-range.ts';
import {
  directionInWords,
  gazeInWords,
  isAlongAxis,
  planTilt,
  squaredUp,
  standardDirections,
  standardOf,
} from './directions.ts';
import { gridSpacing } from './ground-grid.ts';
import { middleOfSeen } from './middle-of-seen.ts';
import { directionOf, orbitOpen, orientationOf, rollOf } from './orbit.ts';
import { orbitByHand, orbitModes } from './orbit-drag.ts';
import { toPerspective } from './projection.ts';
import { sizeSeenIn, visibilityIn } from '../pyramid/select.ts';

const viewport = { widthPx: 1000, heightPx: 700 };
const from = (bearing: number, tilt: number): Camera => ({
  ...planCamera({ x: 412_536_000, y: 7_208_431_000, z: 5400 }, 80),
  orientation: orientationOf({ bearingRad: (bearing * Math.PI) / 180, tiltRad: (tilt * Math.PI) / 180 }),
});

describe('standard directions', () => {
  it('are the 26 of a cube, each told from all others', () => {
    expect(standardDirections).toHaveLength(26);
    expect(new Set(standardDirections.map(({ name }) => name)).size).toBe(26);
    for (const standard of standardDirections)
      expect(standardOf({ orientation: orientationOf(standard) })?.name).toBe(standard.name);
  });

  it('are told in words, and so is everything between', () => {
    expect(directionInWords(from(0, 90))).toBe('Plan, north up');
    expect(directionInWords(from(90, 90))).toBe('Plan, east up');
    expect(directionInWords(from(-90, 90))).toBe('Plan, west up');
    expect(directionInWords(from(30, 90))).toBe('Plan, 030° up');
    expect(directionInWords(from(30, 78))).toBe('Plan, tilted 12°');
    expect(directionInWords(from(225, 35))).toBe('From north-east, above');
    expect(directionInWords(from(0, 0))).toBe('From south');
    expect(directionInWords(from(90, -30))).toBe('From west, below');
    expect(directionInWords(from(0, -90))).toBe('From below');
    expect(directionInWords(orbitOpen(from(40, 20), from(40, 20).target, 0.3, 0.2))).toContain('rolled');
  });

  it('are named by the direction of view while standing', () => {
    expect(gazeInWords(from(0, 0))).toBe('Looking north');
    expect(gazeInWords(from(-45, 12))).toBe('Looking north-west, 12° down');
    expect(gazeInWords(from(90, -30))).toBe('Looking east, 30° up');
    expect(gazeInWords(from(180, 0.3))).toBe('Looking south');
  });

  it('along an axis are locked, others aren’t; a tilted plan squares up to a plan', () => {
    expect([from(0, 90), from(90, 0), from(0, -90)].map((view) => isAlongAxis(directionOf(view)))).not.toContain(false);
    expect([from(45, 0), from(0, 45), from(10, 80)].map((view) => isAlongAxis(directionOf(view)))).not.toContain(true);
    expect(planTilt(from(0, 90))).toBe(0);
    expect(planTilt(from(0, 40))).toBeNull();
    expect(squaredUp(from(80, 70))).toEqual({ bearingRad: Math.PI / 2, tiltRad: Math.PI / 2 });
    expect(squaredUp(from(80, 20))).toEqual({ bearingRad: Math.PI / 2, tiltRad: 0 });
  });
});

describe('turning by hand', () => {
  it.each(orbitModes)('%s keeps the pivot where it is seen over 10,000 steps, and axes square', (mode) => {
    for (const start of [from(310, 30), toPerspective(from(310, 30))]) {
      const pivot = { x: 412_540_000, y: 7_208_420_000, z: 9000 };
      const before = worldToScreen(start, viewport, pivot);
      let camera = start;
      for (let step = 0; step < 10_000; step++)
        camera = orbitByHand(camera, pivot, mode, { x: Math.sin(step) * 9, y: Math.cos(0.7 * step) * 7 });
      const after = worldToScreen(camera, viewport, pivot);
      expect(Math.hypot(after.x - before.x, after.y - before.y)).toBeLessThan(0.5);
      const { x, y, z, w } = camera.orientation;
      expect(Math.hypot(x, y, z, w)).toBeCloseTo(1, 9);
      if (mode === 'level') expect(Math.abs(rollOf(camera))).toBeLessThan(1e-6);
    }
  });

  it('with a level horizon ends exactly at straight above and keeps its bearing there', () => {
    let camera = from(310, 30);
    for (let step = 0; step < 100; step++) camera = orbitByHand(camera, camera.target, 'level', { x: 0, y: 20 });
    expect(directionOf(camera).tiltRad).toBeCloseTo(Math.PI / 2, 12);
    expect((directionOf(camera).bearingRad * 180) / Math.PI).toBeCloseTo(310, 6);
  });
});

describe('depths', () => {
  const number = fc.double({ min: -9000, max: 9000, noNaN: true });
  it('hold every box that may be seen, from a bolt to the whole site', () => {
    fc.assert(
      fc.property(
        number,
        number,
        fc.double({ min: 1, max: 5000, noNaN: true }),
        fc.boolean(),
        (dx, dz, half, isPerspective) => {
          const level = from(200, 25);
          const camera = isPerspective ? toPerspective(level) : level;
          const centre = { x: level.target.x + dx, y: level.target.y, z: level.target.z + dz };
          const { near, far } = depthRange(camera, viewport, [{ centre, halfSize: { x: half, y: half, z: half } }]);
          const { back } = { back: eyeOf(camera, viewport) };
          const distance = Math.hypot(back.x - camera.target.x, back.y - camera.target.y, back.z - camera.target.z);
          const unit = {
            x: (back.x - camera.target.x) / distance,
            y: (back.y - camera.target.y) / distance,
            z: (back.z - camera.target.z) / distance,
          };
          for (let k = 0; k < 8; k++) {
            const corner = [k & 1, k & 2, k & 4].map((bit) => (bit ? half : -half)) as [number, number, number];
            const along =
              (centre.x + corner[0] - camera.target.x) * unit.x +
              (centre.y + corner[1] - camera.target.y) * unit.y +
              (centre.z + corner[2] - camera.target.z) * unit.z;
            const depth = (isPerspective ? distance : 0) - along;
            if (isPerspective && depth < far * 2e-5) continue; // at or behind the eye
            expect(depth).toBeGreaterThanOrEqual(near);
            expect(depth).toBeLessThanOrEqual(far);
          }
          expect(near).toBeLessThan(far);
        },
      ),
    );
  });
});

describe('what is seen in perspective', () => {
  const number = fc.double({ min: -60_000, max: 60_000, noNaN: true });
  it('is never missed: a box with a point in the pane is seen, and about as large as it is', () => {
    fc.assert(
      fc.property(number, number, number, fc.double({ min: 10, max: 9000, noNaN: true }), (dx, dy, dz, half) => {
        const camera = toPerspective(from(140, 20));
        const centre = { x: camera.target.x + dx, y: camera.target.y + dy, z: camera.target.z + dz };
        const tile = { centre, halfSize: { x: half, y: half, z: half }, largest: half, weight: 1, children: [] };
        const seen = worldToScreen(camera, viewport, centre);
        const isInPane = seen.x >= 0 && seen.y >= 0 && seen.x <= viewport.widthPx && seen.y <= viewport.heightPx;
        if (isInPane) expect(visibilityIn(camera, viewport)(tile)).toBe(true);
        const end = worldToScreen(camera, viewport, { ...centre, z: centre.z + half });
        if (isInPane && Number.isFinite(end.y))
          expect(sizeSeenIn(camera, viewport)(tile)).toBeGreaterThanOrEqual(0.8 * Math.abs(end.y - seen.y));
      }),
    );
  });
});

describe('small helps', () => {
  it('a ground grid has round spacings that can be told apart', () => {
    fc.assert(
      fc.property(fc.double({ min: 1e-4, max: 1e6, noNaN: true }), (unitsPerPx) => {
        const spacing = gridSpacing(unitsPerPx);
        const lead = spacing / 10 ** Math.floor(Math.log10(spacing) + 1e-9);
        expect([1, 2, 5, 10].some((step) => Math.abs(step - lead) < 1e-6)).toBe(true);
        expect(spacing / unitsPerPx).toBeGreaterThanOrEqual(47.9);
        expect(spacing / unitsPerPx).toBeLessThan(48 * 2.6);
      }),
    );
  });

  it('the middle of what is seen is the mean of what is met, or the target', () => {
    const camera = from(0, 90);
    expect(middleOfSeen(camera, viewport, null)).toBe(camera.target);
    const plate = middleOfSeen(camera, viewport, (_, __, at) =>
      at.x < 500 ? { ...camera.target, x: camera.target.x - 4000, z: 700 } : null,
    );
    expect(plate.x).toBeCloseTo(camera.target.x - 4000, 6);
    expect(plate.z).toBeCloseTo(700, 6);
  });
});
