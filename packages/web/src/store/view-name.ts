import type { Camera } from '@gull-pane/core/camera/camera';
import { directionInWords, topInWords } from '@gull-pane/core/camera/directions';
import { formatScale, scaleDenominator } from '@gull-pane/core/camera/scale';
import { bearingOf } from '@gull-pane/core/camera/twist';

/**
 * What a view might be called: what is in its middle, how one looks at it, and the scale.
 * @param what a text or an object; null if nothing is known
 */
export function viewName(kind: 'flat' | 'solid', camera: Camera, mmPerPx: number, what: string | null): string {
  const bearing = bearingOf(camera);
  const how =
    kind === 'solid' ? directionInWords(camera).toLowerCase() : bearing === 0 ? '' : `${topInWords(bearing)} up`;
  const parts = [what ?? (kind === 'solid' ? 'Model' : 'Plan'), how, formatScale(scaleDenominator(camera, mmPerPx))];
  return parts
    .filter((part) => part !== '')
    .join(', ')
    .slice(0, 120);
}
