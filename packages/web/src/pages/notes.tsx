import { App } from 'antd';
import { useEffect } from 'react';
import { useNotes } from '../store/notes-store';

/** Shows what is told in passing for a while. */
export function Notes(): null {
  const { message } = App.useApp();
  useEffect(
    () =>
      useNotes.subscribe(({ last }) => {
        if (last) void (last.kind === 'failed' ? message.error(last.text, 6) : message.success(last.text, 3));
      }),
    [message],
  );
  return null;
}
