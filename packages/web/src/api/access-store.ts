import { create } from 'zustand';

interface Access {
  /** The server asks for its access token. */
  readonly isNeeded: boolean;
  setNeeded(isNeeded: boolean): void;
}

export const useAccess = create<Access>()((set) => ({
  isNeeded: false,
  setNeeded: (isNeeded) => set({ isNeeded }),
}));
