import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import type { PdfFonts } from '@gull-pane/exporters/pdf/fonts';
import type { FacePart } from '@gull-pane/exporters/svg/sheet-svg';

const require = createRequire(import.meta.url);
/** Letters are spread over files by script. */
const SCRIPTS = ['latin', 'latin-ext', 'cyrillic', 'cyrillic-ext', 'greek', 'greek-ext', 'vietnamese'] as const;
const WEIGHTS = [400, 700] as const;

const fileOf = (script: string, weight: 400 | 700): Uint8Array =>
  readFileSync(require.resolve(`@fontsource/source-sans-3/files/source-sans-3-${script}-${weight}-normal.woff`));

/** The face that the application draws with, Source Sans 3, as files that PDF can hold. */
export const shippedFonts = (): PdfFonts => ({
  normal: SCRIPTS.map((script) => fileOf(script, 400)),
  bold: SCRIPTS.map((script) => fileOf(script, 700)),
});

/** The same face with the letters that each file has. */
export function shippedFaces(): readonly FacePart[] {
  const ranges = JSON.parse(readFileSync(require.resolve('@fontsource/source-sans-3/unicode.json'), 'utf8')) as Record<
    string,
    string
  >;
  return WEIGHTS.flatMap((weight) =>
    SCRIPTS.map((script) => {
      const range = ranges[script] ?? '';
      const spans = range.split(',').map((span) => {
        const [from = '', to = from] = span.replace('U+', '').split('-');
        return [Number.parseInt(from, 16), Number.parseInt(to, 16)] as const;
      });
      return {
        weight,
        range,
        has: (code: number) => spans.some(([from, to]) => code >= from && code <= to),
        bytes: () => fileOf(script, weight),
      };
    }),
  );
}
