import type { Affine } from '@gull-pane/core/geometry/affine';
import type { Clip } from '../clip-path.ts';
import type { Colour } from '@gull-pane/core/drawing/model';
import { userLength } from './length.ts';
import type { Paint } from './paint.ts';
import type { LengthOf } from './shapes.ts';
import type { ViewBox } from './view-box.ts';

export type Attributes = Readonly<Record<string, string>>;

/** An element that is open: what those within it inherit. */
export interface Frame {
  readonly name: string;
  readonly attributes: Attributes;
  /** To drawing coordinates. */
  readonly matrix: Affine;
  readonly paint: Paint;
  readonly layer: number;
  /** Whether this very element opened its layer, so that a title may name it. */
  readonly ownsLayer: boolean;
  /** What % refers to, user units. */
  readonly area: Pick<ViewBox, 'width' | 'height'>;
  /** What may be seen, drawing coordinates; everything if null. */
  readonly clip: Clip | null;
  /** Content that isn't drawn. */
  readonly isSkipped: boolean;
  /** For a `switch`: whether one of its children was chosen. */
  hasChosen: boolean;
}

/** Reads length attributes of an element in user units. */
export function lengthReader(attributes: Attributes, { area, paint }: Pick<Frame, 'area' | 'paint'>): LengthOf {
  return (name, axis) => {
    const text = attributes[name];
    if (text === undefined || text === 'auto') return undefined;
    const percentOf =
      axis === 'x' ? area.width : axis === 'y' ? area.height : Math.hypot(area.width, area.height) / Math.SQRT2;
    return userLength(text, { fontSize: paint.fontSize, percentOf }, 0);
  };
}

/** @returns null if nothing of it would be seen */
export function visibleColour(colour: Colour | null, opacity: number): Colour | null {
  if (!colour) return null;
  const a = Math.round(colour.a * opacity);
  return a > 0 ? { ...colour, a } : null;
}
