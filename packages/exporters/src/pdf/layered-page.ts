import type PDFDocument from 'pdfkit';

/** An object of a PDF file, as the package keeps it. */
interface Reference {
  readonly data: Record<string, unknown>;
  end(): void;
}

/** What this needs of the package beyond its declared types. */
interface Inside {
  ref(data: Record<string, unknown>): Reference;
  readonly _root: Reference;
  readonly page: {
    readonly resources: Reference;
    readonly ext_gstates: Record<string, unknown>;
    write(text: string): void;
  };
}

/** A text as PDF tells it: the package tells it from a name by this. */
const literal = (text: string): unknown => new String(text);

/** Layers of a PDF document, which readers show and hide (optional content, ISO 32000-2, 8.11), and how faint ink is. */
export class PdfLayers {
  readonly #inside: Inside;
  readonly #groups = new Map<string, Reference>();
  readonly #faint = new Map<string, Reference>();

  constructor(document: InstanceType<typeof PDFDocument>) {
    this.#inside = document as unknown as Inside;
  }

  /** Writes operators to the present page. */
  write(operators: string): void {
    this.#inside.page.write(operators);
  }

  /** Writes what a layer holds on the present page, between its marks. @param name one name is one layer in all of the document */
  begin(name: string): void {
    let group = this.#groups.get(name);
    if (!group) {
      group = this.#inside.ref({ Type: 'OCG', Name: literal(name) });
      this.#groups.set(name, group);
    }
    const key = `L${[...this.#groups.keys()].indexOf(name)}`;
    const { data } = this.#inside.page.resources;
    const properties = (data.Properties ??= {}) as Record<string, unknown>;
    properties[key] = group;
    this.write(`/OC /${key} BDC`);
  }

  end(): void {
    this.write('EMC');
  }

  /** Writes that what follows is so opaque, lines and areas. */
  opacity(stroke: number, fill: number): void {
    const key = `A${Math.round(255 * stroke)}x${Math.round(255 * fill)}`;
    let state = this.#faint.get(key);
    if (!state) {
      state = this.#inside.ref({ Type: 'ExtGState', CA: stroke, ca: fill });
      state.end();
      this.#faint.set(key, state);
    }
    this.#inside.page.ext_gstates[key] = state;
    this.write(`/${key} gs`);
  }

  /** Nothing more is written: tells the document of its layers. */
  finish(): void {
    const groups = [...this.#groups.values()];
    if (groups.length === 0) return;
    for (const group of groups) group.end();
    this.#inside._root.data.OCProperties = {
      OCGs: groups,
      D: { Name: literal('Layers'), Order: groups, ON: groups },
    };
  }
}
