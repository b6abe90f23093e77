import type { DrawingUnit } from '@gull-pane/core/drawing/units';
import type { Sheet } from '@gull-pane/core/sheets/sheet';
import type { StripFields } from '@gull-pane/core/sheets/strip-fields';
import type { ExportedDrawing } from '../exported.ts';

/** Sheets on their way to paper. */
export interface PrintedSet {
  readonly unit: DrawingUnit;
  readonly fields: StripFields;
  readonly sheets: readonly Sheet[];
  /** What a frame shows; null if nothing. Asked for when it is drawn. */
  readonly drawingIn: (sheet: number, frame: number) => ExportedDrawing | null;
}
