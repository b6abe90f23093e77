import { createStore, type StoreApi } from 'zustand/vanilla';
import { fitSupport } from '@gull-pane/core/camera/fit-support';
import type { CoverageGrid, Readable } from '@gull-pane/core/seen/coverage';
import { regionOfPane } from '@gull-pane/core/pick/region';
import type { SheetDto } from '@gull-pane/protocol/drawings';
import { api } from '../api/client';
import type { Answers, PickQuestions } from '../picking/pick-questions';
import { troubleOf } from './drawings-store';
import { useNotes } from './notes-store';
import type { PaneStore } from './pane-state';
import { usePreferences } from './preferences-store';
import { tellFailed } from './tell-failed';

/** Cells of the shade along the longer side of the drawing. */
const MOST_CELLS = 96;
/** What is new is sent so long after the last look, ms. */
const KEEP_AFTER_MS = 3000;
/** An unseen place is gone to this much closer than it has to be. */
const CLOSER = 1.5;

type Told = PickQuestions['covered']['answer'];

export interface CoverageState {
  /** Whether what is looked at is taken down. */
  readonly isOn: boolean;
  /** Whether what is unseen is shaded. */
  readonly isShaded: boolean;
  readonly told: Told | null;
  readonly grid: CoverageGrid | null;
  readonly set: (change: { readonly isOn: boolean }) => void;
  readonly shade: (isShaded: boolean, asked: Answers) => Promise<void>;
  /** Begins, with what the person whose name is set has seen before. */
  readonly begin: (asked: Answers) => Promise<void>;
  /** Looks at what a pane shows. */
  readonly look: (pane: PaneStore, asked: Answers) => Promise<void>;
  readonly goToNext: (pane: PaneStore, asked: Answers) => Promise<void>;
  /** Nothing has been seen. */
  readonly reset: (asked: Answers) => Promise<void>;
}
export type CoverageStore = StoreApi<CoverageState>;

const readable = (): Readable => {
  const { mmPerPx, seenLimits } = usePreferences.getState();
  return { textPx: seenLimits.textMm / mmPerPx, detailPx: seenLimits.detailPx };
};

/**
 * What has been seen of a drawing, by the person whose name is set.
 * @param sheets of a set, in their order
 */
export function createCoverageStore(drawingId: string, sheets: readonly SheetDto[] = []): CoverageStore {
  return createStore<CoverageState>((set, get) => {
    let timer: number | undefined;
    const refresh = async (asked: Answers): Promise<void> => {
      const told = await asked.ask('covered', { sheets });
      const grid = get().isShaded ? await asked.ask('unseenGrid', { most: MOST_CELLS }) : get().grid;
      set({ told, grid });
    };
    const keepSoon = (asked: Answers): void => {
      window.clearTimeout(timer);
      timer = window.setTimeout(() => void keep(asked), KEEP_AFTER_MS);
    };
    const keep = async (asked: Answers): Promise<void> => {
      try {
        const bits = toBase64(await asked.ask('seenBits', { bits: null }));
        await api.keepSeen(drawingId, usePreferences.getState().person, { bits });
      } catch (error) {
        useNotes.getState().tell('failed', `What you have seen wasn’t saved. ${troubleOf(error).title}`);
      }
    };
    return {
      isOn: false,
      isShaded: false,
      told: null,
      grid: null,
      set: (change) => set(change),
      async shade(isShaded, asked) {
        set({ isShaded });
        await refresh(asked).catch(tellFailed('What is unseen can’t be shaded.'));
      },
      async begin(asked) {
        const { bits } = await api.seen(drawingId, usePreferences.getState().person).catch(() => ({ bits: '' }));
        try {
          await asked.ask('seenBits', { bits: fromBase64(bits) });
          set({ isOn: true });
          await refresh(asked);
        } catch (error) {
          tellFailed('Recording has not begun.')(error);
        }
      },
      async look(pane, asked) {
        const { camera, viewport } = pane.getState();
        const { news } = await asked.ask('look', {
          region: regionOfPane(camera, viewport),
          unitsPerPx: camera.unitsPerPx,
          readable: readable(),
        });
        if (news === 0) return;
        await refresh(asked);
        keepSoon(asked);
      },
      async goToNext(pane, asked) {
        const { target } = pane.getState().camera;
        const next = await asked.ask('unseen', { at: target, readable: readable() }).catch((error: unknown) => {
          tellFailed('The view stays.')(error);
          return undefined;
        });
        if (next === undefined) return;
        if (!next) {
          useNotes.getState().tell('done', 'Everything that is shown has been seen.');
          return;
        }
        pane.getState().travel((from, viewport, limits) => {
          const framed = fitSupport(from, viewport, next.corners, limits);
          // not farther than one looks from now: the scale stays while it serves
          const unitsPerPx = Math.min(from.unitsPerPx, next.readableAt / CLOSER);
          return { ...from, target: framed.target, unitsPerPx };
        });
      },
      async reset(asked) {
        try {
          await asked.ask('seenBits', { bits: new Uint8Array() });
          await refresh(asked);
          await keep(asked);
        } catch (error) {
          tellFailed('What has been seen stays as it was.')(error);
        }
      },
    };
  });
}

/**
 * Takes down what a pane shows, each time that it has rested for a moment: not while it travels, is scrubbed or hidden.
 * @param isCalm whether the picture at rest is drawn
 * @returns what ends it
 */
export function watchCoverage(
  { pane, coverage, asked }: { readonly pane: PaneStore; readonly coverage: CoverageStore; readonly asked: Answers },
  isCalm: () => boolean,
): () => void {
  let timer: number | undefined;
  const wait = (): void => {
    window.clearTimeout(timer);
    if (coverage.getState().isOn) timer = window.setTimeout(look, usePreferences.getState().seenLimits.momentMs);
  };
  const look = (): void => {
    const { isFlying, scrubAt } = pane.getState();
    if (isFlying || scrubAt !== null || document.hidden || !isCalm()) wait();
    else
      void coverage
        .getState()
        .look(pane, asked)
        .catch(() => undefined);
  };
  const stops = [
    pane.subscribe((now, before) => {
      if (now.camera !== before.camera || now.viewport !== before.viewport || now.shown !== before.shown) wait();
    }),
    coverage.subscribe((now, before) => {
      if (now.isOn !== before.isOn) wait();
    }),
  ];
  wait();
  return () => {
    window.clearTimeout(timer);
    for (const stop of stops) stop();
  };
}

const toBase64 = (bytes: Uint8Array): string => {
  let text = '';
  for (let i = 0; i < bytes.length; i += 4096) text += String.fromCharCode(...bytes.subarray(i, i + 4096));
  return btoa(text);
};
const fromBase64 = (text: string): Uint8Array<ArrayBuffer> => Uint8Array.from(atob(text), (one) => one.charCodeAt(0));
