import { visitPath, type Path } from '@gull-pane/core/drawing/path';

/** A place where a marker stands. Angles: radians, from x towards y, in the path's own frame. */
export interface PathVertex {
  readonly x: number;
  readonly y: number;
  /** Direction in which the path arrives and leaves; NaN where there is none. */
  readonly inRad: number;
  readonly outRad: number;
}

/** The vertices of a path with its directions there (SVG 2, 11.6.4 and 9.5.2). */
export function pathVertices(path: Path): PathVertex[] {
  const vertices: { x: number; y: number; inRad: number; outRad: number }[] = [];
  let runStart = 0;
  const angle = (dx: number, dy: number): number => (dx === 0 && dy === 0 ? NaN : Math.atan2(dy, dx));
  const leave = (outRad: number): void => {
    const last = vertices.at(-1);
    if (last && Number.isNaN(last.outRad)) last.outRad = outRad;
  };
  const arrive = (x: number, y: number, inRad: number): void => {
    vertices.push({ x, y, inRad, outRad: NaN });
  };
  visitPath(path, {
    move: (x, y) => {
      runStart = vertices.length;
      vertices.push({ x, y, inRad: NaN, outRad: NaN });
    },
    line: (x0, y0, x, y) => {
      leave(angle(x - x0, y - y0));
      arrive(x, y, angle(x - x0, y - y0));
    },
    quadratic: (x0, y0, cx, cy, x, y) => {
      leave(firstAngle(angle(cx - x0, cy - y0), angle(x - x0, y - y0)));
      arrive(x, y, firstAngle(angle(x - cx, y - cy), angle(x - x0, y - y0)));
    },
    cubic: (x0, y0, ax, ay, bx, by, x, y) => {
      leave(firstAngle(angle(ax - x0, ay - y0), angle(bx - x0, by - y0), angle(x - x0, y - y0)));
      arrive(x, y, firstAngle(angle(x - bx, y - by), angle(x - ax, y - ay), angle(x - x0, y - y0)));
    },
    arc: (_x0, _y0, { ux, uy, vx, vy, startRad, sweepRad }, x, y) => {
      const sign = Math.sign(sweepRad) || 1;
      const along = (t: number): number =>
        angle(sign * (vx * Math.cos(t) - ux * Math.sin(t)), sign * (vy * Math.cos(t) - uy * Math.sin(t)));
      leave(along(startRad));
      arrive(x, y, along(startRad + sweepRad));
    },
    close: () => {
      const start = vertices[runStart];
      const end = vertices.at(-1);
      if (!start || !end || end === start) return;
      start.inRad = end.inRad;
      end.outRad = start.outRad;
    },
  });
  return vertices;
}

const firstAngle = (...angles: number[]): number => angles.find((angle) => !Number.isNaN(angle)) ?? NaN;

/** The direction of a marker at a vertex: half-way between arriving and leaving. */
export function bisector({ inRad, outRad }: PathVertex): number {
  if (Number.isNaN(inRad)) return Number.isNaN(outRad) ? 0 : outRad;
  if (Number.isNaN(outRad)) return inRad;
  return Math.atan2(Math.sin(inRad) + Math.sin(outRad), Math.cos(inRad) + Math.cos(outRad));
}
