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

/** Home is the drawing's: each pane of it goes to the same. @returns what ends it */
export const shareHome = ({ drawing }: ActionTarget, others: Others): (() => void) =>
  drawing.subscribe(({ drawing: dto }, before) => {
    if (dto === before.drawing) return;
    for (const other of others()) {
      const own = other.drawing.getState().drawing;
      if (own.id === dto.id && own !== dto) other.drawing.setState({ drawing: dto });
    }
  });
