import { seededRandom } from '@gull-pane/core/geometry/random';
import { drawBuildings, drawEquipment } from './buildings.ts';
import { drawDimensions, drawGrounds } from './grounds.ts';
import { drawPipework, drawTrays } from './pipework.ts';
import { PlanWriter, type Point } from './plan-writer.ts';
import { drawSheet, drawTerrain } from './terrain.ts';
import { SHEET_EAST, SHEET_HEIGHT, SHEET_NORTH, SHEET_WIDTH } from './works.ts';

export const SITE_PLAN_NAME = 'Site general arrangement';

/**
 * Writes the site general arrangement of the Kelpie Sound works as SVG in millimetres; the same every time.
 * @param write receives the text piece by piece
 * @param origin the place on the grid that is written as 0, 0
 * @returns how many lines and curves were written
 */
export function writeSitePlan(write: (text: string) => void, origin?: Point): number {
  const random = seededRandom(0x6b656c70);
  const plan = new PlanWriter(write, origin);
  plan.begin(SHEET_EAST, SHEET_NORTH, SHEET_WIDTH, SHEET_HEIGHT, SITE_PLAN_NAME);
  drawTerrain(plan, random);
  drawGrounds(plan);
  drawBuildings(plan);
  drawEquipment(plan);
  drawPipework(plan, random);
  drawTrays(plan);
  drawDimensions(plan);
  drawSheet(plan);
  plan.end();
  return plan.segments;
}
