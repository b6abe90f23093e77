import { create } from 'zustand';
import { persist } from 'zustand/middleware';
import { MM_PER_CSS_PX } from '@gull-pane/core/camera/scale';
import { notchPercent } from '@gull-pane/core/intent/hands';
import type { Bindings } from '@gull-pane/core/intent/inputs';
import type { ProfileId } from '@gull-pane/core/intent/profiles';

export type ThemeName = 'chart-room' | 'night-watch';

interface Preferences {
  readonly theme: ThemeName;
  readonly isShelfOpen: boolean;
  /** The panel that the shelf shows. */
  readonly shelfPanel: string;
  readonly isTrailOpen: boolean;
  readonly isRailOpen: boolean;
  /** The chart of directions, in solids. */
  readonly isDialOpen: boolean;
  /** The habits in use. */
  readonly profile: ProfileId | 'own';
  /** Own bindings; where an act is absent, those of the profile that they began with hold. */
  readonly own: { readonly base: ProfileId; readonly changes: Bindings };
  readonly percentPerNotch: number;
  readonly isWheelReversed: boolean;
  /** Whether other panes show where the cursor points. */
  readonly echoes: boolean;
  /** Whether a pan goes on with the speed of the hand. */
  readonly glides: boolean;
  /** Hints of a first visit that were closed: they never come again. */
  readonly closedHints: readonly string[];
  /** Millimetres of a CSS px on this screen. */
  readonly mmPerPx: number;
  set(change: Partial<Omit<Preferences, 'set'>>): void;
}

/** What a person has chosen on this machine; kept in the browser. */
export const usePreferences = create<Preferences>()(
  persist(
    (set) => ({
      theme: 'chart-room',
      isShelfOpen: true,
      shelfPanel: 'layers',
      isTrailOpen: true,
      isRailOpen: true,
      isDialOpen: true,
      profile: 'wheel-button',
      own: { base: 'wheel-button', changes: {} },
      percentPerNotch: notchPercent.usual,
      isWheelReversed: false,
      echoes: true,
      glides: true,
      closedHints: [],
      mmPerPx: MM_PER_CSS_PX,
      set: (change) => set(change),
    }),
    { name: 'gull-pane-preferences' },
  ),
);
