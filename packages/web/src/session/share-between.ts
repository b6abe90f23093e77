import type { ActionTarget } from '../actions/action';

type Others = () => readonly ActionTarget[];

/** What is picked in one pane is picked in all of its drawing. @returns what ends it */
export const sharePicks = ({ picks, drawing }: ActionTarget, others: Others): (() => void) =>
  picks.subscribe(({ picked }, before) => {
    if (picked === before.picked) return;
    const { id } = drawing.getState().drawing;
    for (const other of others())
      if (other.drawing.getState().drawing.id === id && other.picks.getState().picked !== picked)
        other.picks.setState({ picked });
  });
