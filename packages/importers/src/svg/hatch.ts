import { applyX, applyY, type Affine } from '@gull-pane/core/geometry/affine';
import { visitExtremes } from '@gull-pane/core/drawing/extents';
import { flattenPath } from '@gull-pane/core/drawing/flatten';
import { PathBuilder, type Path } from '@gull-pane/core/drawing/path';
import type { FillRule } from '@gull-pane/core/drawing/model';

/** A pattern that is made of lines, as a tile that repeats. */
export interface HatchPattern {
  /** Ends of its segments, x0 y0 x1 y1, in the pattern's own units. */
  readonly segments: readonly number[];
  /** The tile's corner and size, same units. */
  readonly x: number;
  readonly y: number;
  readonly width: number;
  readonly height: number;
  /** From the pattern's units to drawing coordinates. */
  readonly matrix: Affine;
}

/** More lines than this in one area are not a hatch that can be read. */
export const MAX_HATCH_SEGMENTS = 50_000;

/**
 * Lays a pattern of lines over an area and keeps what lies in it.
 * @param area in drawing coordinates
 * @returns the lines in drawing coordinates; null if they would be too many
 */
export function hatchArea(pattern: HatchPattern, area: Path, rule: FillRule): PathBuilder | null {
  const edges = edgesOf(area);
  const { a, b, c, d, e, f } = pattern.matrix;
  const det = a * d - b * c;
  if (edges.length === 0 || det === 0 || !(pattern.width > 0 && pattern.height > 0)) return new PathBuilder();
  let [minU, maxU, minV, maxV] = [Infinity, -Infinity, Infinity, -Infinity];
  visitExtremes(area, (x, y) => {
    const u = (d * (x - e) - c * (y - f)) / det;
    const v = (a * (y - f) - b * (x - e)) / det;
    [minU, maxU] = [Math.min(minU, u), Math.max(maxU, u)];
    [minV, maxV] = [Math.min(minV, v), Math.max(maxV, v)];
  });
  const columns = [
    Math.floor((minU - pattern.x) / pattern.width),
    Math.floor((maxU - pattern.x) / pattern.width),
  ] as const;
  const rows = [
    Math.floor((minV - pattern.y) / pattern.height),
    Math.floor((maxV - pattern.y) / pattern.height),
  ] as const;
  const tiles = (columns[1] - columns[0] + 1) * (rows[1] - rows[0] + 1);
  if (!(tiles * pattern.segments.length <= 4 * MAX_HATCH_SEGMENTS)) return null;
  const out = new PathBuilder();
  for (let row = rows[0]; row <= rows[1]; row++) {
    for (let column = columns[0]; column <= columns[1]; column++) {
      for (let i = 0; i < pattern.segments.length; i += 4) {
        const [u0, v0, u1, v1] = pattern.segments.slice(i, i + 4) as [number, number, number, number];
        const du = column * pattern.width;
        const dv = row * pattern.height;
        const x0 = applyX(pattern.matrix, u0 + du, v0 + dv);
        const y0 = applyY(pattern.matrix, u0 + du, v0 + dv);
        const x1 = applyX(pattern.matrix, u1 + du, v1 + dv);
        const y1 = applyY(pattern.matrix, u1 + du, v1 + dv);
        for (const [from, to] of insideParts(x0, y0, x1, y1, edges, rule)) {
          out.moveTo(x0 + (x1 - x0) * from, y0 + (y1 - y0) * from).lineTo(x0 + (x1 - x0) * to, y0 + (y1 - y0) * to);
        }
      }
    }
  }
  return out;
}

/** x0, y0, x1, y1 of the area's outline, every ring closed. */
function edgesOf(area: Path): number[] {
  const edges: number[] = [];
  let [startX, startY, lastX, lastY] = [0, 0, 0, 0];
  const closeRing = (): void => {
    if (lastX !== startX || lastY !== startY) edges.push(lastX, lastY, startX, startY);
  };
  flattenPath(area, {
    move: (x, y) => {
      closeRing();
      [startX, startY, lastX, lastY] = [x, y, x, y];
    },
    line: (x, y) => {
      edges.push(lastX, lastY, x, y);
      [lastX, lastY] = [x, y];
    },
    close: closeRing,
  });
  closeRing();
  return edges;
}

/** The stretches of a segment that lie in an area, as shares of its length. */
function insideParts(
  x0: number,
  y0: number,
  x1: number,
  y1: number,
  edges: readonly number[],
  rule: FillRule,
): [number, number][] {
  const dx = x1 - x0;
  const dy = y1 - y0;
  const cuts = [0, 1];
  for (let i = 0; i < edges.length; i += 4) {
    const ex = edges[i + 2]! - edges[i]!;
    const ey = edges[i + 3]! - edges[i + 1]!;
    const det = dx * ey - dy * ex;
    if (det === 0) continue;
    const t = ((edges[i]! - x0) * ey - (edges[i + 1]! - y0) * ex) / det;
    const s = ((edges[i]! - x0) * dy - (edges[i + 1]! - y0) * dx) / det;
    if (t > 0 && t < 1 && s >= 0 && s <= 1) cuts.push(t);
  }
  cuts.sort((p, q) => p - q);
  const parts: [number, number][] = [];
  for (let i = 1; i < cuts.length; i++) {
    const [from, to] = [cuts[i - 1]!, cuts[i]!];
    if (to - from < 1e-12) continue;
    const t = (from + to) / 2;
    const winding = windingAt(x0 + dx * t, y0 + dy * t, edges);
    if (rule === 'evenodd' ? winding % 2 === 0 : winding === 0) continue;
    const last = parts.at(-1);
    if (last?.[1] === from) last[1] = to;
    else parts.push([from, to]);
  }
  return parts;
}

/** How often the outline winds round a point (D. Sunday, "Inclusion of a point in a polygon", 2001). */
function windingAt(x: number, y: number, edges: readonly number[]): number {
  let winding = 0;
  for (let i = 0; i < edges.length; i += 4) {
    const [x0, y0, x1, y1] = [edges[i]!, edges[i + 1]!, edges[i + 2]!, edges[i + 3]!];
    const side = (x1 - x0) * (y - y0) - (x - x0) * (y1 - y0);
    if (y0 <= y && y1 > y && side > 0) winding++;
    else if (y0 > y && y1 <= y && side < 0) winding--;
  }
  return winding;
}
