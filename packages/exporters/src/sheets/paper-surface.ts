import type { Colour, FillRule } from '@gull-pane/core/drawing/model';
import type { Path } from '@gull-pane/core/drawing/path';
import type { PaperRect, Sheet } from '@gull-pane/core/sheets/sheet';
import type { ToPaper } from './trace-path.ts';

/** How a line is drawn on paper. */
export interface Pen {
  readonly colour: Colour;
  readonly widthMm: number;
  /** Dash and gap lengths in turn; empty for a continuous line. */
  readonly dashesMm: readonly number[];
}

/** A text on paper. */
export interface PaperText {
  readonly text: string;
  /** On the baseline, where the anchor says. */
  readonly xMm: number;
  readonly yMm: number;
  readonly sizeMm: number;
  /** Anticlockwise as seen. */
  readonly angleRad: number;
  readonly anchor: 'start' | 'middle' | 'end';
  readonly weight: 'normal' | 'bold';
  readonly colour: Colour;
}

/** A raster picture on paper. */
export interface PaperPicture {
  /** Where the upper left corner, the upper right and the lower left lie; mm. */
  readonly corners: readonly [readonly [number, number], readonly [number, number], readonly [number, number]];
  /** What is seen of it: corners of a ring, mm; all if null. */
  readonly clip: readonly (readonly [number, number])[] | null;
  readonly opacity: number;
  /** The file as a data URI. */
  readonly href: string;
}

/** What sheets are drawn on, one format each. Coordinates: mm from the sheet's upper left corner, y down. */
export interface PaperSurface {
  beginSheet(sheet: Sheet, index: number): void;
  endSheet(): void;
  /** What follows belongs to a layer of this name, until the layer ends. Layers don't nest. */
  beginLayer(name: string): void;
  endLayer(): void;
  /** What follows is cut at a rectangle, until {@link uncut}. Cuts don't nest. */
  cut(rect: PaperRect): void;
  uncut(): void;
  /** @param toPaper takes the path's coordinates to paper */
  path(path: Path, toPaper: ToPaper, pen: Pen | null, fill: Colour | null, rule: FillRule): void;
  text(text: PaperText): void;
  picture(picture: PaperPicture): void;
  /** A rectangle that leads to another sheet of the set, where the format can do that. */
  link(rect: PaperRect, sheet: number): void;
}
