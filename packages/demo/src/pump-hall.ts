import { mixPaints } from './model-parts.ts';
import { ModelWriter } from './model-writer.ts';
import { pipework, pumpSets } from './pump-hall-pipework.ts';
import { south, west, width } from './pump-hall-plan.ts';
import { electrical, lighting } from './pump-hall-services.ts';
import { crane, structure, walkways } from './pump-hall-structure.ts';
import { SHEET_EAST, SHEET_NORTH } from './works.ts';

export const PUMP_HALL_NAME = 'Kelpie Sound · pump hall';

/**
 * The pump hall as a model in binary glTF, where the site plan has it: eight pump sets with their motors, manifolds,
 * flanged pipes, valves, gratings, stairs, rails, a crane, cable trays and switch racks, in sixteen systems.
 */
export function pumpHallModel(): Uint8Array<ArrayBuffer> {
  const model = new ModelWriter('Pump hall', [SHEET_EAST / 1000 + west, SHEET_NORTH / 1000 + south, 0]);
  const paints = mixPaints(model);
  structure(model, paints);
  pumpSets(model, paints);
  pipework(model, paints);
  walkways(model, paints);
  lighting(model, paints);
  crane(model, paints);
  electrical(model, paints);
  model.camera('From the door', [width - 2, 2, 1.65], [20, 14, 1.5]);
  model.camera('Over the pumps', [30, -18, 22], [30, 16, 1]);
  return model.bytes();
}
