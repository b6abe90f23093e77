import type { Style, StyleKind, Colour } from '@gull-pane/core/drawing/model';

/** Styles in the order in which they first appear, each once. Their `layer` is a node of the layer tree until the end. */
export class StyleTable {
  readonly styles: Style[] = [];
  readonly #byKey = new Map<string, number>();
  /** By kind, what was asked for last: elements mostly follow others of their style. */
  readonly #last: Partial<Record<StyleKind, Asked>> = {};

  /** @param width stroke width in drawing units; kept to six digits, so that rounding makes no new styles */
  index(kind: StyleKind, layer: number, colour: Colour, width: number, dashes: readonly number[]): number {
    const last = this.#last[kind];
    if (last && isSame(last, layer, colour, width, dashes)) return last.index;
    const index = this.#find(kind, layer, colour, width, dashes);
    this.#last[kind] = { layer, colour, width, dashes, index };
    return index;
  }

  #find(kind: StyleKind, layer: number, colour: Colour, width: number, dashes: readonly number[]): number {
    const shortWidth = sixDigits(width);
    const shortDashes = dashes.map(sixDigits);
    const key = `${kind} ${layer} ${colour.r},${colour.g},${colour.b},${colour.a} ${shortWidth} ${shortDashes.join(' ')}`;
    const known = this.#byKey.get(key);
    if (known !== undefined) return known;
    this.#byKey.set(key, this.styles.length);
    return this.styles.push({ kind, layer, colour, width: shortWidth, dashes: shortDashes }) - 1;
  }
}

interface Asked {
  readonly layer: number;
  readonly colour: Colour;
  readonly width: number;
  readonly dashes: readonly number[];
  readonly index: number;
}

const isSame = (last: Asked, layer: number, colour: Colour, width: number, dashes: readonly number[]): boolean =>
  last.layer === layer &&
  last.width === width &&
  last.colour.r === colour.r &&
  last.colour.g === colour.g &&
  last.colour.b === colour.b &&
  last.colour.a === colour.a &&
  last.dashes.length === dashes.length &&
  last.dashes.every((length, i) => length === dashes[i]);

const sixDigits = (value: number): number => Number(value.toPrecision(6));
