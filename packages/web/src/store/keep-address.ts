import { offLayers } from './drawing-store';
import type { PaneParts } from './pane-parts';
import { writeViewAddress } from './view-address';

/** The page's address for a pane: its drawing, where it looks, which layers it hides. */
export function addressOf({ pane, drawing }: Pick<PaneParts, 'pane' | 'drawing'>): string {
  const { layers, drawing: dto } = drawing.getState();
  const { camera, shown } = pane.getState();
  return `/d/${dto.id}?${writeViewAddress(camera, shown.hiddenLayers, offLayers(layers)).toString()}`;
}
