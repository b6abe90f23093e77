/// <reference path="./libtess.d.ts" />
import libtess from 'libtess';
import type { FillRule } from './model.ts';

/**
 * Triangles of a filled area under either fill rule, holes and self-crossings included.
 * @param rings closed polylines, x, y pairs, without the repeated first point
 * @returns x, y pairs, three points a triangle, in drawing units
 */
export function triangulate(rings: readonly (readonly number[])[], rule: FillRule): number[] {
  const usable = rings.filter((ring) => ring.length >= 6);
  const [only] = usable;
  if (only === undefined) return [];
  if (usable.length === 1 && isConvex(only)) return fan(only);
  // the tessellator compares coordinates with a fixed tolerance: work near the origin
  const [baseX, baseY] = [only[0]!, only[1]!];
  const triangles: number[] = [];
  const tess = new libtess.GluTesselator();
  tess.gluTessProperty(
    libtess.gluEnum.GLU_TESS_WINDING_RULE,
    rule === 'evenodd' ? libtess.windingRule.GLU_TESS_WINDING_ODD : libtess.windingRule.GLU_TESS_WINDING_NONZERO,
  );
  tess.gluTessCallback(libtess.gluEnum.GLU_TESS_VERTEX, (vertex: number[]) =>
    triangles.push(vertex[0]! + baseX, vertex[1]! + baseY),
  );
  tess.gluTessCallback(libtess.gluEnum.GLU_TESS_COMBINE, (place: number[]) => [place[0]!, place[1]!, 0]);
  tess.gluTessCallback(libtess.gluEnum.GLU_TESS_EDGE_FLAG, () => undefined); // asks for plain triangles
  tess.gluTessNormal(0, 0, 1);
  tess.gluTessBeginPolygon([]);
  for (const ring of usable) {
    tess.gluTessBeginContour();
    for (let i = 0; i < ring.length; i += 2) {
      const vertex = [ring[i]! - baseX, ring[i + 1]! - baseY, 0];
      tess.gluTessVertex(vertex, vertex);
    }
    tess.gluTessEndContour();
  }
  tess.gluTessEndPolygon();
  return triangles;
}

/**
 * How often lines of this length would cross one another if they lay at random in their box: length² / (π · area)
 * (Buffon's needle for pairs of lines). Honest outlines are far below, since they run along one another.
 * @param rings x, y pairs
 */
export function expectedCrossings(rings: readonly (readonly number[])[]): number {
  let length = 0;
  let corners = 0;
  let [minX, minY, maxX, maxY] = [Infinity, Infinity, -Infinity, -Infinity];
  for (const ring of rings) {
    corners += ring.length / 2;
    for (let i = 0; i < ring.length; i += 2) {
      const [x, y] = [ring[i]!, ring[i + 1]!];
      const j = (i + 2) % ring.length;
      length += Math.hypot(ring[j]! - x, ring[j + 1]! - y);
      [minX, minY] = [Math.min(minX, x), Math.min(minY, y)];
      [maxX, maxY] = [Math.max(maxX, x), Math.max(maxY, y)];
    }
  }
  const area = (maxX - minX) * (maxY - minY);
  // no more than every pair of edges once
  return area > 0 ? Math.min((length * length) / (Math.PI * area), (corners * corners) / 2) : 0;
}

/** One turn in one direction: every corner turns the same way and the corners add up to a single round. */
function isConvex(ring: readonly number[]): boolean {
  const n = ring.length;
  let sign = 0;
  let flipsX = 0;
  let lastDx = 0;
  for (let i = 0; i < n; i += 2) {
    const dx1 = ring[(i + 2) % n]! - ring[i]!;
    const dy1 = ring[(i + 3) % n]! - ring[i + 1]!;
    const dx2 = ring[(i + 4) % n]! - ring[(i + 2) % n]!;
    const dy2 = ring[(i + 5) % n]! - ring[(i + 3) % n]!;
    const turn = Math.sign(dx1 * dy2 - dy1 * dx2);
    if (turn !== 0 && sign !== 0 && turn !== sign) return false;
    if (turn !== 0) sign = turn;
    if (dx1 !== 0 && lastDx !== 0 && Math.sign(dx1) !== Math.sign(lastDx)) flipsX++;
    if (dx1 !== 0) lastDx = dx1;
  }
  return flipsX <= 2;
}

function fan(ring: readonly number[]): number[] {
  const triangles: number[] = [];
  for (let i = 2; i + 3 < ring.length; i += 2) {
    triangles.push(ring[0]!, ring[1]!, ring[i]!, ring[i + 1]!, ring[i + 2]!, ring[i + 3]!);
  }
  return triangles;
}
