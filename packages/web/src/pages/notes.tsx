import { message } from 'antd';
import { useEffect, useRef, type ReactElement } from 'react';
import { useNotes, type Note } from '../store/notes-store';

/** How long a note stays, s. */
const SHOWN_S: Readonly<Record<Note['kind'], number>> = { failed: 6, done: 3 };

/** Shows what is told in passing for a while. */
export function Notes(): ReactElement {
  const place = useRef<HTMLElement>(null);
  const [messages, holder] = message.useMessage({ getContainer: () => place.current! });
  const last = useNotes((state) => state.last);
  useEffect(() => {
    if (!last) return;
    const show = last.kind === 'failed' ? messages.error : messages.success;
    void show(last.text, SHOWN_S[last.kind]);
  }, [last, messages]);
  return (
    <aside ref={place} aria-label="Notes">
      {holder}
    </aside>
  );
}
