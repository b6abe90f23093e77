import type { Style, StyleKind, Colour } from '@gull-pane/core/drawing/model';

/** Styles in the order in which they first appear, each once. Their `layer` is a node of the layer tree until the end. */
export class StyleTable {
  readonly styles: Style[] = [];
  readonly #byKey = new Map<string, number>();

  /** @param width stroke width in drawing units; kept to six digits, so that rounding makes no new styles */
  index(kind: StyleKind, layer: number, colour: Colour, width: number, dashes: readonly number[]): number {
    const shortWidth = sixDigits(width);
    const shortDashes = dashes.map(sixDigits);
    const key = `${kind} ${layer} ${colour.r},${colour.g},${colour.b},${colour.a} ${shortWidth} ${shortDashes.join(' ')}`;
    const known = this.#byKey.get(key);
    if (known !== undefined) return known;
    this.#byKey.set(key, this.styles.length);
    return this.styles.push({ kind, layer, colour, width: shortWidth, dashes: shortDashes }) - 1;
  }
}

const sixDigits = (value: number): number => Number(value.toPrecision(6));
