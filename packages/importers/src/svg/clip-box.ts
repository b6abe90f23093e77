import type { Box2 } from '@gull-pane/core/geometry/clip';
import { compose, identityAffine } from '@gull-pane/core/geometry/affine';
import { transformPath } from '@gull-pane/core/drawing/path';
import { uprightBox } from '../clip-path.ts';
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
  return uprightBox(transformPath(path, matrix));
}
