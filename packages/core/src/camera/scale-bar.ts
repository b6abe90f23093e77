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

/** A length in mm in the unit in which people say it: mm, m, km. */
export function formatLength(mm: number): string {
  const digits = (value: number): string => String(Number(value.toPrecision(3)));
  if (mm < 1000) return `${digits(mm)} mm`;
  return mm < 1e6 ? `${digits(mm / 1000)} m` : `${digits(mm / 1e6)} km`;
}
