import { createStore } from 'zustand/vanilla';
import { eyeOf, sameCamera, type Camera } from '@gull-pane/core/camera/camera';
import { directionOf } from '@gull-pane/core/camera/orbit';
import { sightThrough } from '@gull-pane/core/camera/projection';
import { along3, type Vec2, type Vec3 } from '@gull-pane/core/geometry/vec';
import type { Motion } from '@gull-pane/core/motion/motion';
import {
  cameraOfWalker,
  flyBy,
  leashSpeed,
  lookBy,
  standAt,
  usualRules,
  walkBy,
  waysOf,
  type WalkWorld,
  type Walker,
} from '@gull-pane/core/walk/walker';
import type { PaneStore } from './pane-state';
import { notStanding, type StanceState, type StanceStore, type WalkKey } from './stance-store';
import { toolInHand, type ToolStore } from './tool-store';

/** What a stance needs from around it. */
export interface StanceSurroundings {
  readonly pane: PaneStore;
  readonly tools: ToolStore;
  /** Null while nothing is drawn. */
  readonly world: () => WalkWorld | null;
}

const WALK_MM_S = 1400;
const FAST = 3.5;
const TURN_RAD_S = 1.2;
/** A leash that is drawn so far aside turns by a quarter in a second, CSS px. */
const QUARTER_TURN_PX = 240;
const PACE_MM = 600;
/** Longer frames count as this long, ms. */
const LONGEST_FRAME_MS = 60;
/** Flatter surfaces are floors: the least upward part of their normal. */
const FLOOR_NORMAL_Z = 0.5;
/** From a wall that was clicked, one stands so far, and looks for the ground so far down, mm. */
const FROM_WALL = 400;
const DROP = 30_000;
const down: Vec3 = { x: 0, y: 0, z: -1 };

/** Who stands in the model: looks about, walks by a leash or by keys, and leaves to where the view was before. */
export function createStanceStore({ pane, tools, world }: StanceSurroundings): StanceStore {
  /** The view before, to go back to. */
  let former: Camera | null = null;
  /** The view that the walker has: another one means that he has left. */
  let own: Camera | null = null;
  let keys: ReadonlySet<WalkKey> = new Set();

  const store = createStore<StanceState>((set, get) => {
    const cameraOf = (walker: Walker): Camera => cameraOfWalker(walker, pane.getState().viewport, get().fovRad);
    /** Shows what the walker sees, as part of a drag or, alone, as a step of the trail. */
    const show = (walker: Walker, isDrag: boolean): void => {
      const camera = cameraOf(walker);
      own = camera;
      set({ walker, refusal: null });
      // who walks is shown by the walk
      if (isDrag && !pane.getState().isMovedBy(walk)) pane.getState().dragTo(camera);
      else if (!isDrag) pane.getState().travel(() => camera);
    };
    const end = (): void => pane.getState().apply({ kind: 'dragEnd' }, performance.now());

    const groundNear = (point: Vec3, normal: Vec3): Vec3 | null => {
      if (Math.abs(normal.z) >= FLOOR_NORMAL_Z) return point;
      const off = along3(point, normal, FROM_WALL);
      const hit = world()?.meet(off, down, DROP);
      return hit ? { ...off, z: off.z - hit.distance } : null;
    };
    const stand = (at: Vec2): void => {
      const { camera, viewport } = pane.getState();
      const sight = sightThrough(camera, viewport, at);
      // a parallel view looks from far outside
      const from = camera.projection === 'parallel' ? along3(sight.from, sight.along, -1e6) : sight.from;
      const hit = world()?.meet(from, sight.along, Infinity);
      const ground = hit && groundNear(along3(from, sight.along, hit.distance), hit.normal);
      if (!ground) {
        set({ refusal: hit ? 'There is no floor below what you clicked.' : 'Nothing is there to stand on.' });
        return;
      }
      const { walker, eyeHeight } = get();
      former ??= camera;
      const next = standAt(ground, eyeOf(camera, viewport), eyeHeight);
      const bearingRad = walker ? walker.bearingRad : directionOf(camera).bearingRad;
      show({ ...next, bearingRad, upRad: walker?.upRad ?? 0 }, false);
    };

    const move = (walker: Walker, ahead: number, right: number, up: number): Walker => {
      const { flies, doWallsStop } = get();
      const ways = waysOf(walker);
      if (flies || up !== 0) {
        if (!flies) set({ flies: true });
        return flyBy(walker, {
          x: ways.sight.x * ahead + ways.right.x * right,
          y: ways.sight.y * ahead + ways.right.y * right,
          z: ways.sight.z * ahead + up,
        });
      }
      const way = { x: ways.ahead.x * ahead + ways.right.x * right, y: ways.ahead.y * ahead + ways.right.y * right };
      const around = world();
      return around && (way.x !== 0 || way.y !== 0)
        ? walkBy(walker, way, { ...usualRules, doWallsStop }, around)
        : walker;
    };

    const isLed = (): boolean => get().leash !== null || keys.size > 0;
    /** Where the leash and the keys lead within some time. */
    const led = (walker: Walker, seconds: number): Walker => {
      const { leash } = get();
      const has = (key: WalkKey): number => (keys.has(key) ? 1 : 0);
      const pace = WALK_MM_S * (keys.has('fast') ? FAST : 1) * seconds;
      const turn = (has('turn-right') - has('turn-left')) * TURN_RAD_S * seconds;
      let next = turn === 0 ? walker : lookBy(walker, turn, 0);
      next = move(
        next,
        (has('ahead') - has('back')) * pace,
        (has('right') - has('left')) * pace,
        (has('rise') - has('sink')) * pace,
      );
      if (!leash) return next;
      const aside = (leash.to.x - leash.from.x) / QUARTER_TURN_PX;
      next = lookBy(next, (aside * Math.abs(aside) * seconds * Math.PI) / 2, 0);
      return move(next, leash.metresPerSecond * 1000 * seconds, 0, 0);
    };
    const walk: Motion = {
      at(camera, _, frameMs) {
        const { walker } = get();
        if (!walker || !isLed()) return null;
        const next = led(walker, Math.min(frameMs, LONGEST_FRAME_MS) / 1000);
        if (next !== walker) set({ walker: next, refusal: null });
        own = cameraOf(next);
        return { camera: sameCamera(own, camera) ? camera : own };
      },
      leaves: 'drag',
    };
    const wake = (): void => {
      if (!pane.getState().isMovedBy(walk)) pane.getState().move(walk);
    };

    return {
      ...notStanding,
      apply(intent) {
        const { walker, dragDoes } = get();
        if (intent.kind === 'stand') {
          stand(intent.at);
          return;
        }
        if (!walker) return;
        if (intent.kind === 'pace') {
          const next = move(walker, intent.steps * PACE_MM, 0, 0);
          if (next === walker) return;
          show(next, true);
          end();
        } else if (intent.kind === 'towEnd') {
          const wasLed = isLed();
          set({ leash: null });
          if (pane.getState().isMovedBy(walk)) pane.getState().endMotion(walk);
          else if (wasLed || dragDoes === 'look') end();
        } else if ((dragDoes === 'walk') !== intent.isOther) {
          const { from, to } = intent;
          const metresPerSecond = Math.sign(from.y - to.y) * leashSpeed(Math.abs(from.y - to.y));
          set({ leash: { from, to, metresPerSecond } });
          wake();
        } else {
          // what is seen follows the hand
          const perPx = get().fovRad / Math.max(pane.getState().viewport.heightPx, 1);
          show(lookBy(walker, (intent.last.x - intent.to.x) * perPx, (intent.to.y - intent.last.y) * perPx), true);
        }
      },
      moveTo({ x, y }) {
        const { walker } = get();
        const around = world();
        if (!walker || !around) return;
        const from = { x, y, z: walker.feet.z + walker.eyeHeight };
        const hit = around.meet(from, down, DROP) ?? null;
        if (!hit && !get().flies) set({ refusal: 'There is no floor at that place of the plan.' });
        else show({ ...walker, feet: { x, y, z: hit ? from.z - hit.distance : walker.feet.z } }, false);
      },
      holdKeys(held) {
        const had = keys.size > 0;
        keys = held;
        if (!get().walker) return;
        if (held.size > 0) wake();
        else if (had && !get().leash) pane.getState().endMotion(walk);
      },
      setEyeHeight(eyeHeight) {
        set({ eyeHeight });
        const { walker } = get();
        if (walker) show({ ...walker, eyeHeight }, false);
      },
      setFov(fovRad) {
        set({ fovRad });
        const { walker } = get();
        if (walker) show(walker, false);
      },
      set(change) {
        set(change);
        const { walker, flies } = get();
        const around = world();
        if (change.flies !== false || !walker || !around || flies) return;
        // who stops flying comes down to the ground
        const above = { ...walker.feet, z: walker.feet.z + walker.eyeHeight };
        const hit = around.meet(above, down, DROP);
        if (hit) show({ ...walker, feet: { ...walker.feet, z: above.z - hit.distance } }, false);
      },
    };
  });

  const leave = (goesBack: boolean): void => {
    if (!store.getState().walker) return;
    const back = former;
    former = own = null;
    store.setState({ walker: null, leash: null, refusal: null, flies: false });
    if (goesBack && back) pane.getState().travel(() => back);
  };
  tools.subscribe((now, before) => {
    if (toolInHand(before) !== 'stand' || toolInHand(now) === 'stand' || now.borrowed !== null) return;
    store.setState({ refusal: null });
    leave(now.interrupting === null);
  });
  pane.subscribe(({ camera, isFlying, viewport }, before) => {
    const { walker, fovRad } = store.getState();
    if (!walker || !own || isFlying) return;
    if (viewport.heightPx !== before.viewport.heightPx) {
      own = cameraOfWalker(walker, viewport, fovRad);
      pane.getState().dragTo(own);
    } else if (!sameCamera(camera, own)) {
      // another view was gone to: the stance ends
      leave(false);
      if (toolInHand(tools.getState()) === 'stand') tools.getState().leave();
    }
  });
  return store;
}
