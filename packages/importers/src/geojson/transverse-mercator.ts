/** The ellipsoid of WGS 84 (NIMA TR8350.2): half the equator's diameter in metres, and how flat it is. */
const EQUATOR_M = 6_378_137;
const FLATTENING = 1 / 298.257223563;

const n = FLATTENING / (2 - FLATTENING);
const eccentricity = Math.sqrt(FLATTENING * (2 - FLATTENING));
const power = (k: number): number => n ** k;
/** Radius of the sphere whose meridians are as long, metres. */
const RECTIFYING_M = (EQUATOR_M / (1 + n)) * (1 + power(2) / 4 + power(4) / 64 + power(6) / 256);
const series = [
  n / 2 -
    (2 * power(2)) / 3 +
    (5 * power(3)) / 16 +
    (41 * power(4)) / 180 -
    (127 * power(5)) / 288 +
    (7891 * power(6)) / 37800,
  (13 * power(2)) / 48 -
    (3 * power(3)) / 5 +
    (557 * power(4)) / 1440 +
    (281 * power(5)) / 630 -
    (1983433 * power(6)) / 1935360,
  (61 * power(3)) / 240 - (103 * power(4)) / 140 + (15061 * power(5)) / 26880 + (167603 * power(6)) / 181440,
  (49561 * power(4)) / 161280 - (179 * power(5)) / 168 + (6601661 * power(6)) / 7257600,
  (34729 * power(5)) / 80640 - (3418889 * power(6)) / 1995840,
  (212378941 * power(6)) / 319334400,
];

/**
 * Where a place lies on a plane that touches the ellipsoid along a meridian: true to scale on it, and to a ten-thousandth
 * within 90 km of it (C. F. F. Karney, "Transverse Mercator with an accuracy of a few nanometers", J. Geodesy 85, 2011,
 * the series of L. Krüger to the sixth order).
 * @param lonDeg, latDeg WGS 84 @param meridianDeg the meridian that becomes x = 0
 * @returns metres east of the meridian and north of the equator
 */
export function transverseMercator(lonDeg: number, latDeg: number, meridianDeg: number): { x: number; y: number } {
  const lambda = ((lonDeg - meridianDeg) * Math.PI) / 180;
  const tau = Math.tan((latDeg * Math.PI) / 180);
  const sigma = Math.sinh(eccentricity * Math.atanh((eccentricity * tau) / Math.hypot(1, tau)));
  const tauConformal = tau * Math.hypot(1, sigma) - sigma * Math.hypot(1, tau);
  const xi = Math.atan2(tauConformal, Math.cos(lambda));
  const eta = Math.asinh(Math.sin(lambda) / Math.hypot(tauConformal, Math.cos(lambda)));
  let [x, y] = [eta, xi];
  series.forEach((alpha, i) => {
    const k = 2 * (i + 1);
    y += alpha * Math.sin(k * xi) * Math.cosh(k * eta);
    x += alpha * Math.cos(k * xi) * Math.sinh(k * eta);
  });
  return { x: RECTIFYING_M * x, y: RECTIFYING_M * y };
}
