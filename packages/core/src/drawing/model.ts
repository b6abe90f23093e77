/** What an importer hands on: drawing elements in file order, with the tables they refer to. */
import type { Affine } from '../geometry/affine.ts';
import type { Box2 } from '../geometry/clip.ts';
import type { Path } from './path.ts';
import type { DrawingUnit } from './units.ts';

/** What a style paints; decides the order of painting inside one element. */
export type StyleKind = 'fill' | 'line' | 'text';

/** A colour with each channel 0 to 255. */
export interface Colour {
  readonly r: number;
  readonly g: number;
  readonly b: number;
  readonly a: number;
}

/** How elements look. Lengths in drawing units. */
export interface Style {
  readonly kind: StyleKind;
  /** Index into the drawing's layers. */
  readonly layer: number;
  readonly colour: Colour;
  /** Stroke width in drawing units; 0 for fills and texts. */
  readonly width: number;
  /** Lengths of dash, gap, dash, gap … in drawing units; empty for an unbroken line. */
  readonly dashes: readonly number[];
}

export interface Layer {
  readonly name: string;
  /** Whether the file has it switched off. */
  readonly isOff?: boolean;
}

/** A sheet of a set: its part of the drawing, drawing units. */
export interface Sheet {
  readonly name: string;
  readonly minX: number;
  readonly minY: number;
  readonly maxX: number;
  readonly maxY: number;
}

/** One text standing in the drawing. */
export interface TextMark {
  readonly text: string;
  /** The anchor on the baseline, drawing units. */
  readonly x: number;
  readonly y: number;
  /** Size of the em square, drawing units. */
  readonly size: number;
  /** Direction of the baseline, anticlockwise from east. */
  readonly angleRad: number;
  readonly anchor: TextAnchor;
  readonly weight: 'normal' | 'bold';
}

export type TextAnchor = 'start' | 'middle' | 'end';

/** A drawing element that is drawn by lines or fills. Style indices are −1 where it has none. */
export interface PathElement {
  readonly layer: number;
  readonly lineStyle: number;
  readonly fillStyle: number;
  readonly fillRule: FillRule;
  readonly path: Path;
  /** What the source itself says of it, as JSON, where that can go out again as it was: a feature of GeoJSON. */
  readonly told?: string;
}

export type FillRule = 'nonzero' | 'evenodd';

export interface TextElement {
  readonly layer: number;
  readonly style: number;
  readonly mark: TextMark;
  /** As with paths. */
  readonly told?: string;
}

/** Something a reader met and could not take over, said once with how often and where first. */
export interface ReaderWarning {
  readonly code: string;
  readonly message: string;
  readonly count: number;
  /** Line of the first occurrence in the source, from 1. */
  readonly line?: number;
  /** Page of it, from 1, where the source has pages. */
  readonly page?: number;
}

/** The px of a raster picture: a file of its own, or bare numbers row by row from above. */
export type PictureSource =
  | { readonly kind: 'file'; readonly bytes: Uint8Array }
  | {
      readonly kind: 'pixels';
      readonly bytes: Uint8Array;
      readonly widthPx: number;
      readonly heightPx: number;
      /** Grey, red green blue, or red green blue alpha. */
      readonly channels: 1 | 3 | 4;
    };

/** A raster picture; it lies below all lines and areas. */
export interface PictureElement {
  readonly layer: number;
  /** From the unit square, with its origin at the picture's upper left corner and y down, to drawing units. */
  readonly place: Affine;
  /** What of it may be seen, drawing units; all if null. */
  readonly clip: Box2 | null;
  /** 0 … 1. */
  readonly opacity: number;
  readonly source: PictureSource;
}

export type { DrawingUnit } from './units.ts';

/** What a streaming reader calls while it reads; elements come in the order of the file. */
export interface DrawingSink {
  path(element: PathElement): void;
  text(element: TextElement): void;
  picture(element: PictureElement): void;
}

/** What a reader knows at the end. */
export interface ReadResult {
  readonly unit: DrawingUnit;
  readonly layers: readonly Layer[];
  readonly styles: readonly Style[];
  readonly warnings: readonly ReaderWarning[];
  /** In order; none where the file has no pages. */
  readonly sheets?: readonly Sheet[];
  /** Where coordinates are longitudes and latitudes on a plane: the meridian that it touches, degrees. */
  readonly meridianDeg?: number;
}
