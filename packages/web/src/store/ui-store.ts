import { createStore, type StoreApi } from 'zustand/vanilla';

/** What is open over the workspace. */
export interface UiState {
  /** Where the short menu is, CSS px in the pane; null if it is closed. */
  readonly menuAt: { readonly x: number; readonly y: number } | null;
  readonly panel: 'keys' | 'hands' | null;
  set(change: Partial<Omit<UiState, 'set'>>): void;
}
export type UiStore = StoreApi<UiState>;

export const createUiStore = (): UiStore =>
  createStore<UiState>((set) => ({ menuAt: null, panel: null, set: (change) => set(change) }));
