import { SaxesParser } from 'saxes';
import { ReadError } from '../read-error.ts';
import { declaredEntities } from './entities.ts';
import type { Warnings } from '../warnings.ts';

const SVG_NAMESPACE = 'http://www.w3.org/2000/svg';

export interface SvgEvents {
  open(name: string, attributes: Readonly<Record<string, string>>, line: number): void;
  text(data: string): void;
  close(): void;
}

/** Reads XML as a stream of SVG elements: other vocabularies are passed over, entities declared in the file are known. */
export class SvgParser {
  readonly #parser = new SaxesParser({ position: true });
  /** The prefix of SVG elements in this file; null before the first element. */
  #prefix: string | null = null;

  /** @param warnings told of entities that stand elsewhere; each pass over a file but one leaves it out */
  constructor(events: SvgEvents, warnings?: Warnings) {
    const parser = this.#parser;
    parser.on('doctype', (doctype) => Object.assign(parser.ENTITIES, declaredEntities(doctype, warnings, parser.line)));
    parser.on('error', (error) => {
      throw this.#malformed(error);
    });
    parser.on('opentag', (tag) => {
      const attributes = tag.attributes as Record<string, string>;
      this.#prefix ??= this.#rootPrefix(tag.name, attributes);
      const name = this.#localName(tag.name);
      if (name !== null) events.open(name, attributes, parser.line);
    });
    parser.on('closetag', (tag) => {
      if (this.#localName(tag.name) !== null) events.close();
    });
    parser.on('text', (data) => events.text(data));
    parser.on('cdata', (data) => events.text(data));
  }

  get place(): { line: number; column: number } {
    return { line: this.#parser.line, column: this.#parser.column };
  }

  /** @throws ReadError at the first thing that makes the file unreadable, with its line and column */
  write(text: string): void {
    this.#parser.write(text);
  }

  /** @throws ReadError if the file ends too early or isn't an SVG */
  end(): void {
    this.#parser.close();
    if (this.#prefix === null) throw new ReadError('not-svg', 'The file has no svg element.');
  }

  /** Elements of other vocabularies (editors' own notes) are passed over: null. */
  #localName(name: string): string | null {
    const colon = name.indexOf(':');
    const prefix = colon < 0 ? '' : name.slice(0, colon);
    return prefix === this.#prefix ? name.slice(colon + 1) : null;
  }

  #rootPrefix(name: string, attributes: Readonly<Record<string, string>>): string {
    const colon = name.indexOf(':');
    const prefix = colon < 0 ? '' : name.slice(0, colon);
    const namespace = attributes[prefix === '' ? 'xmlns' : `xmlns:${prefix}`];
    if (name.slice(colon + 1) !== 'svg' || (namespace !== undefined && namespace !== SVG_NAMESPACE)) {
      const message = `The file is XML, but its first element is <${name.slice(0, 60)}>, not <svg>.`;
      throw new ReadError('not-svg', message, this.place);
    }
    return prefix;
  }

  #malformed(error: Error): ReadError {
    const message = error.message.replace(/^\d+:\d+:\s*/, '').replace(/\.$/, '');
    if (this.#prefix === null) {
      return new ReadError('not-svg', `The file doesn’t begin like an SVG: ${message}.`, this.place);
    }
    return new ReadError('malformed-xml', `The XML isn’t well formed: ${message}.`, this.place);
  }
}
