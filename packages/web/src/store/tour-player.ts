import { createStore, type StoreApi } from 'zustand/vanilla';
import { sameCamera, type Camera } from '@gull-pane/core/camera/camera';
import type { TourMoment } from '@gull-pane/core/tour/timeline';
import type { CardsStore } from './cards-store';
import type { PaneStore } from './pane-store';
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
  /** Whoever presents goes from stop to stop by hand: the tour waits at each. */
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
  /** Moves on; called once a frame while it plays. */
  readonly tick: () => void;
  readonly watch: () => () => void;
}
export type TourPlayer = StoreApi<TourPlayerState>;

export interface PlayerSurroundings {
  readonly pane: PaneStore;
  readonly tours: ToursStore;
  readonly cards: CardsStore;
  /** Shows things as they look in a card. */
  readonly dress: (card: TourPlan['stops'][number]['card']) => void;
  readonly now: () => number;
  readonly prefersStill: () => boolean;
  /** Looks where ways see nothing, and tells how high they have to rise. */
  readonly raise: (plan: TourPlan, take: (raised: ReadonlyMap<string, number>) => void) => void;
}

/** Plays tours in one pane. Any hand on the view pauses it. */
export function createTourPlayer(around: PlayerSurroundings): TourPlayer {
  const { pane, tours, cards, now } = around;
  /** Where play ends by itself: at the next stop, or null for at the end. */
  let untilMs: number | null = null;
  let lastMs = 0;
  let shown: Camera | null = null;
  let dressed: string | null = null;
  let raised: ReadonlyMap<string, number> = new Map();
  let opened: string | null = null;

  return createStore<TourPlayerState>((set, get) => {
    const show = (timeMs: number): void => {
      const { plan } = get();
      const timeline = plan?.timeline;
      if (!timeline) return;
      const moment = momentAt(plan, timeMs, around.prefersStill());
      const { card } = plan.stops[moment.looksOf]!;
      const looks = `${card.id} ${card.version}`;
      if (dressed !== looks) {
        dressed = looks;
        around.dress(card);
      }
      shown = moment.camera;
      set({ timeMs, nearest: moment.nearest });
      pane.getState().follow(moment.camera, null);
    };
    const rest = (): void => {
      if (shown) pane.getState().follow(shown, 'jump');
    };
    const stop = (): void => {
      untilMs = null;
      if (!get().isPlaying) return;
      set({ isPlaying: false });
      rest();
    };
    const start = (until: number | null): void => {
      untilMs = until;
      lastMs = now();
      dressed = null;
      set({ isPlaying: true });
      show(get().timeMs);
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
      ...{ plan: null, timeMs: 0, isPlaying: false, nearest: 0, isByHand: false },
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
          const there = leg.to === 0 ? 0 : leg.endMs;
          show(there);
          stop();
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
        untilMs = null;
        set({ isPlaying: false });
        dressed = null;
        show(stay.arriveMs);
        rest();
      },
      seek(timeMs) {
        const { plan, isPlaying } = get();
        if (!plan?.timeline) return;
        if (isPlaying) {
          untilMs = null;
          set({ isPlaying: false });
        } else dressed = null;
        show(Math.min(Math.max(timeMs, 0), plan.timeline.durationMs));
      },
      endSeek: rest,
      setByHand: (isByHand) => set({ isByHand }),
      tick() {
        const { plan, isPlaying, timeMs } = get();
        const timeline = plan?.timeline;
        if (!isPlaying || !timeline) return;
        const nowMs = now();
        const at = timeMs + (nowMs - lastMs);
        lastMs = nowMs;
        const endMs = untilMs ?? (timeline.loops ? Infinity : timeline.durationMs);
        if (at < endMs) {
          show(timeline.loops && at >= timeline.durationMs ? at % timeline.durationMs : at);
          return;
        }
        show(timeline.loops && endMs >= timeline.durationMs ? 0 : endMs);
        stop();
      },
      watch() {
        const stops = [
          tours.subscribe(renew),
          cards.subscribe(({ cards: known }, before) => {
            if (known !== before.cards) renew();
          }),
          pane.subscribe(({ viewport, camera }, before) => {
            if (viewport !== before.viewport && opened !== null) renew();
            // a hand has taken the view
            if (get().isPlaying && shown && !sameCamera(camera, shown)) {
              untilMs = null;
              set({ isPlaying: false });
            }
          }),
        ];
        return () => {
          for (const end of stops) end();
        };
      },
    };
  });
}

/** A moment of a tour; for whoever prefers stillness, the stop before until the next is reached. */
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
