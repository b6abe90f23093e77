import { createStore, type StoreApi } from 'zustand/vanilla';

/** What is picked in a drawing: in all of its panes the same. */
export interface PickedState {
  /** Places in the index of the drawing's objects. */
  readonly picked: ReadonlySet<number>;
  /** Picks just these. */
  readonly pick: (picked: ReadonlySet<number>) => void;
}
export type PickedStore = StoreApi<PickedState>;

export const createPickedStore = (): PickedStore =>
  createStore<PickedState>((set) => ({ picked: new Set(), pick: (picked) => set({ picked }) }));
