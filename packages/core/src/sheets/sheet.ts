import { mmPerUnit, type DrawingUnit } from '../drawing/units.ts';
import type { Quaternion } from '../geometry/quaternion.ts';
import type { PaperSize } from './paper.ts';

/** A rectangle on paper, mm from its upper left corner. */
export interface PaperRect {
  readonly leftMm: number;
  readonly topMm: number;
  readonly widthMm: number;
  readonly heightMm: number;
}

/** What a frame shows. */
export interface FramedView {
  /** What lies in the frame's middle, drawing units. */
  readonly x: number;
  readonly y: number;
  /** Of a plan: what lies at the frame's top, clockwise from north. Of a model: how far what is seen is turned, anticlockwise. */
  readonly bearingRad: number;
  /** The N of 1:N, exact on paper; in perspective in the plane through the middle. */
  readonly denominator: number;
  /** How a model is looked at; absent for plans. */
  readonly solid?: SolidSight;
}

/** From where a model is looked at. */
export interface SolidSight {
  /** Height of what lies in the frame's middle, drawing units. */
  readonly z: number;
  /** Turns axes of the view (x right, y up, z towards the viewer) into the world's. */
  readonly orientation: Quaternion;
  /** From the middle to the eye, drawing units; absent in parallel views. */
  readonly eyeDistance?: number;
}

/** A view on a sheet. */
export interface SheetFrame extends PaperRect {
  readonly view: FramedView;
  /** What stands below it; nothing if absent or empty. */
  readonly title?: string;
}

/** What a sheet may show beside its views, in a place of its own. */
export const blockKinds = ['legend', 'key-plan', 'revisions'] as const;
export type BlockKind = (typeof blockKinds)[number];

/** A block of a sheet; its size comes from what it shows. Mm from the paper's upper left corner. */
export interface SheetBlock {
  readonly kind: BlockKind;
  readonly leftMm: number;
  readonly topMm: number;
}

/** The line along which a sheet continues on another one of its set. */
export interface MatchLine {
  /** Ends on the paper, mm from its upper left corner. */
  readonly from: readonly [xMm: number, yMm: number];
  readonly to: readonly [xMm: number, yMm: number];
  /** Index of the other sheet in its set. */
  readonly sheet: number;
}

/** A page laid out for paper. */
export interface Sheet {
  readonly name: string;
  readonly paper: PaperSize;
  readonly frames: readonly SheetFrame[];
  readonly matchLines: readonly MatchLine[];
  readonly blocks?: readonly SheetBlock[];
}

/** The left side is wider, for filing (ISO 5457:1999); mm. */
export const MARGINS_MM = { left: 20, top: 10, right: 10, bottom: 10 } as const;
/** Height of the strip along the lower border that tells what the sheet is, mm. */
export const STRIP_MM = 24;

/** The border of a sheet. */
export const borderOf = ({ widthMm, heightMm }: PaperSize): PaperRect => ({
  leftMm: MARGINS_MM.left,
  topMm: MARGINS_MM.top,
  widthMm: widthMm - MARGINS_MM.left - MARGINS_MM.right,
  heightMm: heightMm - MARGINS_MM.top - MARGINS_MM.bottom,
});

/** The room for views: the border without the strip. */
export function viewAreaOf(paper: PaperSize): PaperRect {
  const border = borderOf(paper);
  return { ...border, heightMm: border.heightMm - STRIP_MM };
}

/** The strip along the lower border. */
export function stripOf(paper: PaperSize): PaperRect {
  const border = borderOf(paper);
  return { ...border, topMm: border.topMm + border.heightMm - STRIP_MM, heightMm: STRIP_MM };
}

/** Drawing units that a millimetre of paper stands for. */
export const unitsPerPaperMm = (denominator: number, unit: DrawingUnit): number => denominator / mmPerUnit(unit);

/** A sheet that one view fills. */
export function sheetOfView(name: string, paper: PaperSize, view: FramedView): Sheet {
  return { name, paper, frames: [{ ...viewAreaOf(paper), view }], matchLines: [] };
}

/** Takes places of a drawing to paper and back: drawing units, mm from the paper’s upper left corner. */
export interface FramePlacement {
  readonly toPaper: (x: number, y: number) => readonly [xMm: number, yMm: number];
  readonly toDrawing: (xMm: number, yMm: number) => readonly [x: number, y: number];
}

/** Where a frame shows places of its plan. */
export function placementOf({ view, ...rect }: SheetFrame, unit: DrawingUnit): FramePlacement {
  const units = unitsPerPaperMm(view.denominator, unit);
  const [cos, sin] = [Math.cos(view.bearingRad), Math.sin(view.bearingRad)];
  const [middleX, middleY] = [rect.leftMm + rect.widthMm / 2, rect.topMm + rect.heightMm / 2];
  return {
    toPaper: (x, y) => {
      const [dx, dy] = [(x - view.x) / units, (y - view.y) / units];
      return [middleX + dx * cos - dy * sin, middleY - (dx * sin + dy * cos)];
    },
    toDrawing: (xMm, yMm) => {
      const [right, up] = [(xMm - middleX) * units, (middleY - yMm) * units];
      return [view.x + right * cos + up * sin, view.y - right * sin + up * cos];
    },
  };
}

/** The box, along the drawing's axes, around what a frame shows; drawing units. */
export function boxOfFrame(
  frame: SheetFrame,
  unit: DrawingUnit,
): { minX: number; minY: number; maxX: number; maxY: number } {
  const { toDrawing } = placementOf(frame, unit);
  const { leftMm, topMm, widthMm, heightMm } = frame;
  const corners = [leftMm, leftMm + widthMm].flatMap((x) => [topMm, topMm + heightMm].map((y) => toDrawing(x, y)));
  const [xs, ys] = [corners.map(([x]) => x), corners.map(([, y]) => y)];
  return { minX: Math.min(...xs), minY: Math.min(...ys), maxX: Math.max(...xs), maxY: Math.max(...ys) };
}

/** The standard scale of 1, 2 or 5 times a power of ten (ISO 5455:1979, carried on) at which something has room, as N of 1:N. */
export function scaleWithRoom(width: number, height: number, room: PaperRect, unit: DrawingUnit): number {
  const least = Math.max(width / room.widthMm, height / room.heightMm) * mmPerUnit(unit);
  if (!(least > 0) || !Number.isFinite(least)) return 1;
  const power = 10 ** Math.floor(Math.log10(least));
  // reductions are 1:N with N = 1, 2, 5 …; enlargements are N:1, which comes to the same digits
  return [1, 2, 5, 10].map((digit) => digit * power).find((one) => one >= least * (1 - 1e-12))!;
}
