/// <reference path="./libtess.d.ts" />
import libtess from 'libtess';
import type { FillRule } from './model.ts';

type Rings = readonly (readonly number[])[];

/** Areas of more corners, or crossings, aren't intersected: the time grows with the square of their number. */
const MOST_CORNERS = 4000;
const MOST_CROSSINGS = 20_000;

class TooMuch extends Error {}

/**
 * What lies in both of two areas, as rings that wind once about it (the winding rules of the tessellator of the OpenGL
 * Utility Library 1.3, chapter 5: first each area alone, then what is wound about twice).
 * @param first, second closed polylines, x, y pairs, without the repeated first point
 * @returns null if the areas are too intricate
 */
export function intersectAreas(
  first: Rings,
  firstRule: FillRule,
  second: Rings,
  secondRule: FillRule,
): number[][] | null {
  const corners = [...first, ...second].reduce((sum, ring) => sum + ring.length / 2, 0);
  if (corners > MOST_CORNERS) return null;
  const [baseX, baseY] = [first[0]?.[0] ?? 0, first[0]?.[1] ?? 0];
  const moved = (rings: Rings, by: number): number[][] =>
    rings.map((ring) => ring.map((value, i) => value + by * (i % 2 === 0 ? baseX : baseY)));
  const ruleOf = (rule: FillRule): number =>
    libtess.windingRule[rule === 'evenodd' ? 'GLU_TESS_WINDING_ODD' : 'GLU_TESS_WINDING_NONZERO'];
  try {
    const alone = [...outline(moved(first, -1), ruleOf(firstRule)), ...outline(moved(second, -1), ruleOf(secondRule))];
    return moved(outline(alone, libtess.windingRule.GLU_TESS_WINDING_ABS_GEQ_TWO), 1);
  } catch (error) {
    if (error instanceof TooMuch) return null;
    throw error;
  }
}

/** The rings around all that a winding rule counts as inside. */
function outline(rings: Rings, rule: number): number[][] {
  const found: number[][] = [];
  let crossings = 0;
  const tess = new libtess.GluTesselator();
  tess.gluTessProperty(libtess.gluEnum.GLU_TESS_WINDING_RULE, rule);
  tess.gluTessProperty(libtess.gluEnum.GLU_TESS_BOUNDARY_ONLY, 1);
  tess.gluTessCallback(libtess.gluEnum.GLU_TESS_BEGIN, () => found.push([]));
  tess.gluTessCallback(libtess.gluEnum.GLU_TESS_VERTEX, (vertex: number[]) =>
    found.at(-1)!.push(vertex[0]!, vertex[1]!),
  );
  tess.gluTessCallback(libtess.gluEnum.GLU_TESS_COMBINE, (place: number[]) => {
    if (++crossings > MOST_CROSSINGS) throw new TooMuch();
    return [place[0]!, place[1]!, 0];
  });
  tess.gluTessNormal(0, 0, 1);
  tess.gluTessBeginPolygon([]);
  for (const ring of rings) {
    if (ring.length < 6) continue;
    tess.gluTessBeginContour();
    for (let i = 0; i < ring.length; i += 2) {
      const vertex = [ring[i]!, ring[i + 1]!, 0];
      tess.gluTessVertex(vertex, vertex);
    }
    tess.gluTessEndContour();
  }
  tess.gluTessEndPolygon();
  return found.filter((ring) => ring.length >= 6);
}
