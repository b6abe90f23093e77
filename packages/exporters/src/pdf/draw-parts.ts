import { paperInks, widthOf, type PaperInk, type PaperPoint, type SheetPart } from '@gull-pane/core/sheets/sheet-parts';
import { POINTS_PER_MM, type Page } from './frame-content.ts';
import { pdfNumber } from './path-operators.ts';

/** Draws what a sheet has beside its views. @param destinationOf where links to the sheets of the set lead */
export function drawParts(page: Page, parts: readonly SheetPart[], destinationOf: (sheet: number) => string): void {
  let layer: string | null = null;
  for (const part of parts) {
    if (part.layer !== layer) {
      if (layer !== null) page.layers.end();
      page.layers.begin((layer = part.layer));
    }
    if (part.kind === 'text') drawText(page, part, destinationOf);
    else if (part.kind === 'area') page.layers.write(`${inkOf(part.ink)} rg ${pathOf(part.points)} h f`);
    else {
      const dashes = part.dashesMm.map(points).join(' ');
      const paint = part.isClosed ? 's' : 'S';
      page.layers.write(
        `${inkOf(part.ink)} RG ${points(part.widthMm)} w [${dashes}] 0 d ${pathOf(part.points)} ${paint}`,
      );
    }
  }
  if (layer !== null) page.layers.end();
}

function drawText(
  { document, fonts, layers }: Page,
  part: SheetPart & { readonly kind: 'text' },
  destinationOf: (sheet: number) => string,
): void {
  const { text, at, sizeMm, weight, isUpright, leadsTo } = part;
  const [x, y] = at.map((mm) => mm * POINTS_PER_MM) as [number, number];
  const sizePt = sizeMm * POINTS_PER_MM;
  document.save();
  layers.write(`${inkOf(part.ink)} rg`);
  if (isUpright) document.rotate(-90, { origin: [x, y] });
  fonts.write(text, x, y, sizePt, weight);
  document.restore();
  if (leadsTo === null) return;
  const width = widthOf(text, sizePt, weight);
  if (isUpright) document.goTo(x - sizePt, y - width, sizePt, width, destinationOf(leadsTo));
  else document.goTo(x, y - sizePt, width, sizePt, destinationOf(leadsTo));
}

const points = (mm: number): string => pdfNumber(mm * POINTS_PER_MM);

const pathOf = (places: readonly PaperPoint[]): string =>
  places.map(([x, y], i) => `${points(x)} ${points(y)} ${i === 0 ? 'm' : 'l'}`).join(' ');

function inkOf(ink: PaperInk): string {
  const { r, g, b } = paperInks[ink];
  return [r, g, b].map((value) => pdfNumber(value / 255)).join(' ');
}
