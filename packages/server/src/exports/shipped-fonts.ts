import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import type { PdfFonts } from '@gull-pane/exporters/pdf/fonts';

const require = createRequire(import.meta.url);
/** Letters are spread over files by script. */
const SCRIPTS = ['latin', 'latin-ext', 'cyrillic', 'cyrillic-ext', 'greek', 'greek-ext', 'vietnamese'] as const;

/** The face that the application draws with, Source Sans 3, as files that PDF can hold. */
export function shippedFonts(): PdfFonts {
  const filesOf = (weight: 400 | 700): Uint8Array[] =>
    SCRIPTS.map((script) =>
      readFileSync(require.resolve(`@fontsource/source-sans-3/files/source-sans-3-${script}-${weight}-normal.woff`)),
    );
  return { normal: filesOf(400), bold: filesOf(700) };
}
