import { createStore, type StoreApi } from 'zustand/vanilla';
import {
  planCamera,
  sameCamera,
  screenToWorld,
  worldToScreen,
  type Camera,
  type ScreenPoint,
  type Viewport,
} from '@gull-pane/core/camera/camera';
import { fitPoints } from '@gull-pane/core/camera/fit';
import { easeInOut, flightBetween, type Flight } from '@gull-pane/core/camera/flight';
import { frameCorners } from '@gull-pane/core/camera/frame';
import { clampScale, type ScaleLimits } from '@gull-pane/core/camera/limits';
import { centreAt, panBy } from '@gull-pane/core/camera/pan';
import { zoomAbout, zoomAboutMiddle } from '@gull-pane/core/camera/zoom';
import type { Vec3 } from '@gull-pane/core/geometry/vec';
import type { Intent } from '@gull-pane/core/intent/intents';
import {
  currentCamera,
  goBack,
  goForward,
  record,
  startTrail,
  type StepKind,
  type Trail,
} from '@gull-pane/core/trail/trail';

/** The left button's tool. */
export type ToolName = 'none' | 'frame';

/** How much Closer and Farther change the scale. */
export const STEP_FACTOR = 2;
/** How far an arrow key moves the view, as a share of the pane's shorter side. */
export const KEY_PAN_SHARE = 0.2;

export interface PaneState {
  readonly id: string;
  readonly viewport: Viewport;
  /** What is shown at this moment, also in the middle of a flight. */
  readonly camera: Camera;
  readonly trail: Trail;
  readonly tool: ToolName;
  /** The frame being drawn: its first corner stands in the world, so that the view may move under it. */
  readonly frame: { readonly corner: Vec3; readonly to: ScreenPoint } | null;
  /** Where the cursor is over the pane. */
  readonly cursor: ScreenPoint | null;
  readonly isFlying: boolean;
}

export interface PaneActions {
  resize(viewport: Viewport): void;
  /** Does what a hand wanted. @param timeMs when it did, on the clock of `now`: a slow machine doesn't split a burst */
  apply(intent: Intent, timeMs: number): void;
  fitAll(): void;
  /** Closer by {@link STEP_FACTOR} per step about the middle; negative steps go farther. */
  step(steps: number): void;
  /** Moves the view over the drawing by shares of the pane's shorter side, right and down. */
  shift(right: number, down: number): void;
  back(): void;
  forward(): void;
  chooseTool(tool: ToolName): void;
  setCursor(at: ScreenPoint | null): void;
  /** Moves a running flight on; called once a frame. */
  advance(): void;
}

export type PaneStore = StoreApi<PaneState & PaneActions>;

/** What the pane needs from around it. */
export interface PaneSurroundings {
  readonly limits: ScaleLimits;
  /** x, y, z triples of what is visible. */
  readonly support: () => ArrayLike<number>;
  readonly now: () => number;
  readonly prefersStill: () => boolean;
  /** The view to begin with; everything fitted if absent. */
  readonly initial?: Camera;
}

/** State of one pane and the only code that changes it: every gesture, key and button ends in one of its actions. */
export function createPaneStore(id: string, around: PaneSurroundings): PaneStore {
  const { limits, now } = around;
  let flight: { readonly path: Flight; readonly startMs: number } | null = null;
  let hasSize = false;

  return createStore<PaneState & PaneActions>((set, get) => {
    const showAll = (camera: Camera, viewport: Viewport): Camera =>
      fitPoints(camera, viewport, around.support(), limits);

    /** A view reached at once, by hand. */
    const moveTo = (camera: Camera, kind: StepKind, timeMs: number): void => {
      const { trail, camera: seen } = get();
      if (sameCamera(camera, seen) && !flight) return;
      flight = null;
      set({ camera, trail: record(trail, camera, kind, timeMs), isFlying: false });
    };

    /** A view to travel to; it is on the trail from the start, so that Back works while travelling. */
    const flyTo = (camera: Camera, trail: Trail): void => {
      const { camera: seen, viewport } = get();
      const path = flightBetween(seen, camera, viewport);
      if (around.prefersStill() || path.durationMs === 0) {
        flight = null;
        set({ camera, trail, isFlying: false });
        return;
      }
      flight = { path, startMs: now() };
      set({ trail, isFlying: true });
    };
    const jumpTo = (camera: Camera, kind: StepKind = 'jump'): void =>
      flyTo(camera, record(get().trail, camera, kind, now()));

    const zoomBySteps = (steps: number): void => {
      const { viewport, trail, isFlying } = get();
      // while travelling, a further press goes on from where the travel leads
      const from = isFlying ? currentCamera(trail) : get().camera;
      const camera = zoomAboutMiddle(from, viewport, STEP_FACTOR ** steps, limits);
      if (!sameCamera(camera, from)) jumpTo(camera);
    };

    const start = around.initial ?? planCamera({ x: 0, y: 0, z: 0 }, clampScale(1, limits));
    return {
      id,
      viewport: { widthPx: 0, heightPx: 0 },
      camera: start,
      trail: startTrail(start, now()),
      tool: 'none',
      frame: null,
      cursor: null,
      isFlying: false,

      resize(viewport) {
        if (viewport.widthPx === get().viewport.widthPx && viewport.heightPx === get().viewport.heightPx) return;
        if (!hasSize && viewport.widthPx > 0 && viewport.heightPx > 0) {
          hasSize = true;
          const camera = around.initial ?? showAll(get().camera, viewport);
          set({ viewport, camera, trail: startTrail(camera, now()) });
        } else set({ viewport });
      },

      apply(intent, timeMs) {
        const { camera, viewport, frame } = get();
        switch (intent.kind) {
          case 'zoom': {
            moveTo(zoomAbout(camera, viewport, intent.at, intent.factor, limits), 'wheel', timeMs);
            return;
          }
          case 'pan':
            flight = null;
            set({ camera: panBy(camera, intent.dx, intent.dy), isFlying: false });
            return;
          case 'dragEnd': {
            set({ trail: record(get().trail, camera, 'drag', now()) });
            return;
          }
          case 'centre': {
            jumpTo(centreAt(camera, viewport, intent.at));
            return;
          }
          case 'fitAll': {
            get().fitAll();
            return;
          }
          case 'frameBegin': {
            set({ frame: { corner: screenToWorld(camera, viewport, intent.at), to: intent.at } });
            return;
          }
          case 'frameMove': {
            if (frame) set({ frame: { ...frame, to: intent.at } });
            return;
          }
          case 'frameEnd': {
            set({ frame: null });
            if (!frame) return;
            const corner = worldToScreen(camera, viewport, frame.corner);
            jumpTo(frameCorners(camera, viewport, corner, intent.at, limits));
            return;
          }
          case 'frameDrop': {
            set({ frame: null });
            return;
          }
          case 'leaveTool': {
            set({ tool: 'none', frame: null });
            return;
          }
        }
      },

      fitAll() {
        const { camera, viewport } = get();
        jumpTo(showAll(camera, viewport));
      },
      step: zoomBySteps,
      shift(right, down) {
        const { viewport, trail, isFlying, camera: seen } = get();
        const side = Math.min(viewport.widthPx, viewport.heightPx) * KEY_PAN_SHARE;
        const from = isFlying ? currentCamera(trail) : seen;
        jumpTo(panBy(from, -right * side, -down * side), 'keys');
      },
      back() {
        const trail = goBack(get().trail);
        if (trail !== get().trail) flyTo(currentCamera(trail), trail);
      },
      forward() {
        const trail = goForward(get().trail);
        if (trail !== get().trail) flyTo(currentCamera(trail), trail);
      },
      chooseTool(tool) {
        set({ tool, frame: null });
      },
      setCursor(cursor) {
        set({ cursor });
      },
      advance() {
        if (!flight) return;
        const share = (now() - flight.startMs) / flight.path.durationMs;
        const camera = flight.path.at(easeInOut(Math.min(Math.max(share, 0), 1)));
        if (share >= 1) flight = null;
        set({ camera, isFlying: flight !== null });
      },
    };
  });
}
