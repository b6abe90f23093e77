import { CircleAlert, X } from 'lucide-react';
import { useEffect, useState, type ReactElement } from 'react';
import { useNotes, type Note } from '../store/notes-store';
import './notes.css';

/** How long a note stays, ms; one that is pointed at stays until it isn't. */
const SHOWN_MS: Readonly<Record<Note['kind'], number>> = { failed: 8000, done: 3500 };

/** Shows what is told in passing for a while, above the bottom line, where it covers nothing that is typed into. */
export function Notes(): ReactElement {
  const last = useNotes((state) => state.last);
  const [gone, setGone] = useState<Note | null>(null);
  const [isHeld, setHeld] = useState(false);
  useEffect(() => {
    if (!last || isHeld) return undefined;
    const timer = window.setTimeout(() => setGone(last), SHOWN_MS[last.kind]);
    return () => window.clearTimeout(timer);
  }, [last, isHeld]);
  const isShown = last !== null && last !== gone;
  return (
    <aside className="notes" aria-label="Passing notes">
      <div role="status" aria-label="Notes">
        {isShown && (
          <p
            className="note"
            data-kind={last.kind}
            onPointerEnter={() => setHeld(true)}
            onPointerLeave={() => setHeld(false)}
          >
            {last.kind === 'failed' && <CircleAlert size={16} aria-hidden />}
            <span>{last.text}</span>
            <button type="button" className="icon-button" aria-label="Close the note" onClick={() => setGone(last)}>
              <X size={14} aria-hidden />
            </button>
          </p>
        )}
      </div>
    </aside>
  );
}
