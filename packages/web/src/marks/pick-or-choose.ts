import type { Parts } from '../actions/action';
import type { PickingIntent } from '../store/pick-store';
import { markUnder } from './mark-under';

/** A click chooses the mark that it hits, else it picks what lies below; Escape lets go of marks first. */
export function pickOrChoose(target: Parts<'pane' | 'marks' | 'picks'>, intent: PickingIntent): void {
  const { marks, picks } = target;
  const { chosen, choose } = marks.getState();
  if (intent.kind === 'pick') {
    const mark = markUnder(target, intent.at);
    if (mark) {
      choose([mark.id], intent.changes);
      return;
    }
  }
  if (chosen.size > 0 && !(intent.kind !== 'clearPicks' && intent.changes)) {
    choose([]);
    if (intent.kind === 'clearPicks') return;
  }
  picks.getState().apply(intent);
}
