import type PDFDocument from 'pdfkit';

type Document = InstanceType<typeof PDFDocument>;

/** The face that the application draws with, in files that each hold some of its letters. */
export interface PdfFonts {
  readonly normal: readonly Uint8Array[];
  readonly bold: readonly Uint8Array[];
}

/** What this needs of a font of the package beyond its declared types. */
interface Opened {
  readonly font: { hasGlyphForCodePoint(code: number): boolean };
}

/** A stretch of a text in one font. */
export interface TextRun {
  readonly font: string;
  readonly text: string;
}

/** Chooses fonts that have the letters of a text. */
export class FontChooser {
  readonly #names: Readonly<Record<'normal' | 'bold', readonly string[]>>;
  readonly #has = new Map<string, (code: number) => boolean>();

  constructor(
    private readonly document: Document,
    fonts: PdfFonts,
  ) {
    const register = (weight: 'normal' | 'bold'): string[] =>
      fonts[weight].map((bytes, index) => {
        const name = `${weight}${index}`;
        document.registerFont(name, bytes);
        return name;
      });
    this.#names = { normal: register('normal'), bold: register('bold') };
  }

  /** The stretches of a text. Letters that no font has are drawn as the first font draws what it lacks. */
  runsOf(text: string, weight: 'normal' | 'bold'): TextRun[] {
    const runs: { font: string; text: string }[] = [];
    const names = this.#names[weight];
    for (const letter of text) {
      const code = letter.codePointAt(0)!;
      const font = names.find((name) => this.#hasGlyph(name, code)) ?? names[0]!;
      const last = runs.at(-1);
      if (last?.font === font) last.text += letter;
      else runs.push({ font, text: letter });
    }
    return runs;
  }

  /** Width of a text of a size, in the size’s unit. */
  widthOf(text: string, sizePt: number, weight: 'normal' | 'bold'): number {
    return this.runsOf(text, weight).reduce((sum, run) => sum + this.#widthOfRun(run, sizePt), 0);
  }

  /** Writes a text whose baseline begins at a place of the present coordinates, to the right. */
  write(text: string, x: number, y: number, sizePt: number, weight: 'normal' | 'bold'): void {
    for (const run of this.runsOf(text, weight)) {
      const width = this.#widthOfRun(run, sizePt);
      this.document.text(run.text, x, y, { lineBreak: false, baseline: 'alphabetic' });
      x += width;
    }
  }

  #widthOfRun({ font, text }: TextRun, sizePt: number): number {
    return this.document.font(font, sizePt).widthOfString(text);
  }

  #hasGlyph(name: string, code: number): boolean {
    let has = this.#has.get(name);
    if (!has) {
      this.document.font(name);
      const { font } = (this.document as unknown as { readonly _font: Opened })._font;
      has = (one) => font.hasGlyphForCodePoint(one);
      this.#has.set(name, has);
    }
    return has(code);
  }
}
