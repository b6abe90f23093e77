import type { DrawingDto, LayerDto } from '@gull-pane/protocol/drawings';
import type { Mark } from '@gull-pane/core/marks/mark';
import type { PrintDto, SheetFrameDto } from '@gull-pane/protocol/sheet-sets';
import type { OverlaySources } from '../printing/frame-overlay.ts';
import type { ExportFormat, ExportPartDto } from '@gull-pane/protocol/export';

/** What a thread is to write of a drawing. */
interface DrawingOrder {
  /** Of the content: exact objects, tiles. */
  readonly folder: string;
  readonly drawing: DrawingDto;
  readonly layers: readonly LayerDto[];
  /** On top of a flat drawing. */
  readonly marks: readonly Mark[];
}

/** The drawing, or a part of it. */
export interface FileOrder extends DrawingOrder {
  readonly format: ExportFormat;
  readonly part: ExportPartDto;
}

/** Sheets with views of it. */
export interface PrintOrder extends DrawingOrder, Pick<OverlaySources, 'comparisons' | 'seen'> {
  readonly format: 'sheets';
  readonly set: PrintDto;
}

/** What lies on top of a frame of a sheet, as JSON. */
export interface OverlayOrder extends Omit<DrawingOrder, 'layers'>, Pick<OverlaySources, 'comparisons' | 'seen'> {
  readonly format: 'overlay';
  readonly frame: SheetFrameDto;
}

export type ExportOrder = FileOrder | PrintOrder | OverlayOrder;

/** The next piece is asked for one by one. */
export type ToExport = 'next';
export type FromExport =
  | { readonly kind: 'piece'; readonly bytes: Uint8Array }
  /** Comes without being asked for. */
  | { readonly kind: 'progress'; readonly sheet: number; readonly objects: number }
  /** No object is in the part. */
  | { readonly kind: 'nothing' }
  | { readonly kind: 'done' };
