import { inUnit, type DrawingUnit } from '../drawing/units.ts';
import { formatLength } from '../camera/scale-bar.ts';
import { unitsPerPaperMm } from './sheet.ts';

/** A bar on paper that tells lengths: fields of one length, dark and light in turn. */
export interface PaperScaleBar {
  readonly fieldMm: number;
  /** What stands at the beginning of each field and at the end of the last. */
  readonly labels: readonly string[];
}

const FIELDS = 4;

/** The longest bar of four fields, each 1, 2 or 5 times a power of ten long, that has room. */
export function paperScaleBar(denominator: number, unit: DrawingUnit, mostMm: number): PaperScaleBar {
  // lengths are round in what people say them in
  const shown = unit === 'in' || unit === 'ft' ? 'ft' : unit === 'none' ? 'none' : 'm';
  const perMm = inUnit(unitsPerPaperMm(denominator, unit), unit, shown);
  const most = (perMm * mostMm) / FIELDS;
  const power = 10 ** Math.floor(Math.log10(most));
  const field = [5, 2, 1].map((digit) => digit * power).find((one) => one <= most * (1 + 1e-12)) ?? power;
  const labels = Array.from({ length: FIELDS + 1 }, (_, k) => (k === 0 ? '0' : formatLength(k * field, shown)));
  return { fieldMm: field / perMm, labels };
}
