import { ReadError } from '../read-error.ts';
import { Definitions, type ReferenceScan } from './definitions.ts';
import type { SvgLimits } from './limits.ts';
import { StyleSheet } from './style-sheet.ts';
import { SvgParser } from './svg-parser.ts';
import { Warnings } from '../warnings.ts';

/** What must be known of a file before it can be drawn. */
export interface Preparation {
  readonly definitions: Definitions;
  readonly styleSheet: StyleSheet;
  readonly warnings: Warnings;
}

/** What a file without definitions and style sheets comes to. */
export const nothingToPrepare = (): Preparation => ({
  definitions: new Definitions(new Set()),
  styleSheet: new StyleSheet(),
  warnings: new Warnings(),
});

/** Whether a file needs {@link PreparationReader} at all; most plans don't. */
export const needsPreparation = (scan: ReferenceScan): boolean => scan.references.size > 0 || scan.hasStyle;

/** Reads a file for what elements refer to and for its style rules. */
export class PreparationReader {
  readonly #result: Preparation;
  readonly #parser: SvgParser;
  #style: string | null = null;
  #styleLine = 0;

  constructor(references: ReadonlySet<string>, limits: SvgLimits) {
    const result = { ...nothingToPrepare(), definitions: new Definitions(references) };
    this.#result = result;
    this.#parser = new SvgParser({
      open: (name, attributes, line) => {
        result.definitions.open(name, attributes, line);
        if (result.definitions.count > limits.maxDefinitions) {
          const message = `Elements that are used again are made of more than ${limits.maxDefinitions} parts.`;
          throw new ReadError('limit-exceeded', message, { line, column: 1 });
        }
        if (name !== 'style') return;
        this.#style = '';
        this.#styleLine = line;
      },
      text: (data) => {
        if (this.#style === null) result.definitions.text(data);
        else this.#style += data;
      },
      close: () => {
        result.definitions.close();
        if (this.#style === null) return;
        result.styleSheet.add(this.#style, result.warnings, this.#styleLine);
        this.#style = null;
      },
    });
  }

  write(text: string): void {
    this.#parser.write(text);
  }

  end(): Preparation {
    this.#parser.end();
    return this.#result;
  }
}
