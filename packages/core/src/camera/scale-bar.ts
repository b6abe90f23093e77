/** A bar of a round length beside the drawing. */
export interface ScaleBar {
  /** Drawing units: 1, 2 or 5 times a power of ten. */
  readonly length: number;
  /** CSS px. */
  readonly widthPx: number;
}

/** The longest bar of a round length that is no wider than `maxPx`. */
export function scaleBarFor(unitsPerPx: number, maxPx: number): ScaleBar {
  const most = unitsPerPx * maxPx;
  const power = 10 ** Math.floor(Math.log10(most));
  const length = [5, 2, 1].map((digit) => digit * power).find((candidate) => candidate <= most * (1 + 1e-12)) ?? power;
  return { length, widthPx: length / unitsPerPx };
}

const FEET_PER_MILE = 5280;
const INCHES_PER_FOOT = 12;

/** A length in the unit in which people say it: mm, m, km; of drawings in inches or feet in, ft, mi. */
export function formatLength(length: number, unit: 'mm' | 'm' | 'in' | 'ft' | 'none' = 'mm'): string {
  const digits = (value: number): string => String(Number(value.toPrecision(3)));
  if (unit === 'none') return digits(length);
  if (unit === 'in' || unit === 'ft') {
    const feet = unit === 'ft' ? length : length / INCHES_PER_FOOT;
    if (feet < 1) return `${digits(feet * INCHES_PER_FOOT)} in`;
    return feet < FEET_PER_MILE ? `${digits(feet)} ft` : `${digits(feet / FEET_PER_MILE)} mi`;
  }
  const mm = unit === 'm' ? length * 1000 : length;
  if (mm < 1000) return `${digits(mm)} mm`;
  return mm < 1e6 ? `${digits(mm / 1000)} m` : `${digits(mm / 1e6)} km`;
}
