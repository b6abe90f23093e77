import { SaxesParser } from 'saxes';
import type { Affine } from '@gull-pane/core/geometry/affine';
import type { DrawingSink, DrawingUnit, ReadResult } from '@gull-pane/core/drawing/model';
import { ReadError } from '../read-error.ts';
import { Definitions } from './definitions.ts';
import { ElementWalker, defaultSvgLimits, type SvgLimits } from './element-walker.ts';
import { physicalMillimetres, userLength } from './length.ts';
import { parseViewBox } from './view-box.ts';
import { Warnings } from './warnings.ts';

const SVG_NAMESPACE = 'http://www.w3.org/2000/svg';

export interface SvgReadResult extends ReadResult {
  /** The layer of each number that elements and styles were given as `layer` while the file was read. */
  readonly layerOfNode: readonly number[];
}

/**
 * Reads an SVG piece by piece. Drawing x = SVG x, drawing y = −SVG y; with a physical size and a viewBox, scaled to
 * millimetres. The viewBox's origin is not subtracted, so that coordinates of a national grid stay what they are.
 */
export class SvgReader {
  readonly #parser = new SaxesParser({ position: true });
  readonly #warnings = new Warnings();
  readonly #definitions: Definitions;
  #walker: ElementWalker | undefined;
  #unit: DrawingUnit = 'none';
  #prefix = '';

  /**
   * @param references ids that `use` elements of the file refer to (see ReferenceScan)
   * @param sink receives elements; their layers and those of the styles are nodes, see {@link SvgReadResult.layerOfNode}
   */
  constructor(
    private readonly sink: DrawingSink,
    references: ReadonlySet<string>,
    private readonly limits: SvgLimits = defaultSvgLimits,
  ) {
    this.#definitions = new Definitions(references);
    const parser = this.#parser;
    parser.on('error', (error) => {
      throw this.#malformed(error);
    });
    parser.on('opentag', (tag) => this.#open(tag.name, tag.attributes as Record<string, string>));
    parser.on('closetag', (tag) => {
      if (this.#localName(tag.name) === null) return;
      this.#definitions.close();
      this.#walker?.close();
    });
    const text = (data: string): void => {
      this.#definitions.text(data);
      this.#walker?.text(data);
    };
    parser.on('text', text);
    parser.on('cdata', text);
  }

  /** Elements drawn so far. */
  get elements(): number {
    return this.#walker?.elements ?? 0;
  }

  /** @throws ReadError at the first thing that makes the file unreadable, with its line and column */
  write(text: string): void {
    this.#parser.write(text);
  }

  /** @throws ReadError if the file ends too early or isn't an SVG */
  end(): SvgReadResult {
    this.#parser.close();
    const walker = this.#walker;
    if (!walker) throw new ReadError('not-svg', 'The file has no svg element.');
    walker.finish();
    const { layers, layerOfNode } = walker.layers.finish();
    const styles = walker.styles.styles.map((style) => ({ ...style, layer: layerOfNode[style.layer]! }));
    return { unit: this.#unit, layers, styles, layerOfNode, warnings: this.#warnings.list() };
  }

  #open(qualifiedName: string, attributes: Readonly<Record<string, string>>): void {
    const line = this.#parser.line;
    if (!this.#walker) this.#walker = this.#root(qualifiedName, attributes);
    const name = this.#localName(qualifiedName);
    if (name === null) return;
    this.#definitions.open(name, attributes, line);
    if (this.#definitions.count > this.limits.maxDefinitions) {
      const message = `Elements that are used again are made of more than ${this.limits.maxDefinitions} parts.`;
      throw new ReadError('limit-exceeded', message, { line, column: this.#parser.column });
    }
    this.#walker.open(name, attributes, line);
  }

  /** Elements of other vocabularies (editors' own notes) are passed over: null. */
  #localName(name: string): string | null {
    const colon = name.indexOf(':');
    const prefix = colon < 0 ? '' : name.slice(0, colon);
    return prefix === this.#prefix ? name.slice(colon + 1) : null;
  }

  #root(name: string, attributes: Readonly<Record<string, string>>): ElementWalker {
    const colon = name.indexOf(':');
    this.#prefix = colon < 0 ? '' : name.slice(0, colon);
    const namespace = attributes[this.#prefix === '' ? 'xmlns' : `xmlns:${this.#prefix}`];
    if (name.slice(colon + 1) !== 'svg' || (namespace !== undefined && namespace !== SVG_NAMESPACE)) {
      const place = { line: this.#parser.line, column: this.#parser.column };
      throw new ReadError(
        'not-svg',
        `The file is XML, but its first element is <${name.slice(0, 60)}>, not <svg>.`,
        place,
      );
    }
    const box = parseViewBox(attributes.viewBox);
    const width = physicalMillimetres(attributes.width);
    const height = physicalMillimetres(attributes.height);
    let scale = 1;
    if (box && width !== null && height !== null && width > 0 && height > 0) {
      this.#unit = 'mm';
      scale = Math.min(width / box.width, height / box.height);
    }
    const toDrawing: Affine = { a: scale, b: 0, c: 0, d: -scale, e: 0, f: 0 };
    const base = { fontSize: 16, percentOf: 100 };
    const area = box ?? {
      width: userLength(attributes.width, base, 300),
      height: userLength(attributes.height, base, 150),
    };
    return new ElementWalker(this.sink, this.#definitions, this.#warnings, this.limits, toDrawing, area);
  }

  #malformed(error: Error): ReadError {
    const place = { line: this.#parser.line, column: this.#parser.column };
    const message = error.message.replace(/^\d+:\d+:\s*/, '').replace(/\.$/, '');
    if (!this.#walker) return new ReadError('not-svg', `The file doesn’t begin like an SVG: ${message}.`, place);
    return new ReadError('malformed-xml', `The XML is broken: ${message}.`, place);
  }
}
