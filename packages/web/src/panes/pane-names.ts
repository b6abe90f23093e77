import { panesOf } from '@gull-pane/core/panes/tiling';
import type { PanesState } from '../store/panes-store';

/** What a pane is called in words, by its place in reading order. */
export function paneName({ tiling, apart }: Pick<PanesState, 'tiling' | 'apart'>, pane: string): string {
  if (apart.includes(pane)) return 'the pane in its own window';
  return `pane ${panesOf(tiling).indexOf(pane) + 1}`;
}

/** The other panes, those in windows of their own, too. */
export const otherPanes = ({ tiling, apart }: Pick<PanesState, 'tiling' | 'apart'>, pane: string): readonly string[] =>
  [...panesOf(tiling), ...apart].filter((other) => other !== pane);
