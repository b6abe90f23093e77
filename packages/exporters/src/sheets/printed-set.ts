import type { DrawingUnit } from '@gull-pane/core/drawing/units';
import type { PaperRect, Sheet } from '@gull-pane/core/sheets/sheet';
import type { SheetPart } from '@gull-pane/core/sheets/sheet-part';
import type { StripFields } from '@gull-pane/core/sheets/strip-fields';
import type { ExportedObject } from '../exported.ts';
import type { ToPaper } from './trace-path.ts';

/** What a frame shows. */
export interface FrameContent {
  readonly layers: readonly { readonly name: string; readonly colour: string }[];
  /** Takes coordinates of objects to mm on the sheet. */
  readonly toPaper: ToPaper;
  /** A unit of the objects on paper, mm. */
  readonly mmPerUnit: number;
  /** So far texts are turned with the view, anticlockwise. */
  readonly turnRad: number;
  /**
   * In their order of painting; asked for as often as the format needs.
   * @param within what is needed, mm on the sheet: what lies outside of it may be left out
   */
  readonly objects: (within: PaperRect) => Iterable<ExportedObject>;
  /** Raster pictures among the objects, as their data URIs. */
  readonly hrefs: () => readonly string[];
  /** What is drawn on top, mm on the sheet. */
  readonly onTop: readonly SheetPart[];
}

/** Sheets on their way to paper. */
export interface PrintedSet {
  readonly unit: DrawingUnit;
  readonly fields: StripFields;
  readonly sheets: readonly Sheet[];
  /** What a frame shows; null if nothing. Asked for when it is drawn, more than once where a format draws piece by piece. */
  readonly contentIn: (sheet: number, frame: number) => FrameContent | null;
  /** What a sheet draws beside its views. */
  readonly partsOf: (sheet: number) => readonly SheetPart[];
}
