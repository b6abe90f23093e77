import type { DrawingUnit } from '@gull-pane/core/drawing/units';
import type { CardShowsDto, CardCommentDto } from '@gull-pane/protocol/cards';
import type { CameraDto } from '@gull-pane/protocol/camera';

/** A view on its way from one program to another. Drawing units. */
export interface ExchangedView {
  readonly name: string;
  /** Views of one group stand together; empty for none. */
  readonly group: string;
  readonly camera: CameraDto;
  /** The pane that it was taken in, CSS px. */
  readonly widthPx: number;
  readonly heightPx: number;
  readonly shows: CardShowsDto;
  readonly comments?: CardCommentDto[];
  /** PNG. */
  readonly picture?: Uint8Array;
}

/** What a file is written of, or read for. */
export interface ExchangedDrawing {
  readonly name: string;
  readonly kind: 'flat' | 'solid';
  /** Of lengths; drawings without a unit are told in their own. */
  readonly unit: DrawingUnit;
  readonly revision: number;
  /** How many objects it has. */
  readonly objects: number;
  /** The names of a solid's objects, by their numbers. */
  readonly objectNames?: readonly string[];
  /** What a solid's source calls its objects for good, by their numbers; empty where it doesn't. */
  readonly objectIds?: readonly string[];
  /** The objects of a layer, by its name; of solids. */
  readonly objectsOfLayer?: (layer: string) => readonly number[];
}

/** When and by whom; passed in, so that a file can be made twice. */
export interface Circumstances {
  readonly author: string;
  /** ISO 8601. */
  readonly date: string;
  /** A new UUID each time. */
  readonly newId: () => string;
}

export interface WrittenViews {
  readonly bytes: Uint8Array<ArrayBuffer>;
  /** What the format can't tell, a sentence each; each once. */
  readonly losses: readonly string[];
}

export interface ReadViews {
  readonly views: readonly ExchangedView[];
  readonly losses: readonly string[];
}

/** A file that can't be read, in words for the user. */
export class ExchangeError extends Error {
  override readonly name = 'ExchangeError';

  /** @param hint what to do about it */
  constructor(
    message: string,
    readonly hint: string,
  ) {
    super(message);
  }
}
