import type { FillRule, Style, TextMark } from '@gull-pane/core/drawing/model';
import type { DrawingUnit } from '@gull-pane/core/drawing/units';
import type { Affine } from '@gull-pane/core/geometry/affine';
import type { Path } from '@gull-pane/core/drawing/path';

/** An object of a flat drawing on its way out, with its exact doubles. */
export interface ExportedObject {
  readonly id: number;
  /** Index into the drawing's layers. */
  readonly layer: number;
  /** Exactly one of the two. */
  readonly path: Path | null;
  readonly text: TextMark | null;
  /** How it is drawn; null where it isn't drawn, or where that is no longer known. */
  readonly line: Style | null;
  readonly fill: Style | null;
  readonly fillRule: FillRule;
  /** The feature of GeoJSON that it came from, as JSON. */
  readonly told?: string;
  /** Where it is a raster picture: `path` is its edge then. */
  readonly picture?: ExportedPicture;
}

/** A raster picture on its way out. */
export interface ExportedPicture {
  /** From the unit square, with its origin at the picture's upper left corner and y down, to drawing units. */
  readonly place: Affine;
  /** minX, minY, maxX, maxY of what is seen of it, drawing units; all if null. */
  readonly clip: readonly [number, number, number, number] | null;
  readonly opacity: number;
  /** The file itself as a data URI; asked for when it is written. */
  readonly href: () => string;
}

/** What is seen of a plan. Lengths in drawing units. */
export interface ExportedFrame {
  /** Its middle. */
  readonly x: number;
  readonly y: number;
  readonly width: number;
  readonly height: number;
  /** What lies at its top, clockwise from north. */
  readonly bearingRad: number;
}

export interface ExportedDrawing {
  readonly name: string;
  readonly unit: DrawingUnit;
  readonly layers: readonly { readonly name: string; readonly colour: string }[];
  /** Where coordinates came from longitudes and latitudes: the meridian that they were laid along, degrees. */
  readonly meridianDeg?: number;
  /** Of everything that goes out, drawing units. */
  readonly box: { readonly minX: number; readonly minY: number; readonly maxX: number; readonly maxY: number };
  /** Cuts and twists formats that are pictures, too; absent where all of it goes out as it lies. */
  readonly frame?: ExportedFrame | null;
  /** In their order of painting; asked for as often as the format needs. */
  readonly objects: () => Iterable<ExportedObject>;
}
