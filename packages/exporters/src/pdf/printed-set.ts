import type { DrawingUnit } from '@gull-pane/core/drawing/units';
import type { Sheet } from '@gull-pane/core/sheets/sheet';
import type { ExportedDrawing } from '../exported.ts';

/** What the strip of a sheet tells beside its name, number and scale; empty texts are left out. */
export interface StripFields {
  /** Whose drawing it is. */
  readonly project: string;
  /** What the drawing is called. */
  readonly title: string;
  readonly number: string;
  readonly revision: string;
  readonly author: string;
  /** As it shall be read. */
  readonly date: string;
}

/** Sheets on their way to paper. */
export interface PrintedSet {
  readonly unit: DrawingUnit;
  readonly fields: StripFields;
  readonly sheets: readonly Sheet[];
  /** What a frame shows; null if nothing. Asked for when it is drawn. */
  readonly drawingIn: (sheet: number, frame: number) => ExportedDrawing | null;
}
