import { applyX, applyY, type Affine } from '../geometry/affine.ts';

/**
 * The exact definition of a drawn element: a list of steps with their doubles in drawing coordinates.
 * Every step begins where the one before it ended; the end of a step is always its last pair.
 */
export const Op = {
  /** x y: begins a new run there. Not a segment. */
  move: 0,
  /** x y */
  line: 1,
  /** control x y, end x y */
  quadratic: 2,
  /** first control x y, second control x y, end x y */
  cubic: 3,
  /**
   * centre x y, first half-axis x y, second half-axis x y, start angle, sweep (radians, along the axes given), end x y.
   * A point of the arc is centre + first·cos t + second·sin t; the half-axes are conjugate, not always perpendicular.
   */
  arc: 4,
  /** back to the run's beginning by a straight line */
  close: 5,
} as const;

export type OpCode = (typeof Op)[keyof typeof Op];

/** How many doubles each step takes, by its code. */
export const coordsOfOp: readonly number[] = [2, 2, 4, 6, 10, 0];

export interface Path {
  readonly ops: ArrayLike<number>;
  readonly coords: ArrayLike<number>;
}

/** A path while it is being put together. Plain arrays: most have a handful of steps. */
export class PathBuilder implements Path {
  readonly ops: number[] = [];
  readonly coords: number[] = [];
  #startX = 0;
  #startY = 0;

  get isEmpty(): boolean {
    return this.ops.length === 0;
  }

  /** The pen's present x; 0 before the first step. */
  x = 0;
  /** The pen's present y; 0 before the first step. */
  y = 0;

  moveTo(x: number, y: number): this {
    this.#startX = x;
    this.#startY = y;
    return this.#step(Op.move, x, y);
  }

  lineTo(x: number, y: number): this {
    return this.#step(Op.line, x, y);
  }

  quadraticTo(cx: number, cy: number, x: number, y: number): this {
    this.coords.push(cx, cy);
    return this.#step(Op.quadratic, x, y);
  }

  cubicTo(ax: number, ay: number, bx: number, by: number, x: number, y: number): this {
    this.coords.push(ax, ay, bx, by);
    return this.#step(Op.cubic, x, y);
  }

  arcTo(arc: ArcShape, x: number, y: number): this {
    this.coords.push(arc.cx, arc.cy, arc.ux, arc.uy, arc.vx, arc.vy, arc.startRad, arc.sweepRad);
    return this.#step(Op.arc, x, y);
  }

  close(): this {
    this.ops.push(Op.close);
    this.x = this.#startX;
    this.y = this.#startY;
    return this;
  }

  /** The last pair of a step; what goes before it is there already. */
  #step(op: OpCode, x: number, y: number): this {
    this.ops.push(op);
    this.coords.push(x, y);
    this.x = x;
    this.y = y;
    return this;
  }
}

/** An elliptical arc by conjugate half-axes; angles in radians. */
export interface ArcShape {
  readonly cx: number;
  readonly cy: number;
  readonly ux: number;
  readonly uy: number;
  readonly vx: number;
  readonly vy: number;
  readonly startRad: number;
  readonly sweepRad: number;
}

/** The same path under an affine map. Arcs stay arcs: their half-axes are mapped as vectors. */
export function transformPath(path: Path, m: Affine): Path {
  const { ops, coords: from } = path;
  const coords = new Float64Array(from.length);
  for (let i = 0; i + 1 < from.length; i += 2) {
    const x = from[i]!;
    const y = from[i + 1]!;
    coords[i] = applyX(m, x, y);
    coords[i + 1] = applyY(m, x, y);
  }
  let at = 0;
  for (let i = 0; i < ops.length; i++) {
    const op = ops[i]!;
    if (op === Op.arc) {
      for (let k = at + 2; k < at + 6; k += 2) {
        const x = from[k]!;
        const y = from[k + 1]!;
        coords[k] = m.a * x + m.c * y;
        coords[k + 1] = m.b * x + m.d * y;
      }
      coords[at + 6] = from[at + 6]!;
      coords[at + 7] = from[at + 7]!;
    }
    at += coordsOfOp[op]!;
  }
  return { ops, coords };
}

export interface PathVisitor {
  move?: (x: number, y: number) => void;
  line?: (x0: number, y0: number, x: number, y: number) => void;
  quadratic?: (x0: number, y0: number, cx: number, cy: number, x: number, y: number) => void;
  cubic?: (x0: number, y0: number, ax: number, ay: number, bx: number, by: number, x: number, y: number) => void;
  arc?: (x0: number, y0: number, arc: ArcShape, x: number, y: number) => void;
  /** After the closing line, if one was needed. */
  close?: () => void;
}

/** Walks a path step by step; a close that has a way to go is told as a line first, one of no length isn't. */
export function visitPath(path: Path, visitor: PathVisitor): void {
  const { ops, coords } = path;
  let at = 0;
  let x0 = 0;
  let y0 = 0;
  let startX = 0;
  let startY = 0;
  for (let i = 0; i < ops.length; i++) {
    const op = ops[i]!;
    if (op === Op.close) {
      if (x0 !== startX || y0 !== startY) visitor.line?.(x0, y0, startX, startY);
      visitor.close?.();
      x0 = startX;
      y0 = startY;
      continue;
    }
    const width = coordsOfOp[op];
    if (width === undefined) throw new RangeError(`visitPath: step ${i} has the unknown code ${op}`);
    const x = coords[at + width - 2]!;
    const y = coords[at + width - 1]!;
    switch (op) {
      case Op.move:
        startX = x;
        startY = y;
        visitor.move?.(x, y);
        break;
      case Op.line:
        visitor.line?.(x0, y0, x, y);
        break;
      case Op.quadratic:
        visitor.quadratic?.(x0, y0, coords[at]!, coords[at + 1]!, x, y);
        break;
      case Op.cubic:
        visitor.cubic?.(x0, y0, coords[at]!, coords[at + 1]!, coords[at + 2]!, coords[at + 3]!, x, y);
        break;
      default:
        visitor.arc?.(x0, y0, arcAt(coords, at), x, y);
    }
    at += width;
    x0 = x;
    y0 = y;
  }
}

function arcAt(coords: ArrayLike<number>, at: number): ArcShape {
  return {
    cx: coords[at]!,
    cy: coords[at + 1]!,
    ux: coords[at + 2]!,
    uy: coords[at + 3]!,
    vx: coords[at + 4]!,
    vy: coords[at + 5]!,
    startRad: coords[at + 6]!,
    sweepRad: coords[at + 7]!,
  };
}

/** Lines and curves of the definition: a rectangle has 4, a circle 1. A close of no length counts nothing. */
export function countSegments(path: Path): number {
  const { ops, coords } = path;
  let segments = 0;
  let at = 0;
  let [startX, startY] = [0, 0];
  for (let i = 0; i < ops.length; i++) {
    const op = ops[i]!;
    const width = coordsOfOp[op]!;
    if (op === Op.move) {
      startX = coords[at]!;
      startY = coords[at + 1]!;
    } else if (op !== Op.close) segments++;
    else {
      // a second close, or one right after the pen came back, has no way to go
      const isOpen = i > 0 && ops[i - 1] !== Op.close && (coords[at - 2] !== startX || coords[at - 1] !== startY);
      if (isOpen) segments++;
    }
    at += width;
  }
  return segments;
}
