import { panesOf } from '@gull-pane/core/panes/tiling';
import { addressOfRevision, idOfAddress } from '@gull-pane/protocol/drawings';
import { shownFromDto, shownToDto } from '../wire/view-dto';
import { unusedBeside } from '../store/panes-store';
import type { Laying } from './plan-and-model';

/**
 * Lays two revisions of the active pane's drawing side by side, the earlier at the left, tied at the same place, scale and
 * direction; both show what the active pane does.
 */
export async function layBeforeAndAfter(laying: Laying, from: number, to: number): Promise<void> {
  const { panes, targetOf, drawingOf, fetched, addPane, removePane, closeUnused } = laying;
  const { active } = panes.getState();
  const own = targetOf(active).drawing.getState().drawing;
  const { camera, shown } = targetOf(active).pane.getState();
  // layers and objects by their names: their numbers are another revision's
  const told = shownToDto(shown, targetOf(active).drawing.getState());
  const present = idOfAddress(own.id);
  const newest = own.id === present ? own.revision : 0;
  const addressOf = (revision: number): string =>
    revision === newest ? present : addressOfRevision(present, revision);
  const contents = [await fetched(addressOf(from)), await fetched(addressOf(to))] as const;
  const [before, after] = contents;
  if (!before || !after) return;
  panes.getState().remember(true);
  const rest = panesOf(panes.getState().tiling).filter((pane) => pane !== active);
  for (const pane of rest) removePane(pane);
  const added = unusedBeside([active, ...panes.getState().apart]);
  if (drawingOf(active) !== after.drawing.id) {
    removePane(active);
    addPane(active, after, { camera, shown: shownFromDto(told, after, shown) });
  }
  addPane(added, before, { camera, shown: shownFromDto(told, before, shown) });
  closeUnused();
  const parts = [{ pane: added }, { pane: active }];
  panes.getState().take({ tiling: { along: 'row', parts, shares: [0.5, 0.5] }, active, ties: [] });
  panes.getState().renew();
  panes.getState().tie(active, added, { place: true, scale: true, direction: 'same' });
}
