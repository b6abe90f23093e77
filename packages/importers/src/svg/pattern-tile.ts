import { compose, identityAffine, type Affine } from '@gull-pane/core/geometry/affine';
import { clipSegment } from '@gull-pane/core/geometry/clip';
import { visitExtremes } from '@gull-pane/core/drawing/extents';
import { transformPath, visitPath, type Path } from '@gull-pane/core/drawing/path';
import type { DefinedElement } from './definitions.ts';
import { lengthReader, type Frame } from './frame.ts';
import type { HatchPattern } from './hatch.ts';
import { userLength } from './length.ts';
import { shapePath } from './shapes.ts';
import { parseTransform } from './transform-list.ts';
import { parseViewBox, viewBoxTransform } from './view-box.ts';

/** How a pattern's tile lies on the shape that it fills. */
export interface PatternTile extends Omit<HatchPattern, 'segments'> {
  /** From the units of the pattern's content to those of the tile, with the tile's corner at its `x`, `y`. */
  readonly content: Affine;
}

/**
 * The tile of a pattern on one shape (SVG 2, 14.3): in user units or in shares of the shape's own box, its content in
 * either or in those of a view box.
 * @param shape what is filled, user units
 */
export function patternTile({ attributes }: DefinedElement, shape: Path, frame: Frame): PatternTile {
  const box = boxOf(shape);
  const isOfShape = (attributes.patternUnits ?? 'objectBoundingBox') !== 'userSpaceOnUse';
  const length = lengthReader(attributes, frame);
  const share = (name: string): number =>
    userLength(attributes[name], { fontSize: frame.paint.fontSize, percentOf: 1 }, 0);
  const x = isOfShape ? box.x + share('x') * box.width : (length('x', 'x') ?? 0);
  const y = isOfShape ? box.y + share('y') * box.height : (length('y', 'y') ?? 0);
  const width = isOfShape ? share('width') * box.width : (length('width', 'x') ?? 0);
  const height = isOfShape ? share('height') * box.height : (length('height', 'y') ?? 0);
  const viewBox = parseViewBox(attributes.viewBox);
  const inner = viewBox
    ? viewBoxTransform(viewBox, width, height, attributes.preserveAspectRatio) // it overrides patternContentUnits
    : attributes.patternContentUnits === 'objectBoundingBox'
      ? { ...identityAffine, a: box.width, d: box.height }
      : identityAffine;
  const own = parseTransform(attributes.patternTransform ?? '') ?? identityAffine;
  return {
    x,
    y,
    width,
    height,
    matrix: compose(frame.matrix, own),
    content: compose({ ...identityAffine, e: x, f: y }, inner),
  };
}

/** Ends of the segments of one shape of a pattern, as far as they lie in its tile, in the tile's units; null if it has curves. */
export function straightSegments(
  { name, attributes }: DefinedElement,
  frame: Frame,
  { content, x, y, width, height }: PatternTile,
): number[] | null {
  const { path } = shapePath(name, attributes, lengthReader(attributes, frame));
  const own = parseTransform(attributes.transform ?? '') ?? identityAffine;
  const box = { minX: x, minY: y, maxX: x + width, maxY: y + height };
  const segments: number[] = [];
  let curves = 0;
  const curve = (): void => {
    curves++;
  };
  visitPath(transformPath(path, compose(content, own)), {
    line: (x0, y0, x1, y1) => {
      const part: [number, number] = [0, 1];
      if (!clipSegment(x0, y0, x1, y1, box, part)) return;
      const at = (t: number): [number, number] => [x0 + (x1 - x0) * t, y0 + (y1 - y0) * t];
      segments.push(...at(part[0]), ...(part[1] === 1 ? [x1, y1] : at(part[1])));
    },
    quadratic: curve,
    cubic: curve,
    arc: curve,
  });
  return curves > 0 ? null : segments;
}

function boxOf(path: Path): { x: number; y: number; width: number; height: number } {
  let [minX, minY, maxX, maxY] = [Infinity, Infinity, -Infinity, -Infinity];
  visitExtremes(path, (x, y) => {
    [minX, maxX] = [Math.min(minX, x), Math.max(maxX, x)];
    [minY, maxY] = [Math.min(minY, y), Math.max(maxY, y)];
  });
  return { x: minX, y: minY, width: maxX - minX, height: maxY - minY };
}
