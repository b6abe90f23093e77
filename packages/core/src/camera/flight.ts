import type { Quaternion } from '../geometry/quaternion.ts';
import { sub3, type Vec3 } from '../geometry/vec.ts';
import { USUAL_FOV_RAD, sameCamera, type Camera, type Viewport } from './camera.ts';

/** A way from one view to another; both ends are met exactly. */
export interface Flight {
  readonly durationMs: number;
  /** The view at a share of the way, 0 … 1. */
  at(share: number): Camera;
}

/** A flight that knows how far it is. */
export interface Way extends Flight {
  /** Length in the paper's measure, or the angle turned where that is more; the speed of a flight is this by time. */
  readonly length: number;
}

/** Trade-off between zooming and panning; √2 was preferred by van Wijk & Nuij's viewers. */
const RHO = Math.SQRT2;
const MIN_FLIGHT_MS = 150;
const MAX_FLIGHT_MS = 600;
/** Length of a path, in the paper's unit, that takes the longest time. */
const LONGEST_PATH = 6;
/** A parallel view is, on the way to a perspective one, a perspective view of so small an angle. */
const NEARLY_PARALLEL_RAD = (2 * Math.PI) / 180;

/**
 * The optimal zoom-and-pan path between two views, turning evenly from one direction to the other.
 * Source: J. J. van Wijk and W. A. A. Nuij, "Smooth and efficient zooming and panning", IEEE InfoVis 2003, eqs. 9–11.
 * Extended to solids: the direction turns by the shortest turn in step with the path, about the target, so that views of
 * one target orbit it; the field of view goes evenly from one to the other. All positions are differences to the start,
 * so that large coordinates lose nothing.
 */
export function flightBetween(from: Camera, to: Camera, viewport: Viewport): Way {
  return flightAlong(from, to, viewport.widthPx, () => RHO);
}

/**
 * The same, but rising so high on the way that all of one end's frame or of the other's is seen at every moment, as
 * long as the view doesn't turn: what shows in both ends is never lost in between.
 * @param factor 1 for just so high, more for higher
 */
export function raisedFlight(from: Camera, to: Camera, viewport: Viewport, factor = 1): Way {
  const sidePx = Math.min(viewport.widthPx, viewport.heightPx);
  const widest = Math.max(from.unitsPerPx, to.unitsPerPx) * sidePx;
  const rhoOf = (distance: number): number => Math.max(RHO, Math.sqrt((3 * factor * (distance + widest)) / distance));
  return flightAlong(from, to, sidePx, rhoOf);
}

/**
 * @param acrossPx the side of the pane that the path measures with
 * @param rhoOf the paper's ρ, by the distance of the ends
 */
function flightAlong(from: Camera, to: Camera, acrossPx: number, rhoOf: (distance: number) => number): Way {
  if (sameCamera(from, to)) return { durationMs: 0, length: 0, at: () => to };
  const w0 = from.unitsPerPx * acrossPx;
  const w1 = to.unitsPerPx * acrossPx;
  const way = sub3(to.target, from.target);
  const distance = Math.hypot(way.x, way.y, way.z);
  const path = distance < 1e-6 * Math.min(w0, w1) ? zoomOnly(w0, w1) : zoomAndPan(w0, w1, distance, rhoOf(distance));
  const turn = turnBetween(from.orientation, to.orientation);
  const lens = lensBetween(from, to);
  const view = (share: number): Camera => {
    const { widthWorld, travelled } = path.at(share * path.length);
    const target: Vec3 = {
      x: from.target.x + way.x * travelled,
      y: from.target.y + way.y * travelled,
      z: from.target.z + way.z * travelled,
    };
    return { ...lens(share), orientation: turn.at(share), target, unitsPerPx: widthWorld / acrossPx };
  };
  const length = Math.max(path.length, turn.angleRad);
  return {
    length,
    durationMs: MIN_FLIGHT_MS + (MAX_FLIGHT_MS - MIN_FLIGHT_MS) * Math.min(length / LONGEST_PATH, 1),
    at: (share) => (share <= 0 ? from : share >= 1 ? to : view(share)),
  };
}

/** How cameras on the way project: a view that is parallel at one end only gets there by ever smaller angles. */
function lensBetween(from: Camera, to: Camera): (share: number) => Pick<Camera, 'projection' | 'fovRad'> {
  if (from.projection === 'parallel' && to.projection === 'parallel') return () => ({ projection: 'parallel' });
  const angleOf = ({ projection, fovRad }: Camera): number =>
    projection === 'parallel' ? NEARLY_PARALLEL_RAD : (fovRad ?? USUAL_FOV_RAD);
  const [a, b] = [angleOf(from), angleOf(to)];
  return (share) => ({ projection: 'perspective', fovRad: a + (b - a) * share });
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

function zoomAndPan(w0: number, w1: number, u1: number, rho: number): OptimalPath {
  const rho2 = rho * rho;
  const rho4 = rho2 * rho2;
  const b0 = (w1 * w1 - w0 * w0 + rho4 * u1 * u1) / (2 * w0 * rho2 * u1);
  const b1 = (w1 * w1 - w0 * w0 - rho4 * u1 * u1) / (2 * w1 * rho2 * u1);
  const r0 = -Math.asinh(b0);
  const r1 = -Math.asinh(b1);
  return {
    length: (r1 - r0) / rho,
    at: (s) => {
      const r = rho * s + r0;
      const u = (w0 / rho2) * (Math.cosh(r0) * Math.tanh(r) - Math.sinh(r0));
      return { widthWorld: (w0 * Math.cosh(r0)) / Math.cosh(r), travelled: u / u1 };
    },
  };
}

/** Slow, fast, slow: the smooth step 3t² − 2t³, so that a flight neither jerks off nor stops dead. */
export const easeInOut = (share: number): number => share * share * (3 - 2 * share);
