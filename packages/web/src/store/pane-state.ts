import type { StoreApi } from 'zustand/vanilla';
import type { Camera, ScreenPoint, Viewport } from '@gull-pane/core/camera/camera';
import type { FitViewport } from '@gull-pane/core/camera/fit-support';
import type { ScaleLimits } from '@gull-pane/core/camera/limits';
import type { OrbitMode } from '@gull-pane/core/camera/orbit-drag';
import type { Quaternion } from '@gull-pane/core/geometry/quaternion';
import type { Vec3 } from '@gull-pane/core/geometry/vec';
import type { Intent } from '@gull-pane/core/intent/intents';
import type { Motion } from '@gull-pane/core/motion/motion';
import type { StepKind, Trail } from '@gull-pane/core/trail/trail';
import type { Shown } from '@gull-pane/core/view/shown';
import type { View } from '@gull-pane/core/view/view';

export interface PaneState {
  readonly id: string;
  readonly viewport: Viewport;
  readonly limits: ScaleLimits;
  /** What is shown at this moment, also in the middle of a flight. */
  readonly camera: Camera;
  readonly trail: Trail;
  /** Where the cursor is over the pane. */
  readonly cursor: ScreenPoint | null;
  /** A motion is on: a travel, a drift, a walk. */
  readonly isFlying: boolean;
  /** How the drawing is shown: with the camera it is the pane's view. */
  readonly shown: Shown;
  /** What a solid turns about, while a hand turns it. */
  readonly pivot: Vec3 | null;
  readonly orbitMode: OrbitMode;
  /** Views straight along an axis are only panned. */
  readonly isLocked: boolean;
  /** A hand has tried to turn a locked view. */
  readonly wantsUnlock: boolean;
  /** A turn goes on with the speed of the hand. */
  readonly drifts: boolean;
  /** While a model turns, only what is picked shows. */
  readonly turnsAlone: boolean;
  /** Whether the chart of directions is open here; null for as it usually is. */
  readonly dial: 'open' | 'folded' | null;
  /** The whole drawing is shown small in a corner, with the frame of what the pane shows. */
  readonly hasOverview: boolean;
  /** Place on the branch being walked while it is scrubbed, from 0, in between allowed; null otherwise. */
  readonly scrubAt: number | null;
}

export interface PaneActions {
  resize(viewport: Viewport): void;
  /** Does what a hand wanted. @param timeMs when it did, on the clock of `now`: a slow machine doesn't split a burst */
  apply(intent: Intent, timeMs: number): void;
  /**
   * Travels to a view as one step of the trail. Every key, button and menu row ends here.
   * @param step from the view that is shown or, while travelling, the one that is travelled to
   */
  travel(step: (from: Camera, viewport: FitViewport, limits: ScaleLimits) => Camera, kind?: StepKind): void;
  /**
   * Shows the drawing in another way, as one step of the trail; acts of one kind that follow closely are one.
   * @param kind null while a hand is at it: `keepShown` makes it a step
   */
  readonly update: (step: (shown: Shown) => Shown, kind: StepKind | null) => void;
  /** Ends what a hand did to what is shown. */
  readonly keepShown: (kind: StepKind) => void;
  /** Travels to a view and shows it as it was, as one step of the trail. */
  readonly goToView: (view: View) => void;
  fitAll(): void;
  back(): void;
  forward(): void;
  /** To any view of the trail; the branch through it becomes the one that is walked. */
  goTo(entry: number): void;
  /** Shows a place on the branch being walked, between two views, too. @param position from 0 */
  scrub(position: number): void;
  /** Lets go of the scrub: the nearest view is gone to. */
  endScrub(): void;
  setCursor(at: ScreenPoint | null): void;
  readonly setOrbitMode: (mode: OrbitMode) => void;
  readonly setLocked: (isLocked: boolean) => void;
  readonly setDrifts: (drifts: boolean) => void;
  readonly setTurnsAlone: (turnsAlone: boolean) => void;
  readonly setOverview: (hasOverview: boolean) => void;
  readonly setDial: (dial: PaneState['dial']) => void;
  /** Moves the view in time; a motion that is on ends. */
  readonly move: (motion: Motion) => void;
  /** Whether a motion is on. */
  readonly isMovedBy: (motion: Motion) => boolean;
  /** Ends a motion if it is on; whichever is if none is named. */
  readonly endMotion: (motion?: Motion) => void;
  /** A motion that goes on without a hand stands still; a travel isn't touched. */
  readonly endDrift: () => void;
  /** Shows a view as part of a drag, and what it turns about. */
  readonly lookAlong: (camera: Camera, pivot: Vec3) => void;
  /** Shows a view as part of a drag that `dragEnd` ends. */
  readonly dragTo: (camera: Camera) => void;
  /** The same view, fitted to all that is visible. */
  readonly fitted: (camera: Camera, viewport: Viewport) => Camera;
  /** What a solid is turned about when no place was grabbed. */
  readonly pivotOf: (camera: Camera, viewport: Viewport) => Vec3;
  /**
   * Turns the model to a direction about the middle of what is looked at. Directions that follow one another turn about
   * one point, so that going through them leads back to where one was.
   * @param isFitting whether everything is fitted there, too
   */
  readonly turnTo: (orientation: Quaternion, isFitting?: boolean) => void;
  /** From one projection to the other, as one step: what lies at the pivot's depth keeps its size. */
  readonly switchProjection: () => void;
  /** Shows a field of view at once; those that follow one another quickly are one step of the trail. */
  readonly setFieldOfView: (fovRad: number) => void;
  /** Whether the view may not turn: a plan, or a direction that was gone to and is locked. */
  readonly isHeld: () => boolean;
  /** The view with its target at the surface that is seen at a place, so that steps mean what lies there. */
  readonly atSurface: (camera: Camera, viewport: Viewport, at: ScreenPoint) => Camera;
  /** Shows what a pane that it is tied to makes it show. @param kind of the step on the trail; none while it goes on */
  readonly follow: (camera: Camera, kind: StepKind | null) => void;
  /** Moves on what is on; called once a frame. @returns whether there is more to come */
  readonly advance: () => boolean;
}

export type PaneStore = StoreApi<PaneState & PaneActions>;

/** What the pane needs from around it. */
export interface PaneSurroundings {
  readonly limits: ScaleLimits;
  /** x, y, z triples of what is visible. */
  readonly support: () => ArrayLike<number>;
  readonly now: () => number;
  readonly prefersStill: () => boolean;
  /** Of solids. */
  readonly solid?: SolidSurroundings;
  /** Whether a pan goes on with the speed of the hand. */
  readonly glides: () => boolean;
  /** How the drawing is shown at first. */
  readonly shown: Shown;
  /** The camera to begin with; everything fitted if absent. */
  readonly initial?: Camera;
  /** The size of the pane that it was taken in; of one of another size all that was seen is shown. */
  readonly initialSize?: Viewport;
  /** Where the pane has been before; the view to begin with is its next one. */
  readonly trail?: Trail;
}

export interface SolidSurroundings {
  /** Where a line of sight through a place meets a surface. */
  readonly surfaceAt: (camera: Camera, viewport: Viewport, at: ScreenPoint) => Vec3 | null;
  /** The middle of what is picked, if anything is. */
  readonly middleOfPicked: () => Vec3 | null;
  /** The size of what covers the lower right corner of the pane, if anything does. */
  readonly covered?: (state: Pick<PaneState, 'dial'>, viewport: Viewport) => Viewport | null;
}
