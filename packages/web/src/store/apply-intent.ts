import { worldToScreen, type Camera, type ScreenPoint } from '@gull-pane/core/camera/camera';
import type { Flight } from '@gull-pane/core/camera/flight';
import { frameCorners } from '@gull-pane/core/camera/frame';
import { glideFrom } from '@gull-pane/core/camera/glide';
import { orbitByHand } from '@gull-pane/core/camera/orbit-drag';
import { panBy } from '@gull-pane/core/camera/pan';
import { zoomAboutPoint } from '@gull-pane/core/camera/projection';
import { handTurn, levelLine, twistAbout } from '@gull-pane/core/camera/twist';
import { zoomAbout } from '@gull-pane/core/camera/zoom';
import type { Vec2 } from '@gull-pane/core/geometry/vec';
import { driftMotion } from '@gull-pane/core/motion/drift-motion';
import type { StepKind, Trail } from '@gull-pane/core/trail/trail';
import type { PaneActions, PaneState, PaneSurroundings } from './pane-state';
import type { Turning } from './turning';

/** How a pane's view comes to be another one. */
export interface Moves {
  readonly get: () => PaneState & PaneActions;
  readonly set: (change: Partial<PaneState>) => void;
  readonly turning: Turning;
  /** Shown at once, on the trail when the drag is over. */
  readonly drag: (camera: Camera) => void;
  /** Shown at once and on the trail. */
  readonly moveTo: (camera: Camera, kind: StepKind, timeMs: number) => void;
  /** Travelled to from what is seen, as one step of the trail. */
  readonly jumpTo: (camera: Camera) => void;
  /** Travels along a path to the present view of a trail. */
  readonly fly: (path: Flight, trail: Trail, isEased: boolean) => void;
  /** The trail with one more step on it. */
  readonly recorded: (camera: Camera, kind: StepKind) => Trail;
}

const middleOf = (a: Vec2, b: Vec2): Vec2 => ({ x: (a.x + b.x) / 2, y: (a.y + b.y) / 2 });

/** Makes what does to a pane's view what a hand wanted. */
export function createHands(
  { get, set, turning, drag, moveTo, jumpTo, fly, recorded }: Moves,
  around: PaneSurroundings,
): PaneActions['apply'] {
  const { limits, solid } = around;
  const { atSurface, pivotOf } = turning;
  const isHeld = (): boolean => turning.isHeld(get());
  /** In a drag of a perspective view the depth of what was grabbed has been found. */
  let isFocused = false;

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

  return (intent, timeMs) => {
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
          camera.projection === 'perspective' && !isFocused && cursor ? atSurface(camera, viewport, cursor) : camera;
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
  };
}
