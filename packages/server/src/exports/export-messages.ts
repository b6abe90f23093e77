import type { DrawingDto, LayerDto } from '@gull-pane/protocol/drawings';
import type { Mark } from '@gull-pane/core/marks/mark';
import type { ExportFormat, ExportPartDto } from '@gull-pane/protocol/export';

/** What a thread is to write. */
export interface ExportOrder {
  readonly format: ExportFormat;
  /** Of the content: exact objects, tiles. */
  readonly folder: string;
  readonly drawing: DrawingDto;
  readonly layers: readonly LayerDto[];
  readonly part: ExportPartDto;
  /** On top of a flat drawing. */
  readonly marks: readonly Mark[];
}

/** The next piece is asked for one by one. */
export type ToExport = 'next';
export type FromExport =
  | { readonly kind: 'piece'; readonly bytes: Uint8Array }
  /** No object is in the part. */
  | { readonly kind: 'nothing' }
  | { readonly kind: 'done' };
