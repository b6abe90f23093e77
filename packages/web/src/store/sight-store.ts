import { createStore, type StoreApi } from 'zustand/vanilla';
import { worldToScreen, type Camera, type Viewport } from '@gull-pane/core/camera/camera';
import { fitSupport } from '@gull-pane/core/camera/fit-support';
import { hideObjects, hidesOther } from '@gull-pane/core/view/shown';
import type { Vec2 } from '@gull-pane/core/geometry/vec';
import { regionOfPane } from '@gull-pane/core/pick/region';
import type { StrayReport } from '@gull-pane/core/spatial/strays';
import type { Answers } from '../picking/pick-questions';
import type { DrawingStore } from './drawing-store';
import type { PaneStore } from './pane-state';
import type { PickStore } from './pick-store';
import { tellFailed } from './tell-failed';

/** What a pane shows of its drawing: nothing at all, or so little because a few objects lie far off. */
export interface SightState {
  /** Nothing that is visible lies in the pane. */
  readonly isLost: boolean;
  /** The nearest point of anything visible while lost; null if everything is hidden. */
  readonly nearest: (Vec2 & { readonly z?: number }) | null;
  /** The last view that had something in it, and where it stood in the trail. */
  readonly lastFull: { readonly entry: number; readonly camera: Camera } | null;
  readonly strays: StrayReport | null;
  /** The offer about strays was put away, until other layers are shown. */
  readonly isOfferClosed: boolean;
  /** Which stray was visited last, from 0. */
  readonly visited: number;
  readonly returnToContent: () => void;
  readonly goToNearest: () => void;
  readonly fitWithoutStrays: () => void;
  readonly visitStray: () => void;
  readonly hideStrays: () => void;
  readonly closeOffer: () => void;
}
export type SightStore = StoreApi<SightState>;

/** The main body is in need of an offer where a fit leaves it less than this share of the pane's sides. */
export const LEAST_SHARE = 0.1;

/** The first look waits no longer than this, ms. */
const FIRST_LOOK_MS = 2000;

/** Calls back once the page has nothing better to do; not every browser tells. @returns what calls it off */
function whenIdle(act: () => void): () => void {
  if (!('requestIdleCallback' in window)) {
    const timer = setTimeout(act, FIRST_LOOK_MS);
    return () => clearTimeout(timer);
  }
  const handle = requestIdleCallback(act, { timeout: FIRST_LOOK_MS });
  return () => cancelIdleCallback(handle);
}

/** The strays, where a fit of everything would leave the main body too small to be of use; else null. */
export function strayOffer(
  report: StrayReport | null,
  extents: { readonly min: Vec2; readonly max: Vec2 } | null,
  { widthPx, heightPx }: Viewport,
): StrayReport | null {
  if (!report || !extents || report.strays.length === 0 || widthPx === 0) return null;
  const { minX, minY, maxX, maxY } = report.main;
  const unitsPerPx = Math.max((extents.max.x - extents.min.x) / widthPx, (extents.max.y - extents.min.y) / heightPx);
  const share = Math.max((maxX - minX) / widthPx, (maxY - minY) / heightPx) / unitsPerPx;
  return share < LEAST_SHARE ? report : null;
}

/**
 * What a pane shows, and what begins to watch it; the watch returns what ends it.
 * @param marked places of the marks that are shown, x, y, z triples
 */
export function createSightStore(
  pane: PaneStore,
  drawing: DrawingStore,
  picks: PickStore,
  asked: Answers,
  marked: () => readonly number[] = () => [],
): { readonly sight: SightStore; readonly watch: () => () => void } {
  const sight = createStore<SightState>((set, get) => ({
    isLost: false,
    nearest: null,
    lastFull: null,
    strays: null,
    isOfferClosed: false,
    visited: -1,
    returnToContent() {
      const { lastFull } = get();
      const { trail, ...own } = pane.getState();
      if (!lastFull) own.fitAll();
      else if (trail.entries[lastFull.entry]?.camera === lastFull.camera) own.goTo(lastFull.entry);
      else own.travel(() => lastFull.camera); // a burst went on from there: it is no view of its own
    },
    goToNearest() {
      const { nearest } = get();
      if (nearest) pane.getState().travel((from) => ({ ...from, target: { ...from.target, ...nearest } }));
    },
    fitWithoutStrays() {
      set({ isOfferClosed: true });
      const strays = Uint32Array.from(get().strays?.strays ?? []);
      asked
        .ask('like', { entries: strays, by: 'others' })
        .then((entries) => asked.ask('support', { entries }))
        .then((support) =>
          pane.getState().travel((from, viewport, limits) => fitSupport(from, viewport, support, limits)),
        )
        .catch(tellFailed('The view stays.'));
    },
    visitStray() {
      const strays = get().strays?.strays ?? [];
      if (strays.length === 0) return;
      const visited = (get().visited + 1) % strays.length;
      set({ visited });
      picks.getState().pickAndFrame(Uint32Array.of(strays[visited]!));
    },
    hideStrays() {
      const entries = Uint32Array.from(get().strays?.strays ?? []);
      asked
        .ask('facts', { entries, withLength: false })
        .then((facts) => {
          const objects = facts.map(({ object }) => object);
          const { counts } = drawing.getState().drawing;
          pane.getState().update((shown) => hideObjects(shown, objects, counts.objects), 'objects');
          get().fitWithoutStrays();
        })
        .catch(tellFailed('Nothing was hidden.'));
    },
    closeOffer() {
      set({ isOfferClosed: true });
    },
  }));

  const look = (): void => {
    const { camera, viewport, trail, isFlying } = pane.getState();
    if (viewport.widthPx === 0) return;
    if (drawing.getState().drawing.counts.objects === 0) {
      // only marks can be looked for, and without marks the pane isn't lost
      const places = marked();
      const isIn = ({ x, y }: Vec2): boolean => x >= 0 && y >= 0 && x <= viewport.widthPx && y <= viewport.heightPx;
      let isAnything = places.length === 0;
      for (let i = 0; i < places.length && !isAnything; i += 3)
        isAnything = isIn(worldToScreen(camera, viewport, { x: places[i]!, y: places[i + 1]!, z: places[i + 2]! }));
      const [x = 0, y = 0, z = 0] = places;
      sight.setState({ isLost: !isAnything, nearest: isAnything ? null : { x, y, z } });
      return;
    }
    asked.askLatest('sight', { region: regionOfPane(camera, viewport) }, ({ isAnything, nearest }) => {
      sight.setState({
        isLost: !isAnything,
        nearest: nearest?.point ?? null,
        ...(isAnything && !isFlying ? { lastFull: { entry: trail.current, camera } } : {}),
      });
    });
  };
  const lookForStrays = (): void => {
    asked.askLatest('strays', null, (strays) => sight.setState({ strays, visited: -1 }));
  };
  const watch = (): (() => void) => {
    const stops = [
      pane.subscribe((state, before) => {
        if (state.camera !== before.camera || state.viewport !== before.viewport || state.isFlying !== before.isFlying)
          look();
      }),
      pane.subscribe(({ shown }, before) => {
        if (!hidesOther(shown, before.shown)) return;
        look();
        sight.setState({ isOfferClosed: false });
        lookForStrays();
      }),
    ];
    // what is needed to know it is fetched once the first picture has had its turn
    const stopWaiting = whenIdle(() => {
      lookForStrays();
      look();
    });
    return () => {
      stopWaiting();
      for (const stop of stops) stop();
    };
  };
  return { sight, watch };
}
