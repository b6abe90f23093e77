import { createStore, type StoreApi } from 'zustand/vanilla';
import { orientationAtBearing } from '@gull-pane/core/camera/twist';
import { withLayers } from '@gull-pane/core/view/shown';
import type { Camera } from '@gull-pane/core/camera/camera';
import { planTilt } from '@gull-pane/core/camera/directions';
import { directionOf, orientationOf } from '@gull-pane/core/camera/orbit';
import { clampScale } from '@gull-pane/core/camera/limits';
import { parseQuery, type Query } from '@gull-pane/core/find/query';
import type { FindClient } from '../finding/find-client';
import type { FoundText, TextPlace } from '../finding/find-calls';
import type { DrawingStore } from './drawing-store';
import type { PaneStore } from './pane-state';
import type { PickStore } from './pick-store';

/** One place of a text that was gone to or can be. */
export interface FindHit extends TextPlace {
  readonly content: string;
}

export interface FindState {
  readonly typed: string;
  readonly query: Query;
  /** Texts that were found for what is typed; null while they are looked for. */
  readonly texts: readonly FoundText[] | null;
  /** Why texts can't be found. */
  readonly trouble: string | null;
  /** All places of what was found, once one was gone to. */
  readonly hits: readonly FindHit[];
  /** The one that was gone to last. */
  readonly current: number;
  /** What was typed when a hit was gone to. */
  readonly sought: string;
  readonly type: (typed: string) => void;
  /** Goes to a text: to its place `which`, or to the next one if it was gone to last. */
  readonly goTo: (text: FoundText, which?: number) => void;
  readonly step: (by: 1 | -1) => void;
  readonly clear: () => void;
  /** A command was done: the field tells again what the hits are of, or nothing. */
  readonly commandDone: () => void;
}
export type FindStore = StoreApi<FindState>;

/** Texts that are looked for: all of their places are hits. */
const SOUGHT = 200;
/** How high a text is when it was gone to, CSS px of the em square, and the share of the pane that it may take. */
const READABLE_PX = 22;
const MOST_OF_PANE = 0.6;

/** What is looked for by name, what was found, and the hits that are walked through. */
export function createFindStore(
  client: FindClient,
  pane: PaneStore,
  drawing: DrawingStore,
  picks: PickStore,
): FindStore {
  return createStore<FindState>((set, get) => {
    const show = (index: number): void => {
      const hit = get().hits[index];
      if (!hit) return;
      set({ current: index });
      if (pane.getState().shown.hiddenLayers.has(hit.layer))
        pane.getState().update((shown) => withLayers(shown, [hit.layer], true), 'layers');
      if (drawing.getState().drawing.kind === 'solid') {
        picks.getState().pickAndFrame(Uint32Array.of(hit.object));
        return;
      }
      const [cos, sin] = [Math.cos(hit.angleRad), Math.sin(hit.angleRad)];
      // the middle of its letters: half-way along, a third of the em above the baseline
      const x = hit.x + (hit.width / 2) * cos - (hit.size / 3) * sin;
      const y = hit.y + (hit.width / 2) * sin + (hit.size / 3) * cos;
      pane.getState().travel((from, { widthPx }, limits) => ({
        ...from,
        target: { ...from.target, x, y },
        unitsPerPx: clampScale(Math.max(hit.size / READABLE_PX, hit.width / (MOST_OF_PANE * widthPx)), limits),
      }));
    };
    return {
      typed: '',
      query: { kind: 'nothing' },
      texts: null,
      trouble: null,
      hits: [],
      current: -1,
      sought: '',
      type(typed) {
        const query = parseQuery(typed, drawing.getState().drawing.unit);
        set({ typed, query, texts: null });
        // what begins like a command may still stand in the drawing
        const isSought =
          query.kind === 'text' || query.kind === 'unclear' || query.kind === 'layer' || query.kind === 'sheet';
        if (!isSought) {
          set({ texts: [] });
          return;
        }
        client.find(typed, SOUGHT).then(
          (found) => {
            if (get().typed === typed) set({ texts: found, trouble: null });
          },
          (error: unknown) => {
            if (get().typed === typed) set({ texts: [], trouble: String(error) });
          },
        );
      },
      goTo(text, which) {
        const texts = get().texts ?? [text];
        const hits = texts.flatMap(({ content, places }) => places.map((place) => ({ ...place, content })));
        const before = get().hits[get().current];
        set({ hits, sought: get().typed });
        const own = hits.flatMap((hit, index) => (hit.content === text.content ? [index] : []));
        const last = own.findIndex((index) => hits[index]!.object === before?.object);
        show(own[which ?? (last + 1) % own.length]!);
      },
      step(by) {
        const { hits, current } = get();
        if (hits.length > 0) show((current + by + hits.length) % hits.length);
      },
      clear() {
        set({ hits: [], current: -1 });
      },
      commandDone() {
        const { hits, sought, type } = get();
        type(hits.length > 0 ? sought : '');
      },
    };
  });
}

/** A plan turns in its plane, a model about the upright. */
function atBearing(camera: Camera, bearingRad: number): Camera['orientation'] {
  const { tiltRad } = directionOf(camera);
  return planTilt(camera) === 0 ? orientationAtBearing(bearingRad) : orientationOf({ bearingRad, tiltRad });
}

/** Does what a command of the find field says. @returns false for what is no command */
export function runQuery(query: Query, pane: PaneStore, mmPerPx: number): boolean {
  const own = pane.getState();
  switch (query.kind) {
    case 'place':
      own.travel((from) => ({ ...from, target: { ...from.target, x: query.x, y: query.y } }));
      return true;
    case 'moved':
      own.travel((from) => {
        const { target } = from;
        return { ...from, target: { ...target, x: target.x + query.x, y: target.y + query.y } };
      });
      return true;
    case 'scale':
      own.travel((from, _, limits) => ({ ...from, unitsPerPx: clampScale(query.denominator * mmPerPx, limits) }));
      return true;
    case 'bearing':
      own.travel((from) => ({ ...from, orientation: atBearing(from, (query.degrees * Math.PI) / 180) }));
      return true;
    case 'steps':
      for (let i = 0; i < Math.abs(query.steps); i++) {
        if (query.steps < 0) own.back();
        else own.forward();
      }
      return true;
    default:
      return false;
  }
}
