import { createStore } from 'zustand/vanilla';
import { planCamera, sameCamera, type Camera, type Viewport } from '@gull-pane/core/camera/camera';
import { HOME_DIRECTION } from '@gull-pane/core/camera/directions';
import { fitSupport, type FitViewport } from '@gull-pane/core/camera/fit-support';
import { flightBetween, type Flight } from '@gull-pane/core/camera/flight';
import { clampScale } from '@gull-pane/core/camera/limits';
import { orientationOf, sameDirection } from '@gull-pane/core/camera/orbit';
import { inOtherSize } from '@gull-pane/core/camera/other-size';
import { flightMotion } from '@gull-pane/core/motion/flight-motion';
import type { Motion } from '@gull-pane/core/motion/motion';
import {
  branchOf,
  currentCamera,
  currentView,
  goBack,
  goForward,
  goToEntry,
  record,
  startTrail,
  type StepKind,
  type Trail,
} from '@gull-pane/core/trail/trail';
import { Mover } from '../motion/mover';
import { createHands } from './apply-intent';
import type { PaneActions, PaneState, PaneStore, PaneSurroundings } from './pane-state';
import { Turning } from './turning';

/** State of one pane and the only code that changes it: every gesture, key and button ends in one of its actions. */
export function createPaneStore(id: string, around: PaneSurroundings): PaneStore {
  const { limits, now } = around;
  let hasSize = false;
  /** What a tie made it show before it had a size. */
  let begun: Camera | null = null;
  const { solid } = around;

  return createStore<PaneState & PaneActions>((set, get) => {
    const mover = new Mover({
      now,
      camera: () => get().camera,
      show: ({ camera, pivot = null }) => {
        if (camera !== get().camera || pivot !== get().pivot) set({ camera, pivot });
      },
      rest: (leaves) =>
        set({ isFlying: false, pivot: null, ...(leaves ? { trail: recorded(get().camera, leaves) } : {}) }),
    });
    /** The travel that is on, if one is: where it leads to is on the trail. */
    let travelling: Motion | null = null;
    const isTravelling = (): boolean => travelling !== null && mover.motion === travelling;

    const showAll = (camera: Camera, viewport: FitViewport): Camera =>
      fitSupport(camera, viewport, around.support(), limits);
    /** A fit leaves out what is covered. */
    const toFitInto = (viewport: Viewport): FitViewport => {
      const covered = solid?.covered?.(get(), viewport);
      return covered ? { ...viewport, covered } : viewport;
    };

    const turning = new Turning(around);

    /** Where the pane is, or is on its way to. */
    const destination = (): Camera => (isTravelling() ? currentCamera(get().trail) : get().camera);

    /** What a hand does: shown at once, on the trail when the drag is over. */
    const drag = (camera: Camera): void => {
      mover.end();
      set({ camera });
    };

    /** A view reached at once, by hand. */
    const moveTo = (camera: Camera, kind: StepKind, timeMs: number): void => {
      get().endDrift();
      const { trail, shown, camera: seen } = get();
      if (sameCamera(camera, seen) && !mover.motion) return;
      mover.end();
      set({ camera, trail: record(trail, { camera, shown }, kind, timeMs) });
    };

    /** To the present view of a trail, which it is on from the start, so that Back works while travelling. */
    const fly = (path: Flight, trail: Trail, isEased: boolean): void => {
      const { camera: end, shown } = currentView(trail);
      if (!sameDirection(end.orientation, get().camera.orientation)) turning.wentTo(end);
      if (around.prefersStill() || path.durationMs === 0) {
        mover.end();
        set({ camera: end, shown, trail });
        return;
      }
      travelling = flightMotion(path, isEased);
      mover.start(travelling);
      set({ shown, trail, isFlying: true });
    };
    const flyAlong = (trail: Trail): void =>
      fly(flightBetween(get().camera, currentCamera(trail), get().viewport), trail, true);
    /** A trail with one more step on it, to a camera. */
    const recorded = (camera: Camera, kind: StepKind): Trail =>
      record(get().trail, { camera, shown: get().shown }, kind, now());

    /** From what is seen, as a hand means it. */
    const jumpTo = (camera: Camera): void => {
      if (sameCamera(camera, get().camera) && !mover.motion) return;
      flyAlong(recorded(camera, 'jump'));
    };

    const plan = planCamera({ x: 0, y: 0, z: 0 }, clampScale(1, limits));
    const start = around.initial ?? (solid ? { ...plan, orientation: orientationOf(HOME_DIRECTION) } : plan);
    return {
      id,
      limits,
      viewport: { widthPx: 0, heightPx: 0 },
      camera: start,
      shown: around.shown,
      trail: startTrail({ camera: start, shown: around.shown }, now()),
      cursor: null,
      isFlying: false,
      scrubAt: null,
      pivot: null,
      orbitMode: 'level',
      isLocked: true,
      wantsUnlock: false,
      drifts: false,
      turnsAlone: false,
      hasOverview: false,
      dial: null,

      resize(viewport) {
        if (viewport.widthPx === get().viewport.widthPx && viewport.heightPx === get().viewport.heightPx) return;
        if (!hasSize && viewport.widthPx > 0 && viewport.heightPx > 0) {
          hasSize = true;
          turning.wentTo(get().camera);
          const { initial, initialSize = viewport } = around;
          const camera =
            begun ??
            (initial ? inOtherSize(initial, initialSize, viewport) : showAll(get().camera, toFitInto(viewport)));
          const view = { camera, shown: get().shown };
          const trail = around.trail ? record(around.trail, view, 'open', now()) : startTrail(view, now());
          set({ viewport, camera, trail });
        } else set({ viewport });
      },

      apply: createHands({ get, set, turning, drag, moveTo, jumpTo, fly, recorded }, around),

      travel(step, kind = 'jump') {
        get().endDrift();
        if (get().wantsUnlock) set({ wantsUnlock: false });
        const { viewport, camera: seen } = get();
        const from = destination();
        const camera = step(from, toFitInto(viewport), limits);
        if (!sameCamera(camera, from) || !sameCamera(camera, seen)) flyAlong(recorded(camera, kind));
      },
      update(step, kind) {
        const shown = step(get().shown);
        if (shown !== get().shown) set({ shown });
        if (kind) get().keepShown(kind);
      },
      keepShown(kind) {
        const trail = recorded(destination(), kind);
        if (trail !== get().trail) set({ trail });
      },
      goToView(view) {
        get().endDrift();
        const trail = record(get().trail, view, 'jump', now());
        if (trail !== get().trail || !sameCamera(view.camera, get().camera)) flyAlong(trail);
      },
      turnTo(orientation, isFitting = false) {
        get().travel((from, viewport) => {
          const camera = turning.turnedTo(from, viewport, orientation);
          if (!isFitting) return camera;
          turning.forgetMiddle();
          return showAll(camera, viewport);
        });
      },
      switchProjection() {
        get().travel((from, viewport) => turning.inOtherProjection(from, viewport));
      },
      setFieldOfView(fovRad) {
        const { camera, viewport } = get();
        moveTo(turning.inOtherProjection(camera, viewport, fovRad), 'keys', now());
      },
      fitAll() {
        get().travel(showAll);
      },
      back() {
        get().endDrift();
        const trail = goBack(get().trail);
        if (trail !== get().trail) flyAlong(trail);
      },
      forward() {
        get().endDrift();
        const trail = goForward(get().trail);
        if (trail !== get().trail) flyAlong(trail);
      },
      goTo(entry) {
        get().endDrift();
        const trail = goToEntry(get().trail, entry);
        set({ scrubAt: null });
        flyAlong(trail);
      },
      scrub(position) {
        get().endDrift();
        const { trail, viewport } = get();
        const branch = branchOf(trail);
        const at = Math.min(Math.max(position, 0), branch.length - 1);
        const cameraOf = (index: number): Camera => trail.entries[branch[index]!]!.camera;
        const before = Math.min(Math.floor(at), Math.max(branch.length - 2, 0));
        mover.end();
        const after = Math.min(before + 1, branch.length - 1);
        const path = flightBetween(cameraOf(before), cameraOf(after), viewport);
        const { shown } = trail.entries[branch[Math.round(at)]!]!;
        set({ camera: path.at(at - before), shown, scrubAt: at });
      },
      endScrub() {
        const { scrubAt, trail } = get();
        if (scrubAt !== null) get().goTo(branchOf(trail)[Math.round(scrubAt)]!);
      },
      atSurface: turning.atSurface,
      pivotOf: turning.pivotOf,
      setOrbitMode(orbitMode) {
        set({ orbitMode });
      },
      setLocked(isLocked) {
        set({ isLocked, wantsUnlock: false });
      },
      setDrifts(drifts) {
        get().endDrift();
        set({ drifts });
      },
      dragTo: drag,
      follow(camera, kind) {
        if (!hasSize) begun = camera;
        if (!sameCamera(camera, get().camera) || mover.motion) drag(camera);
        if (kind) set({ trail: recorded(camera, kind) });
      },
      isHeld: () => turning.isHeld(get()),
      setTurnsAlone(turnsAlone) {
        set({ turnsAlone });
      },
      setDial(dial) {
        set({ dial });
      },
      setOverview(hasOverview) {
        set({ hasOverview });
      },
      lookAlong(camera, pivot) {
        drag(camera);
        set({ pivot });
      },
      fitted: (camera, viewport) => showAll(camera, viewport),
      move(motion) {
        mover.start(motion);
        set({ isFlying: true });
      },
      isMovedBy: (motion) => mover.motion === motion,
      endMotion: (motion) => mover.end(motion),
      endDrift() {
        if (!isTravelling()) mover.end();
      },
      setCursor(cursor) {
        set({ cursor });
      },
      advance: () => mover.advance(),
    };
  });
}
