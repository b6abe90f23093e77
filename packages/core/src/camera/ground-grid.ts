/** Lines of a ground grid are at least so far apart, CSS px. */
const LEAST_PX = 48;

/** Distance between lines of the ground grid: 1, 2 or 5 times a power of ten, drawing units. */
export function gridSpacing(unitsPerPx: number): number {
  const least = LEAST_PX * unitsPerPx;
  const power = 10 ** Math.floor(Math.log10(least));
  const times = [1, 2, 5, 10].find((step) => step * power >= least) ?? 10;
  return times * power;
}
