import { offLayers } from './drawing-store';
import type { PaneParts } from './pane-parts';
import { writeViewAddress } from './view-address';

/** The page's address for a pane: its drawing, where it looks, which layers it hides. */
export function addressOf({ pane, drawing }: Pick<PaneParts, 'pane' | 'drawing'>): string {
  const { hidden, layers, drawing: dto } = drawing.getState();
  return `/d/${dto.id}?${writeViewAddress(pane.getState().camera, hidden, offLayers(layers)).toString()}`;
}
