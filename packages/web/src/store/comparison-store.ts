import { createStore, type StoreApi } from 'zustand/vanilla';
import type { ChangeDto, ComparisonDto } from '@gull-pane/protocol/comparison';
import type { ReviewDto, ReviewState, RevisionDto } from '@gull-pane/protocol/revisions';
import { api } from '../api/client';
import { troubleOf } from './drawings-store';
import { useNotes } from './notes-store';
import { usePreferences } from './preferences-store';

export type Way = ChangeDto['ways'][number];
/** `open` is what nobody of this name has said anything of. */
export type ReviewFilter = 'all' | 'open' | ReviewState;

export interface ComparisonState {
  /** Newest first; null until the server has told. */
  readonly revisions: readonly RevisionDto[] | null;
  /** What is compared; null before. */
  readonly comparison: ComparisonDto | null;
  /** By the key of the change, what was said by the person whose name is set. */
  readonly own: ReadonlyMap<string, ReviewDto>;
  /** What others said. */
  readonly others: readonly ReviewDto[];
  readonly isLoading: boolean;
  readonly trouble: string | null;
  /** The changes lie over the drawing. */
  readonly isShown: boolean;
  /** From the earlier revision alone, 0, by way of both, 0.5, to the later alone, 1; of a wipe, where its line is. */
  readonly fade: number;
  /** A line across the pane parts the later revision, at its left, from the earlier, instead of fading. */
  readonly wipes: boolean;
  /** The cluster that was gone to last; -1 for none. */
  readonly current: number;
  /** Ways that are left out of the list. */
  readonly ways: ReadonlySet<Way>;
  readonly filter: ReviewFilter;
  /** Loads the revisions, and compares the newest two if nothing is compared yet. */
  readonly load: () => Promise<void>;
  /** @param tolerance coordinates that differ by less are the same, drawing units; as it was if absent */
  readonly compare: (from: number, to: number, tolerance?: number) => Promise<void>;
  readonly set: (
    change: Partial<Pick<ComparisonState, 'isShown' | 'fade' | 'wipes' | 'current' | 'ways' | 'filter'>>,
  ) => void;
  /** Says something of some changes; `open` takes it back. */
  readonly review: (keys: readonly string[], state: ReviewState | 'open', note?: string) => Promise<void>;
  /** Others may have said something meanwhile. */
  readonly reloadReviews: () => Promise<void>;
}
export type ComparisonStore = StoreApi<ComparisonState>;

/** What differs between two revisions of a drawing, and what is said of it. */
export function createComparisonStore(drawingId: string): ComparisonStore {
  return createStore<ComparisonState>((set, get) => {
    const takeReviews = (reviews: readonly ReviewDto[]): void => {
      const { person } = usePreferences.getState();
      set({
        own: new Map(reviews.filter((one) => one.person === person).map((one) => [one.change, one])),
        others: reviews.filter((one) => one.person !== person),
      });
    };
    return {
      revisions: null,
      comparison: null,
      own: new Map(),
      others: [],
      isLoading: false,
      trouble: null,
      isShown: false,
      fade: 0.5,
      wipes: false,
      current: -1,
      ways: new Set(),
      filter: 'all',
      set: (change) => set(change),
      async load() {
        if (get().isLoading) return;
        set({ isLoading: true, trouble: null });
        try {
          const revisions = await api.revisions(drawingId);
          set({ revisions, isLoading: false });
          const [newest, before] = revisions;
          if (newest && before && get().comparison === null) await get().compare(before.number, newest.number);
        } catch (error) {
          set({ isLoading: false, trouble: troubleOf(error).title });
        }
      },
      async compare(from, to, tolerance = get().comparison?.tolerance) {
        set({ isLoading: true, trouble: null, current: -1 });
        try {
          const [comparison, reviews] = await Promise.all([
            api.comparison(drawingId, from, to, tolerance ?? null),
            api.reviews(drawingId, from, to),
          ]);
          set({ comparison, isLoading: false, isShown: true });
          takeReviews(reviews);
        } catch (error) {
          set({ isLoading: false, trouble: troubleOf(error).title });
        }
      },
      async review(keys, state, note = '') {
        const { comparison, own } = get();
        const { person } = usePreferences.getState();
        if (!comparison) return;
        const { from, to } = comparison;
        // shown at once; where the server doesn't take it, what it knows is shown again
        const next = new Map(own);
        const updatedAt = new Date().toISOString();
        for (const change of keys)
          if (state === 'open') next.delete(change);
          else next.set(change, { change, person, state, note, updatedAt });
        set({ own: next });
        try {
          for (const change of keys) await api.keepReview(drawingId, from, to, { change, person, state, note });
        } catch (error) {
          useNotes.getState().tell('failed', troubleOf(error).title);
          await get().reloadReviews();
        }
      },
      async reloadReviews() {
        const { comparison } = get();
        if (comparison) takeReviews(await api.reviews(drawingId, comparison.from, comparison.to).catch(() => []));
      },
    };
  });
}

/** Places of the clusters that are in the list: with a change of a way that isn't left out, in the state that is asked for. */
export function listedClusters({ comparison, ways, filter, own }: ComparisonState): number[] {
  if (!comparison) return [];
  const isListed = (k: number): boolean => {
    const change = comparison.changes[k]!;
    const state = own.get(change.key)?.state ?? 'open';
    return !change.ways.every((way) => ways.has(way)) && (filter === 'all' || filter === state);
  };
  return comparison.clusters.flatMap(({ changes }, cluster) => (changes.some(isListed) ? [cluster] : []));
}

/** The listed cluster after the one that was gone to last, or before it; −1 if there is none. */
export function clusterAfter(state: ComparisonState, by: 1 | -1): number {
  const listed = listedClusters(state);
  if (listed.length === 0) return -1;
  if (by > 0) return listed.find((cluster) => cluster > state.current) ?? listed[0]!;
  return listed.findLast((cluster) => cluster < state.current) ?? listed.at(-1)!;
}
