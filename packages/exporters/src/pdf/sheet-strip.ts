import { formatScale } from '@gull-pane/core/camera/scale';
import type { DrawingUnit } from '@gull-pane/core/drawing/units';
import { paperNameOf } from '@gull-pane/core/sheets/paper';
import { paperScaleBar } from '@gull-pane/core/sheets/scale-bar';
import { stripOf, type PaperRect, type Sheet } from '@gull-pane/core/sheets/sheet';
import { POINTS_PER_MM, type Page } from './frame-content.ts';
import { pdfNumber } from './path-operators.ts';
import type { StripFields } from './printed-set.ts';

/** Ink and accent of the printed frame, red, green, blue from 0 to 1. */
const [INK, MUTED, ACCENT] = ['0.086 0.196 0.29', '0.369 0.443 0.51', '0.851 0.325 0.173'] as const;
const [LABEL_MM, TEXT_MM, TITLE_MM] = [2, 3, 4.4] as const;
/** Most of the strip that the bar takes, mm. */
const BAR_MM = 60;
const BAR_HEIGHT_MM = 2;

/** A field of the strip: what it is, and what it says. */
interface Field {
  readonly label: string;
  readonly text: string;
  /** Of the room that fields share. */
  readonly share: number;
  readonly isTitle?: boolean;
}

/**
 * Draws the strip along the lower border: north and the bar of the first frame at the left, then what the sheet is, from
 * the drawing's name to "2 of 7".
 */
export function drawStrip(
  page: Page,
  sheet: Sheet,
  place: { readonly index: number; readonly count: number },
  fields: StripFields,
  unit: DrawingUnit,
): void {
  const strip = stripOf(sheet.paper);
  page.layers.begin('Sheet');
  rule(page, strip.leftMm, strip.topMm, strip.leftMm + strip.widthMm, strip.topMm, ACCENT, 0.7);
  const view = sheet.frames[0]?.view;
  let leftMm = strip.leftMm + 4;
  if (view) {
    drawNorth(page, leftMm + 6, strip.topMm + strip.heightMm / 2, view.bearingRad);
    leftMm += 16;
    const room = Math.min(BAR_MM, (strip.widthMm - 20) / 4);
    drawBar(page, leftMm, strip.topMm + 11, view.denominator, unit, room);
    leftMm += room + 10;
  }
  const scales = [...new Set(sheet.frames.map((frame) => formatScale(frame.view.denominator)))];
  const told: readonly Field[] = [
    { label: fields.project || 'Drawing', text: fields.title, share: 5, isTitle: true },
    { label: 'Sheet', text: sheet.name, share: 4 },
    { label: 'Scale', text: [...scales, paperNameOf(sheet.paper) ?? 'own size'].join(', '), share: 2.4 },
    { label: 'Number', text: fields.number, share: 2.4 },
    { label: 'Revision', text: fields.revision, share: 1.4 },
    { label: 'By, on', text: [fields.author, fields.date].filter(Boolean).join(', '), share: 3 },
    { label: 'Sheet of set', text: `${place.index + 1} of ${place.count}`, share: 1.6 },
  ];
  const shown = told.filter(({ text }) => text !== '');
  drawFields(page, { ...strip, leftMm, widthMm: strip.leftMm + strip.widthMm - leftMm }, shown);
  page.layers.end();
}

/** In one row, or in two where that would be tight. */
function drawFields(page: Page, room: PaperRect, fields: readonly Field[]): void {
  const all = fields.reduce((sum, { share }) => sum + share, 0);
  const isTight = room.widthMm / all < 9;
  const half = fields.findIndex((_, k) => 2 * fields.slice(0, k + 1).reduce((sum, { share }) => sum + share, 0) >= all);
  const rows = isTight ? [fields.slice(0, half + 1), fields.slice(half + 1)] : [fields];
  rows.forEach((row, index) => {
    const shares = row.reduce((sum, { share }) => sum + share, 0);
    const heightMm = room.heightMm / rows.length;
    const topMm = room.topMm + index * heightMm;
    let leftMm = room.leftMm;
    for (const { label, text, share, isTitle } of row) {
      const widthMm = (room.widthMm * share) / shares;
      rule(page, leftMm, topMm + 2, leftMm, topMm + heightMm - 2, MUTED, 0.18);
      const baseMm = topMm + heightMm / 2;
      write(page, label, leftMm + 2, baseMm - (isTight ? 1.2 : 2), LABEL_MM, MUTED, widthMm - 3);
      const sizeMm = isTitle && !isTight ? TITLE_MM : TEXT_MM;
      write(
        page,
        text,
        leftMm + 2,
        baseMm + (isTight ? 2.6 : 3.4),
        sizeMm,
        INK,
        widthMm - 3,
        isTitle ? 'bold' : 'normal',
      );
      leftMm += widthMm;
    }
  });
}

/** A half-dark needle that points north. */
function drawNorth(page: Page, xMm: number, yMm: number, bearingRad: number): void {
  // north lies as far anticlockwise from the top as the top lies clockwise from north
  const at = (along: number, across: number): string => {
    const [cos, sin] = [Math.cos(bearingRad), Math.sin(bearingRad)];
    const [x, y] = [xMm - along * sin + across * cos, yMm - along * cos - across * sin];
    return `${pdfNumber(x * POINTS_PER_MM)} ${pdfNumber(y * POINTS_PER_MM)}`;
  };
  const [tip, tail, left, right] = [at(6.5, 0), at(-3, 0), at(-6, -3), at(-6, 3)];
  page.layers.write(
    `q ${INK} rg ${INK} RG ${pdfNumber(0.18 * POINTS_PER_MM)} w\n${tip} m ${left} l ${tail} l h f\n` +
      `${tip} m ${right} l ${tail} l h ${tip} m ${left} l ${tail} l ${right} l h S Q`,
  );
  const [x, y] = [xMm - 8.6 * Math.sin(bearingRad), yMm - 8.6 * Math.cos(bearingRad)];
  write(page, 'N', x - 0.9, y + 1, 2.6, INK, 5, 'bold');
}

function drawBar(
  page: Page,
  leftMm: number,
  topMm: number,
  denominator: number,
  unit: DrawingUnit,
  roomMm: number,
): void {
  const { fieldMm, labels } = paperScaleBar(denominator, unit, roomMm);
  const rect = (k: number): string =>
    [leftMm + k * fieldMm, topMm, fieldMm, BAR_HEIGHT_MM].map((mm) => pdfNumber(mm * POINTS_PER_MM)).join(' ');
  const dark = [0, 2].map((k) => `${rect(k)} re f`).join('\n');
  const all = [0, 1, 2, 3].map((k) => `${rect(k)} re S`).join('\n');
  page.layers.write(`q ${INK} rg ${INK} RG ${pdfNumber(0.18 * POINTS_PER_MM)} w\n${dark}\n${all} Q`);
  labels.forEach((label, k) => {
    // the first and the last always, those between where they have room
    if (k % 2 === 1 && fieldMm < 12) return;
    const width = page.fonts.widthOf(label, LABEL_MM * POINTS_PER_MM, 'normal') / POINTS_PER_MM;
    write(page, label, leftMm + k * fieldMm - width / 2, topMm + BAR_HEIGHT_MM + 2.8, LABEL_MM, INK, Infinity);
  });
  write(page, formatScale(denominator), leftMm, topMm - 1.8, TEXT_MM, INK, roomMm, 'bold');
}

/** A straight line of ink. */
export function rule(
  { layers }: Page,
  x0: number,
  y0: number,
  x1: number,
  y1: number,
  ink: string,
  widthMm: number,
  dashes = '',
): void {
  const [a, b, c, d] = [x0, y0, x1, y1].map((mm) => pdfNumber(mm * POINTS_PER_MM));
  layers.write(`q ${ink} RG ${pdfNumber(widthMm * POINTS_PER_MM)} w [${dashes}] 0 d ${a} ${b} m ${c} ${d} l S Q`);
}

/** Writes a text; one that is wider than its room is written smaller, down to two thirds, then cut. */
export function write(
  { document, fonts, layers }: Page,
  text: string,
  xMm: number,
  baseMm: number,
  sizeMm: number,
  ink: string,
  roomMm: number,
  weight: 'normal' | 'bold' = 'normal',
): void {
  let sizePt = sizeMm * POINTS_PER_MM;
  const roomPt = roomMm * POINTS_PER_MM;
  const width = fonts.widthOf(text, sizePt, weight);
  if (width > roomPt) sizePt *= Math.max(roomPt / width, 2 / 3);
  let letters = [...text];
  while (letters.length > 1 && fonts.widthOf(letters.join(''), sizePt, weight) > roomPt * (1 + 1e-6))
    letters = [...letters.slice(0, -2), '…'];
  document.save();
  layers.write(`${ink} rg`);
  fonts.write(letters.join(''), xMm * POINTS_PER_MM, baseMm * POINTS_PER_MM, sizePt, weight);
  document.restore();
}
