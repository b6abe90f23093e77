import { create } from 'zustand';
import { persist } from 'zustand/middleware';
import { MM_PER_CSS_PX } from '@gull-pane/core/camera/scale';
import { notchPercent } from '@gull-pane/core/intent/hands';
import type { Bindings } from '@gull-pane/core/intent/inputs';
import type { ShownUnit } from '@gull-pane/core/drawing/units';
import type { AngleUnit } from '@gull-pane/core/measure/figures';
import { usualStyle, type MarkStyle } from '@gull-pane/core/marks/mark';
import { snapKinds, type SnapKind } from '@gull-pane/core/snap/snap';
import type { ProfileId } from '@gull-pane/core/intent/profiles';
import { chooseDecimals, type DecimalSign } from '../basics/decimals';

export type ThemeName = 'chart-room' | 'night-watch';

interface Preferences {
  readonly theme: ThemeName;
  readonly isShelfOpen: boolean;
  /** The panel that the shelf shows. */
  readonly shelfPanel: string;
  readonly isTrailOpen: boolean;
  readonly isRailOpen: boolean;
  /** Whether the rail tells the names of its buttons; null where there is room. */
  readonly hasRailWords: boolean | null;
  /** The chart of directions, in solids. */
  readonly isDialOpen: boolean;
  /** The habits in use. */
  readonly profile: ProfileId | 'own';
  /** Own bindings; where an act is absent, those of the profile that they began with hold. */
  readonly own: { readonly base: ProfileId; readonly changes: Bindings };
  readonly percentPerNotch: number;
  readonly isWheelReversed: boolean;
  /** Whether pictures at rest get smooth edges: as many passes as the machine affords, or none. */
  readonly smoothEdges: 'automatic' | 'off';
  /** Side of a point of a model, CSS px. */
  readonly pointPx: number;
  /** Whether other panes show where the cursor points. */
  readonly echoes: boolean;
  /** Whether a pan goes on with the speed of the hand. */
  readonly glides: boolean;
  /** Hints of a first visit that were closed: they never come again. */
  readonly closedHints: readonly string[];
  /** What points snap to. */
  readonly snapKinds: readonly SnapKind[];
  /** Between the lines of the grid that points snap to, by drawing, drawing units; 0 for none. */
  readonly gridSteps: Readonly<Record<string, number>>;
  /** What measured lengths are told in; null for the drawing's own unit. */
  readonly shownIn: ShownUnit | null;
  /** What angles are told in. */
  readonly angles: AngleUnit;
  /** How decimals are written. */
  readonly decimalSign: DecimalSign;
  /** Decimals of measured figures; null for all that mean something. */
  readonly decimals: number | null;
  /** What counts as seen. */
  readonly seenLimits: SeenLimits;
  /** Under which name one says something of changes. */
  readonly person: string;
  /** How new marks look. */
  readonly markStyle: MarkStyle;
  /** Millimetres of a CSS px on this screen. */
  readonly mmPerPx: number;
  set(change: Partial<Omit<Preferences, 'set'>>): void;
}

/** From when on something that is on the screen counts as seen. */
export interface SeenLimits {
  /** So long a view has to rest until eyes have taken it in, ms. */
  readonly momentMs: number;
  /** From what height on the screen a text is readable, mm. */
  readonly textMm: number;
  /** The longer side of anything else, CSS px. */
  readonly detailPx: number;
}

export const usualSeenLimits: SeenLimits = { momentMs: 800, textMm: 1.8, detailPx: 8 };

export const USUAL_POINT_PX = 3;

/** Windows that have room for names on the rail. */
export const HAS_ROOM_FOR_WORDS = '(width >= 1600px)';

/** The theme that the system asks for, until another is chosen. */
const systemTheme = (): ThemeName =>
  typeof matchMedia === 'function' && matchMedia('(prefers-color-scheme: dark)').matches ? 'night-watch' : 'chart-room';

/** What a person has chosen on this machine; kept in the browser. */
export const usePreferences = create<Preferences>()(
  persist(
    (set) => ({
      theme: systemTheme(),
      isShelfOpen: true,
      shelfPanel: 'layers',
      isTrailOpen: true,
      isRailOpen: true,
      hasRailWords: null,
      isDialOpen: true,
      profile: 'wheel-button',
      own: { base: 'wheel-button', changes: {} },
      percentPerNotch: notchPercent.usual,
      isWheelReversed: false,
      smoothEdges: 'automatic',
      pointPx: USUAL_POINT_PX,
      echoes: true,
      glides: true,
      closedHints: [],
      snapKinds: snapKinds.filter((kind) => !['nearest', 'tangent', 'apparent crossing'].includes(kind)),
      gridSteps: {},
      shownIn: null,
      angles: 'deg',
      decimals: null,
      decimalSign: 'language',
      seenLimits: usualSeenLimits,
      person: '',
      markStyle: usualStyle,
      mmPerPx: MM_PER_CSS_PX,
      set: (change) => set(change),
    }),
    { name: 'gull-pane-preferences' },
  ),
);

chooseDecimals(usePreferences.getState().decimalSign);
usePreferences.subscribe(({ decimalSign }) => chooseDecimals(decimalSign));
