import { formatScale } from '../camera/scale.ts';
import type { DrawingUnit } from '../drawing/units.ts';
import { rotate } from '../geometry/quaternion.ts';
import { paperNameOf } from './paper.ts';
import { paperScaleBar } from './scale-bar.ts';
import { blockParts, type BlockContent } from './block-parts.ts';
import {
  borderOf,
  stripOf,
  type MatchLine,
  type PaperRect,
  type Sheet,
  type FramedView,
  type SheetFrame,
} from './sheet.ts';
import {
  LABEL_MM,
  MATCH_MM,
  MEDIUM_MM,
  TEXT_MM,
  THICK_MM,
  THIN_MM,
  TITLE_MM,
  areaOf,
  lineOf as line,
  outlineOf,
  widthOf,
  written,
  type PaperPoint,
  type SheetPart,
} from './sheet-part.ts';
import type { StripFields } from './strip-fields.ts';

/** Most of the strip that the bar takes, mm. */
const MOST_BAR_MM = 60;
const BAR_HEIGHT_MM = 2;
/** A set of sheets with what its parts are made of. */
export interface SheetSetContent extends BlockContent {
  readonly unit: DrawingUnit;
  readonly fields: StripFields;
}

/**
 * What a sheet of a set draws beside its views: its border, edges and titles of views, match lines with the names of the
 * sheets that go on beyond them, its blocks, and the strip along the lower border: north and the bar of the first view, then
 * what the sheet is.
 */
export function sheetParts(set: SheetSetContent, index: number): readonly SheetPart[] {
  const { sheets, fields, unit } = set;
  const sheet = sheets[index]!;
  const strip = stripOf(sheet.paper);
  const parts: SheetPart[] = [];
  for (const rect of [...sheet.frames, borderOf(sheet.paper)]) parts.push(outlineOf(rect, 'ink', THICK_MM));
  for (const frame of sheet.frames) parts.push(...titleParts(frame));
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
    const northRad = northOnPaper(view);
    if (northRad !== null) parts.push(...northParts(leftMm + 6, top + strip.heightMm / 2, northRad));
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
  for (const block of sheet.blocks ?? []) parts.push(...blockParts(block, set, index));
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

/** A label in the lower left corner of a view: its title and its scale. */
function titleParts({ title = '', view, ...rect }: SheetFrame): SheetPart[] {
  if (title.trim() === '') return [];
  const scale = formatScale(view.denominator);
  const gap = 3;
  const roomMm = Math.max(rect.widthMm - widthOf(scale, LABEL_MM, 'normal') - 3 * gap, 10);
  const name = written(title, [rect.leftMm + 2, rect.topMm + rect.heightMm - 2], TEXT_MM, { weight: 'bold', roomMm });
  if (name.kind !== 'text') return [];
  const nameMm = widthOf(name.text, name.sizeMm, 'bold');
  const scaleMm = widthOf(scale, LABEL_MM, 'normal');
  const label = { leftMm: rect.leftMm, widthMm: 2 + nameMm + gap + scaleMm + 2, heightMm: 6.2 };
  const box = { ...label, topMm: rect.topMm + rect.heightMm - label.heightMm };
  const at: PaperPoint = [rect.leftMm + 2 + nameMm + gap, rect.topMm + rect.heightMm - 2];
  return [areaOf(box, 'paper'), outlineOf(box, 'ink', THIN_MM), name, written(scale, at, LABEL_MM, { ink: 'muted' })];
}

/** Where north lies on paper, clockwise from what is up there turned back; null where a model is not seen from above. */
function northOnPaper(view: FramedView): number | null {
  if (!view.solid) return view.bearingRad;
  const { x, y, z } = rotate(view.solid.orientation, { x: 0, y: 0, z: 1 });
  if (z < 1 - 1e-6 || Math.hypot(x, y) > 1e-3) return null;
  const up = rotate(view.solid.orientation, { x: 0, y: 1, z: 0 });
  return view.bearingRad + Math.atan2(up.x, up.y);
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
    { layer: 'Sheet', ink: 'ink', kind: 'area', rings: [[tip, left, tail]] },
    { ...edge, points: [tip, left, tail, right] },
    written('N', [xMm - 8.6 * sin - 0.9, yMm - 8.6 * cos + 1], 2.6, { weight: 'bold' }),
  ];
}

function barParts(leftMm: number, topMm: number, denominator: number, unit: DrawingUnit, roomMm: number): SheetPart[] {
  const { fieldMm, labels } = paperScaleBar(denominator, unit, roomMm);
  const parts: SheetPart[] = [];
  for (let k = 0; k < labels.length - 1; k++) {
    const rect = { leftMm: leftMm + k * fieldMm, topMm, widthMm: fieldMm, heightMm: BAR_HEIGHT_MM };
    if (k % 2 === 0) parts.push(areaOf(rect, 'ink'));
    parts.push(outlineOf(rect, 'ink', THIN_MM));
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
