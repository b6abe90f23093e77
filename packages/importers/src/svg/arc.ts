import type { ArcShape } from '@gull-pane/core/drawing/path';

/**
 * The ellipse of an SVG arc command, from its ends to its centre.
 * Source: SVG 2, B.2.4 "Conversion from endpoint to center parameterization" and B.2.5 "Correction of out-of-range radii".
 * @param x0 … y the ends, user units
 * @param rotationDeg angle from the x axis to the ellipse's first axis
 * @returns null where the arc is a straight line (a radius of 0)
 */
export function arcFromEnds(
  x0: number,
  y0: number,
  rx: number,
  ry: number,
  rotationDeg: number,
  isLarge: boolean,
  isSweep: boolean,
  x: number,
  y: number,
): ArcShape | null {
  let a = Math.abs(rx);
  let b = Math.abs(ry);
  if (a === 0 || b === 0) return null;
  const rotation = (rotationDeg * Math.PI) / 180;
  const cos = Math.cos(rotation);
  const sin = Math.sin(rotation);
  const hx = (x0 - x) / 2;
  const hy = (y0 - y) / 2;
  const px = cos * hx + sin * hy;
  const py = -sin * hx + cos * hy;
  const stretch = (px / a) ** 2 + (py / b) ** 2;
  if (stretch > 1) {
    a *= Math.sqrt(stretch);
    b *= Math.sqrt(stretch);
  }
  const reach = (a * py) ** 2 + (b * px) ** 2;
  const root = Math.sqrt(Math.max(((a * b) ** 2 - reach) / reach, 0)) * (isLarge === isSweep ? -1 : 1);
  const qx = (root * a * py) / b;
  const qy = (-root * b * px) / a;
  const start = Math.atan2((py - qy) / b, (px - qx) / a);
  const end = Math.atan2((-py - qy) / b, (-px - qx) / a);
  let sweep = end - start;
  if (isSweep && sweep < 0) sweep += 2 * Math.PI;
  if (!isSweep && sweep > 0) sweep -= 2 * Math.PI;
  return {
    cx: cos * qx - sin * qy + (x0 + x) / 2,
    cy: sin * qx + cos * qy + (y0 + y) / 2,
    ux: a * cos,
    uy: a * sin,
    vx: -b * sin,
    vy: b * cos,
    startRad: start,
    sweepRad: sweep,
  };
}
