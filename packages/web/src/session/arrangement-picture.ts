import { areasOf } from '@gull-pane/core/panes/tiling';
import type { ActionTarget } from '../actions/action';
import type { PanesState } from '../store/panes-store';

/** The picture of an arrangement, px of its longer side. */
const SIDE_PX = 360;
const MOST_LETTERS = 60_000;

/** All panes as they look now, small, as a data address; empty if there is nothing to picture. */
export function arrangementPicture(
  { tiling, area }: Pick<PanesState, 'tiling' | 'area'>,
  targetOf: (pane: string) => ActionTarget,
): string {
  if (area.width === 0 || area.height === 0) return '';
  const scale = SIDE_PX / Math.max(area.width, area.height);
  const sheet = document.createElement('canvas');
  Object.assign(sheet, { width: Math.round(area.width * scale), height: Math.round(area.height * scale) });
  const paper = sheet.getContext('2d');
  if (!paper) return '';
  for (const [pane, own] of areasOf(tiling, area))
    for (const canvas of targetOf(pane).seen.canvases) {
      if (canvas.width === 0 || canvas.height === 0) continue;
      // a pane that fills the area for now is pictured in its own place
      paper.drawImage(canvas, own.x * scale, own.y * scale, own.width * scale, own.height * scale);
    }
  const picture = sheet.toDataURL('image/webp', 0.75);
  return picture.length <= MOST_LETTERS ? picture : '';
}
