/** Points of PDF (1/72 in) in a millimetre. */
export const POINTS_PER_MM = 72 / 25.4;

/** A number as PDF writes it (ISO 32000-2, 7.3.3): no exponents, to a ten-thousandth of a point. */
export function pdfNumber(value: number): string {
  const rounded = Math.round(value * 1e4) / 1e4;
  if (Math.abs(rounded) < 1e15) return String(rounded + 0);
  return (Math.sign(rounded) * 1e15).toFixed(0);
}

/** A length on paper as PDF writes it. */
export const pdfPoints = (mm: number): string => pdfNumber(mm * POINTS_PER_MM);
