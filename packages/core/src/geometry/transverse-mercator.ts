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

const inverseSeries = [
  n / 2 -
    (2 * power(2)) / 3 +
    (37 * power(3)) / 96 -
    power(4) / 360 -
    (81 * power(5)) / 512 +
    (96199 * power(6)) / 604800,
  power(2) / 48 + power(3) / 15 - (437 * power(4)) / 1440 + (46 * power(5)) / 105 - (1118711 * power(6)) / 3870720,
  (17 * power(3)) / 480 - (37 * power(4)) / 840 - (209 * power(5)) / 4480 + (5569 * power(6)) / 90720,
  (4397 * power(4)) / 161280 - (11 * power(5)) / 504 - (830251 * power(6)) / 7257600,
  (4583 * power(5)) / 161280 - (108847 * power(6)) / 3991680,
  (20648693 * power(6)) / 638668800,
];

/** Newton's method gains twice the digits each time: this many are more than enough (C. F. F. Karney, ibid.). */
const NEWTON_STEPS = 5;

/**
 * Which place of WGS 84 lies at a point of the plane: the inverse of {@link transverseMercator}.
 * @param xM, yM metres east of the meridian and north of the equator
 * @returns degrees
 */
export function fromTransverseMercator(
  xM: number,
  yM: number,
  meridianDeg: number,
): { lonDeg: number; latDeg: number } {
  let [eta, xi] = [xM / RECTIFYING_M, yM / RECTIFYING_M];
  const [eta0, xi0] = [eta, xi];
  inverseSeries.forEach((beta, i) => {
    const k = 2 * (i + 1);
    xi -= beta * Math.sin(k * xi0) * Math.cosh(k * eta0);
    eta -= beta * Math.cos(k * xi0) * Math.sinh(k * eta0);
  });
  const tauConformal = Math.sin(xi) / Math.hypot(Math.sinh(eta), Math.cos(xi));
  const lambda = Math.atan2(Math.sinh(eta), Math.cos(xi));
  const square = eccentricity * eccentricity;
  let tau = tauConformal;
  for (let step = 0; step < NEWTON_STEPS; step++) {
    const sigma = Math.sinh(eccentricity * Math.atanh((eccentricity * tau) / Math.hypot(1, tau)));
    const own = tau * Math.hypot(1, sigma) - sigma * Math.hypot(1, tau);
    const slope = ((1 - square) * Math.hypot(1, own) * Math.hypot(1, tau)) / (1 + (1 - square) * tau * tau);
    tau += (tauConformal - own) / slope;
  }
  return { lonDeg: meridianDeg + (lambda * 180) / Math.PI, latDeg: (Math.atan(tau) * 180) / Math.PI };
}
