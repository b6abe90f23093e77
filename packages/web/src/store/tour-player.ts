import { createStore, type StoreApi } from 'zustand/vanilla';
import type { Camera } from '@gull-pane/core/camera/camera';
import type { Motion } from '@gull-pane/core/motion/motion';
import type { TourMoment } from '@gull-pane/core/tour/timeline';
import type { CardsStore } from './cards-store';
import type { PaneStore } from './pane-state';
import { planOf, type TourPlan } from './tour-plan';
import type { ToursStore } from './tours-store';

/** What a pane plays of a tour. */
export interface TourPlayerState {
  /** The tour that is open in the pane; null if none is. */
  readonly plan: TourPlan | null;
  readonly timeMs: number;
  readonly isPlaying: boolean;
  /** The stop that one is at or near to, by its number in the plan. */
  readonly nearest: number;
  /** The presenter moves from stop to stop by hand: the tour waits at each. */
  readonly isByHand: boolean;
  readonly open: (tour: string | null) => void;
  readonly play: () => void;
  readonly pause: () => void;
  readonly toggle: () => void;
  /** Travels to the next stop and waits there; that of one that loops may be the first. */
  readonly next: () => void;
  /** To the stop before, at once; from within a stay or a way, to its beginning. */
  readonly previous: () => void;
  readonly toStop: (stop: number) => void;
  /** Shows a moment, as by dragging along the time axis. */
  readonly seek: (timeMs: number) => void;
  /** Lets go of the time axis: what is shown is on the trail. */
  readonly endSeek: () => void;
  readonly setByHand: (isByHand: boolean) => void;
  readonly watch: () => () => void;
}
export type TourPlayer = StoreApi<TourPlayerState>;

export interface PlayerSurroundings {
  readonly pane: PaneStore;
  readonly tours: ToursStore;
  readonly cards: CardsStore;
  /** Shows things as they look in a card. */
  readonly dress: (card: TourPlan['stops'][number]['card']) => void;
  readonly prefersStill: () => boolean;
  /** Looks where ways see nothing, and tells how high they have to rise. */
  readonly raise: (plan: TourPlan, take: (raised: ReadonlyMap<string, number>) => void) => void;
}

/** Plays tours in one pane. Any hand on the view pauses it. */
export function createTourPlayer(around: PlayerSurroundings): TourPlayer {
  const { pane, tours, cards } = around;
  /** Where play ends by itself: at the next stop, or null for at the end. */
  let untilMs: number | null = null;
  let dressed: string | null = null;
  let raised: ReadonlyMap<string, number> = new Map();
  let opened: string | null = null;

  return createStore<TourPlayerState>((set, get) => {
    /** Dresses the pane for a moment. @returns where it looks from then; null if there is nothing to play */
    const cameraAt = (timeMs: number): Camera | null => {
      const { plan } = get();
      if (!plan?.timeline) return null;
      const moment = momentAt(plan, timeMs, around.prefersStill());
      const { card } = plan.stops[moment.looksOf]!;
      const looks = `${card.id} ${card.version}`;
      if (dressed !== looks) {
        dressed = looks;
        around.dress(card);
      }
      set({ timeMs, nearest: moment.nearest });
      return moment.camera;
    };
    const show = (timeMs: number): void => {
      const camera = cameraAt(timeMs);
      if (camera) pane.getState().follow(camera, null);
    };
    /** What is shown is on the trail. */
    const rest = (): void => {
      if (get().plan?.timeline) pane.getState().follow(pane.getState().camera, 'jump');
    };
    let isKept = true;
    /** Plays from a moment on. */
    const playing = (fromMs: number): Motion => ({
      at(_, elapsedMs) {
        const timeline = get().plan?.timeline;
        if (!timeline) return null;
        const { durationMs, loops } = timeline;
        const atMs = fromMs + elapsedMs;
        const endMs = untilMs ?? (loops ? Infinity : durationMs);
        const isLast = atMs >= endMs;
        const shownMs = isLast ? endMs : atMs;
        const camera = cameraAt(loops && shownMs >= durationMs ? shownMs % durationMs : shownMs);
        return camera && { camera, isLast };
      },
      get leaves() {
        return isKept ? ('jump' as const) : null;
      },
      onEnd: () => {
        untilMs = null;
        set({ isPlaying: false });
      },
    });
    let motion: Motion | null = null;
    const stop = (): void => {
      if (motion) pane.getState().endMotion(motion);
    };
    /** Stops where something else is shown at once: where it stopped is no place to come back to. */
    const stopUnkept = (): void => {
      isKept = false;
      stop();
      isKept = true;
    };
    const start = (until: number | null): void => {
      stopUnkept();
      untilMs = until;
      dressed = null;
      const { timeMs } = get();
      show(timeMs);
      motion = playing(timeMs);
      set({ isPlaying: true });
      pane.getState().move(motion);
    };
    const renew = (): void => {
      const tour = tours.getState().tours?.find(({ id }) => id === opened);
      const { viewport } = pane.getState();
      if (!tour || viewport.widthPx === 0) {
        if (get().plan) set({ plan: null, isPlaying: false });
        return;
      }
      const plan = planOf(tour, cards.getState().cards ?? [], viewport, raised);
      const most = plan.timeline?.durationMs ?? 0;
      set({
        plan,
        timeMs: Math.min(get().timeMs, most),
        nearest: Math.min(get().nearest, Math.max(plan.stops.length - 1, 0)),
      });
      if (plan.timeline)
        around.raise(plan, (told) => {
          if (sameEntries(told, raised)) return;
          raised = told;
          renew();
        });
    };
    return {
      plan: null,
      timeMs: 0,
      isPlaying: false,
      nearest: 0,
      isByHand: false,
      open(tour) {
        stop();
        opened = tour;
        raised = new Map();
        set({ timeMs: 0, nearest: 0 });
        renew();
      },
      play() {
        const { plan, timeMs, isByHand, next } = get();
        const timeline = plan?.timeline;
        if (!timeline) return;
        if (isByHand) {
          next();
          return;
        }
        if (timeMs >= timeline.durationMs) set({ timeMs: 0 });
        start(null);
      },
      pause: stop,
      toggle() {
        const { isPlaying, play } = get();
        if (isPlaying) stop();
        else play();
      },
      next() {
        const { plan, timeMs } = get();
        const timeline = plan?.timeline;
        if (!timeline) return;
        const { stays, legs, durationMs, loops } = timeline;
        const leg = legs.find(({ startMs, endMs }) => timeMs >= startMs && timeMs < endMs);
        // on the way already: once more is at once
        if (leg && get().isPlaying) {
          stopUnkept();
          show(leg.to === 0 ? 0 : leg.endMs);
          rest();
          return;
        }
        if (leg) {
          start(leg.to === 0 ? durationMs : leg.endMs);
          return;
        }
        const at = Math.max(
          stays.findLastIndex(({ arriveMs }) => arriveMs <= timeMs),
          0,
        );
        const isLast = at === stays.length - 1;
        if (isLast && !loops) {
          stop();
          return;
        }
        set({ timeMs: stays[at]!.leaveMs });
        start(isLast ? durationMs : stays[at + 1]!.arriveMs);
      },
      previous() {
        const timeline = get().plan?.timeline;
        if (!timeline) return;
        const { timeMs } = get();
        const at = timeline.stays.findLastIndex(({ arriveMs }) => arriveMs < timeMs - 1);
        get().toStop(at < 0 ? (timeline.loops ? timeline.stays.length - 1 : 0) : at);
      },
      toStop(at) {
        const stay = get().plan?.timeline?.stays[at];
        if (!stay) return;
        stopUnkept();
        dressed = null;
        show(stay.arriveMs);
        rest();
      },
      seek(timeMs) {
        const { plan, isPlaying } = get();
        if (!plan?.timeline) return;
        if (isPlaying) stopUnkept();
        else dressed = null;
        show(Math.min(Math.max(timeMs, 0), plan.timeline.durationMs));
      },
      endSeek: rest,
      setByHand: (isByHand) => set({ isByHand }),
      watch() {
        const stops = [
          tours.subscribe(renew),
          cards.subscribe(({ cards: known }, before) => {
            if (known !== before.cards) renew();
          }),
          pane.subscribe(({ viewport }, before) => {
            if (viewport !== before.viewport && opened !== null) renew();
          }),
        ];
        return () => {
          for (const end of stops) end();
        };
      },
    };
  });
}

/** A moment of a tour; with reduced motion, the stop before until the next is reached. */
function momentAt({ timeline }: TourPlan, timeMs: number, isStill: boolean): TourMoment {
  const moment = timeline!.at(timeMs);
  if (!isStill) return moment;
  if (moment.towards === null) {
    const { arriveMs } = timeline!.stays[moment.nearest]!;
    return timeline!.at(arriveMs);
  }
  const leg = timeline!.legs.find(({ startMs, endMs }) => timeMs > startMs && timeMs < endMs)!;
  return timeline!.at(timeline!.stays[leg.from]!.arriveMs);
}

const sameEntries = (a: ReadonlyMap<string, number>, b: ReadonlyMap<string, number>): boolean =>
  a.size === b.size && [...a].every(([key, value]) => b.get(key) === value);
