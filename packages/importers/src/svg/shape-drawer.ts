import { compose, meanScale } from '@gull-pane/core/geometry/affine';
import { transformPath, type Path, type PathBuilder } from '@gull-pane/core/drawing/path';
import type { Colour, DrawingSink } from '@gull-pane/core/drawing/model';
import { emitClipped } from '../clip-path.ts';
import { elementsIn, type DefinedElement, type Definitions } from './definitions.ts';
import { lengthReader, visibleColour, type Attributes, type Frame } from './frame.ts';
import { MAX_HATCH_SEGMENTS, hatchArea } from './hatch.ts';
import { userLength } from './length.ts';
import { declaredValues, derivePaint, initialPaint } from './paint.ts';
import { patternTile, straightSegments } from './pattern-tile.ts';
import { shapeNames, shapePath } from './shapes.ts';
import type { StyleTable } from '../style-table.ts';
import type { Warnings } from '../warnings.ts';

/** Coordinates beyond this are a slip of the writer: nothing of such a size is drawn, and its squares would overflow. */
const LARGEST_COORDINATE = 1e15;

/** Draws basic shapes and paths: painted, clipped, hatched. */
export class ShapeDrawer {
  /** @param count told of each element that is drawn, before it is; throws where there are too many */
  constructor(
    private readonly sink: DrawingSink,
    private readonly styles: StyleTable,
    private readonly definitions: Definitions,
    private readonly warnings: Warnings,
    private readonly count: (layer: number, steps: number, line: number) => void,
  ) {}

  /** @returns the path in user units, for markers; null if nothing of it is drawn */
  draw(name: string, attributes: Attributes, frame: Frame, line: number): PathBuilder | null {
    const { paint, matrix } = frame;
    const stroke = paint.strokeWidth > 0 ? visibleColour(paint.stroke, paint.strokeOpacity * paint.opacity) : null;
    const fill = visibleColour(paint.fill, paint.fillOpacity * paint.opacity);
    const hasMarkers = paint.markers.some((marker) => marker !== null);
    if (!paint.isVisible || (!stroke && !fill && paint.fillPattern === null && !hasMarkers)) return null;
    const { path, error } = shapePath(name, attributes, lengthReader(attributes, frame));
    if (error !== undefined) this.warnings.add('bad-geometry', `${error}; what came before it is drawn`, line);
    if (path.ops.length < 2) return null;
    const placed = transformPath(path, matrix);
    for (let i = 0; i < placed.coords.length; i++) {
      if (Math.abs(placed.coords[i]!) < LARGEST_COORDINATE) continue;
      const message = 'an element with coordinates that are no usable numbers is left out';
      this.warnings.add('bad-geometry', message, line);
      return null;
    }
    if (paint.fillPattern !== null && name !== 'line') this.#hatch(paint.fillPattern, path, placed, frame, line);
    this.#paint(placed, stroke, name === 'line' ? null : fill, frame, line);
    return path;
  }

  #paint(path: Path, stroke: Colour | null, fill: Colour | null, frame: Frame, line: number): void {
    if (!stroke && !fill) return;
    const { layer, paint, clip, matrix } = frame;
    const enlargement = meanScale(matrix);
    const dashes = paint.dashes.map((length) => length * enlargement);
    const lineStyle = stroke ? this.styles.index('line', layer, stroke, paint.strokeWidth * enlargement, dashes) : -1;
    const fillStyle = fill ? this.styles.index('fill', layer, fill, 0, []) : -1;
    const { fillRule } = paint;
    const isWhole = emitClipped(path, clip, { line: lineStyle, fill: fillStyle, rule: fillRule }, (drawn) => {
      this.count(layer, drawn.path.ops.length, line);
      this.sink.path({ layer, lineStyle: drawn.line, fillStyle: drawn.fill, fillRule: drawn.rule, path: drawn.path });
    });
    if (!isWhole)
      this.warnings.add(
        'not-supported',
        'intricate areas are cut by the box of their clip: what else it hides is drawn',
        line,
      );
  }

  /** @param shape the filled shape in user units; @param area the same in drawing coordinates */
  #hatch(id: string, shape: Path, area: Path, frame: Frame, line: number): void {
    const element = this.definitions.find(id);
    const tile = element && patternTile(element, shape, frame);
    if (!tile) return;
    for (const child of elementsIn(element)) {
      const values = declaredValues(child.attributes);
      const paint = derivePaint({ ...initialPaint, opacity: frame.paint.opacity }, values);
      const stroke = visibleColour(paint.stroke, paint.strokeOpacity * paint.opacity);
      const segments = shapeNames.has(child.name) && stroke ? straightSegments(child, frame, tile) : null;
      if (!segments) {
        this.warnings.add('not-supported', 'of a pattern only straight lines are drawn', line);
        continue;
      }
      const lines = hatchArea({ ...tile, segments }, area, frame.paint.fillRule);
      const own = { ...frame, paint, matrix: compose(tile.matrix, tile.content) };
      if (lines) this.#paint(lines, stroke, null, own, line);
      else this.warnings.add('not-supported', `a pattern of more than ${MAX_HATCH_SEGMENTS} lines is not drawn`, line);
    }
  }
}

/** The matrix and content of a marker; what is not given is as SVG 2, 11.6 says. */
export interface MarkerPlacement {
  readonly refX: number;
  readonly refY: number;
  readonly width: number;
  readonly height: number;
  /** Whether it grows with the width of the line. */
  readonly scalesWithStroke: boolean;
  /** Fixed angle, or NaN to follow the path. */
  readonly angleRad: number;
  readonly isReversedAtStart: boolean;
}

/** How a marker is placed at a vertex (SVG 2, 11.6.2). @param fontSize for lengths in em, user units */
export function markerPlacement({ attributes }: DefinedElement, fontSize: number): MarkerPlacement {
  const length = (name: string, fallback: number): number =>
    userLength(attributes[name], { fontSize, percentOf: fallback }, fallback);
  const { orient = '0' } = attributes;
  const isAuto = orient.startsWith('auto');
  return {
    refX: length('refX', 0),
    refY: length('refY', 0),
    width: length('markerWidth', 3),
    height: length('markerHeight', 3),
    scalesWithStroke: attributes.markerUnits !== 'userSpaceOnUse',
    angleRad: isAuto ? NaN : (Number.parseFloat(orient) * Math.PI) / 180 || 0,
    isReversedAtStart: orient === 'auto-start-reverse',
  };
}
