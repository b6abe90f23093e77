import type { Box2 } from '@gull-pane/core/geometry/clip';
import { compose, identityAffine } from '@gull-pane/core/geometry/affine';
import { Op, transformPath } from '@gull-pane/core/drawing/path';
import { elementsIn, type DefinedElement } from './definitions.ts';
import { lengthReader, type Frame } from './frame.ts';
import { shapeNames, shapePath } from './shapes.ts';
import { parseTransform } from './transform-list.ts';

/** @returns the clip as a box in drawing coordinates; null if it is anything but one upright rectangle */
export function clipBox(element: DefinedElement, frame: Frame): Box2 | null {
  const children = elementsIn(element).filter(({ name }) => name !== 'title' && name !== 'desc');
  const [shape] = children;
  if (element.name !== 'clipPath' || element.attributes.clipPathUnits === 'objectBoundingBox') return null;
  if (!shape || children.length > 1 || !shapeNames.has(shape.name)) return null;
  let { matrix } = frame;
  for (const { transform } of [element.attributes, shape.attributes]) {
    if (transform === undefined) continue;
    matrix = compose(matrix, parseTransform(transform) ?? identityAffine);
  }
  const { path } = shapePath(shape.name, shape.attributes, lengthReader(shape.attributes, frame));
  const { ops, coords } = transformPath(path, matrix);
  const corners: [number, number][] = [];
  for (let i = 0; i < coords.length; i += 2) corners.push([coords[i]!, coords[i + 1]!]);
  const isPolygon = Array.from(ops).every(
    (op, index) => op === (index === 0 ? Op.move : op === Op.close ? Op.close : Op.line),
  );
  const [first, last] = [corners[0], corners.at(-1)];
  if (corners.length === 5 && first![0] === last![0] && first![1] === last![1]) corners.pop();
  if (!isPolygon || corners.length !== 4) return null;
  const xs = corners.map(([x]) => x);
  const ys = corners.map(([, y]) => y);
  const box = { minX: Math.min(...xs), minY: Math.min(...ys), maxX: Math.max(...xs), maxY: Math.max(...ys) };
  const isCorner = ([x, y]: [number, number], next: [number, number]): boolean =>
    (x === box.minX || x === box.maxX) && (y === box.minY || y === box.maxY) && (x === next[0] || y === next[1]);
  return corners.every((corner, i) => isCorner(corner, corners[(i + 1) % 4]!)) ? box : null;
}

/** What lies in both; null is everything. */
export function intersectClips(a: Box2 | null, b: Box2): Box2 {
  if (!a) return b;
  return {
    ...{ minX: Math.max(a.minX, b.minX), minY: Math.max(a.minY, b.minY) },
    ...{ maxX: Math.min(a.maxX, b.maxX), maxY: Math.min(a.maxY, b.maxY) },
  };
}
