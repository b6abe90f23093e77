import type { Direction } from '@gull-pane/core/camera/orbit';
import type { DrawingDto } from '@gull-pane/protocol/drawings';
import type { RevisionDto } from '@gull-pane/protocol/revisions';
import type { PaperSheetDto, SheetBlockDto, SheetFrameDto, StripFieldsDto } from '@gull-pane/protocol/sheet-sets';

/** What the fields beside a sheet show and change. */
export interface SheetFieldsProps {
  readonly sheet: PaperSheetDto;
  readonly frame: number;
  readonly fields: StripFieldsDto;
  readonly layers: readonly string[];
  readonly drawing: DrawingDto;
  readonly revisions: readonly RevisionDto[];
  readonly onSheet: (sheet: PaperSheetDto, what: string) => void;
  readonly onFrame: (frame: SheetFrameDto, what: string) => void;
  readonly onFields: (fields: StripFieldsDto) => void;
  /** @param kind of what comes to the sheet, or leaves it */
  readonly onBlock: (kind: SheetBlockDto['kind'], isThere: boolean) => void;
  readonly onPaper: (paper: PaperSheetDto['paper']) => void;
  /** Puts all of the drawing into the frame. */
  readonly onFit: () => void;
  /** Looks at a model from another direction: all of it is shown then. */
  readonly onSight: (direction: Direction) => void;
  readonly onAddFrame: () => void;
  readonly onRemoveFrame: () => void;
}
