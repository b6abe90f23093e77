/// <reference path="./libtess.d.ts" />
import libtess from 'libtess';
import type { FillRule } from './model.ts';

class TooManyCrossings extends Error {}

/**
 * Triangles of a filled area of few corners. The tessellator keeps the edges that it sweeps over in a list: its time grows
 * with the square of their number.
 * @param rings closed polylines, x, y pairs, without the repeated first point; three points each or more
 * @param mostCrossings how often the outline may cross itself
 * @returns x, y pairs, three points a triangle; null if it crosses itself more often
 */
export function tessellate(
  rings: readonly (readonly number[])[],
  rule: FillRule,
  mostCrossings: number,
): number[] | null {
  const [first] = rings;
  if (first === undefined) return [];
  // the tessellator compares coordinates with a fixed tolerance: work near the origin
  const [baseX, baseY] = [first[0]!, first[1]!];
  const triangles: number[] = [];
  let crossings = 0;
  const tess = new libtess.GluTesselator();
  tess.gluTessProperty(
    libtess.gluEnum.GLU_TESS_WINDING_RULE,
    rule === 'evenodd' ? libtess.windingRule.GLU_TESS_WINDING_ODD : libtess.windingRule.GLU_TESS_WINDING_NONZERO,
  );
  tess.gluTessCallback(libtess.gluEnum.GLU_TESS_VERTEX, (vertex: number[]) =>
    triangles.push(vertex[0]! + baseX, vertex[1]! + baseY),
  );
  tess.gluTessCallback(libtess.gluEnum.GLU_TESS_COMBINE, (place: number[]) => {
    if (++crossings > mostCrossings) throw new TooManyCrossings();
    return [place[0]!, place[1]!, 0];
  });
  tess.gluTessCallback(libtess.gluEnum.GLU_TESS_EDGE_FLAG, () => undefined); // asks for plain triangles
  tess.gluTessNormal(0, 0, 1);
  tess.gluTessBeginPolygon([]);
  for (const ring of rings) {
    tess.gluTessBeginContour();
    for (let i = 0; i < ring.length; i += 2) {
      const vertex = [ring[i]! - baseX, ring[i + 1]! - baseY, 0];
      tess.gluTessVertex(vertex, vertex);
    }
    tess.gluTessEndContour();
  }
  try {
    tess.gluTessEndPolygon();
  } catch (error) {
    if (error instanceof TooManyCrossings) return null;
    throw error;
  }
  return triangles;
}
