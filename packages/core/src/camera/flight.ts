import type { Quaternion } from '../geometry/quaternion.ts';
import { sub3, type Vec3 } from '../geometry/vec.ts';
import { sameCamera, type Camera, type Viewport } from './camera.ts';

/** A way from one view to another; both ends are met exactly. */
export interface Flight {
  readonly durationMs: number;
  /** The view at a share of the way, 0 … 1. */
  at(share: number): Camera;
}

/** Trade-off between zooming and panning; √2 was preferred by van Wijk & Nuij's viewers. */
const RHO = Math.SQRT2;
const MIN_FLIGHT_MS = 150;
const MAX_FLIGHT_MS = 600;
/** Length of a path, in the paper's unit, that takes the longest time. */
const LONGEST_PATH = 6;

/**
 * The optimal zoom-and-pan path between two views, turning evenly from one direction to the other.
 * Source: J. J. van Wijk and W. A. A. Nuij, "Smooth and efficient zooming and panning", IEEE InfoVis 2003, eqs. 9–11.
 * All positions are differences to the start, so that large coordinates lose nothing.
 */
export function flightBetween(from: Camera, to: Camera, viewport: Viewport): Flight {
  if (sameCamera(from, to)) return { durationMs: 0, at: () => to };
  const w0 = from.unitsPerPx * viewport.widthPx;
  const w1 = to.unitsPerPx * viewport.widthPx;
  const way = sub3(to.target, from.target);
  const distance = Math.hypot(way.x, way.y, way.z);
  const path = distance < 1e-6 * Math.min(w0, w1) ? zoomOnly(w0, w1) : zoomAndPan(w0, w1, distance);
  const turn = turnBetween(from.orientation, to.orientation);
  const view = (share: number): Camera => {
    const { widthWorld, travelled } = path.at(share * path.length);
    const target: Vec3 = {
      x: from.target.x + way.x * travelled,
      y: from.target.y + way.y * travelled,
      z: from.target.z + way.z * travelled,
    };
    return { ...to, orientation: turn.at(share), target, unitsPerPx: widthWorld / viewport.widthPx };
  };
  const length = Math.max(path.length, turn.angleRad);
  return {
    durationMs: MIN_FLIGHT_MS + (MAX_FLIGHT_MS - MIN_FLIGHT_MS) * Math.min(length / LONGEST_PATH, 1),
    at: (share) => (share <= 0 ? from : share >= 1 ? to : view(share)),
  };
}

/** The shorter turn from one direction to another (K. Shoemake, "Animating rotation with quaternion curves", 1985). */
function turnBetween(a: Quaternion, b: Quaternion): { readonly angleRad: number; at(share: number): Quaternion } {
  const dot = a.x * b.x + a.y * b.y + a.z * b.z + a.w * b.w;
  const sign = dot < 0 ? -1 : 1;
  const half = Math.acos(Math.min(Math.abs(dot), 1));
  if (half < 1e-9) return { angleRad: 0, at: () => b };
  const blend = (share: number): Quaternion => {
    const [p, q] = [Math.sin((1 - share) * half) / Math.sin(half), (sign * Math.sin(share * half)) / Math.sin(half)];
    return { x: p * a.x + q * b.x, y: p * a.y + q * b.y, z: p * a.z + q * b.z, w: p * a.w + q * b.w };
  };
  return { angleRad: 2 * half, at: blend };
}

interface OptimalPath {
  readonly length: number;
  /** Width of the view and share of the way travelled, after a length of path. */
  at(s: number): { readonly widthWorld: number; readonly travelled: number };
}

function zoomOnly(w0: number, w1: number): OptimalPath {
  const length = Math.abs(Math.log(w1 / w0)) / RHO;
  const sign = w1 < w0 ? -1 : 1;
  return {
    length,
    at: (s) => ({ widthWorld: w0 * Math.exp(sign * RHO * s), travelled: length === 0 ? 1 : s / length }),
  };
}

function zoomAndPan(w0: number, w1: number, u1: number): OptimalPath {
  const rho2 = RHO * RHO;
  const rho4 = rho2 * rho2;
  const b0 = (w1 * w1 - w0 * w0 + rho4 * u1 * u1) / (2 * w0 * rho2 * u1);
  const b1 = (w1 * w1 - w0 * w0 - rho4 * u1 * u1) / (2 * w1 * rho2 * u1);
  const r0 = -Math.asinh(b0);
  const r1 = -Math.asinh(b1);
  return {
    length: (r1 - r0) / RHO,
    at: (s) => {
      const r = RHO * s + r0;
      const u = (w0 / rho2) * (Math.cosh(r0) * Math.tanh(r) - Math.sinh(r0));
      return { widthWorld: (w0 * Math.cosh(r0)) / Math.cosh(r), travelled: u / u1 };
    },
  };
}

/** Slow, fast, slow: the smooth step 3t² − 2t³, so that a flight neither jerks off nor stops dead. */
export const easeInOut = (share: number): number => share * share * (3 - 2 * share);
