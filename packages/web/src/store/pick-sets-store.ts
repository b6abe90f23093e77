import { create } from 'zustand';
import { persist } from 'zustand/middleware';

/** Picked objects under a name, by their ids in the drawing. */
export interface PickSet {
  readonly name: string;
  readonly objects: readonly number[];
}

interface PickSets {
  /** By drawing and revision: ids are those of one import. */
  readonly byDrawing: Readonly<Record<string, readonly PickSet[]>>;
  /** A set of the same name is replaced. */
  readonly keep: (drawing: string, set: PickSet) => void;
  readonly forget: (drawing: string, name: string) => void;
}

/** Sets of picked objects that are kept on this machine. */
export const usePickSets = create<PickSets>()(
  persist(
    (set, get) => {
      const others = (drawing: string, name: string): readonly PickSet[] =>
        (get().byDrawing[drawing] ?? []).filter((one) => one.name !== name);
      const put = (drawing: string, sets: readonly PickSet[]): void => {
        set({ byDrawing: { ...get().byDrawing, [drawing]: sets } });
      };
      return {
        byDrawing: {},
        keep: (drawing, one) => put(drawing, [...others(drawing, one.name), one]),
        forget: (drawing, name) => put(drawing, others(drawing, name)),
      };
    },
    { name: 'gull-pane-pick-sets' },
  ),
);
