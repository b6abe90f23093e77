import type { Viewport } from '../camera/camera.ts';
import type { Vec2 } from '../geometry/vec.ts';
import { EDGE_PX } from './edge-push.ts';

/** How far an arrow key moves the cursor: on the screen, or in the drawing. */
export type KeyStep = { readonly px: number } | { readonly units: number };

/** The step to begin with. */
export const USUAL_STEP: KeyStep = { px: 16 };

/** @param unitsPerPx drawing units per CSS px @returns the step, CSS px */
export const stepPx = (step: KeyStep, unitsPerPx: number): number => ('px' in step ? step.px : step.units / unitsPerPx);

/**
 * Moves a cursor that is led by arrow keys. Near the edge of the pane it stays and the drawing comes towards it instead.
 * @param at CSS px of the pane, y down
 * @param by the way it is led, CSS px
 * @returns where it is then, and how far the drawing moves, CSS px
 */
export function moveKeyCursor(
  at: Vec2,
  by: Vec2,
  { widthPx, heightPx }: Viewport,
): { readonly at: Vec2; readonly pan: Vec2 } {
  const [x, panX] = along(at.x + by.x, widthPx);
  const [y, panY] = along(at.y + by.y, heightPx);
  return { at: { x, y }, pan: { x: panX, y: panY } };
}

/** Within the part of the pane in which a cursor doesn't push the drawing by being there. */
function along(wanted: number, size: number): readonly [at: number, pan: number] {
  const margin = Math.min(EDGE_PX + 2, size / 2);
  const at = Math.min(Math.max(wanted, margin), size - margin);
  return [at, at - wanted];
}
