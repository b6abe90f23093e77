import { Op, coordsOfOp, type Path } from '@gull-pane/core/drawing/path';

/** Takes a place of a drawing to paper. */
export type ToPaper = (x: number, y: number) => readonly [xMm: number, yMm: number];

/** What draws a path: lines and cubics, mm. */
export interface Tracer {
  move(x: number, y: number): void;
  line(x: number, y: number): void;
  cubic(ax: number, ay: number, bx: number, by: number, x: number, y: number): void;
  close(): void;
}

/** No piece of an arc sweeps more than this: a cubic then keeps to it within 5e-6 of its radius. */
const MOST_SWEEP_RAD = Math.PI / 4;

/**
 * Draws a path on paper: quadratics as the cubics that they are, arcs as cubics (M. Goldapp, "Approximation of circular arcs
 * by cubic polynomials", Computer Aided Geometric Design 8, 1991).
 */
export function tracePath({ ops, coords }: Path, toPaper: ToPaper, tracer: Tracer): void {
  let k = 0;
  let [x, y] = [0, 0];
  let [startX, startY] = [0, 0];
  const cubic = (ax: number, ay: number, bx: number, by: number, toX: number, toY: number): void => {
    const [a, b, to] = [toPaper(ax, ay), toPaper(bx, by), toPaper(toX, toY)];
    tracer.cubic(a[0], a[1], b[0], b[1], to[0], to[1]);
  };
  for (let i = 0; i < ops.length; i++) {
    const op = ops[i]!;
    const length = coordsOfOp[op]!;
    const [endX, endY] = length > 0 ? [coords[k + length - 2]!, coords[k + length - 1]!] : [startX, startY];
    switch (op) {
      case Op.move: {
        const [atX, atY] = toPaper(endX, endY);
        tracer.move(atX, atY);
        [startX, startY] = [endX, endY];
        break;
      }
      case Op.line: {
        const [atX, atY] = toPaper(endX, endY);
        tracer.line(atX, atY);
        break;
      }
      case Op.quadratic: {
        const [cx, cy] = [coords[k]!, coords[k + 1]!];
        cubic(
          x + (2 / 3) * (cx - x),
          y + (2 / 3) * (cy - y),
          endX + (2 / 3) * (cx - endX),
          endY + (2 / 3) * (cy - endY),
          endX,
          endY,
        );
        break;
      }
      case Op.cubic:
        cubic(coords[k]!, coords[k + 1]!, coords[k + 2]!, coords[k + 3]!, endX, endY);
        break;
      case Op.arc:
        traceArc(coords, k, endX, endY, cubic);
        break;
      case Op.close:
        tracer.close();
        break;
    }
    [x, y] = [endX, endY];
    k += length;
  }
}

function traceArc(
  coords: ArrayLike<number>,
  k: number,
  endX: number,
  endY: number,
  cubic: (ax: number, ay: number, bx: number, by: number, x: number, y: number) => void,
): void {
  const [cx, cy, ux, uy, vx, vy, startRad, sweepRad] = Array.from({ length: 8 }, (_, i) => coords[k + i]!) as [
    number,
    number,
    number,
    number,
    number,
    number,
    number,
    number,
  ];
  const count = Math.max(Math.ceil(Math.abs(sweepRad) / MOST_SWEEP_RAD - 1e-9), 1);
  const step = sweepRad / count;
  const reach = (4 / 3) * Math.tan(step / 4);
  for (let piece = 0; piece < count; piece++) {
    const [t0, t1] = [startRad + piece * step, startRad + (piece + 1) * step];
    const [cos0, sin0, cos1, sin1] = [Math.cos(t0), Math.sin(t0), Math.cos(t1), Math.sin(t1)];
    const on = (a: number, b: number): [number, number] => [cx + ux * a + vx * b, cy + uy * a + vy * b];
    const [ax, ay] = on(cos0 - reach * sin0, sin0 + reach * cos0);
    const [bx, by] = on(cos1 + reach * sin1, sin1 - reach * cos1);
    const [x, y] = piece === count - 1 ? [endX, endY] : on(cos1, sin1);
    cubic(ax, ay, bx, by, x, y);
  }
}
