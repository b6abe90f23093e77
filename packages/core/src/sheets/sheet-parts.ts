import { formatScale } from '../camera/scale.ts';
import { letterAdvance } from '../drawing/letter-advance.ts';
import type { DrawingUnit } from '../drawing/units.ts';
import { paperNameOf } from './paper.ts';
import { paperScaleBar } from './scale-bar.ts';
import { borderOf, stripOf, type MatchLine, type PaperRect, type Sheet } from './sheet.ts';
import type { StripFields } from './strip-fields.ts';

/** Inks of what a sheet draws itself. */
export const paperInks = {
  ink: { r: 22, g: 50, b: 74 },
  muted: { r: 94, g: 113, b: 130 },
  accent: { r: 217, g: 83, b: 44 },
} as const;
export type PaperInk = keyof typeof paperInks;
export type PaperPoint = readonly [xMm: number, yMm: number];

/** What a sheet draws beside its views; mm from the paper’s upper left corner, y down. */
export type SheetPart = { readonly layer: 'Sheet' | 'Match lines'; readonly ink: PaperInk } & (
  | {
      readonly kind: 'line';
      readonly points: readonly PaperPoint[];
      readonly widthMm: number;
      readonly dashesMm: readonly number[];
      readonly isClosed: boolean;
    }
  | { readonly kind: 'area'; readonly points: readonly PaperPoint[] }
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
);

const [LABEL_MM, TEXT_MM, TITLE_MM, MATCH_MM] = [2, 3, 4.4, 2.5] as const;
/** Widths of ISO 128-2. */
const [THIN_MM, MEDIUM_MM, THICK_MM] = [0.18, 0.35, 0.7] as const;
/** Most of the strip that the bar takes, mm. */
const MOST_BAR_MM = 60;
const BAR_HEIGHT_MM = 2;
/** Texts that are wider than their room are written smaller, down to so much of their size, then cut. */
const LEAST_SIZE = 2 / 3;

/**
 * What a sheet of a set draws beside its views: its border, edges of views, match lines with the names of the sheets that
 * go on beyond them, and the strip along the lower border: north and the bar of the first view, then what the sheet is.
 */
export function sheetParts(
  sheets: readonly Sheet[],
  index: number,
  fields: StripFields,
  unit: DrawingUnit,
): readonly SheetPart[] {
  const sheet = sheets[index]!;
  const strip = stripOf(sheet.paper);
  const parts: SheetPart[] = [];
  const own = { layer: 'Sheet', ink: 'ink' } as const;
  for (const rect of [...sheet.frames, borderOf(sheet.paper)])
    parts.push({ ...own, kind: 'line', points: cornersOf(rect), widthMm: THICK_MM, dashesMm: [], isClosed: true });
  for (const line of sheet.matchLines) parts.push(...matchLineParts(line, sheets));
  const top = strip.topMm;
  parts.push(
    line(
      [
        [strip.leftMm, top],
        [strip.leftMm + strip.widthMm, top],
      ],
      'accent',
      THICK_MM,
    ),
  );
  let leftMm = strip.leftMm + 4;
  const view = sheet.frames[0]?.view;
  if (view) {
    parts.push(...northParts(leftMm + 6, top + strip.heightMm / 2, view.bearingRad));
    const roomMm = Math.min(MOST_BAR_MM, (strip.widthMm - 20) / 4);
    parts.push(...barParts(leftMm + 16, top + 11, view.denominator, unit, roomMm));
    leftMm += 16 + roomMm + 10;
  }
  const scales = [...new Set(sheet.frames.map((frame) => formatScale(frame.view.denominator)))];
  const told: readonly Field[] = [
    { label: fields.project || 'Drawing', text: fields.title, share: 5, isTitle: true },
    { label: 'Sheet', text: sheet.name, share: 4 },
    { label: 'Scale', text: [...scales, paperNameOf(sheet.paper) ?? 'own size'].join(', '), share: 2.4 },
    { label: 'Number', text: fields.number, share: 2.4 },
    { label: 'Revision', text: fields.revision, share: 1.4 },
    { label: 'By, on', text: [fields.author, fields.date].filter(Boolean).join(', '), share: 3 },
    { label: 'Sheet of set', text: `${index + 1} of ${sheets.length}`, share: 1.6 },
  ];
  const room = { ...strip, leftMm, widthMm: strip.leftMm + strip.widthMm - leftMm };
  parts.push(
    ...fieldParts(
      room,
      told.filter(({ text }) => text !== ''),
    ),
  );
  return parts;
}

/** A field of the strip: what it is, and what it says. */
interface Field {
  readonly label: string;
  readonly text: string;
  /** Of the room that fields share. */
  readonly share: number;
  readonly isTitle?: boolean;
}

/** In one row, or in two where that would be tight. */
function fieldParts(room: PaperRect, fields: readonly Field[]): SheetPart[] {
  const all = fields.reduce((sum, { share }) => sum + share, 0);
  const isTight = room.widthMm / all < 9;
  const half = fields.findIndex((_, k) => 2 * fields.slice(0, k + 1).reduce((sum, { share }) => sum + share, 0) >= all);
  const rows = isTight ? [fields.slice(0, half + 1), fields.slice(half + 1)] : [fields];
  return rows.flatMap((row, index) => {
    const shares = row.reduce((sum, { share }) => sum + share, 0);
    const heightMm = room.heightMm / rows.length;
    const topMm = room.topMm + index * heightMm;
    let nextMm = room.leftMm;
    return row.flatMap(({ label, text, share, isTitle }): SheetPart[] => {
      const [leftMm, widthMm] = [nextMm, (room.widthMm * share) / shares];
      nextMm += widthMm;
      const baseMm = topMm + heightMm / 2;
      const sizeMm = isTitle && !isTight ? TITLE_MM : TEXT_MM;
      return [
        line(
          [
            [leftMm, topMm + 2],
            [leftMm, topMm + heightMm - 2],
          ],
          'muted',
          THIN_MM,
        ),
        written(label, [leftMm + 2, baseMm - (isTight ? 1.2 : 2)], LABEL_MM, { ink: 'muted', roomMm: widthMm - 3 }),
        written(text, [leftMm + 2, baseMm + (isTight ? 2.6 : 3.4)], sizeMm, {
          roomMm: widthMm - 3,
          weight: isTitle ? 'bold' : 'normal',
        }),
      ];
    });
  });
}

/** A half-dark needle that points north. */
function northParts(xMm: number, yMm: number, bearingRad: number): SheetPart[] {
  // north lies as far anticlockwise from the top as the top lies clockwise from north
  const [cos, sin] = [Math.cos(bearingRad), Math.sin(bearingRad)];
  const at = (along: number, across: number): PaperPoint => [
    xMm - along * sin + across * cos,
    yMm - along * cos - across * sin,
  ];
  const [tip, tail, left, right] = [at(6.5, 0), at(-3, 0), at(-6, -3), at(-6, 3)];
  const edge = { layer: 'Sheet', ink: 'ink', kind: 'line', widthMm: THIN_MM, dashesMm: [], isClosed: true } as const;
  return [
    { layer: 'Sheet', ink: 'ink', kind: 'area', points: [tip, left, tail] },
    { ...edge, points: [tip, left, tail, right] },
    written('N', [xMm - 8.6 * sin - 0.9, yMm - 8.6 * cos + 1], 2.6, { weight: 'bold' }),
  ];
}

function barParts(leftMm: number, topMm: number, denominator: number, unit: DrawingUnit, roomMm: number): SheetPart[] {
  const { fieldMm, labels } = paperScaleBar(denominator, unit, roomMm);
  const parts: SheetPart[] = [];
  for (let k = 0; k < labels.length - 1; k++) {
    const points = cornersOf({ leftMm: leftMm + k * fieldMm, topMm, widthMm: fieldMm, heightMm: BAR_HEIGHT_MM });
    if (k % 2 === 0) parts.push({ layer: 'Sheet', ink: 'ink', kind: 'area', points });
    parts.push({ layer: 'Sheet', ink: 'ink', kind: 'line', points, widthMm: THIN_MM, dashesMm: [], isClosed: true });
  }
  labels.forEach((label, k) => {
    // the first and the last always, those between where they have room
    if (k % 2 === 1 && fieldMm < 12) return;
    const middleMm = leftMm + k * fieldMm - widthOf(label, LABEL_MM, 'normal') / 2;
    parts.push(written(label, [middleMm, topMm + BAR_HEIGHT_MM + 2.8], LABEL_MM));
  });
  parts.push(written(formatScale(denominator), [leftMm, topMm - 1.8], TEXT_MM, { roomMm, weight: 'bold' }));
  return parts;
}

function matchLineParts({ from, to, sheet }: MatchLine, sheets: readonly Sheet[]): SheetPart[] {
  const text = `Match line: see ${sheets[sheet]?.name ?? `sheet ${sheet + 1}`}`;
  const isUpright = from[0] === to[0];
  const half = widthOf(text, MATCH_MM, 'normal') / 2;
  const [x, y] = [(from[0] + to[0]) / 2, (from[1] + to[1]) / 2];
  const at: PaperPoint = isUpright ? [x - 1, y + half] : [x - half, y - 1];
  const look = { layer: 'Match lines', ink: 'accent' } as const;
  return [
    { ...look, kind: 'line', points: [from, to], widthMm: MEDIUM_MM, dashesMm: [6, 1.5, 1, 1.5], isClosed: false },
    { ...look, kind: 'text', text, at, sizeMm: MATCH_MM, weight: 'normal', isUpright, leadsTo: sheet },
  ];
}

const line = (points: readonly PaperPoint[], ink: PaperInk, widthMm: number): SheetPart => ({
  layer: 'Sheet',
  ink,
  kind: 'line',
  points,
  widthMm,
  dashesMm: [],
  isClosed: false,
});

/** A text that fits its room: reduced in size down to {@link LEAST_SIZE}, then truncated. */
function written(
  text: string,
  at: PaperPoint,
  sizeMm: number,
  {
    ink = 'ink',
    roomMm = Infinity,
    weight = 'normal',
  }: { ink?: PaperInk; roomMm?: number; weight?: 'normal' | 'bold' } = {},
): SheetPart {
  const widthMm = widthOf(text, sizeMm, weight);
  const size = widthMm > roomMm ? sizeMm * Math.max(roomMm / widthMm, LEAST_SIZE) : sizeMm;
  let letters = [...text];
  while (letters.length > 1 && widthOf(letters.join(''), size, weight) > roomMm * (1 + 1e-9))
    letters = [...letters.slice(0, letters.at(-1) === '…' ? -2 : -1), '…'];
  const shown = letters.join('');
  return { layer: 'Sheet', ink, kind: 'text', text: shown, at, sizeMm: size, weight, isUpright: false, leadsTo: null };
}

/** Width of a text as the shipped face writes it, in the unit of its size. */
export const widthOf = (text: string, size: number, weight: 'normal' | 'bold'): number =>
  [...text].reduce((sum, letter) => sum + letterAdvance(letter, size, weight === 'bold'), 0);

/** Clockwise on paper from the upper left. */
const cornersOf = ({ leftMm, topMm, widthMm, heightMm }: PaperRect): readonly PaperPoint[] => [
  [leftMm, topMm],
  [leftMm + widthMm, topMm],
  [leftMm + widthMm, topMm + heightMm],
  [leftMm, topMm + heightMm],
];
