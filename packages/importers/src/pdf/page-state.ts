/** What the operators of a page set and need. */
import type { DrawingSink } from '@gull-pane/core/drawing/model';
import type { Affine } from '@gull-pane/core/geometry/affine';
import type { Box2 } from '@gull-pane/core/geometry/clip';
import { boxClip, type Clip } from '../clip-path.ts';
import type { StyleTable } from '../style-table.ts';
import type { Warnings } from '../warnings.ts';
import type { ContentLayers } from './content-layers.ts';
import { plainText, type TextSettings } from './page-text.ts';
import type { Shading } from './shading.ts';

/** A page's operators as the parsing package lists them. */
export interface PageOperators {
  readonly fnArray: readonly number[];
  readonly argsArray: readonly unknown[];
}

/** What a page is drawn with. */
export interface PageTools {
  readonly sink: DrawingSink;
  readonly styles: StyleTable;
  readonly warnings: Warnings;
  readonly layers: ContentLayers;
  /** Names of operators by their number. */
  readonly operatorNames: ReadonlyMap<number, string>;
  /** Told of each element before it is drawn; throws where there are too many. */
  readonly count: (steps: number) => void;
  /** What a name of the page's pictures refers to. */
  readonly objectOf: (name: string) => unknown;
  /** Whether a font of this name is a bold one. */
  readonly isBold: (font: string) => boolean;
}

/** A shading with the way from its own coordinates to the drawing. */
export interface PlacedShading {
  readonly shading: Shading;
  readonly toDrawing: Affine;
}

/** How things are drawn from now on (ISO 32000-2, 8.4). */
export interface PageState {
  matrix: Affine;
  fill: string | null;
  /** What areas are painted with instead of the colour. */
  shading: PlacedShading | null;
  stroke: string | null;
  fillAlpha: number;
  strokeAlpha: number;
  /** Opacity of the groups around. */
  groupAlpha: number;
  width: number;
  dashes: readonly number[];
  clip: Clip | null;
  text: TextSettings;
}

/** How a page begins. */
export const stateAtBegin = (toDrawing: Affine, sheet: Box2): PageState => ({
  matrix: toDrawing,
  fill: '#000000',
  shading: null,
  stroke: '#000000',
  fillAlpha: 1,
  strokeAlpha: 1,
  groupAlpha: 1,
  width: 1,
  dashes: [],
  clip: boxClip(sheet),
  text: plainText,
});

/** What operators that paint a path do with it (ISO 32000-2, 8.5.3). */
export const painting: Readonly<Record<string, { fill?: 'nonzero' | 'evenodd'; stroke?: true }>> = {
  fill: { fill: 'nonzero' },
  eoFill: { fill: 'evenodd' },
  stroke: { stroke: true },
  closeStroke: { stroke: true },
  fillStroke: { fill: 'nonzero', stroke: true },
  eoFillStroke: { fill: 'evenodd', stroke: true },
  closeFillStroke: { fill: 'nonzero', stroke: true },
  closeEOFillStroke: { fill: 'evenodd', stroke: true },
  endPath: {},
  rawFillPath: { fill: 'nonzero' },
};
