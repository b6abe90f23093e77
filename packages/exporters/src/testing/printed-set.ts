import { placementOf, unitsPerPaperMm, type Sheet } from '@gull-pane/core/sheets/sheet';
import { sheetParts } from '@gull-pane/core/sheets/sheet-parts';
import type { ExportedDrawing } from '../exported.ts';
import type { PrintedSet } from '../sheets/printed-set.ts';

export const fields = {
  project: 'Kelpie Sound',
  title: 'Pump hall',
  number: 'KS-101',
  revision: 'B',
  author: '',
  date: '',
};

/** Sheets whose frames all show one drawing. */
export function printedSet(sheets: readonly Sheet[], drawing: ExportedDrawing): PrintedSet {
  const { unit, layers } = drawing;
  const content = { sheets, fields, unit, legendOf: () => [] };
  return {
    unit,
    fields,
    sheets,
    contentIn: (sheet, frame) => {
      const own = sheets[sheet]!.frames[frame]!;
      return {
        layers,
        toPaper: placementOf(own, unit).toPaper,
        mmPerUnit: 1 / unitsPerPaperMm(own.view.denominator, unit),
        turnRad: own.view.bearingRad,
        objects: drawing.objects,
        hrefs: () => [],
        onTop: [],
      };
    },
    partsOf: (sheet) => sheetParts(content, sheet),
  };
}
