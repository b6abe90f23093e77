import type { ChangeEvent, EventsBegin } from '@gull-pane/protocol/events';
import { useArrangements } from '../store/arrangements-store';
import { useNotes } from '../store/notes-store';
import { useSaver } from '../store/saver';
import type { Session } from './session';

/**
 * Keeps a window in step with what all others change, and tells whether the server is there: what couldn't be sent
 * goes out as soon as it is.
 * @returns a function that stops it
 */
export function hearChanges(session: Session): () => void {
  const { load, heard, heardGone } = useArrangements.getState();
  void load();
  const take = (event: ChangeEvent): void => {
    switch (event.kind) {
      case 'card':
        session.cardsOf(event.card.drawingId)?.heard(event.card);
        return;
      case 'card-gone':
        session.cardsOf(event.drawingId)?.heardGone(event.id);
        return;
      case 'reviews':
        void session.comparisonOf(event.drawingId)?.reloadReviews();
        return;
      case 'views':
        void load();
        session.reloadCards();
        return;
      case 'tour':
        session.toursOf(event.tour.drawingId)?.heard(event.tour);
        return;
      case 'tour-gone':
        session.toursOf(event.drawingId)?.heardGone(event.id);
        return;
      case 'sheet-set':
      case 'sheet-set-gone':
        return; // the page of sheets listens itself
      case 'marks':
        session.marksOf(event.drawingId)?.heard(event, event.by);
        return;
      case 'arrangement':
        heard(event.arrangement);
        return;
      case 'arrangement-gone':
        heardGone(event.id);
        return;
      case 'drawing': {
        const { id, name, revision } = event.drawing;
        const shown = session.contentOf(id)?.drawing;
        session.heardDrawing(event.drawing);
        if (shown && revision !== shown.revision)
          useNotes.getState().tell('done', `“${name}” has come in anew: reload the page to see it.`);
        return;
      }
      case 'drawing-gone': {
        const shown = session.contentOf(event.id)?.drawing;
        if (shown) useNotes.getState().tell('failed', `“${shown.name}” was deleted in another window.`);
        return;
      }
    }
  };
  let isFirst = true;
  const source = new EventSource('/api/events');
  source.addEventListener('begin', ({ data }: MessageEvent<string>) => {
    useSaver.getState().retry();
    // after a short absence what was missed follows; after a long one everything is asked for anew
    if (!isFirst && !(JSON.parse(data) as EventsBegin).isComplete) {
      void load();
      session.reloadCards();
    }
    isFirst = false;
  });
  source.addEventListener('change', (event: MessageEvent<string>) => take(JSON.parse(event.data) as ChangeEvent));
  // something on the way may keep events back while all else goes through
  source.addEventListener('error', () => {
    const tell = (isThere: boolean): void => useSaver.getState().setReachable(isThere);
    fetch('/api/health').then(
      ({ ok }) => tell(ok),
      () => tell(false),
    );
  });
  return () => source.close();
}
