import { create } from 'zustand';
import { persist } from 'zustand/middleware';
import type { BegunDrill, Drill } from '@gull-pane/core/drills/drill';

/** One drill that was done. */
export interface DrillRecord {
  readonly drill: string;
  /** ISO 8601. */
  readonly at: string;
  readonly ms: number;
  readonly acts: number;
}

/** The drill that is on. */
export interface RunningDrill {
  readonly drill: Drill;
  readonly begun: BegunDrill;
  readonly pane: string;
  readonly drawing: string;
  readonly beganMs: number;
  readonly reached: number;
  readonly acts: number;
}

export interface WarmUpState {
  readonly running: RunningDrill | null;
  /** What was done last, until the next begins. */
  readonly last: {
    readonly drill: Drill;
    readonly record: DrillRecord;
    readonly bestBefore: DrillRecord | null;
  } | null;
  /** Everything that was done on this machine, oldest first. */
  readonly records: readonly DrillRecord[];
  readonly begin: (running: RunningDrill) => void;
  /** The hands have done something: so many acts more, so many of the marked reached. */
  readonly move: (change: Partial<Pick<RunningDrill, 'acts' | 'reached'>>) => void;
  /** All is reached. */
  readonly finish: (nowMs: number, at: string) => void;
  readonly leave: () => void;
}

/** So many records are kept, the newest. */
const MOST_RECORDS = 400;

/** The quickest record of a drill; null if there is none. */
export function bestOf(records: readonly DrillRecord[], drill: string): DrillRecord | null {
  const own = records.filter((one) => one.drill === drill);
  return own.length === 0 ? null : own.reduce((best, one) => (one.ms < best.ms ? one : best));
}

/** Drills for the hands, with what was reached on this machine; kept in the browser. */
export const useWarmUp = create<WarmUpState>()(
  persist(
    (set, get) => ({
      running: null,
      last: null,
      records: [],
      begin: (running) => set({ running, last: null }),
      move(change) {
        const { running } = get();
        if (running) set({ running: { ...running, ...change } });
      },
      finish(nowMs, at) {
        const { running, records } = get();
        if (!running) return;
        const { drill, beganMs, acts } = running;
        const record = { drill: drill.id, at, ms: Math.round(nowMs - beganMs), acts };
        set({
          running: null,
          last: { drill, record, bestBefore: bestOf(records, drill.id) },
          records: [...records, record].slice(-MOST_RECORDS),
        });
      },
      leave: () => set({ running: null, last: null }),
    }),
    { name: 'gull-pane-warm-up', partialize: ({ records }) => ({ records }) },
  ),
);
