import type { Affine } from '@gull-pane/core/geometry/affine';
import type { DrawingSink, DrawingUnit, ReadResult } from '@gull-pane/core/drawing/model';
import { ReadError } from '../read-error.ts';
import { ElementWalker } from './element-walker.ts';
import { physicalMillimetres, userLength } from './length.ts';
import { defaultSvgLimits, type SvgLimits } from './limits.ts';
import { nothingToPrepare, type Preparation } from './preparation.ts';
import { SvgParser } from './svg-parser.ts';
import { parseViewBox } from './view-box.ts';

export interface SvgReadResult extends ReadResult {
  /** The layer of each number that elements and styles were given as `layer` while the file was read. */
  readonly layerOfNode: readonly number[];
}

/**
 * Reads an SVG piece by piece. Drawing x = SVG x, drawing y = −SVG y; with a physical size and a viewBox, scaled to
 * millimetres. The viewBox's origin is not subtracted, so that coordinates of a national grid stay what they are.
 */
export class SvgReader {
  readonly #parser: SvgParser;
  #walker: ElementWalker | undefined;
  #unit: DrawingUnit = 'none';

  /**
   * @param sink receives elements; their layers and those of the styles are nodes, see {@link SvgReadResult.layerOfNode}
   * @param preparation what was read of the file before; needed where elements refer to others or style rules apply
   */
  constructor(
    private readonly sink: DrawingSink,
    private readonly preparation: Preparation = nothingToPrepare(),
    private readonly limits: SvgLimits = defaultSvgLimits,
  ) {
    this.#parser = new SvgParser(
      {
        open: (name, attributes, line) => {
          this.#walker ??= this.#begin(attributes);
          this.#walker.open(name, attributes, line);
        },
        text: (data) => this.#walker?.text(data),
        close: () => this.#walker?.close(),
      },
      preparation.warnings,
    );
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
    this.#parser.end();
    const walker = this.#walker;
    if (!walker) throw new ReadError('not-svg', 'The file has no svg element.');
    const { layers, layerOfNode } = walker.layers.finish();
    const styles = walker.styles.styles.map((style) => ({ ...style, layer: layerOfNode[style.layer]! }));
    return { unit: this.#unit, layers, styles, layerOfNode, warnings: this.preparation.warnings.list() };
  }

  #begin(attributes: Readonly<Record<string, string>>): ElementWalker {
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
    return new ElementWalker(this.sink, this.preparation, this.limits, toDrawing, area);
  }
}
