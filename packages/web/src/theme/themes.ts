import { theme, type ThemeConfig } from 'antd';
import { colourFromHex } from '@gull-pane/core/drawing/colour';
import type { Colour } from '@gull-pane/core/drawing/model';
import type { ThemeName } from '../store/preferences-store';

/** The roles that colours play; the style sheet has them under the same names. */
export interface Palette {
  readonly ground: string;
  readonly panel: string;
  readonly raised: string;
  readonly ink: string;
  readonly muted: string;
  readonly accent: string;
  readonly teal: string;
  readonly warning: string;
  readonly line: string;
}

export const palettes: Readonly<Record<ThemeName, Palette>> = {
  'chart-room': {
    ground: '#f7f3ea',
    panel: '#fffdf8',
    raised: '#f1ebdd',
    ink: '#16324a',
    muted: '#54687a',
    accent: '#d9532c',
    teal: '#1f7a8c',
    warning: '#8f5d14',
    line: '#ddd3bf',
  },
  'night-watch': {
    ground: '#0f1b26',
    panel: '#16273a',
    raised: '#1e3349',
    ink: '#e6edf2',
    muted: '#9db0c0',
    accent: '#ff8a5b',
    teal: '#5cc4d4',
    warning: '#e3b261',
    line: '#2b435c',
  },
};

/** What the drawing lies on. */
export const groundOf = (name: ThemeName): Colour => colourFromHex(palettes[name].ground);

/** How much larger than usual the browser's own letters are. */
const lettersScale = (): number => Number.parseFloat(getComputedStyle(document.documentElement).fontSize) / 16;

/** The component library in our colours, corners and letters. */
export function componentTheme(name: ThemeName, prefersStill: boolean): ThemeConfig {
  const palette = palettes[name];
  return {
    algorithm: name === 'night-watch' ? theme.darkAlgorithm : theme.defaultAlgorithm,
    token: {
      // a panel whose fading out takes no time may never be told that it has ended
      motion: !prefersStill,
      colorPrimary: palette.teal,
      colorInfo: palette.teal,
      colorLink: palette.teal,
      colorError: palette.accent,
      colorWarning: palette.warning,
      colorText: palette.ink,
      colorTextSecondary: palette.muted,
      colorTextDescription: palette.muted,
      colorTextPlaceholder: palette.muted,
      colorBgBase: palette.panel,
      colorBgContainer: palette.panel,
      colorBgElevated: palette.panel,
      colorBgLayout: palette.ground,
      colorBorder: palette.line,
      colorBorderSecondary: palette.line,
      borderRadius: 4,
      fontFamily: '"Source Sans 3 Variable", sans-serif',
      // as large as the reader has set letters to be
      fontSize: 14 * lettersScale(),
      controlHeight: 32 * lettersScale(),
      motionDurationMid: '0.12s',
      motionDurationSlow: '0.18s',
    },
    // letters on the accent are as dark as it is light
    components: {
      Button: { primaryColor: name === 'night-watch' ? palette.ground : palette.panel },
      // tips are the page turned over
      Tooltip: { colorBgSpotlight: palette.ink, colorTextLightSolid: palette.panel },
    },
  };
}
