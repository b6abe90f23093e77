import { compose, identityAffine, meanScale, type Affine } from '@gull-pane/core/geometry/affine';
import { transformPath } from '@gull-pane/core/drawing/path';
import type { Colour, DrawingSink } from '@gull-pane/core/drawing/model';
import { ReadError } from '../read-error.ts';
import type { DefinedElement, Definitions } from './definitions.ts';
import { LayerTree } from './layer-tree.ts';
import { userLength } from './length.ts';
import { derivePaint, initialPaint, type Paint } from './paint.ts';
import { shapeNames, shapePath, type LengthOf } from './shapes.ts';
import { StyleTable } from './style-table.ts';
import { markOfRun, type TextRun } from './text-run.ts';
import { parseTransform } from './transform-list.ts';
import { parseViewBox, viewBoxTransform, type ViewBox } from './view-box.ts';
import type { Warnings } from './warnings.ts';

export interface SvgLimits {
  /** Elements drawn, those repeated by `use` included. */
  readonly maxElements: number;
  /** Groups within groups. */
  readonly maxDepth: number;
  /** `use` within `use`. */
  readonly maxUseDepth: number;
  /** Elements kept for `use`. */
  readonly maxDefinitions: number;
}

export const defaultSvgLimits: SvgLimits = {
  maxElements: 20_000_000,
  maxDepth: 100_000,
  maxUseDepth: 32,
  maxDefinitions: 2_000_000,
};

type Attributes = Readonly<Record<string, string>>;

interface Frame {
  readonly name: string;
  readonly matrix: Affine;
  readonly paint: Paint;
  readonly layer: number;
  /** Whether this very element opened its layer, so that a title may name it. */
  readonly ownsLayer: boolean;
  /** What % refers to, user units. */
  readonly area: Pick<ViewBox, 'width' | 'height'>;
  /** Content that isn't drawn. */
  readonly isSkipped: boolean;
}

/** Elements that never draw where they stand; those named here as unsupported are reported. */
const silentContainers = new Set([
  'defs',
  'symbol',
  'title',
  'desc',
  'metadata',
  'linearGradient',
  'radialGradient',
  'solidcolor',
]);
const unsupported: Readonly<Record<string, string>> = {
  image: 'raster pictures are not drawn',
  foreignObject: 'foreign objects are not drawn',
  script: 'scripts are not run',
  style: 'style rules are not applied yet; attributes and style attributes are',
  filter: 'filters are not applied',
  mask: 'masks are not applied',
  clipPath: 'clip paths are not applied',
  marker: 'markers are not drawn',
  pattern: 'patterns are not drawn',
  textPath: 'text on a path is not drawn',
};
const containers = new Set(['g', 'a', 'switch', 'svg']);

/** Goes through the elements of a file in order and hands what they draw to a sink, in drawing coordinates. */
export class ElementWalker {
  readonly styles = new StyleTable();
  readonly layers = new LayerTree();
  elements = 0;
  readonly #frames: Frame[] = [];
  readonly #useChain: DefinedElement[] = [];
  readonly #waiting: { id: string; frame: Frame; attributes: Attributes; line: number }[] = [];
  #runs: TextRun[] = [];
  #title: string | null = null;

  /** @param toDrawing maps the root's user units to drawing coordinates (x as it is, y turned up) */
  constructor(
    private readonly sink: DrawingSink,
    private readonly definitions: Definitions,
    private readonly warnings: Warnings,
    private readonly limits: SvgLimits,
    private readonly toDrawing: Affine,
    private readonly rootArea: Pick<ViewBox, 'width' | 'height'>,
  ) {}

  open(name: string, attributes: Attributes, line: number): void {
    const parent = this.#frames.at(-1) ?? this.#rootFrame();
    if (this.#frames.length >= this.limits.maxDepth) {
      throw new ReadError('limit-exceeded', `Elements are nested more than ${this.limits.maxDepth} deep.`, {
        line,
        column: 1,
      });
    }
    if (parent.isSkipped || silentContainers.has(name) || unsupported[name] !== undefined) {
      if (!parent.isSkipped && unsupported[name]) this.warnings.add('not-supported', unsupported[name], line);
      if (name === 'title' && parent.ownsLayer && !parent.isSkipped) this.#title = '';
      this.#frames.push({ ...parent, name, isSkipped: true, ownsLayer: false });
      return;
    }
    const frame = this.#enter(parent, name, attributes, line);
    this.#frames.push(frame);
    if (frame.isSkipped) return;
    if (shapeNames.has(name)) this.#shape(name, attributes, frame, line);
    else if (name === 'text' || name === 'tspan') this.#beginRun(name, attributes, frame);
    else if (name === 'use') this.#use(attributes, frame, line);
  }

  text(data: string): void {
    if (this.#title !== null) this.#title += data;
    const frame = this.#frames.at(-1);
    if (frame && !frame.isSkipped && (frame.name === 'text' || frame.name === 'tspan')) {
      const run = this.#runs.at(-1);
      if (run) run.text += data;
    }
  }

  close(): void {
    const frame = this.#frames.pop();
    if (!frame) return;
    if (frame.name === 'title' && this.#title !== null) {
      const name = this.#title.trim();
      if (name !== '') this.layers.rename(frame.layer, name);
      this.#title = null;
    } else if (frame.name === 'text' && !frame.isSkipped) this.#endText();
  }

  /** Draws the references that pointed forward in the file. */
  finish(): void {
    for (const { id, frame, attributes, line } of this.#waiting) {
      const element = this.definitions.find(id);
      if (!element)
        this.warnings.add('broken-reference', 'a use element refers to an id that the file doesn’t have', line);
      else this.#replay(element, attributes, frame, line);
    }
  }

  #rootFrame(): Frame {
    return {
      ...{ name: '', matrix: this.toDrawing, paint: initialPaint, layer: LayerTree.root },
      ...{ ownsLayer: false, area: this.rootArea, isSkipped: false },
    };
  }

  #enter(parent: Frame, name: string, attributes: Attributes, line: number): Frame {
    const paint = derivePaint(parent.paint, attributes);
    let { matrix, layer, area } = parent;
    if (attributes.transform !== undefined) {
      const own = parseTransform(attributes.transform);
      if (own) matrix = compose(matrix, own);
      else this.warnings.add('bad-transform', 'a transform that can’t be read is left out', line);
    }
    if (attributes['clip-path'] !== undefined && attributes['clip-path'] !== 'none') {
      this.warnings.add('not-supported', 'clip paths are not applied', line);
    }
    let ownsLayer = false;
    if (name === 'g') {
      const groupName = attributes['aria-label'] ?? attributes.id;
      if (groupName !== undefined) {
        const node = this.layers.open(layer, groupName);
        ownsLayer = node !== layer;
        layer = node;
      }
    } else if (name === 'svg' && this.#frames.length > 0) {
      const inner = this.#nestedViewport(attributes, area, matrix, paint);
      ({ matrix, area } = inner);
    }
    const isDrawn =
      containers.has(name) || shapeNames.has(name) || name === 'text' || name === 'tspan' || name === 'use';
    return { name, matrix, paint, layer, ownsLayer, area, isSkipped: !paint.isDisplayed || !isDrawn };
  }

  #nestedViewport(
    attributes: Attributes,
    area: Frame['area'],
    matrix: Affine,
    paint: Paint,
  ): Pick<Frame, 'matrix' | 'area'> {
    const length = lengthReader(attributes, area, paint);
    const width = length('width', 'x') ?? area.width;
    const height = length('height', 'y') ?? area.height;
    const place = { ...identityAffine, e: length('x', 'x') ?? 0, f: length('y', 'y') ?? 0 };
    const box = parseViewBox(attributes.viewBox);
    const inner = box ? compose(place, viewBoxTransform(box, width, height, attributes.preserveAspectRatio)) : place;
    return { matrix: compose(matrix, inner), area: box ?? { width, height } };
  }

  #shape(name: string, attributes: Attributes, frame: Frame, line: number): void {
    const { paint, matrix, layer } = frame;
    const stroke = paint.strokeWidth > 0 ? visibleColour(paint.stroke, paint.strokeOpacity * paint.opacity) : null;
    const fill = visibleColour(paint.fill, paint.fillOpacity * paint.opacity);
    if (!paint.isVisible || (!stroke && !fill)) return;
    const { path, error } = shapePath(name, attributes, lengthReader(attributes, frame.area, paint));
    if (error !== undefined) this.warnings.add('bad-geometry', `${error}; what came before it is drawn`, line);
    if (path.ops.length < 2) return;
    const placed = transformPath(path, matrix);
    for (let i = 0; i < placed.coords.length; i++) {
      if (Math.abs(placed.coords[i]!) < 1e15) continue;
      this.warnings.add('bad-geometry', 'an element with coordinates that are no usable numbers is left out', line);
      return;
    }
    this.#count(layer, line);
    const enlargement = meanScale(matrix);
    const dashes = paint.dashes.map((length) => length * enlargement);
    this.sink.path({
      layer,
      lineStyle: stroke ? this.styles.index('line', layer, stroke, paint.strokeWidth * enlargement, dashes) : -1,
      fillStyle: fill && name !== 'line' ? this.styles.index('fill', layer, fill, 0, []) : -1,
      fillRule: paint.fillRule,
      path: placed,
    });
  }

  #count(layer: number, line: number): void {
    this.elements++;
    this.layers.count(layer);
    if (this.elements > this.limits.maxElements) {
      throw new ReadError('limit-exceeded', `The drawing has more than ${this.limits.maxElements} elements.`, {
        line,
        column: 1,
      });
    }
  }

  #beginRun(name: string, attributes: Attributes, frame: Frame): void {
    const before = name === 'text' ? undefined : this.#runs.at(-1);
    const length = lengthReader(attributes, frame.area, frame.paint);
    const [x, y] = [length('x', 'x'), length('y', 'y')];
    const [dx, dy] = [length('dx', 'x') ?? 0, length('dy', 'y') ?? 0];
    const startsAnew = name === 'text' || x !== undefined || y !== undefined || dy !== 0;
    if (!startsAnew) return;
    const { matrix, paint, layer } = frame;
    const place = { x: (x ?? before?.x ?? 0) + dx, y: (y ?? before?.y ?? 0) + dy };
    this.#runs.push({ ...place, matrix, paint, layer, text: '' });
  }

  #endText(): void {
    const runs = this.#runs;
    this.#runs = [];
    for (const run of runs) {
      const colour = visibleColour(run.paint.fill ?? run.paint.stroke, run.paint.fillOpacity * run.paint.opacity);
      const mark = markOfRun(run);
      if (!mark || !colour || !run.paint.isVisible || !(Math.abs(mark.x) + Math.abs(mark.y) < 1e15)) continue;
      this.#count(run.layer, 0);
      this.sink.text({ layer: run.layer, style: this.styles.index('text', run.layer, colour, 0, []), mark });
    }
  }

  #use(attributes: Attributes, frame: Frame, line: number): void {
    const reference = attributes.href ?? attributes['xlink:href'] ?? '';
    if (!reference.startsWith('#')) {
      this.warnings.add(
        'broken-reference',
        'a use element refers to something outside the file; it is not fetched',
        line,
      );
      return;
    }
    const id = reference.slice(1).trim();
    const element = this.definitions.find(id);
    if (!element || this.definitions.isOpen(element)) this.#waiting.push({ id, frame, attributes, line });
    else this.#replay(element, attributes, frame, line);
  }

  #replay(element: DefinedElement, useAttributes: Attributes, frame: Frame, line: number): void {
    if (this.#useChain.includes(element) || this.#useChain.length >= this.limits.maxUseDepth) {
      this.warnings.add(
        'broken-reference',
        'a use element contains itself or is nested too deep; it is left out',
        line,
      );
      return;
    }
    const length = lengthReader(useAttributes, frame.area, frame.paint);
    const place = { ...identityAffine, e: length('x', 'x') ?? 0, f: length('y', 'y') ?? 0 };
    this.#useChain.push(element);
    this.#frames.push({ ...frame, matrix: compose(frame.matrix, place), ownsLayer: false });
    if (element.name === 'symbol' || element.name === 'svg') {
      const { width = '100%', height = '100%' } = useAttributes;
      const size = element.name === 'symbol' ? { width, height } : pick(useAttributes, ['width', 'height']);
      this.#walk({ ...element, name: 'svg', attributes: { ...element.attributes, ...size } });
    } else this.#walk(element);
    this.#frames.pop();
    this.#useChain.pop();
  }

  #walk(element: DefinedElement): void {
    this.open(element.name, element.attributes, element.line);
    for (const child of element.children) {
      if (typeof child === 'string') this.text(child);
      else this.#walk(child);
    }
    this.close();
  }
}

const pick = (attributes: Attributes, names: readonly string[]): Attributes =>
  Object.fromEntries(names.flatMap((name) => (attributes[name] === undefined ? [] : [[name, attributes[name]]])));

function lengthReader(attributes: Attributes, area: Frame['area'], paint: Paint): LengthOf {
  return (name, axis) => {
    const text = attributes[name];
    if (text === undefined || text === 'auto') return undefined;
    const percentOf =
      axis === 'x' ? area.width : axis === 'y' ? area.height : Math.hypot(area.width, area.height) / Math.SQRT2;
    // x and y of a text may be lists: the first places the run
    return userLength(
      text.includes(' ') || text.includes(',') ? text.trim().split(/[\s,]+/)[0] : text,
      { fontSize: paint.fontSize, percentOf },
      0,
    );
  };
}

function visibleColour(colour: Colour | null, opacity: number): Colour | null {
  if (!colour) return null;
  const a = Math.round(colour.a * opacity);
  return a > 0 ? { ...colour, a } : null;
}
