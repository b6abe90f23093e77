import { letterAdvance } from '../drawing/letter-advance.ts';
import type { PaperRect } from './sheet.ts';

/** Inks of what a sheet draws itself. */
export const paperInks = {
  ink: { r: 22, g: 50, b: 74 },
  muted: { r: 94, g: 113, b: 130 },
  accent: { r: 217, g: 83, b: 44 },
  paper: { r: 255, g: 255, b: 255 },
} as const;
export type PaperInk = keyof typeof paperInks | { readonly r: number; readonly g: number; readonly b: number };
export type PaperPoint = readonly [xMm: number, yMm: number];

/** Red, green, blue of an ink, 0 … 255. */
export const inkOf = (ink: PaperInk): { readonly r: number; readonly g: number; readonly b: number } =>
  typeof ink === 'string' ? paperInks[ink] : ink;

/** What a sheet draws beside its views, or on top of them; mm from the paper’s upper left corner, y down. */
export type SheetPart = {
  readonly layer: string;
  readonly ink: PaperInk;
  /** 0 … 1; 1 if absent. */
  readonly opacity?: number;
} & (
  | {
      readonly kind: 'line';
      readonly points: readonly PaperPoint[];
      readonly widthMm: number;
      readonly dashesMm: readonly number[];
      readonly isClosed: boolean;
    }
  | {
      readonly kind: 'area';
      /** Filled by the even-odd rule. */
      readonly rings: readonly (readonly PaperPoint[])[];
    }
  | {
      readonly kind: 'text';
      readonly text: string;
      /** Where the baseline begins. */
      readonly at: PaperPoint;
      readonly sizeMm: number;
      readonly weight: 'normal' | 'bold';
      /** Upright texts are read from the right. */
      readonly isUpright: boolean;
      /** The sheet of the set that it leads to. */
      readonly leadsTo: number | null;
    }
  /** Leads to a sheet of the set, without being drawn. */
  | { readonly kind: 'link'; readonly rect: PaperRect; readonly leadsTo: number }
);

/** Widths of ISO 128-2. */
export const [THIN_MM, MEDIUM_MM, THICK_MM] = [0.18, 0.35, 0.7] as const;
/** Heights of letters. */
export const [LABEL_MM, TEXT_MM, TITLE_MM, MATCH_MM] = [2, 3, 4.4, 2.5] as const;
/** Texts that are wider than their room are written smaller, down to so much of their size, then cut. */
const LEAST_SIZE = 2 / 3;

/** A line through points. */
export const lineOf = (points: readonly PaperPoint[], ink: PaperInk, widthMm: number): SheetPart => ({
  layer: 'Sheet',
  ink,
  kind: 'line',
  points,
  widthMm,
  dashesMm: [],
  isClosed: false,
});

/** The outline of a rectangle. */
export const outlineOf = (rect: PaperRect, ink: PaperInk, widthMm: number): SheetPart => ({
  ...(lineOf(cornersOf(rect), ink, widthMm) as SheetPart & { kind: 'line' }),
  isClosed: true,
});

/** A rectangle full of ink. */
export const areaOf = (rect: PaperRect, ink: PaperInk, opacity = 1): SheetPart => ({
  layer: 'Sheet',
  ink,
  opacity,
  kind: 'area',
  rings: [cornersOf(rect)],
});

/** A text that fits its room: reduced in size down to {@link LEAST_SIZE}, then truncated. */
export function written(
  text: string,
  at: PaperPoint,
  sizeMm: number,
  {
    ink = 'ink',
    roomMm = Infinity,
    weight = 'normal',
    leadsTo = null,
  }: { ink?: PaperInk; roomMm?: number; weight?: 'normal' | 'bold'; leadsTo?: number | null } = {},
): SheetPart {
  const widthMm = widthOf(text, sizeMm, weight);
  const size = widthMm > roomMm ? sizeMm * Math.max(roomMm / widthMm, LEAST_SIZE) : sizeMm;
  let letters = [...text];
  while (letters.length > 1 && widthOf(letters.join(''), size, weight) > roomMm * (1 + 1e-9))
    letters = [...letters.slice(0, letters.at(-1) === '…' ? -2 : -1), '…'];
  const shown = letters.join('');
  return { layer: 'Sheet', ink, kind: 'text', text: shown, at, sizeMm: size, weight, isUpright: false, leadsTo };
}

/** Width of a text as the shipped face writes it, in the unit of its size. */
export const widthOf = (text: string, size: number, weight: 'normal' | 'bold'): number =>
  [...text].reduce((sum, letter) => sum + letterAdvance(letter, size, weight === 'bold'), 0);

/** Clockwise on paper from the upper left. */
export const cornersOf = ({ leftMm, topMm, widthMm, heightMm }: PaperRect): readonly PaperPoint[] => [
  [leftMm, topMm],
  [leftMm + widthMm, topMm],
  [leftMm + widthMm, topMm + heightMm],
  [leftMm, topMm + heightMm],
];
