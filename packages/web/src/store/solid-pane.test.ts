import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { shownAtFirst } from '@gull-pane/core/view/shown';
import { eyeOf, worldToScreen, type Camera, type ScreenPoint, type Viewport } from '@gull-pane/core/camera/camera';
import { directionInWords, standardDirections } from '@gull-pane/core/camera/directions';
import { fitSupport } from '@gull-pane/core/camera/fit-support';
import { directionOf, orientationOf } from '@gull-pane/core/camera/orbit';
import { PX_PER_HALF_TURN } from '@gull-pane/core/camera/orbit-drag';
import { sightThrough, toPerspective } from '@gull-pane/core/camera/projection';
import type { Vec3 } from '@gull-pane/core/geometry/vec';
import { createPaneStore } from './pane-store';

describe('a pane with a solid', () => {
  /** A flat top at height 1000 that every line of sight meets. */
  const plateAt = (camera: Camera, viewport: Viewport, at: ScreenPoint): Vec3 => {
    const { from, along } = sightThrough(camera, viewport, at);
    const way = (1000 - from.z) / along.z;
    return { x: from.x + along.x * way, y: from.y + along.y * way, z: 1000 };
  };
  function makeSolid(still = false) {
    const clock = { nowMs: 0 };
    const pane = createPaneStore('1', {
      shown: shownAtFirst(),
      limits: { minUnitsPerPx: 1e-6, maxUnitsPerPx: 1e9 },
      support: () => [0, 0, 0, 10_000, 8000, 3000],
      now: () => clock.nowMs,
      prefersStill: () => still,
      glides: () => true,
      solid: { surfaceAt: plateAt, middleOfPicked: () => null },
    });
    pane.getState().resize({ widthPx: 800, heightPx: 600 });
    const orbit = (x: number, y: number): void =>
      pane
        .getState()
        .apply({ kind: 'orbit', from: { x: 300, y: 200 }, last: { x: 0, y: 0 }, to: { x, y } }, clock.nowMs);
    return { pane, clock, orbit };
  }

  it('opens from south-east above, and turns about what was grabbed until the drag ends', () => {
    const { pane, orbit } = makeSolid();
    const { camera, viewport } = pane.getState();
    expect(directionInWords(camera)).toBe('From south-east, above');
    const grabbed = plateAt(camera, viewport, { x: 300, y: 200 });
    orbit(30, 10);
    expect(pane.getState().pivot).toEqual(grabbed);
    const seen = worldToScreen(pane.getState().camera, viewport, grabbed);
    expect(Math.hypot(seen.x - 300, seen.y - 200)).toBeLessThan(1e-6);
    pane.getState().apply({ kind: 'dragEnd' }, 0);
    expect(pane.getState()).toMatchObject({ pivot: null, isFlying: false });
    expect(pane.getState().trail.entries).toHaveLength(2);
  });

  it('turns about the middle of two fingers that move together', () => {
    const { pane } = makeSolid();
    const { camera, viewport } = pane.getState();
    const about = { x: 420, y: 260 };
    const held = plateAt(camera, viewport, about);
    pane.getState().apply({ kind: 'pan', dx: 40, dy: 12, within: 'drag', about }, 0);
    const turned = pane.getState().camera;
    expect(directionOf(turned).bearingRad).not.toBeCloseTo(directionOf(camera).bearingRad, 2);
    const seen = worldToScreen(turned, viewport, held);
    expect(Math.hypot(seen.x - about.x, seen.y - about.y)).toBeLessThan(1e-6);
  });

  it('drifts on with the speed of the hand once that is wanted, and stands when told; a long pause is no leap', () => {
    const { pane, clock, orbit } = makeSolid();
    pane.getState().setDrifts(true);
    orbit(30, 0);
    const before = pane.getState().camera;
    pane.getState().apply({ kind: 'dragEnd', velocity: { x: 0.5, y: 0 } }, 0);
    expect(pane.getState().isFlying).toBe(true);
    const bearing = (): number => directionOf(pane.getState().camera).bearingRad;
    const turned = (): number => Math.abs(Math.atan2(Math.sin(bearing() - first), Math.cos(bearing() - first)));
    const first = directionOf(before).bearingRad;
    clock.nowMs = 50;
    pane.getState().advance();
    expect(turned()).toBeCloseTo((25 * Math.PI) / PX_PER_HALF_TURN, 9);
    clock.nowMs = 60_000; // the tab was hidden
    pane.getState().advance();
    expect(turned()).toBeCloseTo((75 * Math.PI) / PX_PER_HALF_TURN, 9);
    pane.getState().endDrift();
    expect(pane.getState()).toMatchObject({ isFlying: false, pivot: null });
    clock.nowMs = 60_050;
    pane.getState().advance();
    expect(turned()).toBeCloseTo((75 * Math.PI) / PX_PER_HALF_TURN, 9);
    expect(pane.getState().trail.entries).toHaveLength(2);
  });

  it('fits everything on the way to a direction, where that is wanted', () => {
    const { pane } = makeSolid(true);
    const { viewport, limits } = pane.getState();
    pane.getState().apply({ kind: 'zoom', at: { x: 10, y: 10 }, factor: 40, within: 'burst' }, 0);
    pane.getState().turnTo(orientationOf({ bearingRad: Math.PI / 2, tiltRad: 0 }), true);
    const { camera } = pane.getState();
    expect(directionInWords(camera)).toBe('From west');
    expect(camera).toEqual(fitSupport(camera, viewport, [0, 0, 0, 10_000, 8000, 3000], limits));
  });

  it('goes back from a drift to the view before the turn, and stays there', () => {
    const { pane, clock, orbit } = makeSolid();
    const start = pane.getState().camera;
    pane.getState().setDrifts(true);
    orbit(30, 0);
    pane.getState().apply({ kind: 'dragEnd', velocity: { x: 0.5, y: 0 } }, 0);
    clock.nowMs = 50;
    pane.getState().advance();
    pane.getState().back();
    for (let k = 0; k < 100; k++) {
      clock.nowMs += 50;
      pane.getState().advance();
    }
    expect(pane.getState().camera).toEqual(start);
    expect(pane.getState()).toMatchObject({ isFlying: false, pivot: null });
    pane.getState().forward();
    expect(pane.getState().trail.entries).toHaveLength(2);
  });

  it('ends a drift by any other movement', () => {
    const { pane, clock, orbit } = makeSolid();
    pane.getState().setDrifts(true);
    orbit(30, 0);
    pane.getState().apply({ kind: 'dragEnd', velocity: { x: 0.5, y: 0 } }, 0);
    pane.getState().apply({ kind: 'zoom', at: { x: 300, y: 200 }, factor: 2, within: 'burst' }, 10);
    const zoomed = pane.getState().camera;
    clock.nowMs = 80;
    pane.getState().advance();
    expect(pane.getState().camera).toEqual(zoomed);
    expect(pane.getState().isFlying).toBe(false);
  });

  it('changes its field of view at once; sixty changes in quick succession are one step', () => {
    const { pane, clock } = makeSolid();
    pane.getState().switchProjection();
    clock.nowMs = 5000;
    pane.getState().advance();
    const { camera, trail } = pane.getState();
    for (let degrees = 46; degrees <= 105; degrees++) {
      clock.nowMs += 20;
      pane.getState().setFieldOfView((degrees * Math.PI) / 180);
      expect(pane.getState().camera.fovRad).toBeCloseTo((degrees * Math.PI) / 180, 12);
    }
    expect(pane.getState().trail.entries).toHaveLength(trail.entries.length + 1);
    pane.getState().back();
    clock.nowMs += 5000;
    pane.getState().advance();
    expect(pane.getState().camera).toEqual(camera);
  });

  it('is where it was after perspective and back, however often', () => {
    const { pane } = makeSolid(true);
    const { camera } = pane.getState();
    for (let k = 0; k < 16; k++) pane.getState().switchProjection();
    expect(pane.getState().camera).toEqual(camera);
  });

  it('does not drift where motion is not wanted', () => {
    const { pane, orbit } = makeSolid(true);
    pane.getState().setDrifts(true);
    orbit(30, 0);
    pane.getState().apply({ kind: 'dragEnd', velocity: { x: 0.5, y: 0 } }, 0);
    expect(pane.getState().isFlying).toBe(false);
  });

  it('pans a locked plan instead, and says that it wanted to turn', () => {
    const { pane, orbit } = makeSolid(true);
    pane.getState().turnTo(orientationOf({ bearingRad: 0, tiltRad: Math.PI / 2 }));
    const plan = pane.getState().camera;
    orbit(40, 0);
    expect(pane.getState().wantsUnlock).toBe(true);
    expect(pane.getState().camera.orientation).toEqual(plan.orientation);
    expect(plan.target.x - pane.getState().camera.target.x).toBeCloseTo(40 * plan.unitsPerPx, 6);
    pane.getState().setLocked(false);
    orbit(0, -40);
    expect(pane.getState().wantsUnlock).toBe(false);
    expect(directionOf(pane.getState().camera).tiltRad).toBeLessThan(Math.PI / 2 - 0.1);
  });

  it('zooms about the surface under the cursor and never passes it', () => {
    const { pane } = makeSolid();
    pane.setState({ camera: toPerspective(pane.getState().camera) });
    for (let i = 0; i < 60; i++)
      pane.getState().apply({ kind: 'zoom', at: { x: 500, y: 350 }, factor: 1.3, within: 'burst' }, i);
    const { camera, viewport } = pane.getState();
    expect(eyeOf(camera, viewport).z).toBeGreaterThan(1000);
  });

  it('keeps the middle of what is looked at in every direction: whatever the order, the way leads back', () => {
    const corners = [0, 10_000].flatMap((x) => [0, 8000].flatMap((y) => [0, 3000].map((z) => ({ x, y, z }))));
    const order = fc.array(fc.constantFrom(...standardDirections), { minLength: 1, maxLength: 12 });
    fc.assert(
      fc.property(fc.constantFrom(...standardDirections), order, (first, others) => {
        const { pane } = makeSolid(true);
        pane.getState().turnTo(orientationOf(first));
        const start = pane.getState();
        for (const direction of [...others, first]) {
          pane.getState().turnTo(orientationOf(direction));
          const { camera, viewport } = pane.getState();
          // all was in sight to begin with, so its middle stays where it was
          const middle = { x: 5000, y: 4000, z: 1500 };
          const [before, now] = [start.camera, camera].map((one) => worldToScreen(one, viewport, middle));
          expect(Math.hypot(now!.x - before!.x, now!.y - before!.y)).toBeLessThan(0.5);
        }
        const back = pane.getState();
        for (const corner of corners) {
          const was = worldToScreen(start.camera, start.viewport, corner);
          const is = worldToScreen(back.camera, back.viewport, corner);
          expect(Math.hypot(is.x - was.x, is.y - was.y)).toBeLessThan(0.5);
        }
      }),
      { numRuns: 1000 },
    );
  });

  it('locks a plan that was gone to, not one that a level orbit came upon', () => {
    const { pane, orbit } = makeSolid(true);
    orbit(0, 5000); // past the top
    pane.getState().apply({ kind: 'dragEnd' }, 0);
    expect(directionInWords(pane.getState().camera)).toMatch(/^Plan, .* up$/);
    expect(pane.getState().isHeld()).toBe(false);
    orbit(40, -60);
    expect(directionInWords(pane.getState().camera)).toContain('tilted');
    pane.getState().apply({ kind: 'dragEnd' }, 0);
    pane.getState().turnTo(orientationOf({ bearingRad: 0, tiltRad: Math.PI / 2 }));
    expect(pane.getState().isHeld()).toBe(true);
    orbit(40, -60);
    expect(directionInWords(pane.getState().camera)).toMatch(/^Plan, .* up$/);
    expect(pane.getState().wantsUnlock).toBe(true);
  });
});
