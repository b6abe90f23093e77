import { createStore } from 'zustand/vanilla';
import {
  planCamera,
  sameCamera,
  worldToScreen,
  type Camera,
  type ScreenPoint,
  type Viewport,
} from '@gull-pane/core/camera/camera';
import { fitSupport, type FitViewport } from '@gull-pane/core/camera/fit-support';
import { flightBetween, type Flight } from '@gull-pane/core/camera/flight';
import { frameCorners } from '@gull-pane/core/camera/frame';
import { glideFrom } from '@gull-pane/core/camera/glide';
import { clampScale } from '@gull-pane/core/camera/limits';
import { panBy } from '@gull-pane/core/camera/pan';
import { handTurn, levelLine, twistAbout } from '@gull-pane/core/camera/twist';
import { zoomAbout } from '@gull-pane/core/camera/zoom';
import { HOME_DIRECTION, isAlongAxis } from '@gull-pane/core/camera/directions';
import { middleIfInSight } from '@gull-pane/core/camera/middle-in-sight';
import { directionOf, orientationOf, sameDirection, turnAbout } from '@gull-pane/core/camera/orbit';
import type { Quaternion } from '@gull-pane/core/geometry/quaternion';
import { orbitByHand } from '@gull-pane/core/camera/orbit-drag';
import { middleOfSeen } from '@gull-pane/core/camera/middle-of-seen';
import { focusedAt, zoomAboutPoint } from '@gull-pane/core/camera/projection';
import { ProjectionSwitch } from '@gull-pane/core/camera/projection-switch';
import type { Vec2, Vec3 } from '@gull-pane/core/geometry/vec';
import { inOtherSize } from '@gull-pane/core/camera/other-size';
import { driftMotion } from '@gull-pane/core/motion/drift-motion';
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
import type { PaneActions, PaneState, PaneStore, PaneSurroundings } from './pane-state';

const middleOf = (a: Vec2, b: Vec2): Vec2 => ({ x: (a.x + b.x) / 2, y: (a.y + b.y) / 2 });

/** State of one pane and the only code that changes it: every gesture, key and button ends in one of its actions. */
export function createPaneStore(id: string, around: PaneSurroundings): PaneStore {
  const { limits, now } = around;
  let hasSize = false;
  /** What a tie made it show before it had a size. */
  let begun: Camera | null = null;
  const { solid } = around;
  /** In a drag of a perspective view the depth of what was grabbed has been found. */
  let isFocused = false;

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

    const atSurface = (camera: Camera, viewport: Viewport, at: ScreenPoint): Camera => {
      const point = solid?.surfaceAt(camera, viewport, at);
      return point ? focusedAt(camera, viewport, point) : camera;
    };
    const pivotOf = (camera: Camera, viewport: Viewport): Vec3 =>
      solid?.middleOfPicked() ?? middleOfSeen(camera, viewport, solid?.surfaceAt ?? null);

    /** The last direction that was gone to rather than turned to by hand: only that is locked. */
    let gone: Quaternion | null = null;
    const isHeld = (): boolean => {
      const { camera, isLocked } = get();
      if (!solid) return true;
      return isLocked && gone !== null && sameDirection(camera.orientation, gone) && isAlongAxis(directionOf(camera));
    };
    const projections = new ProjectionSwitch();
    /** Where a direction led, and what it turned about. */
    let turned: { readonly camera: Camera; readonly about: Vec3 } | null = null;
    /** The middle of what is looked at: of the picked, of everything if all of it is in sight, else of the surfaces seen. */
    const middleLookedAt = (camera: Camera, viewport: Viewport): Vec3 => {
      const picked = solid?.middleOfPicked();
      if (picked) return picked;
      if (turned && sameCamera(turned.camera, camera)) return turned.about;
      return middleIfInSight(camera, viewport, around.support()) ?? pivotOf(camera, viewport);
    };

    /** Turns the model, or pans what may not turn. */
    const turn = (grabbed: ScreenPoint, way: Vec2): void => {
      const { camera, viewport, orbitMode } = get();
      if (isHeld()) {
        drag(panBy(camera, way.x, way.y));
        if (solid) set({ wantsUnlock: true });
        return;
      }
      const pivot = get().pivot ?? solid!.surfaceAt(camera, viewport, grabbed) ?? pivotOf(camera, viewport);
      drag(orbitByHand(camera, pivot, orbitMode, way));
      set({ pivot, wantsUnlock: false });
    };

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
      if (!sameDirection(end.orientation, get().camera.orientation)) gone = end.orientation;
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

    const endDrag = (velocity: Vec2 | undefined): void => {
      isFocused = false;
      const { camera, pivot, drifts } = get();
      if (pivot) {
        if (velocity && drifts && !around.prefersStill()) {
          get().move(driftMotion(velocity, pivot, get().orbitMode));
          set({ pivot });
        } else set({ pivot: null, trail: recorded(camera, 'drag') });
        return;
      }
      const isGliding = velocity !== undefined && around.glides() && !around.prefersStill();
      const glide = isGliding ? glideFrom(camera, velocity) : null;
      const next = recorded(glide ? glide.at(1) : camera, 'drag');
      if (glide) fly(glide, next, false);
      else set({ trail: next });
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
          gone = get().camera.orientation;
          const { initial, initialSize = viewport } = around;
          const camera =
            begun ??
            (initial ? inOtherSize(initial, initialSize, viewport) : showAll(get().camera, toFitInto(viewport)));
          const view = { camera, shown: get().shown };
          const trail = around.trail ? record(around.trail, view, 'open', now()) : startTrail(view, now());
          set({ viewport, camera, trail });
        } else set({ viewport });
      },

      apply(intent, timeMs) {
        const { camera, viewport } = get();
        switch (intent.kind) {
          case 'zoom': {
            const seen = solid?.surfaceAt(camera, viewport, intent.at);
            const zoomed = seen
              ? zoomAboutPoint(camera, seen, intent.factor, limits)
              : zoomAbout(camera, viewport, intent.at, intent.factor, limits);
            if (intent.within === 'burst') moveTo(zoomed, 'wheel', timeMs);
            else drag(zoomed);
            return;
          }
          case 'pan': {
            if (solid && intent.about && !isHeld()) {
              turn(intent.about, { x: intent.dx, y: intent.dy });
              return;
            }
            const { cursor } = get();
            const from =
              camera.projection === 'perspective' && !isFocused && cursor
                ? atSurface(camera, viewport, cursor)
                : camera;
            isFocused = intent.within === 'drag';
            const moved = panBy(from, intent.dx, intent.dy);
            if (intent.within === 'burst') moveTo(moved, 'wheel', timeMs);
            else drag(moved);
            return;
          }
          case 'orbit':
            turn(intent.from, { x: intent.to.x - intent.last.x, y: intent.to.y - intent.last.y });
            return;
          case 'twist': {
            const { widthPx, heightPx } = viewport;
            const middle = { x: widthPx / 2, y: heightPx / 2 };
            drag(twistAbout(camera, viewport, middle, handTurn(viewport, intent.from, intent.to)));
            return;
          }
          case 'twistBy':
            drag(twistAbout(camera, viewport, intent.at, intent.angleRad));
            return;
          case 'dragEnd':
            endDrag(intent.velocity);
            return;
          case 'frame':
            jumpTo(
              frameCorners(
                atSurface(camera, viewport, middleOf(worldToScreen(camera, viewport, intent.corner), intent.at)),
                viewport,
                worldToScreen(camera, viewport, intent.corner),
                intent.at,
                limits,
              ),
            );
            return;
          case 'dive':
            jumpTo(zoomAbout(atSurface(camera, viewport, intent.at), viewport, intent.at, intent.ratio, limits));
            return;
          case 'level':
            jumpTo(levelLine(camera, intent.from, intent.to));
            return;
          case 'pick':
          case 'pickBox':
          case 'clearPicks':
          case 'act': // done by those who know the actions
          case 'cutBy': // the clips do this
          case 'stand': // the stance does these
          case 'tow':
          case 'towEnd':
          case 'pace':
          case 'borrow':
          case 'leaveTool':
            return;
        }
      },

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
          const about = middleLookedAt(from, viewport);
          const camera = turnAbout(from, about, orientation);
          turned = isFitting ? null : { camera, about };
          gone = camera.orientation;
          return isFitting ? showAll(camera, viewport) : camera;
        });
      },
      switchProjection() {
        get().travel((from, viewport) => projections.next(from, viewport, () => pivotOf(from, viewport)));
      },
      setFieldOfView(fovRad) {
        const { camera, viewport } = get();
        moveTo(
          projections.next(camera, viewport, () => pivotOf(camera, viewport), fovRad),
          'keys',
          now(),
        );
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
      atSurface,
      pivotOf,
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
      isHeld,
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
