import { worldToScreen } from '../camera/camera.ts';
import { oneStep, type Drill } from './drill.ts';

/** What can be read of a drawing is at most so large a share of it. */
const MOST_SHARE = 0.16;

export const findTag: Drill = {
  id: 'find-tag',
  name: 'Find a tag',
  kind: 'flat',
  fewest: 1,
  tip: 'G, a few letters of the tag, Enter: found and framed. Zeros and dashes can be left out.',
  begin({ whole, tag, extents: { min, max } }) {
    if (!tag) return null;
    const most = MOST_SHARE * Math.max(max.x - min.x, max.y - min.y);
    return oneStep(`Find “${tag.text}” and show it so that it can be read.`, whole, ({ camera, viewport }) => {
      const { x, y } = worldToScreen(camera, viewport, tag.at);
      const isInSight = x >= 0 && y >= 0 && x <= viewport.widthPx && y <= viewport.heightPx;
      return isInSight && camera.unitsPerPx * viewport.widthPx < most;
    });
  },
};
