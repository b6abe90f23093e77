import { create } from 'zustand';
import { persist } from 'zustand/middleware';

export type ThemeName = 'chart-room' | 'night-watch';

interface Preferences {
  readonly theme: ThemeName;
  readonly isShelfOpen: boolean;
  setTheme(theme: ThemeName): void;
  setShelfOpen(isShelfOpen: boolean): void;
}

/** What a person has chosen on this machine; kept in the browser. */
export const usePreferences = create<Preferences>()(
  persist(
    (set) => ({
      theme: 'chart-room',
      isShelfOpen: true,
      setTheme: (theme) => set({ theme }),
      setShelfOpen: (isShelfOpen) => set({ isShelfOpen }),
    }),
    { name: 'gull-pane-preferences' },
  ),
);
