import { createStore, type StoreApi } from 'zustand/vanilla';
import type { KeyStep } from '@gull-pane/core/intent/key-cursor';

export interface FootDrag {
  readonly from: string;
  readonly over: string | null;
  /** Its view is copied there; else the two change places. */
  readonly copies: boolean;
  readonly x: number;
  readonly y: number;
}

export type KindsMenuId = 'measure' | 'marks' | 'plane';

/** What is open over the workspace. */
export interface UiState {
  /** Where the short menu is, CSS px in the pane; null if it is closed. */
  readonly menuAt: { readonly x: number; readonly y: number } | null;
  readonly panel: 'keys' | 'hands' | 'share' | 'warm-up' | 'sheets' | null;
  /** A pane's foot that is dragged, and the pane it is over; page CSS px. */
  readonly footDrag: FootDrag | null;
  /** The bar in which tours are made and played. */
  readonly hasTourBar: boolean;
  /** A tour has the whole screen: its title, then the tour. */
  readonly presenting: 'title' | 'tour' | null;
  /** The menu of kinds that is open on the rail. */
  readonly kindsMenu: KindsMenuId | null;
  /** While arrow keys lead a cursor: how far each press does. */
  readonly keyCursor: KeyStep | null;
  set(change: Partial<Omit<UiState, 'set'>>): void;
}
export type UiStore = StoreApi<UiState>;

export const createUiStore = (): UiStore =>
  createStore<UiState>((set) => ({
    menuAt: null,
    panel: null,
    footDrag: null,
    hasTourBar: false,
    presenting: null,
    kindsMenu: null,
    keyCursor: null,
    set: (change) => set(change),
  }));
