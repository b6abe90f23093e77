import { createStore, type StoreApi } from 'zustand/vanilla';
import type { Vec2 } from '@gull-pane/core/geometry/vec';
import type { Intent } from '@gull-pane/core/intent/intents';
import type { Walker } from '@gull-pane/core/walk/walker';

export type StandingIntent = Extract<Intent, { readonly kind: 'stand' | 'tow' | 'towEnd' | 'pace' }>;
/** What a held key does to the person who stands. */
export type WalkKey = 'ahead' | 'back' | 'left' | 'right' | 'turn-left' | 'turn-right' | 'rise' | 'sink' | 'fast';

/** A drag that leads: from where it began to the hand. */
export interface Leash {
  readonly from: Vec2;
  readonly to: Vec2;
  readonly metresPerSecond: number;
}

export interface StanceState {
  /** Null while the pane has no stance. */
  readonly walker: Walker | null;
  readonly leash: Leash | null;
  /** mm. */
  readonly eyeHeight: number;
  readonly fovRad: number;
  readonly flies: boolean;
  readonly doWallsStop: boolean;
  /** What a drag does; with Shift the other. */
  readonly dragDoes: 'look' | 'walk';
  /** Why one can't stand where was clicked. */
  readonly refusal: string | null;
  readonly apply: (intent: StandingIntent) => void;
  /** To a place of the plan, at the level where one is. */
  readonly moveTo: (place: Vec2) => void;
  readonly holdKeys: (keys: ReadonlySet<WalkKey>) => void;
  readonly setEyeHeight: (mm: number) => void;
  readonly setFov: (rad: number) => void;
  readonly set: (change: Partial<Pick<StanceState, 'flies' | 'doWallsStop' | 'dragDoes'>>) => void;
}
export type StanceStore = StoreApi<StanceState>;

/** Of someone who stands, mm. */
const USUAL_EYE_HEIGHT = 1650;
const STANCE_FOV_RAD = (60 * Math.PI) / 180;

/** How a stance begins. */
export const notStanding = {
  walker: null,
  leash: null,
  refusal: null,
  flies: false,
  doWallsStop: true,
  dragDoes: 'look',
  eyeHeight: USUAL_EYE_HEIGHT,
  fovRad: STANCE_FOV_RAD,
} as const satisfies Partial<StanceState>;

/** The stance of a pane in which nobody can stand: that of a flat drawing. */
export const createNoStance = (): StanceStore => {
  const nothing = (): void => undefined;
  return createStore<StanceState>(() => ({
    ...notStanding,
    apply: nothing,
    moveTo: nothing,
    holdKeys: nothing,
    setEyeHeight: nothing,
    setFov: nothing,
    set: nothing,
  }));
};
