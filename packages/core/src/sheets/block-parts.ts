import { colourFromHex } from '../drawing/colour.ts';
import type { DrawingUnit } from '../drawing/units.ts';
import type { LegendRow } from './legend.ts';
import { placementOf, type BlockKind, type PaperRect, type Sheet, type SheetBlock } from './sheet.ts';
import {
  LABEL_MM,
  MEDIUM_MM,
  THIN_MM,
  areaOf,
  cornersOf,
  lineOf,
  outlineOf,
  widthOf,
  written,
  type PaperPoint,
  type SheetPart,
} from './sheet-part.ts';
import type { StripFields } from './strip-fields.ts';

/** What blocks are made of. */
export interface BlockContent {
  readonly sheets: readonly Sheet[];
  readonly unit: DrawingUnit;
  readonly fields: StripFields;
  readonly legendOf: (sheet: number) => readonly LegendRow[];
}

const [ROW_MM, HEAD_MM, EDGE_MM] = [4.6, 6, 2] as const;
const TEXT_MM = 2.4;
/** A legend has so many rows at most: what is left is counted. */
const MOST_ROWS = 30;
const LEGEND_MM = { least: 36, most: 80, sample: 10 } as const;
const KEY_PLAN_MM = { widthMm: 60, heightMm: 42 } as const;
/** Columns of the table of revisions: their heads, and their widths. */
const REVISION_COLUMNS = [
  ['Rev.', 10],
  ['Date', 20],
  ['What was changed', 58],
  ['By', 20],
] as const;

/** What blocks are called. */
export const blockNames: Readonly<Record<BlockKind, string>> = {
  legend: 'Legend',
  'key-plan': 'Key plan',
  revisions: 'Revisions',
};

/** How much room a block takes on a sheet, mm. */
export function blockSize(
  kind: BlockKind,
  content: BlockContent,
  sheet: number,
): Pick<PaperRect, 'widthMm' | 'heightMm'> {
  if (kind === 'key-plan') return KEY_PLAN_MM;
  if (kind === 'revisions') {
    const rows = Math.max(content.fields.revisions?.length ?? 0, 1);
    const widthMm = REVISION_COLUMNS.reduce((sum, [, width]) => sum + width, 0);
    return { widthMm, heightMm: HEAD_MM + (rows + 1) * ROW_MM };
  }
  const rows = shownRows(content.legendOf(sheet));
  const widest = rows.reduce((most, { name }) => Math.max(most, widthOf(name, TEXT_MM, 'normal')), 0);
  const widthMm = widest + LEGEND_MM.sample + 4 * EDGE_MM;
  return {
    widthMm: Math.min(Math.max(widthMm, LEGEND_MM.least), LEGEND_MM.most),
    heightMm: HEAD_MM + Math.max(rows.length, 1) * ROW_MM + EDGE_MM,
  };
}

/** A block as a sheet draws it. */
export function blockParts(block: SheetBlock, content: BlockContent, sheet: number): readonly SheetPart[] {
  const rect = { ...block, ...blockSize(block.kind, content, sheet) };
  const head = written(blockNames[block.kind], [rect.leftMm + EDGE_MM, rect.topMm + HEAD_MM - 2], TEXT_MM, {
    weight: 'bold',
  });
  const inside = {
    'key-plan': () => keyPlanParts(rect, content, sheet),
    legend: () => legendParts(rect, shownRows(content.legendOf(sheet))),
    revisions: () => revisionParts(rect, content.fields.revisions ?? []),
  };
  return [areaOf(rect, 'paper'), outlineOf(rect, 'ink', MEDIUM_MM), head, ...inside[block.kind]()];
}

type ShownRow = LegendRow | { readonly name: string; readonly sample: 'none' };

function shownRows(rows: readonly LegendRow[]): readonly ShownRow[] {
  if (rows.length <= MOST_ROWS) return rows;
  const shown = rows.slice(0, MOST_ROWS - 1);
  return [...shown, { name: `and ${rows.length - shown.length} more`, sample: 'none' }];
}

function legendParts({ leftMm, topMm, widthMm }: PaperRect, rows: readonly ShownRow[]): SheetPart[] {
  if (rows.length === 0)
    return [written('Nothing is shown', [leftMm + EDGE_MM, topMm + HEAD_MM + 3], TEXT_MM, { ink: 'muted' })];
  const left = leftMm + EDGE_MM;
  return rows.flatMap((row, k): SheetPart[] => {
    const middle = topMm + HEAD_MM + (k + 0.5) * ROW_MM;
    const text = written(row.name, [left + LEGEND_MM.sample + EDGE_MM, middle + TEXT_MM / 3], TEXT_MM, {
      roomMm: widthMm - LEGEND_MM.sample - 3 * EDGE_MM,
    });
    if (row.sample === 'none') return [text];
    const { r, g, b } = colourFromHex(row.colour);
    const ink = { r, g, b };
    if (row.sample === 'line')
      return [
        lineOf(
          [
            [left, middle],
            [left + LEGEND_MM.sample, middle],
          ],
          ink,
          MEDIUM_MM,
        ),
        text,
      ];
    const box = { leftMm: left, topMm: middle - 1.6, widthMm: LEGEND_MM.sample, heightMm: 3.2 };
    const strokes = [0, 1, 2, 3].map((i) =>
      lineOf(
        [
          [left + 0.5 + i * 2.2, middle + 1.6],
          [left + 3.4 + i * 2.2 - (i === 3 ? 0.5 : 0), middle - 1.6],
        ],
        ink,
        THIN_MM,
      ),
    );
    return [areaOf(box, ink, 0.15), outlineOf(box, ink, THIN_MM), ...strokes, text];
  });
}

function revisionParts(
  { leftMm, topMm, widthMm }: PaperRect,
  rows: NonNullable<StripFields['revisions']>,
): SheetPart[] {
  const parts: SheetPart[] = [];
  const row = (k: number, cells: readonly string[], isHead: boolean): void => {
    const top = topMm + HEAD_MM + k * ROW_MM;
    parts.push(
      lineOf(
        [
          [leftMm, top],
          [leftMm + widthMm, top],
        ],
        'muted',
        THIN_MM,
      ),
    );
    let left = leftMm;
    REVISION_COLUMNS.forEach(([, width], column) => {
      const size = isHead ? LABEL_MM : TEXT_MM;
      const ink = isHead ? 'muted' : 'ink';
      parts.push(written(cells[column]!, [left + EDGE_MM, top + ROW_MM - 1.4], size, { roomMm: width - 2.5, ink }));
      left += width;
    });
  };
  row(
    0,
    REVISION_COLUMNS.map(([name]) => name),
    true,
  );
  rows.forEach(({ revision, date, what, author }, k) => row(k + 1, [revision, date, what, author], false));
  return parts;
}

/** The plans of all sheets of a set as they lie beside each other, this one dark; their numbers lead to them. */
function keyPlanParts(rect: PaperRect, { sheets, unit }: BlockContent, own: number): SheetPart[] {
  const outlines = sheets.flatMap(({ frames }, sheet) =>
    frames
      .filter(({ view }) => !view.solid)
      .map((frame) => {
        const { toDrawing } = placementOf(frame, unit);
        return { sheet, corners: cornersOf(frame).map(([x, y]) => toDrawing(x, y)) };
      }),
  );
  const xs = outlines.flatMap(({ corners }) => corners.map(([x]) => x));
  const ys = outlines.flatMap(({ corners }) => corners.map(([, y]) => y));
  if (xs.length === 0)
    return [
      written('No plans in this set', [rect.leftMm + EDGE_MM, rect.topMm + HEAD_MM + 3], TEXT_MM, { ink: 'muted' }),
    ];
  const least = (all: readonly number[]): number => all.reduce((a, b) => Math.min(a, b));
  const most = (all: readonly number[]): number => all.reduce((a, b) => Math.max(a, b));
  const [minX, maxX, minY, maxY] = [least(xs), most(xs), least(ys), most(ys)];
  const room = {
    leftMm: rect.leftMm + EDGE_MM,
    topMm: rect.topMm + HEAD_MM,
    widthMm: rect.widthMm - 2 * EDGE_MM,
    heightMm: rect.heightMm - HEAD_MM - EDGE_MM,
  };
  const scale = Math.min(room.widthMm / (maxX - minX), room.heightMm / (maxY - minY));
  const place = ([x, y]: readonly [number, number]): PaperPoint => [
    room.leftMm + room.widthMm / 2 + (x - (minX + maxX) / 2) * scale,
    room.topMm + room.heightMm / 2 - (y - (minY + maxY) / 2) * scale,
  ];
  const parts: SheetPart[] = [];
  for (const { sheet, corners } of [...outlines].sort((a, b) => Number(a.sheet === own) - Number(b.sheet === own))) {
    const ring = corners.map(place);
    const isOwn = sheet === own;
    if (isOwn) parts.push({ layer: 'Sheet', ink: 'accent', opacity: 0.25, kind: 'area', rings: [ring] });
    const outline = lineOf(ring, isOwn ? 'accent' : 'muted', isOwn ? MEDIUM_MM : THIN_MM) as SheetPart & {
      kind: 'line';
    };
    parts.push({ ...outline, isClosed: true });
    const number = String(sheet + 1);
    const [x, y] = [0, 1].map((axis) => ring.reduce((sum, point) => sum + point[axis]!, 0) / ring.length) as [
      number,
      number,
    ];
    const wide = most(ring.map(([px]) => px)) - least(ring.map(([px]) => px));
    const size = Math.min(TEXT_MM, wide / 2);
    if (size < 0.8) continue; // nobody could read it
    const at: PaperPoint = [x - widthOf(number, size, 'normal') / 2, y + size / 3];
    parts.push(written(number, at, size, { ink: isOwn ? 'ink' : 'muted', leadsTo: isOwn ? null : sheet }));
  }
  return parts;
}
