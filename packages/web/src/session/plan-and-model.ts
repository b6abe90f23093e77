import { panesOf } from '@gull-pane/core/panes/tiling';
import type { ActionTarget } from '../actions/action';
import type { DrawingContent } from '../store/drawing-store';
import { useNotes } from '../store/notes-store';
import { unusedBeside, type PanesStore } from '../store/panes-store';
import { counterpartOf } from './counterpart';
import type { PaneStart } from './pane-target';

/** A model that takes so small a part of its pane at a plan's scale is too small to be compared: one in so many. */
const TINY = 2.5;

/** What of a session is needed to lay panes. */
export interface Laying {
  readonly panes: PanesStore;
  readonly targetOf: (pane: string) => ActionTarget;
  readonly drawingOf: (pane: string) => string;
  readonly fetched: (drawingId: string) => Promise<DrawingContent | null>;
  readonly addPane: (pane: string, content: DrawingContent, start: PaneStart) => void;
  readonly removePane: (pane: string) => void;
  readonly closeUnused: () => void;
}

/** Lays the active pane's drawing and the one of the other kind at its place side by side, tied; the plan at the left. */
export async function layPlanAndModel(laying: Laying): Promise<void> {
  const { panes, targetOf, drawingOf, fetched, addPane, removePane, closeUnused } = laying;
  const { active } = panes.getState();
  const own = targetOf(active).drawing.getState().drawing;
  const other = await counterpartOf(own, targetOf(active).pane.getState().camera.target);
  if (other === null) {
    const missing = own.kind === 'flat' ? 'No model' : 'No plan';
    useNotes.getState().tell('failed', `${missing} in the same unit lies where “${own.name}” does.`);
    return;
  }
  const content = await fetched(other);
  if (!content) return;
  panes.getState().remember(true);
  const isPlan = own.kind === 'flat';
  const rest = panesOf(panes.getState().tiling).filter((pane) => pane !== active);
  const known = rest.find((pane) => drawingOf(pane) === other);
  const added = known ?? unusedBeside([active, ...rest, ...panes.getState().apart]);
  for (const pane of rest) if (pane !== known) removePane(pane);
  if (known === undefined) addPane(added, content, {});
  closeUnused();
  const parts = isPlan ? [{ pane: active }, { pane: added }] : [{ pane: added }, { pane: active }];
  panes.getState().take({ tiling: { along: 'row', parts, shares: [0.5, 0.5] }, active, ties: [] });
  const [{ camera }, model] = [targetOf(active).pane.getState(), targetOf(added).pane.getState()];
  const { width, height } = panes.getState().area;
  const whole = model.fitted(model.camera, { widthPx: width / 2, heightPx: height });
  // a model that would be tiny at the plan's scale leads, so that there is something to compare
  const doesAddedLead = isPlan && whole.unitsPerPx < camera.unitsPerPx / TINY;
  if (doesAddedLead) model.follow(whole, 'jump');
  const [leads, follows] = doesAddedLead ? [added, active] : [active, added];
  panes.getState().tie(leads, follows, { place: true, scale: true, direction: 'free' });
}
