/** The made-up Kelpie Sound Desalination Works on its made-up national grid. Lengths in millimetres. */

/** Lower left corner of the sheet on the grid. */
export const SHEET_EAST = 412_300_000;
export const SHEET_NORTH = 7_208_200_000;
/** An A0 sheet (ISO 216) at 1:500. */
export const SCALE = 500;
export const SHEET_WIDTH = 1189 * SCALE;
export const SHEET_HEIGHT = 841 * SCALE;

/** Pens, paper millimetres at the sheet's scale. */
export const THIN = 0.13 * SCALE;
export const MEDIUM = 0.25 * SCALE;
export const THICK = 0.5 * SCALE;

/** Text heights on paper of 2.5, 3.5, 5, 7 and 10 mm at the sheet's scale (ISO 3098). */
export const textHeights = {
  small: 2.5 * SCALE,
  plain: 3.5 * SCALE,
  heading: 5 * SCALE,
  title: 7 * SCALE,
  large: 10 * SCALE,
};

export const colours = {
  ink: '#16324A',
  water: '#1F7A8C',
  seaLine: '#4E9DAA',
  earth: '#A07B4F',
  road: '#6B7280',
  building: '#2B3A4A',
  steel: '#3C5A78',
  seawater: '#0E6F86',
  permeate: '#2563A8',
  brine: '#7A4B8C',
  electric: '#B4530A',
  green: '#5B8A4A',
  grid: '#9AA9B5',
  dimension: '#8A3B2A',
  hatch: '#8593A0',
} as const;
