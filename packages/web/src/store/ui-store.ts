import { createStore, type StoreApi } from 'zustand/vanilla';

export interface FootDrag {
  readonly from: string;
  readonly over: string | null;
  /** Its view is copied there; else the two change places. */
  readonly copies: boolean;
  readonly x: number;
  readonly y: number;
}

/** What is open over the workspace. */
export interface UiState {
  /** Where the short menu is, CSS px in the pane; null if it is closed. */
  readonly menuAt: { readonly x: number; readonly y: number } | null;
  readonly panel: 'keys' | 'hands' | 'share' | null;
  /** A pane's foot that is dragged, and the pane it is over; page CSS px. */
  readonly footDrag: FootDrag | null;
  set(change: Partial<Omit<UiState, 'set'>>): void;
}
export type UiStore = StoreApi<UiState>;

export const createUiStore = (): UiStore =>
  createStore<UiState>((set) => ({ menuAt: null, panel: null, footDrag: null, set: (change) => set(change) }));
