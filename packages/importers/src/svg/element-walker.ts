import { compose, identityAffine, type Affine } from '@gull-pane/core/geometry/affine';
import { transformPath, type PathBuilder } from '@gull-pane/core/drawing/path';
import type { DrawingSink } from '@gull-pane/core/drawing/model';
import { ReadError } from '../read-error.ts';
import { intersectClips, isInClip } from '../clip-path.ts';
import { elementClip } from './element-clip.ts';
import type { DefinedElement } from './definitions.ts';
import { lengthReader, visibleColour, type Attributes, type Frame } from './frame.ts';
import { LayerTree } from './layer-tree.ts';
import type { SvgLimits } from './limits.ts';
import { declaredValues, derivePaint, initialPaint, reference, type Paint, type PaintServer } from './paint.ts';
import { meanColour } from './paint-server.ts';
import { bisector, pathVertices } from './path-vertices.ts';
import type { Preparation } from './preparation.ts';
import { pictureOf } from './picture.ts';
import { ShapeDrawer, markerPlacement } from './shape-drawer.ts';
import { shapeNames, shapePath } from './shapes.ts';
import { StyleTable } from '../style-table.ts';
import { TextCollector } from './text-collector.ts';
import { parseTransform } from './transform-list.ts';
import { parseViewBox, viewBoxTransform, type ViewBox } from './view-box.ts';

/** Elements that never draw where they stand. */
const silentContainers = new Set([
  'defs',
  'symbol',
  'title',
  'desc',
  'metadata',
  'style',
  'linearGradient',
  'radialGradient',
  'solidcolor',
  'clipPath',
  'marker',
  'pattern',
  'view',
  'cursor',
]);
/** Elements that would draw but are left out, and what is said of them. */
const unsupported: Readonly<Record<string, string>> = {
  foreignObject: 'foreign objects are not drawn',
  script: 'scripts are not run',
  filter: 'filters are not applied',
  mask: 'masks are not applied',
  animate: 'nothing moves',
  animateTransform: 'nothing moves',
  animateMotion: 'nothing moves',
  set: 'nothing moves',
};
const containers = new Set(['g', 'a', 'switch', 'svg']);
const texts = new Set(['text', 'tspan', 'textPath']);
const single = new Set(['use', 'image']);

/** Of deeper groups a rule looks at the nearest alone. */
const MOST_AROUND = 1000;
/** Elements that may be gone through again for others, whether they draw or not, for each one that may be drawn. */
const REPEATED_PER_ELEMENT = 4;

/** Goes through the elements of a file in order and hands what they draw to a sink, in drawing coordinates. */
export class ElementWalker {
  readonly styles = new StyleTable();
  readonly layers = new LayerTree();
  elements = 0;
  #steps = 0;
  readonly #frames: Frame[] = [];
  readonly #useChain: DefinedElement[] = [];
  readonly #texts = new TextCollector();
  readonly #shapes: ShapeDrawer;
  readonly #server: PaintServer;
  #title: string | null = null;
  #repeated = 0;

  /** @param toDrawing maps the root's user units to drawing coordinates (x as it is, y turned up) */
  constructor(
    private readonly sink: DrawingSink,
    private readonly preparation: Preparation,
    private readonly limits: SvgLimits,
    private readonly toDrawing: Affine,
    private readonly rootArea: Pick<ViewBox, 'width' | 'height'>,
  ) {
    const { definitions, warnings } = preparation;
    this.#shapes = new ShapeDrawer(sink, this.styles, definitions, warnings, (layer, steps, line) =>
      this.#count(layer, steps, line),
    );
    this.#server = (id) => {
      const element = definitions.find(id);
      if (element?.name === 'pattern') return 'pattern';
      return element?.name.endsWith('Gradient') ? meanColour(element, definitions) : undefined;
    };
  }

  open(name: string, attributes: Attributes, line: number): void {
    const parent = this.#frames.at(-1) ?? this.#rootFrame();
    if (this.#frames.length >= this.limits.maxDepth) {
      const message = `Elements are nested more than ${this.limits.maxDepth} deep.`;
      throw new ReadError('limit-exceeded', message, { line, column: 1 });
    }
    if (parent.isSkipped || silentContainers.has(name) || unsupported[name] !== undefined) {
      if (!parent.isSkipped && unsupported[name]) this.#warn('not-supported', unsupported[name], line);
      if (name === 'title' && parent.ownsLayer && !parent.isSkipped) this.#title = '';
      this.#frames.push({ ...parent, name, attributes, isSkipped: true, ownsLayer: false, hasChosen: false });
      return;
    }
    const frame = this.#enter(parent, name, attributes, line);
    this.#frames.push(frame);
    if (frame.isSkipped) return;
    if (shapeNames.has(name)) {
      const path = this.#shapes.draw(name, attributes, frame, line);
      if (path) this.#markers(path, name, frame, line);
    } else if (name === 'image') this.#picture(attributes, frame, line);
    else if (name === 'text' || name === 'tspan') this.#texts.begin(attributes, frame);
    else if (name === 'textPath') this.#textPath(attributes, frame, line);
    else if (name === 'use') this.#use(attributes, frame, line);
  }

  text(data: string): void {
    if (this.#title !== null) this.#title += data;
    const frame = this.#frames.at(-1);
    if (frame && !frame.isSkipped && texts.has(frame.name)) this.#texts.add(data);
  }

  close(): void {
    const frame = this.#frames.pop();
    if (!frame) return;
    if (frame.name === 'title' && this.#title !== null) {
      const name = this.#title.trim();
      if (name !== '') this.layers.rename(frame.layer, name);
      this.#title = null;
    } else if (frame.name === 'text' && !frame.isSkipped) this.#endText();
    else if ((frame.name === 'tspan' || frame.name === 'textPath') && !frame.isSkipped) {
      if (frame.name === 'textPath') this.#texts.endPath();
      const around = this.#frames.at(-1);
      if (around) this.#texts.resume(around);
    }
  }

  #warn(code: string, message: string, line: number): void {
    this.preparation.warnings.add(code, message, line);
  }

  #rootFrame(): Frame {
    return {
      name: '',
      attributes: {},
      matrix: this.toDrawing,
      paint: initialPaint,
      layer: LayerTree.root,
      ownsLayer: false,
      area: this.rootArea,
      clip: null,
      isSkipped: false,
      hasChosen: false,
    };
  }

  #enter(parent: Frame, name: string, attributes: Attributes, line: number): Frame {
    const { styleSheet } = this.preparation;
    const rules = styleSheet.isEmpty ? [] : styleSheet.declarationsFor({ name, attributes }, this.#around(line));
    const values = declaredValues(attributes, { rules });
    const paint = derivePaint(parent.paint, values, { server: this.#server });
    let { matrix, layer, area, clip } = parent;
    if (values.transform !== undefined) {
      const own = parseTransform(values.transform);
      if (own) matrix = compose(matrix, own);
      else this.#warn('bad-transform', 'a transform that can’t be read is left out', line);
    }
    for (const [property, what] of [
      ['mask', 'masks are not applied'],
      ['filter', 'filters are not applied'],
    ] as const) {
      if ((values[property] ?? 'none') !== 'none') this.#warn('not-supported', what, line);
    }
    const clipPath = values['clip-path'];
    if (clipPath !== undefined && clipPath !== 'none') {
      const element = this.preparation.definitions.find(reference(clipPath) ?? '');
      const own = element && elementClip(element, { ...parent, matrix, paint, area });
      if (own) clip = intersectClips(clip, own);
      else this.#warn('not-supported', 'clip paths of several shapes, or of none, are not applied', line);
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
      ({ matrix, area } = this.#nestedViewport(attributes, area, matrix, paint));
    }
    const isDrawn = containers.has(name) || shapeNames.has(name) || texts.has(name) || single.has(name);
    if (!isDrawn) this.#warn('not-supported', `the element “${name.slice(0, 40)}” is not drawn`, line);
    let isSkipped = !paint.isDisplayed || !isDrawn;
    if (parent.name === 'switch' && !isSkipped) {
      // the first child that suits is drawn, no other
      isSkipped = parent.hasChosen || !suits(attributes);
      parent.hasChosen ||= !isSkipped;
    }
    return { name, attributes, matrix, paint, layer, ownsLayer, area, clip, isSkipped, hasChosen: false };
  }

  /** The elements that a rule may look at. */
  #around(line: number): readonly Frame[] {
    if (this.#frames.length <= MOST_AROUND) return this.#frames;
    this.#warn('not-supported', `style rules look no further than the nearest ${MOST_AROUND} groups`, line);
    return this.#frames.slice(-MOST_AROUND);
  }

  #nestedViewport(
    attributes: Attributes,
    area: Frame['area'],
    matrix: Affine,
    paint: Paint,
  ): Pick<Frame, 'matrix' | 'area'> {
    const length = lengthReader(attributes, { area, paint });
    const width = length('width', 'x') ?? area.width;
    const height = length('height', 'y') ?? area.height;
    const place = { ...identityAffine, e: length('x', 'x') ?? 0, f: length('y', 'y') ?? 0 };
    const box = parseViewBox(attributes.viewBox);
    const inner = box ? compose(place, viewBoxTransform(box, width, height, attributes.preserveAspectRatio)) : place;
    return { matrix: compose(matrix, inner), area: box ?? { width, height } };
  }

  #count(layer: number, steps: number, line: number): void {
    this.elements++;
    this.#steps += steps;
    this.layers.count(layer);
    const { maxElements, maxSteps } = this.limits;
    const place = { line, column: 1 };
    if (this.elements > maxElements) {
      throw new ReadError(
        'limit-exceeded',
        `The drawing has more than ${maxElements} elements (GULL_PANE_MAX_ELEMENTS).`,
        place,
      );
    }
    if (this.#steps > maxSteps) {
      throw new ReadError('limit-exceeded', `The paths have more than ${maxSteps} steps in all.`, place);
    }
  }

  #textPath(attributes: Attributes, frame: Frame, line: number): void {
    const element = this.#referred(attributes);
    const path =
      element && shapeNames.has(element.name)
        ? shapePath(element.name, element.attributes, lengthReader(element.attributes, frame)).path
        : null;
    if (!path || path.ops.length < 2) {
      this.#warn('broken-reference', 'a text refers to a path that the file doesn’t have', line);
      this.#texts.begin({}, frame);
      return;
    }
    const own = parseTransform(element!.attributes.transform ?? '');
    this.#texts.beginOnPath(own ? transformPath(path, own) : path, attributes, frame);
  }

  #endText(): void {
    for (const { mark, frame } of this.#texts.finish()) {
      const { paint, layer, clip } = frame;
      const colour = visibleColour(paint.fill ?? paint.stroke, paint.fillOpacity * paint.opacity);
      if (!colour || !paint.isVisible || !(Math.abs(mark.x) + Math.abs(mark.y) < 1e15)) continue;
      if (clip && !isInClip(clip, mark.x, mark.y)) continue;
      this.#count(layer, 1, 0);
      this.sink.text({ layer, style: this.styles.index('text', layer, colour, 0, []), mark });
    }
  }

  #picture(attributes: Attributes, frame: Frame, line: number): void {
    const picture = pictureOf(attributes, frame);
    if (typeof picture === 'string') this.#warn('not-supported', picture, line);
    else if (picture) {
      const isOdd = (frame.clip?.shapes.length ?? 0) > 0;
      if (isOdd)
        this.#warn('not-supported', 'pictures are cut by the box of their clip: what else it hides is drawn', line);
      this.#count(frame.layer, 1, line);
      this.sink.picture(picture);
    }
  }

  #referred(attributes: Attributes): DefinedElement | undefined {
    const href = attributes.href ?? attributes['xlink:href'] ?? '';
    return href.startsWith('#') ? this.preparation.definitions.find(href.slice(1).trim()) : undefined;
  }

  #use(attributes: Attributes, frame: Frame, line: number): void {
    const href = attributes.href ?? attributes['xlink:href'] ?? '';
    const element = this.#referred(attributes);
    if (!element) {
      const isInside = href.startsWith('#');
      const what = isInside ? 'an id that the file doesn’t have' : 'something outside the file; it is not fetched';
      this.#warn('broken-reference', `a use element refers to ${what}`, line);
      return;
    }
    const length = lengthReader(attributes, frame);
    const place = { ...identityAffine, e: length('x', 'x') ?? 0, f: length('y', 'y') ?? 0 };
    this.#within(element, { ...frame, matrix: compose(frame.matrix, place) }, line, () => {
      if (element.name !== 'symbol' && element.name !== 'svg') {
        this.#walk(element);
        return;
      }
      const { width = '100%', height = '100%' } = attributes;
      const size = element.name === 'symbol' ? { width, height } : pick(attributes, ['width', 'height']);
      this.#walk({ ...element, name: 'svg', attributes: { ...element.attributes, ...size } });
    });
  }

  #markers(path: PathBuilder, name: string, frame: Frame, line: number): void {
    const { markers } = frame.paint;
    const canHave = name === 'path' || name === 'line' || name === 'polyline' || name === 'polygon';
    if (!canHave || markers.every((marker) => marker === null)) return;
    const vertices = pathVertices(path);
    vertices.forEach((vertex, index) => {
      const isFirst = index === 0;
      const isLast = index === vertices.length - 1;
      const id = isFirst ? markers[0] : isLast ? markers[2] : markers[1];
      const element = id === null ? undefined : this.preparation.definitions.find(id);
      if (element?.name !== 'marker') return;
      const placement = markerPlacement(element, frame.paint.fontSize);
      const turn = isFirst && placement.isReversedAtStart ? Math.PI : 0;
      const angle = Number.isNaN(placement.angleRad) ? bisector(vertex) + turn : placement.angleRad;
      const k = placement.scalesWithStroke ? frame.paint.strokeWidth : 1;
      const [cos, sin] = [Math.cos(angle) * k, Math.sin(angle) * k];
      const stands: Affine = { a: cos, b: sin, c: -sin, d: cos, e: vertex.x, f: vertex.y };
      const box = parseViewBox(element.attributes.viewBox);
      const inner = box
        ? viewBoxTransform(box, placement.width, placement.height, element.attributes.preserveAspectRatio)
        : identityAffine;
      // the reference point comes to the vertex
      const ref = { x: inner.a * placement.refX + inner.e, y: inner.d * placement.refY + inner.f };
      const shift: Affine = { ...identityAffine, e: -ref.x, f: -ref.y };
      const matrix = compose(compose(compose(frame.matrix, stands), shift), inner);
      const paint = { ...initialPaint, opacity: frame.paint.opacity };
      const area = box ?? { width: placement.width, height: placement.height };
      this.#within(element, { ...frame, matrix, paint, area }, line, () => {
        this.#walk({ ...element, name: 'g', attributes: without(element.attributes, ['id', 'viewBox']) });
      });
    });
  }

  /** Draws a definition where it is referred to; one that contains itself is left out. */
  #within(element: DefinedElement, frame: Frame, line: number, draw: () => void): void {
    if (this.#useChain.includes(element) || this.#useChain.length >= this.limits.maxUseDepth) {
      const message = 'an element that contains itself or is nested too deep is left out';
      this.#warn('broken-reference', message, line);
      return;
    }
    this.#useChain.push(element);
    this.#frames.push({ ...frame, ownsLayer: false, isSkipped: false });
    draw();
    this.#frames.pop();
    this.#useChain.pop();
  }

  #walk(element: DefinedElement): void {
    this.open(element.name, element.attributes, element.line);
    // what draws nothing takes time, too
    if (++this.#repeated > REPEATED_PER_ELEMENT * this.limits.maxElements) {
      const { maxElements } = this.limits;
      const message = `The drawing repeats more than ${REPEATED_PER_ELEMENT * maxElements} elements (GULL_PANE_MAX_ELEMENTS).`;
      throw new ReadError('limit-exceeded', message, { line: element.line, column: 1 });
    }
    for (const child of element.children) {
      if (typeof child === 'string') this.text(child);
      else this.#walk(child);
    }
    this.close();
  }
}

/** Whether a child of a `switch` may be chosen (SVG 2, 5.9): in English, and without required features or extensions. */
function suits({ systemLanguage, requiredExtensions }: Attributes): boolean {
  if (requiredExtensions !== undefined && requiredExtensions.trim() !== '') return false;
  return systemLanguage === undefined || systemLanguage.split(',').some((language) => /^\s*en\b/i.test(language));
}

const pick = (attributes: Attributes, names: readonly string[]): Attributes =>
  Object.fromEntries(names.flatMap((name) => (attributes[name] === undefined ? [] : [[name, attributes[name]]])));

const without = (attributes: Attributes, names: readonly string[]): Attributes =>
  Object.fromEntries(Object.entries(attributes).filter(([name]) => !names.includes(name)));
