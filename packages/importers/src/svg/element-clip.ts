import { compose, identityAffine } from '@gull-pane/core/geometry/affine';
import { transformPath } from '@gull-pane/core/drawing/path';
import { clipOf, type Clip } from '../clip-path.ts';
import { elementsIn, type DefinedElement } from './definitions.ts';
import { lengthReader, type Frame } from './frame.ts';
import { shapeNames, shapePath } from './shapes.ts';
import { parseTransform } from './transform-list.ts';

/** @returns the clip in drawing coordinates; null if it is anything but one shape */
export function elementClip(element: DefinedElement, frame: Frame): Clip | null {
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
  if (path.ops.length < 2) return null;
  const rule = shape.attributes['clip-rule'] === 'evenodd' ? 'evenodd' : 'nonzero';
  return clipOf(transformPath(path, matrix), rule).clip;
}
