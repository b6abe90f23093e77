import { inOtherSize } from '@gull-pane/core/camera/other-size';
import { firstAngleCameras, firstAngleTiling, type OrthographicView } from '@gull-pane/core/panes/orthographic';
import { panesOf } from '@gull-pane/core/panes/tiling';
import type { ActionTarget } from '../actions/action';
import type { DrawingContent } from '../store/drawing-store';
import { unusedBeside, type PanesStore } from '../store/panes-store';
import type { PaneStart } from './pane-target';

/** The parts of a session that are needed to arrange panes. */
interface Laying {
  readonly panes: PanesStore;
  readonly targetOf: (pane: string) => ActionTarget;
  readonly contentOf: (pane: string) => DrawingContent;
  readonly addPane: (pane: string, content: DrawingContent, start: PaneStart) => void;
  readonly removePane: (pane: string) => void;
  readonly closeUnused: () => void;
}

/**
 * Arranges panes as an orthographic drawing of the model: front elevation, left elevation beside it, plan below. All use
 * the same scale and are tied, so that each feature lines up across panes. The active pane goes to the
 * fourth place; all that it showed is still in it.
 */
export function layPlanWithElevations(laying: Laying): void {
  const { panes, targetOf, contentOf, addPane, removePane, closeUnused } = laying;
  const { active, tiling, apart, area } = panes.getState();
  const content = contentOf(active);
  const { camera, shown, fitted } = targetOf(active).pane.getState();
  panes.getState().remember(true);
  for (const pane of panesOf(tiling)) if (pane !== active) removePane(pane);
  closeUnused();
  const taken = [active, ...apart];
  const names = Object.fromEntries(
    (['front', 'left', 'top'] as const).map((view) => {
      taken.push(unusedBeside(taken));
      return [view, taken.at(-1)!];
    }),
  ) as Record<OrthographicView, string>;
  const size = { widthPx: area.width / 2, heightPx: area.height / 2 };
  const cameras = firstAngleCameras(camera, (one) => fitted(one, size));
  for (const view of ['front', 'left', 'top'] as const)
    addPane(names[view], content, { camera: cameras[view], size, shown });
  const tie = (other: string) => ({ one: names.front, other, place: true, scale: true, direction: 'free' }) as const;
  targetOf(active)
    .pane.getState()
    .travel((from, before) => inOtherSize(from, before, size));
  panes.getState().take({
    tiling: firstAngleTiling({ ...names, free: active }),
    active,
    ties: [tie(names.left), tie(names.top)],
  });
}
