import type { DrawingUnit } from '@gull-pane/core/drawing/units';
import type {
  BegunDto,
  CountsDto,
  DrawingKind,
  ExtentsDto,
  LayerDto,
  SheetDto,
  WarningDto,
} from '@gull-pane/protocol/drawings';
import type { FileTextLimits } from './file-text.ts';
import type { JobProgressDto } from '@gull-pane/protocol/jobs';
import type { ProblemCode } from '@gull-pane/protocol/problems';

/** What reading one file may take. */
export interface ReadLimits extends FileTextLimits {
  /** Elements drawn, those that are used again included. */
  readonly maxElements: number;
}

/** Message that starts an import in its process. */
export interface ImportOrder {
  readonly sourcePath: string;
  /** Where the new content goes; not there yet. */
  readonly outFolder: string;
  readonly limits: ReadLimits;
  /** Stands before a tile's name in the tileset. */
  readonly tileAddressPrefix: string;
}

export interface ImportedText {
  readonly objectId: number;
  readonly layer: number;
  readonly content: string;
  readonly x: number;
  readonly y: number;
  readonly size: number;
  readonly angleRad: number;
}

export interface ImportResult {
  readonly kind: DrawingKind;
  readonly unit: DrawingUnit;
  /** Of a drawing that was begun here. */
  readonly begun?: BegunDto;
  readonly counts: CountsDto;
  readonly extents: ExtentsDto | null;
  readonly layers: readonly LayerDto[];
  readonly texts: readonly ImportedText[];
  readonly warnings: readonly WarningDto[];
  readonly sheets: readonly SheetDto[];
}

/** How far an import is. */
export type ImportProgress = Omit<JobProgressDto, 'bytesTotal'>;
/** Told by the parts of an import, as often as they like. */
export type OnProgress = (news: Partial<ImportProgress> & Pick<ImportProgress, 'stage'>) => void;

/** What it answers. */
export type FromImport =
  /** What the file is, found out before it is read. */
  | { readonly kind: 'format'; readonly format: string }
  | { readonly kind: 'progress'; readonly progress: ImportProgress }
  | {
      readonly kind: 'refused';
      readonly code: ProblemCode;
      readonly message: string;
      readonly line?: number;
      readonly column?: number;
    }
  /** Something of ours went wrong: what, and where in the code. */
  | { readonly kind: 'failed'; readonly message: string }
  | { readonly kind: 'done'; readonly result: ImportResult };
