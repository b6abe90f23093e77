import { createStore, type StoreApi } from 'zustand/vanilla';
import { fitSupport } from '@gull-pane/core/camera/fit-support';
import { screenToWorld, worldToScreen, type ScreenPoint } from '@gull-pane/core/camera/camera';
import type { Vec3 } from '@gull-pane/core/geometry/vec';
import type { Intent } from '@gull-pane/core/intent/intents';
import { regionBetween } from '@gull-pane/core/pick/region';
import type { Answers, ObjectFacts } from '../picking/pick-questions';
import type { PaneStore } from './pane-state';
import type { PickedStore } from './picked-store';

export type PickingIntent = Extract<Intent, { kind: 'pick' | 'pickBox' | 'clearPicks' }>;
/** What a box takes: only what lies wholly inside, or whatever it touches. */
export type BoxTakes = 'inside' | 'touched';

/** How near its line something is pointed at, CSS px. */
const REACH_PX = 6;
/** When a view has stood so long, what lies under the cursor there is looked for, ms. */
const HOVER_REST_MS = 120;

export interface PickState {
  /** What lies under the cursor. */
  readonly hovered: ObjectFacts | null;
  readonly boxTakes: BoxTakes;
  /** What the box that is being drawn would take, both ways. */
  readonly counts: { readonly inside: number; readonly touched: number } | null;
  /** Why nothing can be picked; null if all is well. */
  readonly trouble: string | null;
  /** What was framed last, until the next act: what stands before it in a model fades. */
  readonly framed: ReadonlySet<number> | null;
  readonly forgetFramed: () => void;
  /** Frames whatever is picked next. */
  readonly framesNext: boolean;
  readonly apply: (intent: PickingIntent) => void;
  readonly pickLike: (by: 'kind' | 'layer' | 'others') => void;
  /** The next one of what lay on top of each other where was clicked last. */
  readonly next: () => void;
  readonly pickObjects: (objects: readonly number[]) => Promise<void>;
  /** Adds objects to what is picked, or takes them away if all of them are. */
  readonly change: (objects: readonly number[]) => void;
  readonly setBoxTakes: (takes: BoxTakes) => void;
  /** Looks for what is under the cursor. @param at CSS px; null when it has left */
  readonly hover: (at: ScreenPoint | null) => void;
  readonly count: (corner: Vec3, to: ScreenPoint) => void;
  /** Picks just these, places in the index, and frames them. */
  readonly pickAndFrame: (entries: Uint32Array) => void;
  readonly layersOfPicked: () => Promise<ReadonlySet<number>>;
  readonly framePicked: () => void;
  /** Waits for a pick and frames it. */
  readonly frameNext: (waits: boolean) => void;
  readonly clear: () => void;
}
export type PickStore = StoreApi<PickState>;

/**
 * How a pane picks, in the order of the grammar: a click or a box picks, Shift adds or takes away, Escape clears.
 * @param drawing what is picked in the pane's drawing
 */
export function createPickStore(client: Answers, pane: PaneStore, drawing: PickedStore): PickStore {
  /** What lay on top of each other at the last click. */
  let stack: { readonly at: ScreenPoint; readonly entries: readonly number[]; index: number } | null = null;

  return createStore<PickState>((set, get) => {
    const fail = (error: unknown): void => set({ trouble: String(error) });
    const take = (entries: Iterable<number>, changes: boolean): void => {
      const picked = new Set(changes ? drawing.getState().picked : []);
      const chosen = [...entries];
      // what is picked as a whole is taken away, else all of it is added
      const isKnown = changes && chosen.length > 0 && chosen.every((entry) => picked.has(entry));
      for (const entry of chosen) {
        if (isKnown) picked.delete(entry);
        else picked.add(entry);
      }
      drawing.getState().pick(picked);
      set({ trouble: null });
      if (get().framesNext && picked.size > 0) {
        set({ framesNext: false });
        get().framePicked();
      }
    };
    const isSamePlace = (at: ScreenPoint): boolean =>
      stack !== null && Math.hypot(at.x - stack.at.x, at.y - stack.at.y) < REACH_PX;

    /** Where the cursor rested last, if it is over the pane. */
    let hoverAt: ScreenPoint | null = null;
    // what lay under the cursor has moved away from it: no outline stays behind
    pane.subscribe(({ camera, isFlying }, before) => {
      if (camera === before.camera && isFlying === before.isFlying) return;
      if (get().hovered) set({ hovered: null });
      clearTimeout(rest);
      if (hoverAt && !isFlying) rest = setTimeout(() => get().hover(hoverAt), HOVER_REST_MS);
    });
    let rest: ReturnType<typeof setTimeout> | undefined;

    return {
      hovered: null,
      boxTakes: 'inside',
      counts: null,
      trouble: null,
      framesNext: false,
      framed: null,
      apply(intent) {
        if (intent.kind === 'clearPicks') {
          if (get().framesNext) set({ framesNext: false });
          else get().clear();
          return;
        }
        const { camera, viewport } = pane.getState();
        const { at, changes } = intent;
        if (intent.kind === 'pick') {
          if (!changes && isSamePlace(at) && stack!.entries.length > 1) {
            get().next();
            return;
          }
          const question = { place: screenToWorld(camera, viewport, at), radius: REACH_PX * camera.unitsPerPx };
          client.ask('at', question).then((hits) => {
            stack = { at, entries: hits.map(({ entry }) => entry), index: 0 };
            take(stack.entries.slice(0, 1), changes);
          }, fail);
          return;
        }
        const region = regionBetween(camera, viewport, worldToScreen(camera, viewport, intent.corner), at);
        const corners = [worldToScreen(camera, viewport, intent.corner), at] as const;
        client.ask('within', { region, corners }).then(({ inside, touching }) => {
          set({ counts: null });
          take(get().boxTakes === 'inside' ? inside : touching, changes);
        }, fail);
      },
      pickLike(by) {
        const entries = Uint32Array.from(drawing.getState().picked);
        client.ask('like', { entries, by }).then((found) => take(found, false), fail);
      },
      next() {
        if (!stack || stack.entries.length === 0) return;
        stack.index = (stack.index + 1) % stack.entries.length;
        take([stack.entries[stack.index]!], false);
      },
      pickObjects: (objects) => client.ask('entriesOf', { objects }).then((entries) => take(entries, false), fail),
      change(objects) {
        client.ask('entriesOf', { objects }).then((entries) => take(entries, true), fail);
      },
      setBoxTakes(boxTakes) {
        set({ boxTakes });
      },
      hover(at) {
        hoverAt = at;
        if (stack && (!at || !isSamePlace(at))) stack = null;
        if (!at) {
          if (get().hovered) set({ hovered: null });
          return;
        }
        const { camera, viewport } = pane.getState();
        const question = { place: screenToWorld(camera, viewport, at), radius: REACH_PX * camera.unitsPerPx };
        client.askLatest('at', question, (hits) => {
          const [first] = hits;
          if (first?.entry === get().hovered?.entry) return;
          if (!first) set({ hovered: null });
          else {
            const entries = Uint32Array.of(first.entry);
            client.askLatest('facts', { entries, withLength: true }, ([facts]) => set({ hovered: facts ?? null }));
          }
        });
      },
      count(corner, to) {
        const { camera, viewport } = pane.getState();
        const region = regionBetween(camera, viewport, worldToScreen(camera, viewport, corner), to);
        const corners = [worldToScreen(camera, viewport, corner), to] as const;
        client.askLatest('within', { region, corners }, ({ inside, touching }) =>
          set({ counts: { inside: inside.length, touched: touching.length } }),
        );
      },
      pickAndFrame(entries) {
        take(entries, false);
        get().framePicked();
      },
      async layersOfPicked() {
        const facts = await client.ask('facts', {
          entries: Uint32Array.from(drawing.getState().picked),
          withLength: false,
        });
        return new Set(facts.map(({ layer }) => layer));
      },
      framePicked() {
        const { picked } = drawing.getState();
        const entries = Uint32Array.from(picked);
        set({ framed: picked });
        client
          .ask('support', { entries })
          .then(
            (support) =>
              pane.getState().travel((from, viewport, limits) => fitSupport(from, viewport, support, limits)),
            fail,
          );
      },
      forgetFramed() {
        if (get().framed) set({ framed: null });
      },
      frameNext(framesNext) {
        set({ framesNext });
      },
      clear() {
        stack = null;
        drawing.getState().pick(new Set());
        set({ counts: null, trouble: null });
      },
    };
  });
}
