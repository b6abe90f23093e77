import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { cameraAxes, eyeOf } from '../camera/camera.ts';
import { dot3, sub3, type Vec3 } from '../geometry/vec.ts';
import { hitTile, indexTriangles } from '../solid/sight-hit.ts';
import { cube } from '../solid/test-shapes.ts';
import {
  cameraOfWalker,
  eyeOfWalker,
  flyBy,
  groundAt,
  leashSpeed,
  lookBy,
  standAt,
  usualRules,
  walkBy,
  waysOf,
  type WalkWorld,
  type Walker,
} from './walker.ts';

/** A world of boxes: x, y, z of the least corner, then of the largest, mm. */
function worldOf(boxes: readonly (readonly number[])[]): WalkWorld {
  const positions: number[] = [];
  const triangles: number[] = [];
  for (const [x0, y0, z0, x1, y1, z1] of boxes as [number, number, number, number, number, number][]) {
    const unit = cube(1, [0, 0, 0]);
    const low = Math.min(...unit.positions);
    for (const vertex of unit.triangles) triangles.push(positions.length / 3 + vertex);
    for (let i = 0; i < unit.positions.length; i += 3)
      positions.push(
        x0 + (unit.positions[i]! - low) * (x1 - x0),
        y0 + (unit.positions[i + 1]! - low) * (y1 - y0),
        z0 + (unit.positions[i + 2]! - low) * (z1 - z0),
      );
  }
  const tile = {
    positions: Float32Array.from(positions),
    normals: new Int8Array(0),
    triangles: Uint32Array.from(triangles),
    edgePositions: new Float32Array(0),
    edgeNormals: new Int8Array(0),
    pointPositions: new Float32Array(0),
    pointRests: new Float32Array(0),
    pointColours: new Uint8Array(0),
    runs: Uint32Array.from([0, 0, positions.length / 3, triangles.length, 0, 0]),
  };
  const index = indexTriangles(tile);
  return {
    meet(from, along, most) {
      const hit = hitTile(tile, index, { from, along }, most, () => true, 0);
      return hit && { distance: hit.distance, normal: hit.normal };
    },
  };
}

/** A floor of 8 × 6 m with a hole, walls round it, and stairs of ten steps up to a gallery. */
const steps = Array.from({ length: 10 }, (_, i) => [1000 + 280 * i, 4000, 0, 1280 + 280 * i, 5200, 180 * (i + 1)]);
const hall = worldOf([
  [0, 0, -200, 8000, 2000, 0],
  [0, 2000, -200, 3000, 6000, 0],
  [5000, 2000, -200, 8000, 6000, 0],
  [3000, 3000, -200, 5000, 6000, 0],
  ...steps,
  [3800, 4000, 1600, 7000, 5200, 1800],
  [-200, -200, -200, 0, 6200, 4000],
  [8000, -200, -200, 8200, 6200, 4000],
  [0, -200, -200, 8000, 0, 4000],
  [0, 6000, -200, 8000, 6200, 4000],
]);
const at = (x: number, y: number, z = 0): Walker => ({
  feet: { x, y, z },
  bearingRad: 0,
  upRad: 0,
  eyeHeight: 1650,
});
const go = (walker: Walker, x: number, y: number, world = hall, rules = usualRules): Walker =>
  walkBy(walker, { x, y }, rules, world);

describe('a walker', () => {
  it('climbs stairs and comes down them again', () => {
    const top = go(at(600, 4600), 4000, 0);
    expect(top.feet.z).toBeCloseTo(1800, 3);
    expect(go(top, -4000, 0).feet.z).toBeCloseTo(0, 3);
  });

  it('is stopped by walls at the width of its body and goes along them', () => {
    const stopped = go(at(4000, 1000), -9000, 0);
    expect(stopped.feet.x).toBeGreaterThanOrEqual(usualRules.bodyRadius - 1);
    expect(stopped.feet.x).toBeLessThan(usualRules.bodyRadius + 100);
    const along = go(at(600, 1000), -2000, 800);
    expect(along.feet.y).toBeGreaterThan(1600);
  });

  it('goes through walls where they are told to let it, but never over the edge of the ground', () => {
    const through = go(at(4000, 1000), 9000, 0, hall, { ...usualRules, doWallsStop: false });
    expect(through.feet.x).toBeGreaterThan(7990);
    expect(through.feet.x).toBeLessThan(8400);
  });

  it('stops at a hole, and at stairs that are too steep', () => {
    const edge = go(at(4000, 1000), 0, 2000);
    expect(edge.feet.y).toBeLessThan(2000 + 140);
    expect(edge.feet.z).toBe(0);
    const high = worldOf([
      [0, 0, -100, 4000, 4000, 0],
      [2000, 0, 0, 4000, 4000, 400],
    ]);
    expect(go(at(1000, 2000), 2000, 0, high).feet.z).toBe(0);
  });

  it('stands on a grating though its bars leave gaps', () => {
    const bars = Array.from({ length: 130 }, (_, i) => [33 * i, 0, -30, 33 * i + 4, 4000, 0]);
    const crossed = go(at(500, 2000), 2500, 700, worldOf(bars));
    expect(crossed.feet.x).toBeCloseTo(3000, 0);
    expect(crossed.feet.z).toBeCloseTo(0, 6);
  });

  it('never falls, leaves the ground or passes a wall, whatever its path', () => {
    const move = fc.record({
      x: fc.double({ min: -1500, max: 1500, noNaN: true }),
      y: fc.double({ min: -1500, max: 1500, noNaN: true }),
    });
    fc.assert(
      fc.property(fc.array(move, { minLength: 5, maxLength: 25 }), (moves) => {
        let walker = at(1500, 1000);
        for (const { x, y } of moves) {
          const before = walker.feet;
          walker = go(walker, x, y);
          const { feet } = walker;
          expect(Math.hypot(feet.x - before.x, feet.y - before.y)).toBeLessThanOrEqual(Math.hypot(x, y) + 1e-6);
          expect(groundAt(hall, feet, usualRules.stepHeight)).toBeCloseTo(feet.z, 3);
          expect(feet.z).toBeGreaterThanOrEqual(-1e-3);
          for (const [value, most] of [
            [feet.x, 8000],
            [feet.y, 6000],
          ] as const) {
            expect(value).toBeGreaterThan(0);
            expect(value).toBeLessThan(most);
          }
        }
      }),
      { numRuns: 60 },
    );
  });

  it('flies wherever it looks', () => {
    const walker = lookBy(at(0, 0), Math.PI / 2, Math.PI / 6);
    const { sight } = waysOf(walker);
    const { feet } = flyBy(walker, { x: sight.x * 1000, y: sight.y * 1000, z: sight.z * 1000 });
    expect(feet.x).toBeCloseTo(866.025, 2);
    expect(feet.y).toBeCloseTo(0, 6);
    expect(feet.z).toBeCloseTo(500, 6);
  });
});

describe('the eye of a walker', () => {
  const viewport = { widthPx: 1000, heightPx: 700 };
  const far = { x: 4.1e8, y: 7.2e9, z: 1200 };

  it('is at its height above the feet and looks level along the bearing', () => {
    const walker = standAt(far, { x: far.x - 5000, y: far.y - 5000, z: 9000 }, 1650);
    expect(walker.bearingRad).toBeCloseTo(Math.PI / 4, 9);
    const camera = cameraOfWalker(walker, viewport, Math.PI / 3);
    const eye = eyeOf(camera, viewport);
    const wanted = eyeOfWalker(walker);
    for (const axis of ['x', 'y', 'z'] as const) expect(Math.abs(eye[axis] - wanted[axis])).toBeLessThan(1e-5);
    const { back, up } = cameraAxes(camera);
    expect(back.z).toBeCloseTo(0, 12);
    expect(up.z).toBeCloseTo(1, 12);
  });

  it('looks about without ever going over the head', () => {
    fc.assert(
      fc.property(
        fc.double({ min: -20, max: 20, noNaN: true }),
        fc.double({ min: -20, max: 20, noNaN: true }),
        (r, u) => {
          const walker = lookBy(at(0, 0), r, u);
          const camera = cameraOfWalker(walker, viewport, 1);
          const { up, right } = cameraAxes(camera);
          expect(up.z).toBeGreaterThan(0);
          expect(Math.abs(right.z)).toBeLessThan(1e-9);
          const ahead: Vec3 = sub3(camera.target, eyeOf(camera, viewport));
          expect(dot3(ahead, waysOf(walker).sight) / Math.hypot(ahead.x, ahead.y, ahead.z)).toBeCloseTo(1, 9);
        },
      ),
    );
  });

  it('is led the faster the longer the leash is', () => {
    expect(leashSpeed(5)).toBe(0);
    expect(leashSpeed(106)).toBeCloseTo(1.4, 6);
    for (let px = 6; px < 400; px += 7) expect(leashSpeed(px + 7)).toBeGreaterThan(leashSpeed(px));
    expect(leashSpeed(5000)).toBe(20);
  });
});
